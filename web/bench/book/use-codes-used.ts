"use client";
/** How many shots of the job each code of the book has, by the code in capitals. */
import { useMemo } from "react";
import { compileBook } from "@bramble/core/codes/book";
import { useParts } from "../../lib/store";

export function useCodesUsed(): ReadonlyMap<string, number> {
  const { job } = useParts("job"),
    { book, points } = job;
  return useMemo(() => {
    const compiled = compileBook(book),
      per = new Map<string, number>();
    const counts = new Map<number, number>();
    for (let i = 0; i < points.count; i++)
      if (!points.deleted[i]) counts.set(points.description[i]!, (counts.get(points.description[i]!) ?? 0) + 1);
    for (const [text, n] of counts) {
      const words = new Set(
        points.texts[text]!.split(";")[0]!
          .split("/")
          .map((e) => compiled.lookup(e.trim().split(/\s+/)[0] ?? "").code),
      );
      for (const w of words) per.set(w, (per.get(w) ?? 0) + n);
    }
    return per;
  }, [book, points]);
}

"use client";
/** Keys of the look: E exchanges the axes, A makes the first unknown code an alias, Ctrl Enter takes in. */
import { useEffect, useLayoutEffect, useRef } from "react";
import type { Look } from "@bramble/core";
import { makeAlias } from "./Codes";

export function useLookKeys(act: { exchange: () => void; commit: () => Promise<void>; look: Look | undefined }): void {
  // What the keys act on is set before it is painted, so that one pressed as soon as something is seen acts on it.
  const keys = useRef(act);
  useLayoutEffect(() => {
    keys.current = act;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const el = event.target as HTMLElement;
      if (/^(INPUT|SELECT|TEXTAREA)$/.test(el.tagName) || document.querySelector('[role="dialog"]') || event.altKey)
        return;
      const plain = !event.ctrlKey && !event.metaKey,
        now = keys.current;
      if (plain && event.key === "e") now.exchange();
      else if (plain && event.key === "a") {
        const c = now.look?.codes.find((x) => x.by === "unknown" && x.nearest);
        if (c) void makeAlias(c.written, c.nearest!);
      } else if (!plain && event.key === "Enter") void now.commit();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}

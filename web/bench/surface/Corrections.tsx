"use client";
/** Sides swapped and triangles taken out by hand, on the sheet; each can be taken back. */
import { useEffect } from "react";
import { refOf, type PointRef } from "@bramble/core/points/refs";
import { useFound } from "../../lib/use-found";
import { useJob, useParts } from "../../lib/store";
import type { PartProps } from "./parts";

export function Corrections({ recipe, edit }: Pick<PartProps, "recipe" | "edit">) {
  const { mesh, layers, toggle, set } = useParts("mesh", "layers", "toggle", "set"),
    { numberOf } = useFound();
  const { swap = [], drop = [] } = recipe;
  // Left behind, the form has no use for it any more.
  useEffect(() => () => set({ mesh: undefined }), [set]);
  const begin = (what: "side" | "triangle") => {
    if (mesh?.what === what) return set({ mesh: undefined });
    if (!layers.triangles) toggle("triangles", true);
    set({
      mesh: {
        what,
        hint:
          what === "side"
            ? "Click the side that gives way to the other diagonal; Esc ends"
            : "Click the triangle that is taken out; Esc ends",
        take: (rows) => {
          // A click adds to what is there then, and changes nothing else of it.
          const { job, change } = useJob.getState(),
            old = job.surfaces.find((s) => s.name === recipe.name),
            corners = rows.map((i) => refOf(job.points, job.intakes, i));
          if (!old) return;
          const more =
            what === "side"
              ? { swap: [...(old.swap ?? []), corners as [PointRef, PointRef]] }
              : { drop: [...(old.drop ?? []), corners as [PointRef, PointRef, PointRef]] };
          change({ type: "named", part: "surfaces", name: old.name, old, new: { ...old, ...more } });
        },
      },
    });
  };
  const item = (key: string, text: string, remove: () => void) => (
    <span key={key} className="flex h-7 items-center gap-1.5 rounded-sm border border-rule px-2">
      {text}
      <button className="text-soft hover:text-bramble" aria-label={`Take back: ${text}`} onClick={remove}>
        ×
      </button>
    </span>
  );
  const without = <T,>(list: readonly T[], k: number) => {
    const rest = list.filter((_, i) => i !== k);
    return rest.length ? rest : undefined;
  };
  return (
    <section aria-label="Corrections" className="mt-2 flex flex-wrap items-end gap-2">
      <button className="button" aria-pressed={mesh?.what === "side"} onClick={() => begin("side")}>
        Swap a side
      </button>
      <button className="button" aria-pressed={mesh?.what === "triangle"} onClick={() => begin("triangle")}>
        Take a triangle out
      </button>
      {swap.map((corners, k) =>
        item(`s${corners.join(" ")}`, `swapped ${corners.map(numberOf).join("–")}`, () =>
          edit({ swap: without(swap, k) }),
        ),
      )}
      {drop.map((corners, k) =>
        item(`d${corners.join(" ")}`, `out ${corners.map(numberOf).join("–")}`, () => edit({ drop: without(drop, k) })),
      )}
    </section>
  );
}

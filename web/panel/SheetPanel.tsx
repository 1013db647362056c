"use client";
/** How the sheet looks now: what is shown and for which scale, and what the drawing is made of. */
import { useParts } from "../lib/store";
import type { Layers } from "../lib/state/sheet";
import { Drawing } from "../bench/book/drawing/Drawing";
import { PLAN_SCALES } from "@bramble/core/drawing/scales";
import { Choice } from "../controls/fields/Choice";
import { Tick } from "../controls/fields/Tick";

const NAMES: [keyof Layers, string][] = [
  ["points", "Points, symbols"],
  ["shots", "Shots of lines"],
  ["numbers", "Numbers, levels"],
  ["notes", "Notes"],
  ["lines", "Lines"],
  ["contours", "Contours"],
  ["labels", "Contour labels"],
  ["edge", "Edges of surfaces"],
  ["triangles", "Triangles"],
  ["map", "Cut and fill map"],
  ["reference", "Reference"],
];

const CARD = "w-[316px] max-w-[calc(100%-24px)] rounded-sm border border-rule bg-bench shadow-lg";

export function SheetPanel({ close }: { close: () => void }) {
  const { layers, toggle, paperScale, set } = useParts("layers", "toggle", "paperScale", "set");
  const scales = [...new Set([...PLAN_SCALES, ...(paperScale ? [paperScale] : [])])].sort((a, b) => a - b);
  return (
    <aside
      id="sheet-panel-look"
      aria-label="Look of the sheet"
      className={`absolute top-11 right-3 bottom-12 z-10 flex flex-col print:hidden ${CARD}`}
      onKeyDown={(event) => event.key === "Escape" && close()}
    >
      <div className="flex h-10 shrink-0 items-center border-b border-rule px-3">
        <h2 className="heading flex-1">Look of the sheet</h2>
        <button className="button button-plain h-6" onClick={close}>
          Close
        </button>
      </div>
      <div className="min-h-0 flex-1 space-y-5 overflow-auto px-3 py-3">
        <section aria-label="Shown now">
          <h3 className="label pb-1">Shown now; what is handed over stays the same</h3>
          <div className="grid grid-cols-[auto_auto] gap-x-2">
            {NAMES.map(([key, name]) => (
              <Tick
                key={key}
                words={name}
                on={layers[key]}
                set={() => toggle(key)}
                className="flex h-7 cursor-pointer items-center gap-2 rounded-sm px-1 hover:bg-bramble-wash"
              />
            ))}
          </div>
          <label className="mt-2 flex items-center gap-2">
            <span>Sizes on paper</span>
            <Choice
              label="Sizes on paper for"
              named={false}
              low={false}
              width="h-7"
              title="Symbols, line weights and texts as they are on a plan of this scale"
              value={paperScale ?? ""}
              onChange={(v) => set({ paperScale: v === "" ? undefined : Number(v) })}
              options={[["", "as seen"], ...scales.map((s) => [s, `for 1 : ${s}`] as const)]}
            />
          </label>
        </section>
        <section aria-label="In the drawing" className="border-t border-rule pt-3">
          <h3 className="label pb-1">In the drawing, on the sheet and in what is handed over</h3>
          <Drawing />
        </section>
      </div>
    </aside>
  );
}

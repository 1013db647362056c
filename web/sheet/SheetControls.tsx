"use client";
/** What is drawn, and the whole job: a quiet row in the corner of the sheet. */
import { Popover } from "radix-ui";
import { useJob, type Layers } from "../lib/store";

const NAMES: [keyof Layers, string][] = [
  ["points", "Points and symbols"], ["shots", "Shots of lines"], ["numbers", "Numbers and levels"], ["notes", "Notes"], ["lines", "Lines"], ["contours", "Contours"], ["labels", "Contour labels"], ["triangles", "Triangles"], ["map", "Cut and fill map"], ["reference", "Reference"],
];

export const PLAN_SCALES = [50, 100, 200, 250, 500, 1000, 2000, 5000];

export function SheetControls() {
  const { layers, toggle, paperScale, set } = useJob();
  return (
    <div className="absolute top-6 right-4 flex gap-1.5">
      <button className="button h-7 bg-sheet" onClick={() => window.dispatchEvent(new Event("sheet:fit"))} title="Show the whole job (Home)">Whole job</button>
      <select
        className="field h-7 bg-sheet" aria-label="Sizes on paper for" title="Symbols, line weights and texts as they are on a plan of this scale" value={paperScale ?? ""}
        onChange={(event) => set({ paperScale: event.target.value === "" ? undefined : Number(event.target.value) })}
      >
        <option value="">as seen</option>
        {[...new Set([...PLAN_SCALES, ...(paperScale ? [paperScale] : [])])].sort((a, b) => a - b).map((s) => <option key={s} value={s}>for 1 : {s}</option>)}
      </select>
      <Popover.Root>
        <Popover.Trigger className="button h-7 bg-sheet">Drawn</Popover.Trigger>
        <Popover.Portal>
          <Popover.Content align="end" sideOffset={4} className="z-20 w-52 rounded-sm border border-rule bg-bench p-2 shadow-lg">
            <p className="label px-1 pb-1">Drawn on the sheet</p>
            {NAMES.map(([key, name]) => (
              <label key={key} className="flex h-7 cursor-pointer items-center gap-2 rounded-sm px-1 hover:bg-bramble-wash">
                <input type="checkbox" checked={layers[key]} onChange={() => toggle(key)} />{name}
              </label>
            ))}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}

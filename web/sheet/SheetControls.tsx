"use client";
/** What is drawn, and the whole job: a quiet row in the corner of the sheet. */
import { Popover } from "radix-ui";
import { useJob, type Layers } from "../lib/store";

const NAMES: [keyof Layers, string][] = [
  ["points", "Points"], ["numbers", "Numbers and levels"], ["lines", "Lines"], ["contours", "Contours"], ["labels", "Contour labels"], ["triangles", "Triangles"], ["map", "Cut and fill map"], ["reference", "Reference"],
];

export function SheetControls() {
  const { layers, toggle } = useJob();
  return (
    <div className="absolute top-6 right-4 flex gap-1.5">
      <button className="button h-7 bg-sheet" onClick={() => window.dispatchEvent(new Event("sheet:fit"))} title="Show the whole job (Home)">Whole job</button>
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

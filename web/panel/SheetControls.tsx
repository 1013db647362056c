"use client";
/** The whole job, and the panel of how the sheet looks: a quiet row in the corner of the sheet, in every place. */
import { useRef } from "react";
import { useJob, useParts } from "../lib/store";
import { SEEN_AS, type SeenAs } from "../lib/state/sheet";
import { useKept } from "../lib/use-kept";
import { Meanings } from "./Meanings";
import { SheetPanel } from "./SheetPanel";
import { Choice, optionsOf } from "../controls/fields/Choice";

/** A section is begun, or ended. */
export function toggleSection(): void {
  const { section, view, set } = useJob.getState();
  if (!section && !view.surfaces.some((s) => s.value))
    return set({ notice: { text: "A section needs a surface: make one first.", tone: "plain" } });
  set({ section: section ? undefined : "begun", sectionAt: undefined });
}

/** The plan, then the plan with the relief, then the relief alone. */
export function nextSeenAs(): void {
  const { seenAs, set } = useJob.getState(),
    ways = Object.keys(SEEN_AS) as SeenAs[];
  set({ seenAs: ways[(ways.indexOf(seenAs) + 1) % ways.length]! });
}

export function SheetControls() {
  const [open, setOpen] = useKept("sheet.panel", false),
    button = useRef<HTMLButtonElement>(null);
  const { section, view, seenAs, set } = useParts("section", "view", "seenAs", "set"),
    surfaces = view.surfaces.some((s) => s.value);
  return (
    <>
      <div className="flex h-9 print:hidden shrink-0 items-center gap-1 overflow-x-auto border-b border-rule bg-bench px-3">
        <Meanings />
        <Choice
          label="Seen as"
          named={false}
          width="w-25 shrink-0 px-1.5 text-[12px]"
          title="The plan, the ground in 3D, or both (D)"
          value={seenAs}
          onChange={(v) => set({ seenAs: v })}
          options={optionsOf(SEEN_AS)}
        />
        <span className="flex-1" />
        {surfaces && (
          <button
            className="button h-6 shrink-0 px-1.5"
            aria-pressed={section !== undefined}
            title="Levels along a line dragged across the sheet (S)"
            onClick={toggleSection}
          >
            Section
          </button>
        )}
        <button
          className="button h-6 shrink-0 px-1.5"
          onClick={() => window.dispatchEvent(new Event("sheet:fit"))}
          title="Show the whole job (Home)"
        >
          Whole job
        </button>
        <button
          ref={button}
          className="button h-6 shrink-0 px-1.5"
          aria-expanded={open}
          aria-controls="sheet-panel-look"
          aria-label="Look of the sheet"
          title="What is shown, and how the drawing is made"
          onClick={() => setOpen(!open)}
          onKeyDown={(event) => event.key === "Escape" && setOpen(false)}
        >
          Look
        </button>
      </div>
      {open && (
        <SheetPanel
          close={() => {
            setOpen(false);
            button.current?.focus();
          }}
        />
      )}
    </>
  );
}

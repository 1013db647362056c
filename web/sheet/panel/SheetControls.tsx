"use client";
/** The whole job, and the panel of how the sheet looks: a quiet row in the corner of the sheet, in every place. */
import { useJob, useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { Meanings } from "./Meanings";
import { SheetPanel } from "./SheetPanel";

/** A section is begun, or ended. */
export function toggleSection(): void {
  const { section, view, set } = useJob.getState();
  if (!section && !view.surfaces.some((s) => s.value))
    return set({ notice: { text: "A section needs a surface: make one first.", tone: "plain" } });
  set({ section: section ? undefined : "begun", sectionAt: undefined });
}

export function SheetControls() {
  const [open, setOpen] = useKept("sheet.panel", false);
  const { section, view } = useParts("section", "view"),
    surfaces = view.surfaces.some((s) => s.value);
  return (
    <>
      <div className="flex h-9 print:hidden shrink-0 items-center gap-1.5 border-b border-rule bg-bench px-3">
        <Meanings />
        <span className="flex-1" />
        {surfaces && (
          <button
            className="button h-6 shrink-0 px-2"
            aria-pressed={section !== undefined}
            title="Levels along a line dragged across the sheet (S)"
            onClick={toggleSection}
          >
            Section
          </button>
        )}
        <button
          className="button h-6 shrink-0 px-2"
          onClick={() => window.dispatchEvent(new Event("sheet:fit"))}
          title="Show the whole job (Home)"
        >
          Whole job
        </button>
        <button
          className="button h-6 shrink-0 px-2"
          aria-expanded={open}
          aria-controls="sheet-panel-look"
          onClick={() => setOpen(!open)}
        >
          Look of the sheet
        </button>
      </div>
      {open && <SheetPanel close={() => setOpen(false)} />}
    </>
  );
}

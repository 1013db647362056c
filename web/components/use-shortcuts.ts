"use client";
/** The shortcuts of the whole window, in one table that `?` shows. */
import { useEffect } from "react";
import { openPlace } from "../lib/navigate";
import { toggleSurfaceUse } from "../lib/point-facts";
import { useJob } from "../lib/store";
import { openMeasuring } from "../bench/maker/MeasurePanel";
import { openMaker } from "../bench/maker/PointMaker";
import { EVERY_POINT } from "../bench/table/rows";
import { nextSeenAs, toggleSection } from "../panel/SheetControls";
import { toggleOnlySelected } from "../panel/Meanings";
import { PLACE_NAMES, PLACES } from "../lib/places";

export const SHORTCUTS: [string, string][] = [
  ["G  Ctrl G", "Go to a point, code, line, surface or action; in the table with Ctrl"],
  ...PLACES.map((p, k): [string, string] => [String(k + 1), PLACE_NAMES[p]]),
  ["0  9", "Job settings, code book"],
  ["E", "Exchange northing and easting (looking at a file)"],
  ["A", "Make the first unknown code an alias (looking at a file)"],
  ["Ctrl Enter", "Take the file in"],
  ["Ctrl A", "Select all rows that the table shows"],
  ["Shift Arrows", "Choose a block of cells (with Ctrl to the end): copy, paste, fill or clear it"],
  ["Ctrl D", "Fill the selected rows from the uppermost"],
  ["Ctrl Z  Ctrl Y", "Undo; do again what was undone"],
  ["F", "Findings"],
  ["L", "Ledger"],
  ["O", "Only the selected points on the sheet, the rest faint; again or Esc: all"],
  ["K  Alt K", "Keep the table's filter as a set, under a name; in the table with Alt"],
  ["P", "Make a point (Alt 1 – 9 in it: a preset)"],
  ["M", "Measure (Tab while picking: what else is near)"],
  ["C  T", "Arcs, then straight pieces again (while the points of a line are picked)"],
  ["D", "Plan, plan and 3D, 3D alone"],
  ["R", "Rehearse: try changes without storing them, and see what becomes of the job"],
  ["S", "Section of the surfaces along a line dragged across the sheet; again or Esc: none"],
  [
    "X  Alt X",
    "Keep the selected points out of surfaces, their elevations as they are; again: by code. In the table with Alt",
  ],
  ["↑ ↓, 1 – 9, Enter", "Findings: next, try a repair, take it"],
  ["Shift Enter", "Findings: open where the chosen one is mended"],
  ["A  Shift A", "Findings: accept one, all of its kind"],
  ["Home", "Whole job (on the sheet)"],
  ["+  −", "Nearer, farther (on the sheet)"],
  ["Arrows", "Move the sheet, or the cell"],
  ["F2", "Edit a cell; Enter keeps and goes down, Tab to the right, Esc leaves"],
  ["Shift drag", "Select all points in a box"],
  ["?", "These shortcuts"],
];

/** Asks for the name under which the table's filter is kept. */
function keepFilterAsSet(): void {
  const { kept, keep, set } = useJob.getState();
  if ((kept["points.filter"] ?? EVERY_POINT) === EVERY_POINT)
    return set({
      notice: { text: "The table of points is not filtered now: there is nothing to keep.", tone: "plain" },
    });
  openPlace("points");
  keep("points.tab", "table");
  keep("points.keeping", true);
}

export function useShortcuts(act: {
  openGoTo: () => void;
  openShortcuts: () => void;
  toggleTray: (t: "findings" | "ledger") => void;
}): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const el = event.target as HTMLElement;
      const typing =
        /^(INPUT|SELECT|TEXTAREA)$/.test(el.tagName) &&
        !(el instanceof HTMLInputElement && ["checkbox", "radio", "button"].includes(el.type));
      const { undo, redo } = useJob.getState();
      // In the table letters are typed: there it takes the Ctrl key.
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "g") {
        event.preventDefault();
        if (!document.querySelector('[role="dialog"]')) act.openGoTo();
        return;
      }
      if ((event.ctrlKey || event.metaKey) && !typing) {
        const key = event.key.toLowerCase();
        if (key === "z" && !event.shiftKey) void undo();
        else if (key === "y" || (key === "z" && event.shiftKey)) void redo();
        else return;
        event.preventDefault();
        return;
      }
      // In the table too, where plain letters are typed.
      const withAlt = { x: toggleSurfaceUse, k: keepFilterAsSet }[event.key.toLowerCase()];
      if (event.altKey && withAlt && !typing) {
        withAlt();
        event.preventDefault();
        return;
      }
      if (typing || event.ctrlKey || event.metaKey || event.altKey || document.querySelector('[role="dialog"]')) return;
      const picked = useJob.getState().picking?.keys?.[event.key.toLowerCase()];
      if (picked) {
        picked();
        event.preventDefault();
        return;
      }
      const place = PLACES[Number(event.key) - 1];
      if (event.key === "0" && !el.closest('[role="grid"]')) openPlace("settings");
      else if (event.key === "9" && !el.closest('[role="grid"]')) openPlace("book");
      else if (place && !el.closest('[role="grid"]')) openPlace(place);
      else if (el.closest('[role="grid"]')) return;
      else if (event.key === "g" || event.key === "G") act.openGoTo();
      else if (event.key === "?") act.openShortcuts();
      else if (event.key === "x") toggleSurfaceUse();
      else if (event.key === "k") keepFilterAsSet();
      else if (event.key === "p") openMaker();
      else if (event.key === "m") openMeasuring();
      else if (event.key === "d") nextSeenAs();
      else if (event.key === "s") toggleSection();
      else if (event.key === "r") useJob.getState().rehearse();
      else if (event.key === "o") toggleOnlySelected();
      else if (event.key === "Escape" && useJob.getState().section) toggleSection();
      else if (event.key === "Escape" && useJob.getState().only) useJob.getState().set({ only: undefined });
      else if (event.key === "f") act.toggleTray("findings");
      else if (event.key === "l") act.toggleTray("ledger");
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
}

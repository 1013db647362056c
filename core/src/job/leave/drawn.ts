/** What is drawn: texts asked for at a scale, and the scale at which a job fits a sheet of paper. */
import type { LayoutSource, TextsWanted } from "../../drawing/layout";
import { PLAN_SCALES } from "../../drawing/scales";
import { resolveAdded } from "../../drawing/added/resolve";
import { settingOf } from "../model/settings";
import type { Derived } from "../chain/values";
import type { JobState } from "../model/model";
import { extentOf, type PointTable } from "../../points/table";
import { pointsOfSelection } from "../../sets/sets";
import { setContext } from "../edit/sets";

/** What a job's state and everything derived from it give to lay out. */
export function layoutSource(state: JobState, d: Derived, want: TextsWanted): LayoutSource {
  const context = setContext(state, d);
  const sets = new Map(
    (state.drawing?.points ?? []).flatMap(({ set }) => {
      // A set that was renamed or cannot be told labels nothing until it is put right.
      try {
        return set === "*" ? [] : [[set, pointsOfSelection(set, context, "labels")] as const];
      } catch {
        return [];
      }
    }),
  );
  return {
    table: state.points,
    symbols: d.symbols,
    notes: d.notes,
    chains: d.chains,
    contours: d.drawnContours.flatMap((c) => (c.ok ? [c.value] : [])),
    drawing: state.drawing ?? {},
    sets,
    added: resolveAdded(state.added, {
      table: state.points,
      intakes: state.intakes,
      lines: d.lines,
      ownNames: d.ownNames,
      unit: state.unit,
      style: { unit: state.unit, angle: settingOf(state, "angle"), areaUnit: settingOf(state, "areaUnit") },
    }),
    want,
    lines: d.lines.map((l) => ({
      code: l.code,
      kind: l.entry.kind,
      group: l.entry.group ?? "",
      layer: l.entry.layer ?? l.code,
      style: l.entry.style,
      closed: l.closed,
    })),
  };
}

/** The largest usual scale (as its denominator) at which the points fit a sheet of 0.8 m by 0.55 m. */
export function paperScale(t: PointTable, metres: number): number {
  const x = extentOf(t);
  if (!x) return 500;
  const needed = Math.max(((x.maxE - x.minE) * metres) / 0.8, ((x.maxN - x.minN) * metres) / 0.55);
  return PLAN_SCALES.find((s) => s >= needed) ?? PLAN_SCALES.at(-1)!;
}

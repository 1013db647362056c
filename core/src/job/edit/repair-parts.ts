/** What repairs are made of. */
import type { Finding } from "../../finding";
import type { EditField } from "../../records/fields";
import { decimalsOf } from "../../math/units";
import type { Line } from "../../lines/model";
import type { AddedPoints } from "../../points/add";
import { fieldValue, type EditValue } from "../../points/edits";
import type { EditableChange, PointEdit } from "../change/change";
import { coordinateEdits, isCoordinate, whyNotGiven } from "./coordinates";
import type { DrawnLine, LineEdit } from "./drawn-lines";
import type { JobState } from "../model/model";

export interface Repair {
  /** What it does: “Give it the level of its neighbours, 120.279 m”. */
  name: string;
  change: EditableChange;
  /** A point that it makes. In the change it has an id of no point; whoever takes the repair gives it one of its own. */
  makes?: { number: string; e: number; n: number; z: number; description: string };
}

/** A repair's change with the point that it makes, under its own id. */
export function withPoint(change: EditableChange, points: AddedPoints): EditableChange {
  if (change.type !== "several") return change.type === "add" ? { ...change, points } : change;
  return { ...change, changes: change.changes.map((c) => (c.type === "add" ? { ...c, points } : c)) };
}

/** What repairs need to know of a job beside its state. */
export interface RepairContext {
  state: JobState;
  /** All that was found: what crosses one line twice is one repair. */
  findings?: readonly Finding[];
  /** All lines: what a shot that stands alone may be joined to. */
  lines?: readonly Line[];
  line(key: string): DrawnLine | undefined;
}

/** One field of some points, those alone that get another value; undefined when none does. */
export function edits(
  name: string,
  { points: t }: JobState,
  rows: readonly number[],
  field: EditField,
  value: (row: number, k: number) => EditValue,
): Repair | undefined {
  const all = rows.flatMap((i, k): PointEdit[] => {
      const now = value(i, k);
      if (!isCoordinate(field)) return [{ id: t.id[i]!, field, old: fieldValue(t, i, field), new: now }];
      return whyNotGiven(t, i, field) ? [] : coordinateEdits(t, i, { [field]: now as number | null });
    }),
    changed = all.filter((e) => !Object.is(e.old, e.new));
  return changed.length ? { name, change: { type: "points", edits: changed } } : undefined;
}

export const rounded = (state: JobState, z: number, decimals = decimalsOf(state.unit)) => Number(z.toFixed(decimals));

/** A repair that edits one line; undefined where it cannot be done. */
export function ofLine(
  name: string,
  key: string | undefined,
  { line }: RepairContext,
  make: (line: DrawnLine) => LineEdit,
): Repair | undefined {
  const drawn = key === undefined ? undefined : line(key);
  if (!drawn) return undefined;
  const edit = make(drawn);
  return "change" in edit ? { name, change: edit.change } : undefined;
}

/** Cells of the points table with new values, as one change of the job. */
import {
  renumber,
  type EditableChange,
  type Follower,
  type JobState,
  type OneChange,
  type PointEdit,
} from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import { attributesOf, decodeAttributes, encodeAttributes } from "@bramble/core/points/attributes";
import type { EditField, EditValue } from "@bramble/core/points/edits";
import { editsFor } from "./columns";

export interface NewCell {
  row: number;
  field: EditField;
  value: EditValue;
  /** Of the field “attributes” the one that is meant. */
  attribute?: string;
}

/**
 * The change that puts values into cells, undefined where nothing becomes another; and what follows points that get
 * another number. Throws a Refusal where numbers cannot be given so.
 */
export function changeOfCells(
  job: JobState,
  cells: readonly NewCell[],
): { change: EditableChange | undefined; follows: Follower[] } {
  const { points: t } = job,
    numbers = cells.filter((c) => c.field === "number" && c.value !== t.number[c.row]),
    edits = [
      ...cells
        .filter((c) => c.field !== "number" && c.field !== "attributes")
        .flatMap((c) => editsFor(job, c.row, c.field, c.value)),
      ...attributeEdits(job, cells),
    ];
  const first: OneChange[] = edits.length ? [{ type: "points", edits }] : [];
  if (numbers.length === 0) return { change: first[0], follows: [] };
  const { change, follows } = renumber(
    job,
    numbers.map((c) => ({ id: t.id[c.row]!, number: String(c.value) })),
  );
  if (first.length === 0) return { change, follows };
  const changes = change.type === "several" ? change.changes : [change as OneChange];
  const text = `${plural(new Set(cells.map((c) => c.row)).size, "point")} changed, ${numbers.length} of them renumbered`;
  return { change: { type: "several", text, changes: [...changes, ...first] }, follows };
}

/** Attributes of one point are one field: cells of several of them are one edit. */
function attributeEdits({ points: t }: JobState, cells: readonly NewCell[]): PointEdit[] {
  const rows = new Map<number, Record<string, string>>();
  for (const { row, attribute, value } of cells) {
    if (attribute === undefined) continue;
    let given = rows.get(row);
    if (!given) rows.set(row, (given = { ...decodeAttributes(attributesOf(t, row)) }));
    // The column of the point, however its name is written there.
    const name = Object.keys(given).find((n) => n.toLowerCase() === attribute.toLowerCase()) ?? attribute;
    given[name] = String(value ?? "");
  }
  return [...rows].flatMap(([row, given]) => {
    const [old, now] = [attributesOf(t, row), encodeAttributes(given)];
    return old === now ? [] : [{ id: t.id[row]!, field: "attributes" as const, old, new: now }];
  });
}

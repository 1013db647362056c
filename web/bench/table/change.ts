/** Cells of the points table with new values, as one change of the job. */
import { renumber, type EditableChange, type Follower, type OneChange, type PointEdit } from "@bramble/core";
import type { EditField } from "@bramble/core/records/fields";
import { plural } from "@bramble/core/math/words";
import { attributesOf, decodeAttributes, encodeAttributes, withAttributes } from "@bramble/core/points/attributes";
import type { EditValue } from "@bramble/core/points/edits";
import { attributeText, type Attributed } from "../../lib/attributes";
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
  of: Attributed,
  cells: readonly NewCell[],
): { change: EditableChange | undefined; follows: Follower[] } {
  const { job } = of,
    { points: t } = job,
    numbers = cells.filter((c) => c.field === "number" && c.value !== t.number[c.row]),
    edits = [
      ...cells
        .filter((c) => c.field !== "number" && c.field !== "attributes")
        .flatMap((c) => editsFor(job, c.row, c.field, c.value)),
      ...attributeEdits(of, cells),
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
function attributeEdits(of: Attributed, cells: readonly NewCell[]): PointEdit[] {
  const { points: t } = of.job,
    rows = new Map<number, Map<string, string | null>>();
  for (const { row, attribute, value } of cells) {
    if (attribute === undefined) continue;
    const text = String(value ?? "");
    // What is shown already is no change; what was there is taken away, also where the description says it.
    if (text === attributeText(of, row, attribute)) continue;
    let given = rows.get(row);
    if (!given) rows.set(row, (given = new Map()));
    given.set(attribute, text === "" ? null : text);
  }
  return [...rows].flatMap(([row, given]) => {
    const old = attributesOf(t, row),
      now = encodeAttributes(withAttributes(decodeAttributes(old), Object.fromEntries(given)));
    return old === now ? [] : [{ id: t.id[row]!, field: "attributes" as const, old, new: now }];
  });
}

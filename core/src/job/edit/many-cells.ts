/** One thing done to the cells of many points: a value, an amount added, a word replaced. */
import { KINDS } from "../../records/kinds";
import { EDIT_FIELDS, fieldOf, fieldTitle, type Deed, type EditField } from "../../records/fields";
import { decimalSteps } from "../../math/decimal";
import { readTypedLength } from "../../math/typed";
import { cellValue } from "../../points/differing";
import { fieldValue } from "../../points/edits";
import { isCoordinate } from "./coordinates";
import { attributeNames, attributeText, type Attributed } from "./attributed";
import { readCell, refusedAttribute, type NewCell } from "./cells";

/** What many points can be given, and what can be done to it. */
export interface Many {
  /** Its own among the others. */
  key: string;
  field: EditField;
  name: string;
  deeds: readonly Deed[];
  choices?: readonly string[];
  /** Of the field “attributes” the one that is meant. */
  attribute?: string;
}

const OWN: readonly Many[] = EDIT_FIELDS.flatMap((field) => {
  const f = fieldOf(field);
  return f.many
    ? [{ key: field, field, name: fieldTitle(field), deeds: f.many, ...(f.is === "choice" && { choices: f.offered }) }]
    : [];
});

/** Fields, and the attributes that points have. */
export const manyOf = (of: Attributed): Many[] => [
  ...OWN,
  ...attributeNames(of).map((attribute): Many => ({
    key: `attr:${attribute}`,
    field: "attributes",
    name: attribute,
    attribute,
    deeds: ["set", "replace"],
  })),
];

export interface ManyCells {
  cells: NewCell[];
  /** Rows passed over, and why. */
  without: number;
  readOnly: number;
  /** Why an attribute of some points cannot be so, and of how many. */
  refused: { count: number; why: string } | undefined;
}

/**
 * The cells that become another. Points from drawings are read-only and passed over, as are those without a value where
 * an amount is added. `text` is the value, the amount, or the word looked for, which `by` replaces.
 */
export function cellsOfMany(
  of: Attributed,
  rows: ArrayLike<number>,
  { field, attribute }: Pick<Many, "field" | "attribute">,
  deed: Deed,
  text: string,
  by = "",
): ManyCells | { problem: string } {
  const { job } = of,
    t = job.points,
    out: ManyCells = { cells: [], without: 0, readOnly: 0, refused: undefined },
    reference = KINDS.indexOf("reference");
  let amount = 0;
  if (deed === "add") {
    const read = readTypedLength(text, job.unit);
    if ("problem" in read) return read;
    amount = read.value;
  }
  if (deed === "replace" && text === "") return { problem: "Say which word is replaced." };
  const set = deed === "set" ? readCell(field, text, job) : undefined;
  if (set && "problem" in set) return set;
  for (let k = 0; k < rows.length; k++) {
    const row = rows[k]!;
    if (t.deleted[row]) continue;
    if (t.kind[row] === reference) {
      out.readOnly++;
      continue;
    }
    const old =
      attribute === undefined
        ? (isCoordinate(field) && t.stored ? cellValue : fieldValue)(t, row, field)
        : attributeText(of, row, attribute);
    if (attribute !== undefined) {
      const value = set ? text.trim() : String(old).replaceAll(text, by),
        why = value === old ? undefined : refusedAttribute(of, row, attribute, value);
      if (why) out.refused = { why, count: (out.refused?.count ?? 0) + 1 };
      else if (value !== old) out.cells.push({ row, field, attribute, value });
    } else if (set) {
      if (set.value !== old) out.cells.push({ row, field, value: set.value });
    } else if (deed === "replace") {
      const value = String(old).replaceAll(text, by);
      if (value !== old) out.cells.push({ row, field, value });
    } else {
      const now = cellValue(t, row, field) as number | null;
      if (now === null) out.without++;
      else if (amount !== 0)
        // As decimals: 92.4 raised by 0.3 is 92.7 and not its neighbour.
        out.cells.push({ row, field, value: decimalSteps(now, amount)(1) });
    }
  }
  return out;
}

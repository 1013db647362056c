/**
 * Points as things name them that must outlive another reading of their delivery, which gives points new ids: by intake
 * and row of the file; a point that the office made by its id.
 */
import { GONE, rowOf, type PointTable } from "./table";

/** `day1:37`, or `*made:12` by id. Intakes have any name, rows are digits: the last colon divides. */
export type PointRef = string;

/** Not the name of an intake. */
const MADE = "*made";

type RefColumns = Pick<PointTable, "count" | "id" | "intake" | "row" | "deleted">;
type Intakes = readonly { id: string }[];

/** The name of the point at a row of the table. */
export function refOf(t: RefColumns, intakes: Intakes, i: number): PointRef {
  const intake = intakes[t.intake[i]!];
  return intake ? `${intake.id}:${t.row[i]}` : `${MADE}:${t.id[i]}`;
}

/**
 * Finds living points by their names; −1 for none. What is asked for of an intake is found by an index of its rows, which
 * is made when the first is; no texts are made for points that nobody names.
 */
export function refIndex(t: RefColumns, intakes: Intakes): (ref: PointRef) => number {
  const intakeAt = new Map(intakes.map((k, at) => [k.id, at])),
    rows = new Map<number, ReadonlyMap<number, number>>();
  const rowsOf = (intake: number): ReadonlyMap<number, number> => {
    const known = rows.get(intake);
    if (known) return known;
    const index = new Map<number, number>();
    for (let i = 0; i < t.count; i++) if (t.intake[i] === intake && !(t.deleted[i]! & GONE)) index.set(t.row[i]!, i);
    rows.set(intake, index);
    return index;
  };
  return (ref) => {
    const colon = ref.lastIndexOf(":"),
      digits = ref.slice(colon + 1),
      which = ref.slice(0, colon);
    if (!/^\d{1,10}$/.test(digits)) return -1;
    if (which !== MADE) {
      const intake = intakeAt.get(which);
      return intake === undefined ? -1 : (rowsOf(intake).get(Number(digits)) ?? -1);
    }
    const i = rowOf(t, Number(digits));
    return i >= 0 && !intakes[t.intake[i]!] && !(t.deleted[i]! & GONE) ? i : -1;
  };
}

const NUMBER = "*number";

/** As a recipe says it: a point that the office made by its number now, since ids stay behind; others as they are. */
export function refForRecipe(t: Pick<PointTable, "count" | "id" | "number">): (ref: PointRef) => PointRef {
  const numbers = new Map<string, string>();
  for (let i = 0; i < t.count; i++) numbers.set(`${MADE}:${t.id[i]}`, `${NUMBER}:${t.number[i]}`);
  return (ref) => numbers.get(ref) ?? ref;
}

/** The way back, once a recipe's points are there; what nobody has stays as it was written. */
export function refOfRecipe(t: RefColumns & Pick<PointTable, "number">, intakes: Intakes): (ref: PointRef) => PointRef {
  const refs = new Map<string, PointRef>();
  for (let i = 0; i < t.count; i++)
    if (!(t.deleted[i]! & GONE)) refs.set(`${NUMBER}:${t.number[i]}`, refOf(t, intakes, i));
  return (ref) => refs.get(ref) ?? ref;
}

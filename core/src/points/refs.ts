/**
 * Points as things refer to them, by identity: whatever they are called later, through another reading of their delivery
 * (which gives points new ids) and through their giving way to what was measured again. A reference keeps the number that
 * its point came with as well: where its delivery is gone, the point that came with that number stands for it.
 */
import { fieldIndex, numberIndex, type FieldNumbered } from "./index";
import { GONE, GONE_DELETED, rowOf, type PointTable } from "./table";

/**
 * `day1:37`, a tab and the number that the point came with: by delivery and row of the file. `*made:12` for a point that
 * the office made, by its id; `*number:12` for whatever has that number, where nothing else is known of a point.
 * Deliveries have any name, rows are digits: the last colon before the tab divides.
 */
export type PointRef = string;

/** Not names of deliveries. */
const MADE = "*made",
  NUMBER = "*number:",
  TAB = "\t";

export type RefColumns = FieldNumbered & Pick<PointTable, "row">;
type Intakes = readonly { id: string }[];

/** The reference to the point at a row of the table. */
export function refOf(t: RefColumns, intakes: Intakes, i: number): PointRef {
  const intake = intakes[t.intake[i]!],
    came = t.cameAs?.[t.id[i]!] ?? t.number[i]!;
  return intake ? `${intake.id}:${t.row[i]}${TAB}${came}` : refOfMade(t.id[i]!, came);
}

/** The reference to a point that the office makes, before it is in the table. */
export const refOfMade = (id: number, number: string): PointRef => `${MADE}:${id}${TAB}${number}`;

/** A reference to whatever point has a number. */
export const refByNumber = (number: string): PointRef => NUMBER + number;

/** What a reference says. */
interface Said {
  intake?: string;
  /** Of a point that the office made its id. */
  row?: number;
  /** Undefined in references that were written before they kept it. */
  number?: string;
}

function read(ref: PointRef): Said {
  if (ref.startsWith(NUMBER)) return { number: ref.slice(NUMBER.length) };
  const tab = ref.indexOf(TAB),
    [where, number] = tab < 0 ? [ref] : [ref.slice(0, tab), ref.slice(tab + 1)],
    colon = where.lastIndexOf(":"),
    digits = where.slice(colon + 1),
    said = number === undefined ? {} : { number };
  return /^\d{1,10}$/.test(digits)
    ? { intake: where.slice(0, Math.max(colon, 0)), row: Number(digits), ...said }
    : said;
}

/** The id of the point that the office made to which a reference is; undefined for others. */
export const idMade = (ref: PointRef): number | undefined => {
  const { intake, row } = read(ref);
  return intake === MADE ? row : undefined;
};
/** Whether a reference is to a point that the office made, of an id. */
export const isMade = (ref: PointRef, id: number): boolean => idMade(ref) === id;

/** What a reference calls its point without the job at hand: the number that it came with, or where it stood. */
export function numberSaid(ref: PointRef): string {
  const { intake, row, number } = read(ref);
  return number ?? (row === undefined ? ref : intake === MADE ? "a point made here" : `row ${row} of ${intake}`);
}

/** Rows of the table by delivery and row of the file, whether they live or not, made once for two columns. */
const kept = new WeakMap<object, { intake: object; rows: Map<number, ReadonlyMap<number, number>> }>();

function rowsOfIntake(t: RefColumns, intake: number): ReadonlyMap<number, number> {
  let known = kept.get(t.row);
  if (known?.intake !== t.intake) kept.set(t.row, (known = { intake: t.intake, rows: new Map() }));
  let index = known.rows.get(intake);
  if (!index) {
    const made = new Map<number, number>();
    for (let i = 0; i < t.count; i++) if (t.intake[i] === intake) made.set(t.row[i]!, i);
    known.rows.set(intake, (index = made));
  }
  return index;
}

export interface PointFinder {
  /** The row of the living point, or of the one to which it gave way; −1 where there is none. Deleted ones on demand. */
  rowOf(ref: PointRef, deletedToo?: boolean): number;
  /** What the point is called now; where it is not there, what it came as, or where it stood. */
  numberOf(ref: PointRef): string;
}

/** Finds points by references. Nothing is indexed for deliveries that nobody asks for. */
export function findPoints(t: RefColumns, intakes: Intakes): PointFinder {
  const turnOf = new Map(intakes.map((k, at) => [k.id, at]));
  let byNumber: ReturnType<typeof fieldIndex> | undefined;
  const called = (number: string) => (byNumber ??= fieldIndex(t))(-1, number);
  /** The very point, living or not; −1 where the table has it not. */
  const itself = ({ intake, row }: Said): number => {
    if (row === undefined) return -1;
    if (intake === MADE) {
      const i = rowOf(t, row);
      return i >= 0 && !intakes[t.intake[i]!] ? i : -1;
    }
    const turn = turnOf.get(intake!);
    return turn === undefined ? -1 : (rowsOfIntake(t, turn).get(row) ?? -1);
  };
  return {
    rowOf(ref, deletedToo = false) {
      const said = read(ref),
        i = itself(said);
      if (i < 0) {
        if (said.number === undefined) return -1;
        return said.row === undefined ? (numberIndex(t).get(said.number) ?? -1) : called(said.number);
      }
      if (!(t.deleted[i]! & GONE)) return i;
      if (t.deleted[i]! & GONE_DELETED) return deletedToo ? i : -1;
      return called(t.cameAs?.[t.id[i]!] ?? t.number[i]!);
    },
    numberOf(ref) {
      const i = itself(read(ref));
      return i < 0 ? numberSaid(ref) : t.number[i]!;
    },
  };
}

/** A number as a reference to the point that has it now, where one has. */
export function refsOfNumbers(t: RefColumns, intakes: Intakes): (number: string) => PointRef {
  const index = numberIndex(t);
  return (number) => {
    const i = index.get(number);
    return i === undefined ? refByNumber(number) : refOf(t, intakes, i);
  };
}

/**
 * Who is called by a number, where somebody is: one of those that are referred to already, else the point that has it
 * now, else one referred to that is not there any more.
 */
export function whoIsCalled(
  t: RefColumns,
  intakes: Intakes,
  known: readonly PointRef[],
): (number: string) => PointRef | undefined {
  const found = findPoints(t, intakes),
    index = numberIndex(t),
    there = new Map<string, PointRef>(),
    lost = new Map<string, PointRef>();
  for (const ref of known) (found.rowOf(ref) < 0 ? lost : there).set(found.numberOf(ref), ref);
  return (number) => {
    const i = index.get(number);
    return there.get(number) ?? (i === undefined ? lost.get(number) : refOf(t, intakes, i));
  };
}

/**
 * References as a recipe says them, by the numbers that points have at its end. A point that is not there goes by a
 * number that nobody has, so that the recipe takes no other in its stead.
 */
export function numbersOfRefs(t: RefColumns, intakes: Intakes): (ref: PointRef) => string {
  const found = findPoints(t, intakes),
    index = numberIndex(t);
  return (ref) => {
    const i = found.rowOf(ref);
    if (i >= 0) return t.number[i]!;
    let number = found.numberOf(ref);
    while (index.has(number)) number += "~gone";
    return number;
  };
}

/** As additions in a recipe say it: a point that the office made by its number now, since ids stay behind. */
export function refForRecipe(t: Pick<PointTable, "count" | "id" | "number">): (ref: PointRef) => PointRef {
  return (ref) => {
    const { intake, row } = read(ref),
      i = intake === MADE ? rowOf(t, row!) : -1;
    if (i >= 0) return refByNumber(t.number[i]!);
    return row === undefined ? ref : `${intake}:${row}`;
  };
}

/** References as they are made now: to whoever stands there; one that finds nobody stays as it was written. */
export function settledRef(t: RefColumns, intakes: Intakes): (ref: PointRef) => PointRef {
  const found = findPoints(t, intakes);
  return (ref) => {
    const i = found.rowOf(ref);
    return i < 0 ? ref : refOf(t, intakes, i);
  };
}

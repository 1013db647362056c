/**
 * What the field says of how a point was measured, beside its place: each described once, like fields.ts. The office does
 * not change it, and a table has a column of it only where some point has a value. Readers, the table, the database, the
 * screen's columns and those of files follow from here.
 */

interface Described {
  /** What sentences call it, where that is not its name. */
  words?: string;
  /** Headings by which files name it; see fields.ts. */
  heads: string;
}
/** A length is in the job's unit; other numbers are as they came, `unit` what they are written with. */
export interface MeasuredNumber extends Described {
  is: "length" | "number";
  least?: number;
  whole?: true;
  unit?: string;
}
export interface MeasuredText extends Described {
  is: "text";
}
export type MeasuredDescription = MeasuredNumber | MeasuredText;

const described = <const M extends Record<string, MeasuredDescription>>(measured: M): M => measured;

export const MEASURED = described({
  precisionPlan: {
    is: "length",
    words: "plan precision",
    least: 0,
    heads: "precisionplan planprecision horizontalprecision horizontalaccuracy",
  },
  precisionLevel: {
    is: "length",
    words: "level precision",
    least: 0,
    heads: "precisionlevel levelprecision verticalprecision verticalaccuracy",
  },
  fix: { is: "text", heads: "fix fixtype solution" },
  satellites: { is: "number", least: 0, whole: true, heads: "satellites sats satellitesused" },
  epochs: { is: "number", least: 0, whole: true, heads: "epochs" },
  tilt: { is: "number", unit: "°", heads: "tilt tiltangle" },
  way: { is: "text", words: "way of measuring", heads: "way method" },
  photo: { is: "text", heads: "photo photos picture image" },
  prism: { is: "length", words: "prism constant", heads: "prism prismconstant" },
});

export type MeasuredField = keyof typeof MEASURED;
export const MEASURED_FIELDS = Object.keys(MEASURED) as MeasuredField[];
export const isMeasured = (name: string): name is MeasuredField => Object.hasOwn(MEASURED, name);
export const measuredOf = (field: MeasuredField): MeasuredDescription => MEASURED[field];
export const measuredName = (field: MeasuredField): string => measuredOf(field).words ?? field;

/**
 * One slot for each point: numbers, NaN where a point has none, or indices into the texts beside them. A field that no
 * point has a value of is left out.
 */
export type MeasuredColumns = {
  [F in MeasuredField]?: (typeof MEASURED)[F]["is"] extends "text" ? Uint32Array : Float64Array;
};

/** A value for each row that a caller names: fills a column of either kind. */
function column(field: MeasuredField, count: number, value: (i: number) => number): Float64Array | Uint32Array {
  const out = measuredOf(field).is === "text" ? new Uint32Array(count) : new Float64Array(count);
  for (let i = 0; i < count; i++) out[i] = value(i);
  return out;
}
const blankOf = (field: MeasuredField) => (measuredOf(field).is === "text" ? 0 : NaN);
const isBlank = (field: MeasuredField, x: number) => (measuredOf(field).is === "text" ? x === 0 : Number.isNaN(x));

const columnsFrom = (of: (field: MeasuredField) => Float64Array | Uint32Array | undefined): MeasuredColumns =>
  Object.fromEntries(
    MEASURED_FIELDS.flatMap((f) => {
      const made = of(f);
      return made ? [[f, made]] : [];
    }),
  );

/** The columns in which something stands. */
export const filledMeasured = (of: MeasuredColumns): MeasuredColumns =>
  columnsFrom((f) => (of[f]?.some((x: number) => !isBlank(f, x)) ? of[f] : undefined));

/** The columns at some rows, in that order; a column without a value there is none. */
export const pickMeasured = (of: MeasuredColumns, rows: ArrayLike<number>): MeasuredColumns =>
  filledMeasured(
    columnsFrom((f) => {
      const from = of[f];
      return from && column(f, rows.length, (i) => from[rows[i]!]!);
    }),
  );

/** Columns of so many points, then those of others; `text` is where a text of the others stands among the first's. */
export const joinMeasured = (
  [a, aCount]: [MeasuredColumns, number],
  [b, bCount]: [MeasuredColumns, number],
  text: (index: number) => number,
): MeasuredColumns =>
  columnsFrom((f) => {
    const [first, second] = [a[f], b[f]];
    if (!first && !second) return undefined;
    const moved = (x: number) => (measuredOf(f).is === "text" ? text(x) : x),
      blank = blankOf(f);
    return column(f, aCount + bCount, (i) =>
      i < aCount ? (first?.[i] ?? blank) : second ? moved(second[i - aCount]!) : blank,
    );
  });

/** The lengths in another unit. */
export const scaleMeasured = (of: MeasuredColumns, factor: number): MeasuredColumns =>
  columnsFrom((f) => (measuredOf(f).is === "length" ? of[f]?.map((x: number) => x * factor) : of[f]));

/** What can be stored of a point: its values by field; undefined where it has none. */
export function measuredAt(
  of: MeasuredColumns,
  i: number,
  texts: readonly string[],
): Record<string, string | number> | undefined {
  let out: Record<string, string | number> | undefined;
  for (const f of MEASURED_FIELDS) {
    const x = of[f]?.[i];
    if (x !== undefined && !isBlank(f, x)) (out ??= {})[f] = measuredOf(f).is === "text" ? texts[x]! : x;
  }
  return out;
}

/** Puts what was stored of a point into columns, which are made as they are needed. */
export function putMeasured(
  of: MeasuredColumns,
  count: number,
  i: number,
  values: Record<string, string | number>,
  text: (text: string) => number,
): void {
  for (const f of MEASURED_FIELDS) {
    const value = values[f];
    if (value === undefined) continue;
    const to: Float64Array | Uint32Array = (of[f] ??= column(f, count, () => blankOf(f)) as never);
    to[i] = typeof value === "string" ? text(value) : value;
  }
}

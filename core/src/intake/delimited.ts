/**
 * Delimited and fixed-width text of points → records. Written for speed: one pass over the bytes into typed columns.
 *
 * Guaranteed: any bytes give records and refused rows, or a refusal; rows = records + refused. A number is the
 * nearest double of the decimal written. Not done here: number clashes (points/take.ts), codes (codes/).
 */
import type { Column, Layout } from "./model";
import type { Records, RefusedRow } from "../records/records";
import {
  FIELDS,
  fieldName,
  fieldOf,
  isLength,
  READ_FIELDS,
  type LengthField,
  type LengthName,
  type ReadField,
} from "../records/fields";
import { filledMeasured, MEASURED_FIELDS, measuredName, measuredOf, type MeasuredField } from "../records/measured";
import { refusal } from "../errors";
import { plural } from "../math/words";
import { readStation } from "../math/station-text";
import { ByteText, guessEncoding, SpanTexts, surveyBytes, TextInterner } from "./bytes";
import { ABSENT, scannerOf } from "./scan";

const LF = 10,
  CR = 13;

/** Progress is told after about every 64,000 rows; returning false stops the reading. */
export type Progress = (fraction: number) => boolean | void;

/** Refuses what is no text at all: an empty file, or one with zero bytes. Says whether every byte is below 128. */
export function checkText(file: string, bytes: Uint8Array): { ascii: boolean } {
  if (bytes.length === 0) throw refusal("file-empty", { file });
  const survey = surveyBytes(bytes);
  if (survey.zero) throw refusal("file-binary", { file, at: bytes.indexOf(0) });
  return survey;
}

/** The two columns that give the position: east or along, north or across. */
const POSITIONS = [
  ["easting", "northing"],
  ["station", "offset"],
  ["longitude", "latitude"],
] as const;

/** How the rows of these columns give their positions. */
export function positionColumns(columns: readonly Column[]): (typeof POSITIONS)[number] {
  return POSITIONS.find((pair) => pair.some((c) => columns.includes(c))) ?? POSITIONS[0];
}

/** What the columns of a layout mean, whichever way they are cut. */
export function columnNames(layout: Layout): Column[] {
  return (layout.columns ?? []).map((c) => (typeof c === "object" ? c.is : c));
}

/** The columns without which no point can be made. */
export function checkColumns(columns: readonly Column[]): void {
  const missing = (["number", ...positionColumns(columns)] as const).filter((c) => !columns.includes(c));
  if (missing.length) throw refusal("layout-columns", { missing });
  const twice = columns.find((c, i) => c !== "skip" && columns.indexOf(c) !== i);
  if (twice) throw refusal("layout-column-twice", { column: twice });
}

/**
 * Reads delimited or fixed-width text by a layout whose columns are known (see guessLayout). With station and offset,
 * `e` holds the station and `n` the offset; with latitude and longitude, degrees, and `z` the ellipsoidal height:
 * intake/position.ts makes coordinates of them. With both a `code` and a `description` column the code is read by the
 * field codes and the description becomes the note.
 */
export function readDelimited(
  file: string,
  bytes: Uint8Array,
  layout: Layout,
  encoding?: "utf-8" | "latin1",
  progress?: Progress,
): Records {
  const { ascii } = checkText(file, bytes);
  const columns = columnNames(layout);
  checkColumns(columns);
  const charset = encoding ?? (ascii ? "utf-8" : guessEncoding(bytes));
  const text = new ByteText(bytes, charset, ascii);
  const interner = new TextInterner(bytes, text);
  const missing = missingMarks(layout.noElevation ?? [""], layout.decimal ?? ".");

  const at = (...wanted: Column[]) => {
    const found = wanted.find((column) => columns.includes(column));
    return found === undefined ? ABSENT : columns.indexOf(found);
  };
  const [east, north] = positionColumns(columns);
  const cNumber = at("number"),
    cE = at(east),
    cN = at(north),
    cZ = at("height", "elevation");
  const cCode = at("code", "description"),
    cNote = at("note") !== ABSENT || at("code") === ABSENT ? at("note") : at("description");
  const cTime = at("time"),
    lengths = OWN_LENGTHS.filter((f) => columns.includes(f)).map((field) => ({ field, column: at(field) })),
    measured = MEASURED_FIELDS.filter((f) => columns.includes(f)).map((field) => ({ field, column: at(field) })),
    isText = (f: MeasuredField) => measuredOf(f).is === "text";
  const attributes = columns.flatMap((c, i) => (c.startsWith("attr:") ? [{ name: c.slice(5), column: i }] : []));
  const numbers = new Set([
    cE,
    cN,
    cZ,
    ...[...lengths, ...measured.filter((m) => !isText(m.field))].map((x) => x.column),
  ]);
  const numeric = columns.map((_, c) => numbers.has(c));
  const scan = scannerOf(file, bytes, layout, charset, numeric);

  // Columns are sized by the first rows and grow if these were longer than the rest.
  let out = makeColumns(estimateRows(bytes), {
    lengths: lengths.length,
    time: cTime !== ABSENT,
    attributes: attributes.length,
    measured: measured.map((m) => isText(m.field)),
  });
  const numberApart = new Map<number, string>();
  const refused: RefusedRow[] = [];
  let count = 0,
    rows = 0,
    longer = 0,
    badTimes = 0;
  const unread = new Map<MeasuredField, number>();

  const { starts, ends, quoted } = scan;
  const blank = (c: number) => starts[c] === ends[c];
  const fieldText = (c: number) =>
    quoted[c] ? unquote(text.slice(starts[c]!, ends[c]!), scan.quoteText).trim() : text.slice(starts[c]!, ends[c]!);
  const fieldId = (c: number) => (quoted[c] ? interner.ofText(fieldText(c)) : interner.ofBytes(starts[c]!, ends[c]!));
  const fieldTime = () => {
    const time = blank(cTime) ? NaN : readTime(fieldText(cTime));
    if (!blank(cTime) && Number.isNaN(time)) badTimes++;
    return time;
  };

  const hasStations = east === "station",
    stationOf = (c: number) => readStation(fieldText(c)) ?? NaN;

  while (fill(out)) out = widerColumns(out);

  const notes: string[] = [];
  if (charset === "latin1" && encoding === undefined)
    notes.push("The bytes are not UTF-8; they were read as Windows-1252.");
  if (longer)
    notes.push(
      `${plural(longer, "row")} ${longer === 1 ? "has" : "have"} more columns than the layout; what stands beyond was not read.`,
    );
  for (const [field, times] of unread)
    notes.push(
      `${plural(times, "value")} of ${measuredName(field)} could not be read and ${isOrAre(times)} left blank.`,
    );
  if (badTimes) notes.push(`${plural(badTimes, "time")} could not be read; those rows keep their order in the file.`);
  return {
    count,
    rows,
    refused,
    notes,
    number: new SpanTexts(text, cut(out.numberStart), cut(out.numberEnd), numberApart),
    row: cut(out.row),
    e: cut(out.e),
    n: cut(out.n),
    z: cut(out.z),
    ...(Object.fromEntries(
      OWN_LENGTHS.map((field) => [
        FIELDS[field].column,
        cutOrNone(out.lengths[lengths.findIndex((x) => x.field === field)]),
      ]),
    ) as Record<(typeof FIELDS)[OwnLength]["column"], Float64Array>),
    time: cutOrNone(out.time),
    description: cut(out.description),
    note: cut(out.note),
    texts: interner.texts,
    attributes: attributes.map((a, i) => ({ name: a.name, values: cut(out.values[i]!) })),
    measured: filledMeasured(Object.fromEntries(measured.map((m, k) => [m.field, cut(out.measured[k]!)]))),
  };

  /**
   * Reads rows into the columns until these are full; false when the file, or the patience with it, is at its end.
   * The columns are held as constants here, since a million rows look at each of them.
   */
  function fill({ row, e, n, z, numberStart, numberEnd, ...more }: RecordColumns): boolean {
    const { description, note, lengths: own, time, values } = more;
    const { values: value } = scan;
    const room = row.length,
      marked = missing.values.length > 0;
    while (count < room) {
      if (!scan.next()) return false;
      rows++;
      if ((rows & 0xffff) === 0 && progress?.(scan.position / bytes.length) === false) return false;
      if (scan.fields > columns.length) longer++;
      const i = count;
      e[i] = hasStations && Number.isNaN(value[cE]!) && !blank(cE) ? stationOf(cE) : value[cE]!;
      n[i] = value[cN]!;
      const level = value[cZ]!;
      z[i] = marked && missing.values.includes(level) ? NaN : level;
      const doubtful =
        Number.isNaN(e[i]! + n[i]!) ||
        blank(cNumber) ||
        (Number.isNaN(level) && !blank(cZ)) ||
        lengths.some(({ field, column }) => isDoubtful(field, value[column]!));
      const reason = doubtful ? whyRefused() : undefined;
      if (reason) {
        refused.push({ row: scan.row, reason });
        continue;
      }
      row[i] = scan.row;
      numberStart[i] = starts[cNumber]!;
      numberEnd[i] = ends[cNumber]!;
      if (quoted[cNumber]) numberApart.set(i, fieldText(cNumber));
      for (let k = 0; k < own.length; k++) own[k]![i] = value[lengths[k]!.column]!;
      for (let k = 0; k < measured.length; k++) more.measured[k]![i] = fieldMeasured(measured[k]!);
      if (time) time[i] = fieldTime();
      description[i] = fieldId(cCode);
      if (cNote !== ABSENT) note[i] = fieldId(cNote);
      for (let a = 0; a < values.length; a++) values[a]![i] = fieldId(attributes[a]!.column);
      count++;
    }
    return true;
  }

  /** Why the record in hand gives no point; undefined when it does. */
  function whyRefused(): string | undefined {
    const { values: value } = scan;
    const wrong = (c: number, name: string) =>
      blank(c) ? `${name} is missing` : `${name} is “${short(fieldText(c))}”, which is not a number`;
    if (blank(cNumber)) return "the point number is missing";
    if (Number.isNaN(value[cN])) return wrong(cN, `the ${north}`);
    if (Number.isNaN(hasStations ? stationOf(cE) : value[cE])) return wrong(cE, `the ${east}`);
    if (!blank(cZ) && Number.isNaN(value[cZ]) && !missing.words.includes(fieldText(cZ)))
      return wrong(cZ, "the elevation");
    const bad = lengths.find(({ field, column: c }) => !blank(c) && isDoubtful(field, value[c]!));
    return bad && wrong(bad.column, `the ${fieldName(bad.field)}`);
  }

  /** What a column says of how the point was measured; one that cannot be read is counted and left blank. */
  function fieldMeasured({ field, column: c }: { field: MeasuredField; column: number }): number {
    const m = measuredOf(field);
    if (m.is === "text") return fieldId(c);
    const x = scan.values[c]!;
    if (blank(c) || (x >= (m.least ?? -Infinity) && (!m.whole || Number.isInteger(x)))) return x;
    unread.set(field, (unread.get(field) ?? 0) + 1);
    return NaN;
  }

  /** The column without its spare room: a view where that is little, for a copy of a million rows costs more. */
  function cut<T extends TypedColumn>(column: T): T {
    const little = column.length - count < count / 8;
    return (little ? column.subarray(0, count) : column.slice(0, count)) as T;
  }

  function cutOrNone(column: Float64Array | undefined): Float64Array {
    return column ? cut(column) : new Float64Array(count).fill(NaN);
  }
}

type TypedColumn = Float64Array | Int32Array | Uint32Array;

/** Lengths that a row may have beside its position. */
const OWN_LENGTHS = READ_FIELDS.filter(isLength).filter((f): f is OwnLength => !("coordinate" in FIELDS[f]));
type OwnLength = Exclude<Extract<ReadField, LengthName>, "northing" | "easting" | "elevation">;

const isDoubtful = (field: OwnLength, x: number) => !(x >= ((fieldOf(field) as LengthField).least ?? -Infinity));
const isOrAre = (count: number) => (count === 1 ? "is" : "are");

/** The columns of records while they are read, all of one length. */
function makeColumns(
  room: number,
  { lengths, time, attributes, measured }: { lengths: number; time: boolean; attributes: number; measured: boolean[] },
) {
  return {
    row: new Int32Array(room),
    numberStart: new Int32Array(room),
    numberEnd: new Int32Array(room),
    e: new Float64Array(room),
    n: new Float64Array(room),
    z: new Float64Array(room),
    lengths: Array.from({ length: lengths }, () => new Float64Array(room)),
    time: time ? new Float64Array(room) : undefined,
    description: new Uint32Array(room),
    note: new Uint32Array(room),
    values: Array.from({ length: attributes }, () => new Uint32Array(room)),
    measured: measured.map((isText) => (isText ? new Uint32Array(room) : new Float64Array(room))),
  };
}

type RecordColumns = ReturnType<typeof makeColumns>;

function widerColumns(old: RecordColumns): RecordColumns {
  const room = Math.ceil(old.row.length * 1.5) + 16;
  const wider = <T extends TypedColumn>(column: T): T => {
    const made = new (column.constructor as new (length: number) => T)(room);
    made.set(column as never);
    return made;
  };
  const made = Object.entries(old).map(([name, column]) => [
    name,
    Array.isArray(column) ? (column as TypedColumn[]).map(wider) : column && wider(column),
  ]);
  return Object.fromEntries(made) as RecordColumns;
}

function unquote(text: string, quote: string): string {
  return text.includes(quote) ? text.replaceAll(quote + quote, quote) : text;
}

/** What means "no elevation" beside a blank: numbers by their value, words by their text. */
function missingMarks(marks: string[], decimal: string): { values: number[]; words: string[] } {
  const written = marks.filter((m) => m.trim() !== "");
  const value = (m: string) => Number(m.replace(decimal, "."));
  return {
    values: written.map(value).filter(Number.isFinite),
    words: written.filter((m) => !Number.isFinite(value(m))),
  };
}

/** About how many rows the bytes hold, from the line ends of the first 64 kB. */
function estimateRows(bytes: Uint8Array): number {
  const sample = Math.min(bytes.length, 1 << 16);
  let ends = 1;
  for (let i = 0; i < sample; i++) if (bytes[i] === LF || bytes[i] === CR) ends++;
  return Math.ceil((ends * bytes.length * 1.02) / Math.max(sample, 1)) + 16;
}

/**
 * Milliseconds of `2031-04-17T08:00:05`, the same with a blank, or `08:00:05`; as written, no time zone. NaN otherwise.
 */
export function readTime(text: string): number {
  const m = /^(?:(\d{4})-(\d\d)-(\d\d)[T ])?(\d\d?):(\d\d)(?::(\d\d(?:\.\d+)?))?Z?$/.exec(text.trim());
  if (!m) return NaN;
  const day = m[1] ? Date.UTC(Number(m[1]), Number(m[2]) - 1, Number(m[3])) : 0;
  return day + ((Number(m[4]) * 60 + Number(m[5])) * 60 + Number(m[6] ?? 0)) * 1000;
}

function short(text: string): string {
  return text.length > 30 ? `${text.slice(0, 29)}…` : text;
}

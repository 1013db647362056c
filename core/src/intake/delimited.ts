/**
 * Delimited and fixed-width text of points → records. Written for speed: one pass over the bytes into typed columns.
 *
 * Guaranteed: any bytes give records and refused rows, or a refusal; rows = records + refused. A number is the
 * nearest double of the decimal written. Not done here: number clashes (points/take.ts), codes (codes/).
 */
import type { Column, Layout } from "./model";
import type { Records, RefusedRow } from "../records/records";
import { refusal } from "../errors";
import { plural } from "../math/words";
import { ByteText, guessEncoding, readNumber, TextInterner } from "./bytes";
import { scannerOf } from "./scan";

const LF = 10,
  CR = 13;

/** Progress is told after about every 64,000 rows; returning false stops the reading. */
export type Progress = (fraction: number) => boolean | void;

/** Refuses what is no text at all: an empty file, or one with zero bytes. */
export function checkText(file: string, bytes: Uint8Array): void {
  if (bytes.length === 0) throw refusal("file-empty", { file });
  const zero = bytes.indexOf(0);
  if (zero >= 0) throw refusal("file-binary", { file, at: zero });
}

/** The two columns that give the place: east or along, north or across. */
const PLACES = [
  ["easting", "northing"],
  ["station", "offset"],
  ["longitude", "latitude"],
] as const;

/** How the rows of these columns give their places. */
export function placeColumns(columns: readonly Column[]): (typeof PLACES)[number] {
  return PLACES.find((pair) => pair.some((c) => columns.includes(c))) ?? PLACES[0];
}

/** What the columns of a layout mean, whichever way they are cut. */
export function columnNames(layout: Layout): Column[] {
  return (layout.columns ?? []).map((c) => (typeof c === "object" ? c.is : c));
}

/** The columns without which no point can be made. */
export function checkColumns(columns: readonly Column[]): void {
  const missing = (["number", ...placeColumns(columns)] as const).filter((c) => !columns.includes(c));
  if (missing.length) throw refusal("layout-columns", { missing });
  const twice = columns.find((c, i) => c !== "skip" && columns.indexOf(c) !== i);
  if (twice) throw refusal("layout-column-twice", { column: twice });
}

/**
 * Reads delimited or fixed-width text by a layout whose columns are known (see guessLayout). With station and offset,
 * `e` holds the station and `n` the offset; with latitude and longitude, degrees, and `z` the ellipsoidal height:
 * intake/place.ts makes coordinates of them. With both a `code` and a `description` column the code is read by the
 * field codes and the description becomes the note.
 */
export function readDelimited(
  file: string,
  bytes: Uint8Array,
  layout: Layout,
  encoding?: "utf-8" | "latin1",
  progress?: Progress,
): Records {
  checkText(file, bytes);
  const columns = columnNames(layout);
  checkColumns(columns);
  const charset = encoding ?? guessEncoding(bytes);
  const text = new ByteText(bytes, charset);
  const interner = new TextInterner(bytes, text);
  const decimal = (layout.decimal ?? ".").charCodeAt(0);
  const missing = missingMarks(layout.noElevation ?? [""], layout.decimal ?? ".");
  const scan = scannerOf(file, bytes, layout, charset);
  const { starts, ends, quoted } = scan;

  const at = (column: Column) => columns.indexOf(column);
  const [east, north] = placeColumns(columns);
  const cNumber = at("number"),
    cE = at(east),
    cN = at(north),
    cZ = at("height") >= 0 ? at("height") : at("elevation");
  const cCode = at("code") >= 0 ? at("code") : at("description");
  const cNote = at("note") >= 0 ? at("note") : at("code") >= 0 ? at("description") : -1;
  const cPrecision = at("precision"),
    cTarget = at("targetHeight"),
    cTime = at("time");
  const attributes = columns.flatMap((c, i) => (c.startsWith("attr:") ? [{ name: c.slice(5), column: i }] : []));

  // Columns are sized by the first rows and grow if these were longer than the rest.
  let room = estimateRows(bytes);
  let row = new Int32Array(room),
    description = new Uint32Array(room),
    note = new Uint32Array(room);
  let e = new Float64Array(room),
    n = new Float64Array(room),
    z = new Float64Array(room);
  const optional = (column: number) => (column >= 0 ? new Float64Array(room) : undefined);
  let precision = optional(cPrecision),
    target = optional(cTarget),
    time = optional(cTime);
  const values = attributes.map(() => new Uint32Array(room));
  const number: string[] = [];
  const refused: RefusedRow[] = [];
  let count = 0,
    rows = 0,
    longer = 0,
    badTimes = 0;

  const fieldText = (c: number) =>
    quoted[c] ? unquote(text.slice(starts[c]!, ends[c]!), scan.quoteText).trim() : text.slice(starts[c]!, ends[c]!);
  const fieldId = (c: number) =>
    c < 0 || c >= scan.fields ? 0 : quoted[c] ? interner.ofText(fieldText(c)) : interner.ofBytes(starts[c]!, ends[c]!);
  const value = (c: number) =>
    c < 0 || c >= scan.fields || starts[c] === ends[c] ? NaN : readNumber(bytes, starts[c]!, ends[c]!, decimal);
  const blank = (c: number) => c >= scan.fields || starts[c] === ends[c];
  const wrong = (c: number, name: string): string =>
    blank(c) ? `${name} is missing` : `${name} is “${short(fieldText(c))}”, which is not a number`;

  while (scan.next()) {
    rows++;
    if ((rows & 0xffff) === 0 && progress?.(scan.position / bytes.length) === false) break;
    if (scan.fields > columns.length) longer++;
    const placeE = value(cE),
      placeN = value(cN);
    let reason: string | undefined;
    if (blank(cNumber)) reason = "the point number is missing";
    else if (Number.isNaN(placeN)) reason = wrong(cN, `the ${north}`);
    else if (Number.isNaN(placeE)) reason = wrong(cE, `the ${east}`);
    let level = NaN;
    if (!reason && cZ >= 0 && !blank(cZ)) {
      level = value(cZ);
      if (Number.isNaN(level)) {
        if (!missing.words.includes(fieldText(cZ))) reason = wrong(cZ, "the elevation");
      } else if (missing.values.length > 0 && missing.values.includes(level)) level = NaN;
    }
    let sigma = NaN,
      height = NaN;
    if (!reason && cPrecision >= 0 && !blank(cPrecision) && !((sigma = value(cPrecision)) >= 0))
      reason = wrong(cPrecision, "the precision");
    if (!reason && cTarget >= 0 && !blank(cTarget) && Number.isNaN((height = value(cTarget))))
      reason = wrong(cTarget, "the target height");
    if (reason) {
      refused.push({ row: scan.row, reason });
      continue;
    }
    if (count === room) grow();
    row[count] = scan.row;
    number.push(fieldText(cNumber));
    e[count] = placeE;
    n[count] = placeN;
    z[count] = level;
    if (precision) precision[count] = sigma;
    if (target) target[count] = height;
    if (time) {
      time[count] = blank(cTime) ? NaN : readTime(fieldText(cTime));
      if (!blank(cTime) && Number.isNaN(time[count])) badTimes++;
    }
    description[count] = fieldId(cCode);
    if (cNote >= 0) note[count] = fieldId(cNote);
    for (let a = 0; a < attributes.length; a++) values[a]![count] = fieldId(attributes[a]!.column);
    count++;
  }

  const notes: string[] = [];
  if (charset === "latin1" && encoding === undefined)
    notes.push("The bytes are not UTF-8; they were read as Windows-1252.");
  if (longer)
    notes.push(
      `${plural(longer, "row")} ${longer === 1 ? "has" : "have"} more columns than the layout; what stands beyond was not read.`,
    );
  if (badTimes) notes.push(`${plural(badTimes, "time")} could not be read; those rows keep their order in the file.`);
  return {
    count,
    rows,
    refused,
    notes,
    number,
    row: cut(row),
    e: cut(e),
    n: cut(n),
    z: cut(z),
    precision: cutOrNone(precision),
    targetHeight: cutOrNone(target),
    time: cutOrNone(time),
    description: cut(description),
    note: cut(note),
    texts: interner.texts,
    attributes: attributes.map((a, i) => ({ name: a.name, values: cut(values[i]!) })),
  };

  function cut<T extends Float64Array | Int32Array | Uint32Array>(column: T): T {
    return (column.length === count ? column : column.slice(0, count)) as T;
  }

  function cutOrNone(column: Float64Array | undefined): Float64Array {
    return column ? cut(column) : new Float64Array(count).fill(NaN);
  }

  function grow(): void {
    room = Math.ceil(room * 1.5) + 16;
    const wider = <T extends Float64Array | Int32Array | Uint32Array>(old: T): T => {
      const made = new (old.constructor as new (length: number) => T)(room);
      made.set(old as never);
      return made;
    };
    [row, description, note] = [wider(row), wider(description), wider(note)];
    [e, n, z] = [wider(e), wider(n), wider(z)];
    [precision, target, time] = [precision && wider(precision), target && wider(target), time && wider(time)];
    values.forEach((v, i) => (values[i] = wider(v)));
  }
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

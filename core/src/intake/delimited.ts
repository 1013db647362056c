/**
 * Delimited text of points → records. Written for speed: one pass over the bytes into typed columns.
 *
 * Guaranteed: any bytes give records and refused rows, or a refusal; rows = records + refused. A number is the
 * nearest double of the decimal written. Not done here: number clashes (points/take.ts), codes (codes/).
 */
import { refusal } from "../errors";
import type { Column, Layout, RefusedRow } from "../job/model";
import { plural } from "../math/words";
import type { Records } from "../records/records";
import { ByteText, guessEncoding, isBlank, readNumber, TextInterner } from "./bytes";

const LF = 10, CR = 13, SPACE = 32;
const LONGEST_LINE = 1 << 20;

/** Progress is told after about every 64,000 rows; returning false stops the reading. */
export type Progress = (fraction: number) => boolean | void;

/** Refuses what is no text at all: an empty file, or one with zero bytes. */
export function checkText(file: string, bytes: Uint8Array): void {
  if (bytes.length === 0) throw refusal("file-empty", { file });
  const zero = bytes.indexOf(0);
  if (zero >= 0) throw refusal("file-binary", { file, at: zero });
}

/** The columns without which no point can be made. */
export function checkColumns(columns: readonly Column[]): void {
  const missing = (["number", "easting", "northing"] as const).filter((c) => !columns.includes(c));
  if (missing.length) throw refusal("layout-columns", { missing });
  const twice = columns.find((c, i) => c !== "skip" && columns.indexOf(c) !== i);
  if (twice) throw refusal("layout-column-twice", { column: twice });
}

/**
 * Reads delimited text by a layout whose columns are known (see guessLayout).
 * With both a `code` and a `description` column the code is read by the field codes and the description becomes the note.
 */
export function readDelimited(
  file: string, bytes: Uint8Array, layout: Layout & { columns: Column[] }, encoding?: "utf-8" | "latin1", progress?: Progress,
): Records {
  checkText(file, bytes);
  checkColumns(layout.columns);
  const charset = encoding ?? guessEncoding(bytes);
  const text = new ByteText(bytes, charset);
  const interner = new TextInterner(bytes, text);
  const decimal = (layout.decimal ?? ".").charCodeAt(0);
  const isMissing = missingMarks(layout.noElevation ?? [""], layout.decimal ?? ".");
  const scan = new RecordScanner(file, bytes, layout);
  const { starts, ends, quoted } = scan;

  const at = (column: Column) => layout.columns.indexOf(column);
  const cNumber = at("number"), cE = at("easting"), cN = at("northing"), cZ = at("elevation");
  const cCode = at("code") >= 0 ? at("code") : at("description");
  const cNote = at("note") >= 0 ? at("note") : at("code") >= 0 ? at("description") : -1;
  const cPrecision = at("precision"), cTarget = at("targetHeight"), cTime = at("time");
  const attributes = layout.columns.flatMap((c, i) => (c.startsWith("attr:") ? [{ name: c.slice(5), column: i }] : []));

  // Columns grow by doubling; the number of rows is not known before the end.
  let room = Math.max(16, Math.ceil(bytes.length / 32));
  let row = new Int32Array(room), description = new Uint32Array(room), note = new Uint32Array(room);
  let e = new Float64Array(room), n = new Float64Array(room), z = new Float64Array(room);
  let precision = new Float64Array(room), target = new Float64Array(room), time = new Float64Array(room);
  const values = attributes.map(() => new Uint32Array(room));
  const number: string[] = [];
  const refused: RefusedRow[] = [];
  let count = 0, rows = 0, longer = 0, badTimes = 0;

  const fieldText = (c: number) => (quoted[c] ? unquote(text.slice(starts[c]!, ends[c]!), scan.quoteText) : text.slice(starts[c]!, ends[c]!));
  const fieldId = (c: number) =>
    c < 0 || c >= scan.fields ? 0 : quoted[c] ? interner.ofText(fieldText(c).trim()) : interner.ofBytes(starts[c]!, ends[c]!);
  const value = (c: number) => (c < 0 || c >= scan.fields || starts[c] === ends[c] ? NaN : readNumber(bytes, starts[c]!, ends[c]!, decimal));
  const blank = (c: number) => c >= scan.fields || starts[c] === ends[c];
  const plan = (c: number, name: string): string | undefined =>
    blank(c) ? `${name} is missing` : `${name} is “${short(fieldText(c))}”, which is not a number`;

  while (scan.next()) {
    rows++;
    if ((rows & 0xffff) === 0 && progress?.(scan.position / bytes.length) === false) break;
    if (scan.fields > layout.columns.length) longer++;
    const east = value(cE), north = value(cN);
    let reason: string | undefined;
    if (blank(cNumber)) reason = "the point number is missing";
    else if (Number.isNaN(north)) reason = plan(cN, "the northing");
    else if (Number.isNaN(east)) reason = plan(cE, "the easting");
    let level = NaN;
    if (!reason && cZ >= 0 && !blank(cZ)) {
      level = value(cZ);
      if (isMissing(level, () => fieldText(cZ))) level = NaN;
      else if (Number.isNaN(level)) reason = plan(cZ, "the elevation");
    }
    let sigma = NaN, height = NaN;
    if (!reason && cPrecision >= 0 && !blank(cPrecision) && !((sigma = value(cPrecision)) >= 0)) reason = plan(cPrecision, "the precision");
    if (!reason && cTarget >= 0 && !blank(cTarget) && Number.isNaN((height = value(cTarget)))) reason = plan(cTarget, "the target height");
    if (reason) {
      refused.push({ row: scan.row, reason });
      continue;
    }
    if (count === room) grow();
    row[count] = scan.row;
    number.push(fieldText(cNumber).trim());
    e[count] = east;
    n[count] = north;
    z[count] = level;
    precision[count] = sigma;
    target[count] = height;
    time[count] = cTime >= 0 && !blank(cTime) ? readTime(fieldText(cTime)) : NaN;
    if (cTime >= 0 && !blank(cTime) && Number.isNaN(time[count])) badTimes++;
    description[count] = fieldId(cCode);
    note[count] = fieldId(cNote);
    for (let a = 0; a < attributes.length; a++) values[a]![count] = fieldId(attributes[a]!.column);
    count++;
  }

  const notes: string[] = [];
  if (charset === "latin1" && encoding === undefined) notes.push("The bytes are not UTF-8; they were read as Windows-1252.");
  if (longer) notes.push(`${plural(longer, "row")} ${longer === 1 ? "has" : "have"} more columns than the layout; what stands beyond was not read.`);
  if (badTimes) notes.push(`${plural(badTimes, "time")} could not be read; those rows keep their order in the file.`);
  return {
    count, rows, refused, notes, number, row: row.slice(0, count), e: e.slice(0, count), n: n.slice(0, count), z: z.slice(0, count),
    precision: precision.slice(0, count), targetHeight: target.slice(0, count), time: time.slice(0, count),
    description: description.slice(0, count), note: note.slice(0, count), texts: interner.texts,
    attributes: attributes.map((a, i) => ({ name: a.name, values: values[i]!.slice(0, count) })),
  };

  function grow(): void {
    room *= 2;
    const wider = <T extends Float64Array | Int32Array | Uint32Array>(old: T): T => {
      const made = new (old.constructor as new (length: number) => T)(room);
      made.set(old as never);
      return made;
    };
    [row, description, note] = [wider(row), wider(description), wider(note)];
    [e, n, z] = [wider(e), wider(n), wider(z)];
    [precision, target, time] = [wider(precision), wider(target), wider(time)];
    values.forEach((v, i) => (values[i] = wider(v)));
  }
}

/**
 * Cuts bytes into records and fields. After next(), field k is bytes[starts[k], ends[k]), trimmed of blanks;
 * `quoted[k]` is 1 when it stood in quotes that still have their doubled quotes to undo.
 */
export class RecordScanner {
  readonly starts = new Int32Array(1024);
  readonly ends = new Int32Array(1024);
  readonly quoted = new Uint8Array(1024);
  readonly quoteText: string;
  fields = 0;
  row = 0;
  position: number;
  private line = 1;
  private readonly delimiter: number;
  private readonly quote: number;
  private readonly comment: number[];

  constructor(private readonly file: string, private readonly bytes: Uint8Array, layout: Layout) {
    this.delimiter = (layout.delimiter ?? ",").charCodeAt(0);
    this.quoteText = layout.quote ?? '"';
    this.quote = this.quoteText === "" ? -1 : this.quoteText.charCodeAt(0);
    this.comment = Array.from(layout.comment ?? "#", (c) => c.charCodeAt(0));
    this.position = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf ? 3 : 0;
    for (let i = 0; i < (layout.skipRows ?? 0); i++) this.skipLine();
  }

  /** Goes to the next record that is not blank and no comment; false at the end. */
  next(): boolean {
    const { bytes } = this;
    while (this.position < bytes.length) {
      let i = this.position;
      while (i < bytes.length && isBlank(bytes[i]!)) i++;
      if (i >= bytes.length) return false;
      if (bytes[i] === LF || bytes[i] === CR || this.isComment(i)) {
        this.skipLine();
        continue;
      }
      this.row = this.line;
      this.record();
      return true;
    }
    return false;
  }

  private isComment(i: number): boolean {
    return this.comment.length > 0 && this.comment.every((c, k) => this.bytes[i + k] === c);
  }

  private skipLine(): void {
    const { bytes } = this;
    let i = this.position;
    while (i < bytes.length && bytes[i] !== LF && bytes[i] !== CR) i++;
    this.endLine(i);
  }

  /** Steps over the line end at i, counting a pair as one. */
  private endLine(i: number): void {
    if (this.bytes[i] === CR && this.bytes[i + 1] === LF) i++;
    this.position = i + 1;
    this.line++;
  }

  private record(): void {
    const { bytes, delimiter, quote, starts, ends, quoted } = this;
    const blanks = delimiter === SPACE;
    const begin = this.position;
    let i = begin, k = 0;
    for (;;) {
      while (i < bytes.length && (bytes[i] === SPACE || (bytes[i] === 9 && delimiter !== 9))) i++;
      let start = i, end: number;
      quoted[k] = 0;
      if (bytes[i] === quote) {
        const close = this.closingQuote(i + 1);
        if (close > 0) {
          start = i + 1;
          end = close;
          quoted[k] = 1;
          i = close + 1;
          while (i < bytes.length && bytes[i] !== delimiter && bytes[i] !== LF && bytes[i] !== CR) i++;
        }
      }
      if (quoted[k] === 0) {
        for (let c; i < bytes.length && (c = bytes[i]!) !== delimiter && c !== LF && c !== CR; ) i++;
        end = i;
        while (end > start && isBlank(bytes[end - 1]!)) end--;
      }
      starts[k] = start;
      ends[k] = end!;
      if (k < starts.length - 1) k++;
      if (i - begin > LONGEST_LINE) throw refusal("file-line-too-long", { file: this.file, row: this.row });
      if (i >= bytes.length || bytes[i] !== delimiter) break;
      i++;
      if (blanks) {
        while (i < bytes.length && isBlank(bytes[i]!)) i++;
        if (i >= bytes.length || bytes[i] === LF || bytes[i] === CR) break;
      }
    }
    this.fields = k;
    if (i >= bytes.length) this.position = i;
    else this.endLine(i);
  }

  /** Place of the quote that closes the one before i; −1 when none does within a line's limit, then the quote is a plain character. */
  private closingQuote(i: number): number {
    const { bytes, quote } = this;
    const stop = Math.min(bytes.length, i + LONGEST_LINE);
    let lines = 0;
    for (; i < stop; i++) {
      const c = bytes[i]!;
      if (c === LF || (c === CR && bytes[i + 1] !== LF)) lines++;
      if (c !== quote) continue;
      if (bytes[i + 1] === quote) i++;
      else {
        this.line += lines;
        return i;
      }
    }
    return -1;
  }
}

function unquote(text: string, quote: string): string {
  return text.includes(quote) ? text.replaceAll(quote + quote, quote) : text;
}

/** Decides whether an elevation means "missing": by its text, or by its value when the mark is a number. */
function missingMarks(marks: string[], decimal: string): (level: number, text: () => string) => boolean {
  const values = marks.filter((m) => m.trim() !== "").map((m) => Number(m.replace(decimal, "."))).filter(Number.isFinite);
  const words = marks.filter((m) => m.trim() !== "" && !Number.isFinite(Number(m.replace(decimal, "."))));
  return (level, text) => (Number.isNaN(level) ? words.length > 0 && words.includes(text().trim()) : values.includes(level));
}

/** Milliseconds of `2031-04-17T08:00:05`, the same with a blank, or `08:00:05`; as written, no time zone. NaN otherwise. */
export function readTime(text: string): number {
  const m = /^(?:(\d{4})-(\d\d)-(\d\d)[T ])?(\d\d?):(\d\d)(?::(\d\d(?:\.\d+)?))?Z?$/.exec(text.trim());
  if (!m) return NaN;
  const day = m[1] ? Date.UTC(Number(m[1]), Number(m[2]) - 1, Number(m[3])) : 0;
  return day + ((Number(m[4]) * 60 + Number(m[5])) * 60 + Number(m[6] ?? 0)) * 1000;
}

function short(text: string): string {
  return text.length > 30 ? `${text.slice(0, 29)}…` : text;
}

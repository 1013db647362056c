/** Cutting bytes into records and fields: by delimiters, or by fixed columns. */
import type { FixedColumn, Layout } from "./model";
import { refusal } from "../errors";
import { isBlank, readNumber } from "./bytes";

const LF = 10,
  CR = 13,
  SPACE = 32;
const LONGEST_LINE = 1 << 20;
const MOST_FIELDS = 1024;
/** A field that no record has: always blank, and no number. */
export const ABSENT = MOST_FIELDS;
/** Up to 15 digits are a whole number that a double holds, and their power of ten too: one division is exact to the last bit. */
const EXACT_DIGITS = 15;
const POWERS = Float64Array.from({ length: EXACT_DIGITS + 1 }, (_, i) => 10 ** i);

/** What a reader of records needs of either way of cutting. */
export interface Scanner {
  readonly starts: Int32Array;
  readonly ends: Int32Array;
  readonly quoted: Uint8Array;
  /** The numbers in the fields that were asked for as such; NaN where none is written. */
  readonly values: Float64Array;
  readonly quoteText: string;
  readonly fields: number;
  readonly row: number;
  readonly position: number;
  next(): boolean;
}

/** The way of cutting that a layout asks for. `numeric` says which fields are numbers, read while they are cut. */
export function scannerOf(
  file: string,
  bytes: Uint8Array,
  layout: Layout,
  encoding: "utf-8" | "latin1",
  numeric: readonly boolean[] = [],
): Scanner {
  const fixed = (layout.columns ?? []).filter((c): c is FixedColumn => typeof c === "object");
  return fixed.length
    ? new FixedScanner(file, bytes, layout, fixed, encoding, numeric)
    : new RecordScanner(file, bytes, layout, numeric);
}

/**
 * Cuts bytes into records and fields. After next(), field k is bytes[starts[k], ends[k]), trimmed of blanks
 * (empty when the record has no such field); `quoted[k]` is 1 when it stood in quotes that still have their doubled
 * quotes to undo; `values[k]` is the number in a field that was asked for as one, NaN when none is written there.
 */
export class RecordScanner implements Scanner {
  readonly starts = new Int32Array(MOST_FIELDS + 1);
  readonly ends = new Int32Array(MOST_FIELDS + 1);
  readonly quoted = new Uint8Array(MOST_FIELDS + 1);
  readonly values = new Float64Array(MOST_FIELDS + 1).fill(NaN);
  protected readonly numeric = new Uint8Array(MOST_FIELDS + 1);
  readonly quoteText: string;
  fields = 0;
  row = 0;
  position: number;
  protected line = 1;
  protected readonly decimal: number;
  private readonly delimiter: number;
  private readonly quote: number;
  private readonly comment: number[];
  /** Whether nothing that cuts or quotes can stand in a number. */
  private readonly apart: boolean;
  /** 1 for the bytes that end a field: the delimiter and both line ends. */
  private readonly ending = new Uint8Array(256);

  constructor(
    protected readonly file: string,
    protected readonly bytes: Uint8Array,
    layout: Layout,
    numeric: readonly boolean[] = [],
  ) {
    numeric.forEach((is, k) => (this.numeric[k] = is ? 1 : 0));
    this.decimal = (layout.decimal ?? ".").charCodeAt(0);
    this.delimiter = (layout.delimiter ?? ",").charCodeAt(0);
    for (const byte of [this.delimiter, LF, CR]) this.ending[byte] = 1;
    this.quoteText = layout.quote ?? '"';
    this.quote = this.quoteText === "" ? -1 : this.quoteText.charCodeAt(0);
    this.apart = ![this.delimiter, this.quote].some((c) => c === this.decimal || c === 45 || (c >= 48 && c <= 57));
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
    const { comment, bytes } = this;
    return bytes[i] === comment[0] && comment.every((c, k) => bytes[i + k] === c);
  }

  private skipLine(): void {
    const { bytes } = this;
    let i = this.position;
    while (i < bytes.length && bytes[i] !== LF && bytes[i] !== CR) i++;
    this.endLine(i);
  }

  /** Steps over the line end at i, counting a pair as one. */
  protected endLine(i: number): void {
    if (this.bytes[i] === CR && this.bytes[i + 1] === LF) i++;
    this.position = i + 1;
    this.line++;
  }

  protected record(): void {
    const { bytes, delimiter, quote, starts, ends, quoted, ending, numeric, apart } = this;
    const size = bytes.length;
    const begin = this.position;
    let i = begin,
      k = 0;
    for (;;) {
      quoted[k] = 0;
      const after = numeric[k] === 1 && apart ? this.digits(i, k) : -1;
      if (after >= 0) {
        starts[k] = i;
        ends[k] = i = after;
      } else {
        let c = i < size ? bytes[i]! : LF;
        while (c === SPACE || (c === 9 && delimiter !== 9)) c = ++i < size ? bytes[i]! : LF;
        const start = (starts[k] = i);
        if (c === quote) i = this.quotedField(i, k);
        if (quoted[k] === 0) {
          while (i < size && ending[bytes[i]!] === 0) i++;
          let end = i;
          while (end > start && isBlank(bytes[end - 1]!)) end--;
          ends[k] = end;
        }
        if (numeric[k] === 1) this.values[k] = readNumber(bytes, starts[k]!, ends[k]!, this.decimal);
      }
      if (k < MOST_FIELDS - 1) k++;
      if (i >= size || bytes[i] !== delimiter) break;
      i++;
      if (delimiter === SPACE) {
        while (i < size && isBlank(bytes[i]!)) i++;
        if (i >= size || bytes[i] === LF || bytes[i] === CR) break;
      }
    }
    if (i - begin > LONGEST_LINE) throw refusal("file-line-too-long", { file: this.file, row: this.row });
    this.cutInto(k);
    if (i >= size) this.position = i;
    else this.endLine(i);
  }

  /** The record has these many fields; what a longer one before it left is blank again. */
  private cutInto(fields: number): void {
    for (let k = fields; k < this.fields; k++) {
      this.starts[k] = this.ends[k] = this.quoted[k] = 0;
      this.values[k] = NaN;
    }
    this.fields = fields;
  }

  /**
   * Reads the number of field k from bytes[i] on while its end is looked for, and gives that end; −1 when the field is
   * anything but a sign, up to 15 digits and a decimal sign, right up to its end. Exact as in readNumber.
   */
  private digits(i: number, k: number): number {
    const { bytes, decimal, ending } = this;
    const size = bytes.length;
    const negative = bytes[i] === 45;
    if (negative) i++;
    let from = i,
      whole = 0,
      part = 0,
      decimals = 0;
    for (; i < size; i++) {
      const digit = bytes[i]! - 48;
      if (digit < 0 || digit > 9) break;
      whole = (Math.imul(whole, 10) + digit) | 0;
    }
    const before = i - from;
    if (i < size && bytes[i] === decimal) {
      from = ++i;
      for (; i < size; i++) {
        const digit = bytes[i]! - 48;
        if (digit < 0 || digit > 9) break;
        part = (Math.imul(part, 10) + digit) | 0;
      }
      decimals = i - from;
    }
    if (before > 9 || decimals > 9 || before + decimals === 0 || before + decimals > EXACT_DIGITS) return -1;
    if (i < size && ending[bytes[i]!] === 0) return -1;
    const value = decimals === 0 ? whole : (whole * POWERS[decimals]! + part) / POWERS[decimals]!;
    this.values[k] = negative ? -value : value;
    return i;
  }

  /** Takes the quoted field k whose quote stands at i, and gives its end; i itself when no quote closes it. */
  private quotedField(i: number, k: number): number {
    const { bytes, ending } = this;
    const close = this.closingQuote(i + 1);
    if (close < 0) return i;
    this.starts[k] = i + 1;
    this.ends[k] = close;
    this.quoted[k] = 1;
    for (i = close + 1; i < bytes.length && ending[bytes[i]!] === 0;) i++;
    return i;
  }

  /**
   * Place of the quote that closes the one before i; −1 when none does within a line's limit, then the quote is a plain
   * character.
   */
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

/**
 * Cuts each line at fixed places. Places count characters from 0; an end is not included; a field beyond the line's end
 * is blank.
 */
export class FixedScanner extends RecordScanner {
  constructor(
    file: string,
    bytes: Uint8Array,
    layout: Layout,
    private readonly columns: readonly FixedColumn[],
    private readonly encoding: "utf-8" | "latin1",
    numeric: readonly boolean[] = [],
  ) {
    super(file, bytes, { ...layout, delimiter: "\t", quote: "" }, numeric);
  }

  protected override record(): void {
    const { bytes, columns, starts, ends, quoted, numeric } = this;
    const begin = this.position;
    let end = begin,
      wide = false;
    for (; end < bytes.length && bytes[end] !== LF && bytes[end] !== CR; end++) wide ||= bytes[end]! >= 128;
    if (end - begin > LONGEST_LINE) throw refusal("file-line-too-long", { file: this.file, row: this.row });
    const at = wide && this.encoding === "utf-8" ? characterStarts(bytes, begin, end) : undefined;
    const byteAt = (character: number) => (at ? (at[character] ?? end) : Math.min(begin + character, end));
    columns.forEach((c, k) => {
      let from = byteAt(c.from),
        to = Math.max(from, byteAt(c.to));
      while (from < to && isBlank(bytes[from]!)) from++;
      while (to > from && isBlank(bytes[to - 1]!)) to--;
      starts[k] = from;
      ends[k] = to;
      quoted[k] = 0;
      if (numeric[k]) this.values[k] = readNumber(bytes, from, to, this.decimal);
    });
    this.fields = columns.length;
    if (end >= bytes.length) this.position = end;
    else this.endLine(end);
  }
}

/** Byte place of each character of a UTF-8 line. */
function characterStarts(bytes: Uint8Array, begin: number, end: number): number[] {
  const starts: number[] = [];
  for (let i = begin; i < end; i++) if ((bytes[i]! & 0xc0) !== 0x80) starts.push(i);
  return starts;
}

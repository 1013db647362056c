/** Cutting bytes into records and fields: by delimiters, or by fixed columns. */
import type { FixedColumn, Layout } from "./model";
import { refusal } from "../errors";
import { isBlank } from "./bytes";

const LF = 10,
  CR = 13,
  SPACE = 32;
const LONGEST_LINE = 1 << 20;

/** What a reader of records needs of either way of cutting. */
export interface Scanner {
  readonly starts: Int32Array;
  readonly ends: Int32Array;
  readonly quoted: Uint8Array;
  readonly quoteText: string;
  readonly fields: number;
  readonly row: number;
  readonly position: number;
  next(): boolean;
}

/** The way of cutting that a layout asks for. */
export function scannerOf(file: string, bytes: Uint8Array, layout: Layout, encoding: "utf-8" | "latin1"): Scanner {
  const fixed = (layout.columns ?? []).filter((c): c is FixedColumn => typeof c === "object");
  return fixed.length ? new FixedScanner(file, bytes, layout, fixed, encoding) : new RecordScanner(file, bytes, layout);
}

/**
 * Cuts bytes into records and fields. After next(), field k is bytes[starts[k], ends[k]), trimmed of blanks;
 * `quoted[k]` is 1 when it stood in quotes that still have their doubled quotes to undo.
 */
export class RecordScanner implements Scanner {
  readonly starts = new Int32Array(1024);
  readonly ends = new Int32Array(1024);
  readonly quoted = new Uint8Array(1024);
  readonly quoteText: string;
  fields = 0;
  row = 0;
  position: number;
  protected line = 1;
  private readonly delimiter: number;
  private readonly quote: number;
  private readonly comment: number[];
  /** 1 for the bytes that end a field: the delimiter and both line ends. */
  private readonly ending = new Uint8Array(256);

  constructor(
    protected readonly file: string,
    protected readonly bytes: Uint8Array,
    layout: Layout,
  ) {
    this.delimiter = (layout.delimiter ?? ",").charCodeAt(0);
    for (const byte of [this.delimiter, LF, CR]) this.ending[byte] = 1;
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
  protected endLine(i: number): void {
    if (this.bytes[i] === CR && this.bytes[i + 1] === LF) i++;
    this.position = i + 1;
    this.line++;
  }

  protected record(): void {
    const { bytes, delimiter, quote, starts, ends, quoted, ending } = this;
    const size = bytes.length;
    const blanks = delimiter === SPACE;
    const begin = this.position;
    let i = begin,
      k = 0;
    for (;;) {
      while (i < bytes.length && (bytes[i] === SPACE || (bytes[i] === 9 && delimiter !== 9))) i++;
      let start = i,
        end: number;
      quoted[k] = 0;
      if (bytes[i] === quote) {
        const close = this.closingQuote(i + 1);
        if (close > 0) {
          start = i + 1;
          end = close;
          quoted[k] = 1;
          i = close + 1;
          while (i < size && ending[bytes[i]!] === 0) i++;
        }
      }
      if (quoted[k] === 0) {
        while (i < size && ending[bytes[i]!] === 0) i++;
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
  ) {
    super(file, bytes, { ...layout, delimiter: "\t", quote: "" });
  }

  protected override record(): void {
    const { bytes, columns, starts, ends, quoted } = this;
    const begin = this.position;
    let end = begin,
      wide = false;
    for (; end < bytes.length && bytes[end] !== LF && bytes[end] !== CR; end++) wide ||= bytes[end]! >= 128;
    if (end - begin > LONGEST_LINE) throw refusal("file-line-too-long", { file: this.file, row: this.row });
    const at = wide && this.encoding === "utf-8" ? characterPlaces(bytes, begin, end) : undefined;
    const byteAt = (character: number) => (at ? (at[character] ?? end) : Math.min(begin + character, end));
    columns.forEach((c, k) => {
      let from = byteAt(c.from),
        to = Math.max(from, byteAt(c.to));
      while (from < to && isBlank(bytes[from]!)) from++;
      while (to > from && isBlank(bytes[to - 1]!)) to--;
      starts[k] = from;
      ends[k] = to;
      quoted[k] = 0;
    });
    this.fields = columns.length;
    if (end >= bytes.length) this.position = end;
    else this.endLine(end);
  }
}

/** Byte place of each character of a UTF-8 line. */
function characterPlaces(bytes: Uint8Array, begin: number, end: number): number[] {
  const places: number[] = [];
  for (let i = begin; i < end; i++) if ((bytes[i]! & 0xc0) !== 0x80) places.push(i);
  return places;
}

/** Bytes to texts and numbers, without an object per field. */
import { decodeWestern } from "../math/western";
import type { TextList } from "../records/records";

const SPACE = 32,
  TAB = 9;

/**
 * Which encoding a file is in: UTF-8 when all its bytes are, else Windows-1252.
 * `TextDecoder` is the one thing here that is not ECMAScript; browsers and Node have the same.
 */
export function guessEncoding(bytes: Uint8Array): "utf-8" | "latin1" {
  if (surveyBytes(bytes).ascii) return "utf-8";
  const decoder = new TextDecoder("utf-8", { fatal: true });
  try {
    for (let at = 0; at < bytes.length; at += 1 << 20)
      decoder.decode(bytes.subarray(at, at + (1 << 20)), { stream: true });
    decoder.decode();
    return "utf-8";
  } catch {
    return "latin1";
  }
}

/** Reads texts out of a byte array. A window is decoded once as one byte a character, so that plain fields are slices of it. */
export class ByteText {
  private window = "";
  private from = 0;
  /** One character a byte: of text beyond ASCII in Windows-1252, else whatever is quickest. */
  private readonly wide: (bytes: Uint8Array) => string;
  private readonly utf8 = new TextDecoder("utf-8");
  /** No byte means a different character in UTF-8: every slice is plain. */
  private readonly plain: boolean;

  constructor(
    private readonly bytes: Uint8Array,
    encoding: "utf-8" | "latin1",
    ascii = surveyBytes(bytes).ascii,
  ) {
    this.plain = encoding === "latin1" || ascii;
    const latin = new TextDecoder("windows-1252");
    this.wide = encoding === "latin1" && !ascii ? decodeWestern : (part) => latin.decode(part);
  }

  /** The text of bytes[start, end). */
  slice(start: number, end: number): string {
    if (!this.plain) {
      for (let i = start; i < end; i++) {
        if (this.bytes[i]! >= 128) return this.utf8.decode(this.bytes.subarray(start, end));
      }
    }
    if (start < this.from || end > this.from + this.window.length) {
      this.from = start;
      this.window = this.wide(
        this.bytes.subarray(start, Math.max(end, Math.min(this.bytes.length, start + (1 << 20)))),
      );
    }
    return this.window.slice(start - this.from, end - this.from);
  }
}

/** Whether every byte is below 128, and whether one is zero: one pass, four bytes at a time where they stand aligned. */
export function surveyBytes(bytes: Uint8Array): { ascii: boolean; zero: boolean } {
  const head = Math.min(bytes.length, (4 - (bytes.byteOffset & 3)) & 3),
    words = (bytes.length - head) >> 2;
  const four = new Int32Array(bytes.buffer, bytes.byteOffset + head, words);
  let high = 0,
    zero = 0;
  for (let i = 0; i < four.length; i++) {
    const word = four[i]!;
    high |= word;
    // Borrowing from a byte that was 0 sets its topmost bit, which it did not have (Mycroft 1987).
    zero |= ((word - 0x01010101) | 0) & ~word;
  }
  for (const ends of [bytes.subarray(0, head), bytes.subarray(head + 4 * words)]) {
    for (const byte of ends) {
      high |= byte;
      if (byte === 0) zero = -1;
    }
  }
  return { ascii: (high & 0x80808080) === 0, zero: (zero & 0x80808080) !== 0 };
}

/** Texts that are spans of a file's bytes, each made only when it is asked for; some stand apart as texts. */
export class SpanTexts implements TextList {
  constructor(
    private readonly text: ByteText,
    private readonly starts: Int32Array,
    private readonly ends: Int32Array,
    private readonly apart: ReadonlyMap<number, string>,
  ) {}

  get length(): number {
    return this.starts.length;
  }

  at(i: number): string {
    return this.apart.get(i) ?? this.text.slice(this.starts[i]!, this.ends[i]!);
  }

  roomOf(i: number): number {
    return this.apart.get(i)?.length ?? this.ends[i]! - this.starts[i]!;
  }

  all(): string[] {
    const texts: string[] = [];
    for (let i = 0; i < this.length; i++) texts.push(this.at(i));
    return texts;
  }
}

/** Gives each distinct run of bytes one index, so that a text repeated a million times is decoded once. */
export class TextInterner {
  readonly texts: string[] = [""];
  private readonly extra = new Map<string, number>([["", 0]]);
  private slots = new Int32Array(1024);
  private starts: number[] = [0];
  private lengths: number[] = [0];

  constructor(
    private readonly bytes: Uint8Array,
    private readonly text: ByteText,
  ) {}

  /** Index of the text of bytes[start, end). */
  ofBytes(start: number, end: number): number {
    if (start === end) return 0;
    const { bytes } = this;
    let hash = 2166136261;
    for (let i = start; i < end; i++) hash = Math.imul(hash ^ bytes[i]!, 16777619);
    const mask = this.slots.length - 1;
    for (let slot = (hash ^ (hash >>> 15)) & mask; ; slot = (slot + 1) & mask) {
      const id = this.slots[slot]!;
      if (id === 0) {
        const made = this.ofText(this.text.slice(start, end));
        if (this.lengths[made] === undefined) {
          this.starts[made] = start;
          this.lengths[made] = end - start;
        }
        // A text first met in its quoted form has no bytes of its own; it is found by its text each time.
        if (this.starts[made] === start) {
          this.slots[slot] = made;
          if (this.texts.length * 2 > this.slots.length) this.grow();
        }
        return made;
      }
      if (this.lengths[id] === end - start && same(bytes, this.starts[id]!, start, end - start)) return id;
    }
  }

  ofText(text: string): number {
    let id = this.extra.get(text);
    if (id === undefined) {
      id = this.texts.length;
      this.texts.push(text);
      this.extra.set(text, id);
    }
    return id;
  }

  private grow(): void {
    const old = this.slots;
    this.slots = new Int32Array(old.length * 4);
    const mask = this.slots.length - 1;
    for (const id of old) {
      if (id === 0) continue;
      let hash = 2166136261;
      for (let i = this.starts[id]!, end = i + this.lengths[id]!; i < end; i++)
        hash = Math.imul(hash ^ this.bytes[i]!, 16777619);
      let slot = (hash ^ (hash >>> 15)) & mask;
      while (this.slots[slot] !== 0) slot = (slot + 1) & mask;
      this.slots[slot] = id;
    }
  }
}

function same(bytes: Uint8Array, a: number, b: number, length: number): boolean {
  for (let i = 0; i < length; i++) if (bytes[a + i] !== bytes[b + i]) return false;
  return true;
}

const POWERS = Array.from({ length: 23 }, (_, i) => 10 ** i);

/**
 * The number written in bytes[start, end), already trimmed; NaN when it is not a finite decimal number.
 * Up to 15 digits and |exponent| ≤ 22 one exact operation gives the nearest double (Clinger 1990); else the engine reads it.
 */
export function readNumber(bytes: Uint8Array, start: number, end: number, decimal: number): number {
  let i = start;
  const negative = bytes[i] === 45;
  if (negative || bytes[i] === 43) i++;
  let mantissa = 0,
    digits = 0,
    significant = 0,
    exponent = 0,
    seenPoint = false;
  for (; i < end; i++) {
    const c = bytes[i]!;
    if (c >= 48 && c <= 57) {
      if (significant > 0 || c !== 48) significant++;
      mantissa = mantissa * 10 + (c - 48);
      digits++;
      if (seenPoint) exponent--;
    } else if (c === decimal && !seenPoint) seenPoint = true;
    else break;
  }
  if (digits === 0) return NaN;
  if (i < end) {
    if (bytes[i] !== 69 && bytes[i] !== 101) return NaN;
    i++;
    const minus = bytes[i] === 45;
    if (minus || bytes[i] === 43) i++;
    if (i >= end) return NaN;
    let power = 0;
    for (; i < end; i++) {
      const c = bytes[i]!;
      if (c < 48 || c > 57) return NaN;
      power = Math.min(power * 10 + (c - 48), 100000);
    }
    exponent += minus ? -power : power;
  }
  if (significant <= 15 && exponent >= -22 && exponent <= 22) {
    const value = exponent < 0 ? mantissa / POWERS[-exponent]! : mantissa * POWERS[exponent]!;
    return negative ? -value : value;
  }
  let text = "";
  for (let k = start; k < end; k++) text += bytes[k] === decimal ? "." : String.fromCharCode(bytes[k]!);
  const value = Number(text);
  return Number.isFinite(value) ? value : NaN;
}

export function isBlank(byte: number): boolean {
  return byte === SPACE || byte === TAB;
}

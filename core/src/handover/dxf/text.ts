/** The text of a DXF file: pairs of group codes and values, entities with handles, layers. */
import { ByteText } from "../../math/byte-text";

export interface Layer {
  name: string;
  color: string;
  off?: boolean;
  /** Of its lines, in mm. */
  weight?: number;
}

/** Styles of texts: whoever opens the file sets the font of all labels, notes or levels at once. */
export const TEXT_STYLES = ["STANDARD", "POINT-LABELS", "NOTES", "CONTOUR-LABELS"] as const;
export type TextStyleName = (typeof TEXT_STYLES)[number];

export const MODEL_SPACE = "1F",
  PAPER_SPACE = "1B";

/** Numbers that entities are known by, each given once in a file. */
export class Handles {
  private next = 0x100;

  take(): string {
    return (this.next++).toString(16).toUpperCase();
  }

  /** The first that is free still. */
  get free(): string {
    return this.next.toString(16).toUpperCase();
  }
}

/** Group codes and values, line by line, with handles counted up. */
export class DxfText {
  private readonly written = new ByteText();
  /** Of the entities that are written next; undefined: that of their layer. */
  color: string | undefined;

  /** Handles are counted up by all parts of a file together; entities belong to the block record `owner`. */
  constructor(
    private readonly handles: Handles,
    private readonly owner = MODEL_SPACE,
  ) {}

  pair(code: number, value: string | number): void {
    this.written.add(`${code}\r\n${typeof value === "number" ? number(value) : value}\r\n`);
  }

  position(code: number, e: number, n: number, z: number): void {
    this.pair(code, e);
    this.pair(code + 10, n);
    this.pair(code + 20, z);
  }

  take(): string {
    return this.handles.take();
  }

  entity(type: string, layer: string, subclass?: string): void {
    this.pair(0, type);
    this.pair(5, this.take());
    this.pair(330, this.owner);
    this.pair(100, "AcDbEntity");
    this.pair(8, layer);
    if (this.color) this.pair(420, Number.parseInt(this.color.slice(1), 16));
    if (subclass) this.pair(100, subclass);
  }

  /** A text on its baseline, which begins, is centred or ends at the position. */
  text(
    layer: string,
    e: number,
    n: number,
    z: number,
    height: number,
    degrees: number,
    text: string,
    align: "start" | "middle" | "end" = "start",
    style: TextStyleName = "STANDARD",
  ): void {
    this.entity("TEXT", layer, "AcDbText");
    this.position(10, e, n, z);
    this.pair(40, height);
    this.pair(1, plainText(text));
    if (degrees !== 0) this.pair(50, degrees);
    if (style !== "STANDARD") this.pair(7, style);
    if (align !== "start") {
      this.pair(72, align === "middle" ? 1 : 2);
      this.position(11, e, n, z);
    }
    this.pair(100, "AcDbText");
  }

  section(name: string, write: () => void): void {
    this.pair(0, "SECTION");
    this.pair(2, name);
    write();
    this.pair(0, "ENDSEC");
  }

  raw(other: DxfText): void {
    this.written.append(other.written);
  }

  bytes(): Uint8Array {
    return this.written.bytes();
  }
}

/** Layers by name; a name that the format does not allow is made one that it does. */
export class LayerTable {
  readonly all: Layer[] = [];
  private readonly names = new Map<string, string>();

  of(wanted: string, color: string, off = false, weight?: number): string {
    let name = this.names.get(wanted);
    if (name === undefined) {
      name = plainText(wanted.replace(/[<>/\\":;?*|=,`\s]+/g, "-")).slice(0, 200) || "0";
      this.names.set(wanted, name);
      if (name !== "0" && !this.all.some((l) => l.name.toUpperCase() === name!.toUpperCase()))
        this.all.push({ name, color, ...(off ? { off } : {}), ...(weight ? { weight } : {}) });
    }
    return name;
  }
}

/** The shortest decimal that reads back as the same number, without an exponent: readers may not take one. */
export function number(x: number): string {
  if (x === 0) return "0";
  const s = String(x),
    parts = /^(-?)(\d)(?:\.(\d+))?e([+-]\d+)$/.exec(s);
  if (!parts) return s;
  const [, sign, first, more = "", power] = parts,
    digits = first! + more,
    zeros = Number(power);
  return zeros < 0 ? `${sign}0.${"0".repeat(-zeros - 1)}${digits}` : `${sign}${digits.padEnd(zeros + 1, "0")}`;
}

/** A text on one line; control characters become blanks. */
export function plainText(text: string): string {
  return text.replace(/[\p{Cc}\u2028\u2029]+/gu, " ");
}

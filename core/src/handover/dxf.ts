/**
 * DXF of release 2007 (AC1021, UTF-8), the open ASCII form: layers in true colour, POINT, lines as 3D POLYLINE
 * with arcs as chords (the entity knows no arcs), contours as LWPOLYLINE with their elevation, TEXT.
 * Written by hand, so that the output is a pure function of the job with handles of our own; no published writer was tried.
 */
import type { CodedPoints } from "../codes/read";
import { codeOf } from "../codes/read";
import type { CodeBook } from "../job/model";
import type { Chains } from "../lines/flatten";
import type { Line } from "../lines/model";
import type { Unit } from "../math/units";
import { descriptionOf, extentOf, type PointTable } from "../points/table";
import type { ContourLabel, Contours } from "../surface/contour";

export interface DxfSource {
  unit: Unit;
  book: CodeBook;
  table: PointTable;
  coded: CodedPoints;
  /** Table places of the points written. */
  places: Int32Array;
  lines: readonly Line[];
  chains: Chains;
  contours: { contours: Contours; labels: ContourLabel[] }[];
  /** Height of texts in the job's unit. */
  textHeight: number;
}

interface Layer { name: string; color: string }

const PAPER = "#3a3a3a";

export function writeDxf(source: DxfSource): string {
  const out = new DxfText();
  const layers = new LayerTable();
  const body = new DxfText(0x1000);
  const byCode = new Map((source.book.codes ?? []).map((c) => [c.code.toUpperCase(), c]));
  const layerOf = (code: string) => {
    const entry = byCode.get(code);
    return layers.of(entry?.layer ?? (code || "POINTS"), entry?.color ?? PAPER);
  };
  writePoints(body, source, layerOf, layers);
  writeLines(body, source, (line) => layers.of(line.entry.layer ?? line.code, line.entry.color ?? PAPER));
  for (const c of source.contours) writeContours(body, c.contours, c.labels, layers, source.textHeight);

  header(out, source, body.nextHandle);
  tables(out, layers.all);
  blocks(out);
  out.section("ENTITIES", () => out.raw(body));
  objects(out);
  out.pair(0, "EOF");
  return out.toString();
}

function writePoints(body: DxfText, s: DxfSource, layerOf: (code: string) => string, layers: LayerTable): void {
  const { table: t } = s;
  const numbers = layers.of("POINT-NUMBERS", PAPER);
  for (const i of s.places) {
    const e = t.e[i]!, n = t.n[i]!, z = Number.isNaN(t.z[i]!) ? 0 : t.z[i]!;
    // The format has no point without a level: those that have none are set apart, so that 0 is not taken for one.
    body.entity("POINT", Number.isNaN(t.z[i]!) ? layers.of("POINTS-WITHOUT-ELEVATION", PAPER) : layerOf(codeOf(s.coded, i)), "AcDbPoint");
    body.place(10, e, n, z);
    body.text(numbers, e + s.textHeight * 0.6, n + s.textHeight * 0.4, z, s.textHeight, 0, t.number[i]!);
    const description = descriptionOf(t, i);
    if (description) body.text(layers.of("POINT-DESCRIPTIONS", PAPER), e + s.textHeight * 0.6, n - s.textHeight * 1.2, z, s.textHeight, 0, description);
  }
}

function writeLines(body: DxfText, s: DxfSource, layerOf: (line: Line) => string): void {
  const { xyz, starts } = s.chains;
  s.lines.forEach((line, k) => {
    const from = starts[k]!, to = line.closed ? starts[k + 1]! - 1 : starts[k + 1]!;
    if (to - from < 2) return;
    const layer = layerOf(line);
    body.entity("POLYLINE", layer, "AcDb3dPolyline");
    body.pair(66, 1);
    body.place(10, 0, 0, 0);
    body.pair(70, line.closed ? 9 : 8);
    const levels = filledLevels(xyz, from, to);
    for (let i = from; i < to; i++) {
      body.entity("VERTEX", layer, "AcDbVertex");
      body.pair(100, "AcDb3dPolylineVertex");
      body.place(10, xyz[3 * i]!, xyz[3 * i + 1]!, levels[i - from]!);
      body.pair(70, 32);
    }
    body.entity("SEQEND", layer);
  });
}

/** Levels of a line's vertices; one not known is taken linearly by plan length from its neighbours, at an end from the nearest. 0 when none is known. */
function filledLevels(xyz: Float64Array, from: number, to: number): number[] {
  const levels = Array.from({ length: to - from }, (_, k) => xyz[3 * (from + k) + 2]!);
  const along = [0];
  for (let i = from + 1; i < to; i++) along.push(along.at(-1)! + Math.hypot(xyz[3 * i]! - xyz[3 * i - 3]!, xyz[3 * i + 1]! - xyz[3 * i - 2]!));
  const known = levels.flatMap((z, k) => (Number.isNaN(z) ? [] : [k]));
  return levels.map((z, k) => {
    if (!Number.isNaN(z)) return z;
    const after = known.find((j) => j > k), before = known.findLast((j) => j < k);
    if (before === undefined || after === undefined) return levels[before ?? after ?? -1] ?? 0;
    return levels[before]! + ((levels[after]! - levels[before]!) * (along[k]! - along[before]!)) / (along[after]! - along[before]! || 1);
  });
}

function writeContours(body: DxfText, c: Contours, labels: ContourLabel[], layers: LayerTable, height: number): void {
  const [oe, on] = c.origin;
  const plain = layers.of(`CONTOURS-${c.surface}`, "#9b7b4f"), main = layers.of(`CONTOURS-INDEX-${c.surface}`, "#7a5a2e");
  for (let k = 0; k < c.level.length; k++) {
    const from = c.starts[k]!, to = c.starts[k + 1]! - (c.closed[k] ? 1 : 0);
    body.entity("LWPOLYLINE", c.index[k] ? main : plain, "AcDbPolyline");
    body.pair(90, to - from);
    body.pair(70, c.closed[k]!);
    body.pair(38, number(c.level[k]!));
    for (let i = from; i < to; i++) {
      body.pair(10, number(oe + c.xy[2 * i]!));
      body.pair(20, number(on + c.xy[2 * i + 1]!));
    }
  }
  const layer = layers.of(`CONTOUR-LABELS-${c.surface}`, "#7a5a2e");
  for (const l of labels) body.text(layer, oe + l.x, on + l.y, 0, height, (l.angle * 180) / Math.PI, l.text, true);
}

/** Group codes and values, line by line, with handles counted up. */
class DxfText {
  private readonly parts: string[] = [];

  constructor(private handle = 0x100) {}

  get nextHandle(): string {
    return this.handle.toString(16).toUpperCase();
  }

  pair(code: number, value: string | number): void {
    this.parts.push(String(code), typeof value === "number" ? number(value) : value);
  }

  place(code: number, e: number, n: number, z: number): void {
    this.pair(code, e);
    this.pair(code + 10, n);
    this.pair(code + 20, z);
  }

  take(): string {
    return (this.handle++).toString(16).toUpperCase();
  }

  entity(type: string, layer: string, subclass?: string): void {
    this.pair(0, type);
    this.pair(5, this.take());
    this.pair(330, "1F");
    this.pair(100, "AcDbEntity");
    this.pair(8, layer);
    if (subclass) this.pair(100, subclass);
  }

  text(layer: string, e: number, n: number, z: number, height: number, degrees: number, text: string, centred = false): void {
    this.entity("TEXT", layer, "AcDbText");
    this.place(10, e, n, z);
    this.pair(40, height);
    this.pair(1, plainText(text));
    if (degrees !== 0) this.pair(50, degrees);
    if (centred) {
      this.pair(72, 1);
      this.place(11, e, n, z);
    }
    this.pair(100, "AcDbText");
    if (centred) this.pair(73, 2);
  }

  section(name: string, write: () => void): void {
    this.pair(0, "SECTION");
    this.pair(2, name);
    write();
    this.pair(0, "ENDSEC");
  }

  raw(other: DxfText): void {
    for (const p of other.parts) this.parts.push(p);
  }

  toString(): string {
    return `${this.parts.join("\r\n")}\r\n`;
  }
}

/** Layers by name; a name that the format does not allow is made one that it does. */
class LayerTable {
  readonly all: Layer[] = [];
  private readonly names = new Map<string, string>();

  of(wanted: string, color: string): string {
    let name = this.names.get(wanted);
    if (name === undefined) {
      name = plainText(wanted.replace(/[<>/\\":;?*|=,`\s]+/g, "-")).slice(0, 200) || "0";
      this.names.set(wanted, name);
      if (name !== "0" && !this.all.some((l) => l.name.toUpperCase() === name!.toUpperCase())) this.all.push({ name, color });
    }
    return name;
  }
}

function header(out: DxfText, s: DxfSource, seed: string): void {
  const x = extentOf(s.table) ?? { minE: 0, minN: 0, maxE: 1, maxN: 1, minZ: 0, maxZ: 0 };
  out.section("HEADER", () => {
    const set = (name: string, ...pairs: [number, string | number][]) => {
      out.pair(9, name);
      for (const [code, value] of pairs) out.pair(code, value);
    };
    set("$ACADVER", [1, "AC1021"]);
    set("$HANDSEED", [5, seed]);
    set("$INSUNITS", [70, s.unit === "m" ? 6 : s.unit === "ft" ? 2 : 21]);
    set("$MEASUREMENT", [70, s.unit === "m" ? 1 : 0]);
    set("$EXTMIN", [10, x.minE], [20, x.minN], [30, Number.isNaN(x.minZ) ? 0 : x.minZ]);
    set("$EXTMAX", [10, x.maxE], [20, x.maxN], [30, Number.isNaN(x.maxZ) ? 0 : x.maxZ]);
    set("$PDMODE", [70, 2]);
    set("$PDSIZE", [40, s.textHeight / 2]);
  });
}

function tables(out: DxfText, layers: Layer[]): void {
  const table = (name: string, handle: string, records: (() => void)[]) => {
    out.pair(0, "TABLE");
    out.pair(2, name);
    out.pair(5, handle);
    out.pair(330, "0");
    out.pair(100, "AcDbSymbolTable");
    out.pair(70, records.length);
    if (name === "DIMSTYLE") out.pair(100, "AcDbDimStyleTable");
    for (const write of records) write();
    out.pair(0, "ENDTAB");
  };
  const record = (type: string, owner: string, subclass: string, name: string, handle = out.take()) => {
    out.pair(0, type);
    out.pair(5, handle);
    out.pair(330, owner);
    out.pair(100, "AcDbSymbolTableRecord");
    out.pair(100, subclass);
    out.pair(2, name);
  };
  const layer = (name: string, color: string) => () => {
    record("LAYER", "2", "AcDbLayerTableRecord", name);
    out.pair(70, 0);
    out.pair(62, 7);
    if (name !== "0") out.pair(420, Number.parseInt(color.slice(1), 16));
    out.pair(6, "CONTINUOUS");
  };
  const lineType = (name: string) => () => {
    record("LTYPE", "5", "AcDbLinetypeTableRecord", name);
    out.pair(70, 0);
    out.pair(3, "");
    out.pair(72, 65);
    out.pair(73, 0);
    out.pair(40, 0);
  };
  out.section("TABLES", () => {
    table("VPORT", "8", []);
    table("LTYPE", "5", ["BYBLOCK", "BYLAYER", "CONTINUOUS"].map(lineType));
    table("LAYER", "2", [layer("0", PAPER), ...layers.map((l) => layer(l.name, l.color))]);
    table("STYLE", "3", [() => {
      record("STYLE", "3", "AcDbTextStyleTableRecord", "STANDARD");
      for (const [code, value] of [[70, 0], [40, 0], [41, 1], [50, 0], [71, 0], [42, 2.5], [3, "txt"], [4, ""]] as const) out.pair(code, value);
    }]);
    table("VIEW", "6", []);
    table("UCS", "7", []);
    table("APPID", "9", [() => {
      record("APPID", "9", "AcDbRegAppTableRecord", "ACAD");
      out.pair(70, 0);
    }]);
    table("DIMSTYLE", "A", []);
    table("BLOCK_RECORD", "1", [["*MODEL_SPACE", "1F"], ["*PAPER_SPACE", "1B"]].map(([name, handle]) => () =>
      record("BLOCK_RECORD", "1", "AcDbBlockTableRecord", name!, handle)));
  });
}

function blocks(out: DxfText): void {
  out.section("BLOCKS", () => {
    for (const [name, owner] of [["*MODEL_SPACE", "1F"], ["*PAPER_SPACE", "1B"]] as const) {
      const begin = (type: string, subclass: string) => {
        out.pair(0, type);
        out.pair(5, out.take());
        out.pair(330, owner);
        out.pair(100, "AcDbEntity");
        out.pair(8, "0");
        out.pair(100, subclass);
      };
      begin("BLOCK", "AcDbBlockBegin");
      out.pair(2, name);
      out.pair(70, 0);
      out.place(10, 0, 0, 0);
      out.pair(3, name);
      out.pair(1, "");
      begin("ENDBLK", "AcDbBlockEnd");
    }
  });
}

function objects(out: DxfText): void {
  const dictionary = (handle: string, owner: string, entries: [string, string][]) => {
    out.pair(0, "DICTIONARY");
    out.pair(5, handle);
    out.pair(330, owner);
    out.pair(100, "AcDbDictionary");
    out.pair(281, 1);
    for (const [name, target] of entries) {
      out.pair(3, name);
      out.pair(350, target);
    }
  };
  out.section("OBJECTS", () => {
    dictionary("C", "0", [["ACAD_GROUP", "D"]]);
    dictionary("D", "C", []);
  });
}

/** The shortest decimal that reads back as the same number, without an exponent where readers may not take one. */
function number(x: number): string {
  if (Number.isInteger(x)) return Object.is(x, -0) ? "0" : String(x);
  const s = String(x);
  return s.includes("e") ? x.toFixed(20).replace(/0+$/, "") : s;
}

/** A text on one line; control characters become blanks. */
function plainText(text: string): string {
  return text.replace(/[\p{Cc}\u2028\u2029]+/gu, " ");
}

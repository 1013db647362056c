/**
 * The drawn plan in a DXF file: lines in their styles with arcs as arcs, marks and symbols as blocks, notes where they
 * stand on the sheet.
 */
import { marksAlong, railOf } from "../../drawing/along";
import { displayList, type LinePrimitive, type SymbolPrimitive } from "../../drawing/display";
import type { Layout } from "../../drawing/layout";
import type { LineStyle } from "../../drawing/line-styles";
import type { DrawingSettings } from "../../drawing/model";
import { baselines } from "../../drawing/stand";
import { isPath, type Stroke } from "../../drawing/strokes";
import { lookOfSurface } from "../../drawing/surface-look";
import type { Chains } from "../../lines/flatten";
import type { Line } from "../../lines/model";
import { type Block, type Dashed, PAPER } from "./tables";
import { plainText, type DxfText, type Handles, type LayerTable } from "./text";
import type { DxfSource } from "./source";

/** Line types and blocks that the drawing came to use. */
export class Used {
  readonly styles = new Map<string, Dashed>();
  readonly blocks = new Map<string, Block>();

  constructor(
    private readonly handles: Handles,
    private readonly unitsPerMm: number,
  ) {}

  lineType(style: LineStyle): string {
    if (!style.dash) return "CONTINUOUS";
    const name = style.name.toUpperCase();
    if (!this.styles.has(name)) {
      // The shortest strokes are dots of the line's own weight.
      this.styles.set(name, {
        name,
        lengths: style.dash.map((x, k) => (k % 2 ? -x : x < 0.45 ? 0 : x) * this.unitsPerMm),
      });
    }
    return name;
  }

  /** A block of strokes, in mm or in parts of a symbol's size. */
  block(name: string, strokes: readonly Stroke[], attributes: readonly string[] = []): string {
    if (!this.blocks.has(name)) {
      this.blocks.set(name, {
        name,
        record: this.handles.take(),
        hasAttributes: attributes.length > 0,
        content: (inside) => {
          for (const s of strokes) writeStroke(inside, s);
          for (const tag of attributes) {
            inside.entity("ATTDEF", "0", "AcDbText");
            inside.position(10, 0, 0, 0);
            inside.pair(40, 0.2);
            inside.pair(1, "");
            inside.pair(100, "AcDbAttributeDefinition");
            inside.pair(3, tag);
            inside.pair(2, tag);
            inside.pair(70, 1);
          }
        },
      });
    }
    return name;
  }
}

function writeStroke(d: DxfText, s: Stroke): void {
  if (!isPath(s)) {
    if (s.filled) return donut(d, s.at, s.radius);
    d.entity(s.from === undefined ? "CIRCLE" : "ARC", "0", "AcDbCircle");
    d.position(10, s.at[0], s.at[1], 0);
    d.pair(40, s.radius);
    if (s.from === undefined) return;
    d.pair(100, "AcDbArc");
    d.pair(50, s.from);
    d.pair(51, s.to!);
    return;
  }
  const at = (k: number): [number, number] => [s.path[2 * k]!, s.path[2 * k + 1]!],
    count = s.path.length / 2;
  if (s.filled) {
    // A fan of triangles.
    for (let k = 1; k + 1 < count; k++) {
      d.entity("SOLID", "0", "AcDbTrace");
      [at(0), at(k), at(k + 1), at(k + 1)].forEach(([x, y], i) => d.position(10 + i, x, y, 0));
    }
    return;
  }
  polyline(
    d,
    "0",
    Array.from({ length: count }, (_, k) => ({ at: at(k), bulge: 0 })),
    s.closed ?? false,
  );
}

/** A filled disc: a ring as broad as its radius. */
function donut(d: DxfText, [x, y]: readonly [number, number], radius: number): void {
  polyline(
    d,
    "0",
    [
      { at: [x - radius / 2, y], bulge: 1 },
      { at: [x + radius / 2, y], bulge: 1 },
    ],
    true,
    { width: radius },
  );
}

interface Corner {
  at: readonly [number, number];
  /** Tangent of a quarter of the angle that the piece from here turns, + to the left. */ bulge: number;
}

function polyline(
  d: DxfText,
  layer: string,
  corners: readonly Corner[],
  closed: boolean,
  more: { width?: number; lineType?: string; weight?: number } = {},
): void {
  d.entity("LWPOLYLINE", layer);
  if (more.lineType && more.lineType !== "CONTINUOUS") d.pair(6, more.lineType);
  if (more.weight) d.pair(370, more.weight);
  d.pair(100, "AcDbPolyline");
  d.pair(90, corners.length);
  // Line types run on over the corners.
  d.pair(70, (closed ? 1 : 0) + (more.lineType && more.lineType !== "CONTINUOUS" ? 128 : 0));
  if (more.width !== undefined) d.pair(43, more.width);
  for (const { at, bulge } of corners) {
    d.pair(10, at[0]);
    d.pair(20, at[1]);
    if (bulge !== 0) d.pair(42, bulge);
  }
}

/** Line weights that the format knows, hundredths of a mm. */
const WEIGHTS = [5, 9, 13, 15, 18, 20, 25, 30, 35, 40, 50, 53, 60, 70, 80, 90, 100];

/** The plan of a line: arcs as arcs, curves as chords; rails of its style beside it, marks as blocks. */
function writeLine(
  d: DxfText,
  { lines, chains, unitsPerMm, file }: DxfSource,
  { line: k, style }: LinePrimitive,
  layer: string,
  used: Used,
): void {
  const line = lines[k]!,
    lineType = used.lineType(style);
  const weight = WEIGHTS.reduce((a, b) => (Math.abs(b - 100 * style.width) < Math.abs(a - 100 * style.width) ? b : a));
  const from = chains.starts[k]!,
    to = chains.starts[k + 1]!;
  const [oe, on] = line.pieces[0]!.from,
    way: number[] = [];
  for (let v = from; v < to; v++)
    way.push((chains.xyz[3 * v]! - oe) / unitsPerMm, (chains.xyz[3 * v + 1]! - on) / unitsPerMm);
  const back = (x: number, y: number): [number, number] => [oe + x * unitsPerMm, on + y * unitsPerMm];
  for (const left of style.rails ?? [0]) {
    if (left === 0) {
      const corners = file.arcs === "chords" ? chordsOf(chains, k, line.closed) : cornersOf(line, chains, k);
      polyline(d, layer, corners, line.closed, { lineType, weight });
      continue;
    }
    const rail = railOf(way, left, line.closed),
      count = rail.length / 2 - (line.closed ? 1 : 0);
    polyline(
      d,
      layer,
      Array.from({ length: count }, (_, v) => ({ at: back(rail[2 * v]!, rail[2 * v + 1]!), bulge: 0 })),
      line.closed,
      { lineType, weight },
    );
  }
  marksAlong(way, style, ({ x, y, angle }, second) => {
    const other = second && style.marks!.second !== undefined;
    const name = used.block(
      `MARK-${style.name.toUpperCase()}${other ? "-2" : ""}`,
      other ? style.marks!.second! : style.marks!.strokes,
    );
    insert(d, layer, name, back(x, y), unitsPerMm, (angle * 180) / Math.PI);
  });
}

/** The chords of a line as they are; a closed one does not repeat its first. */
function chordsOf({ xyz, starts }: Chains, k: number, closed: boolean): Corner[] {
  const from = starts[k]!,
    count = starts[k + 1]! - from - (closed ? 1 : 0);
  return Array.from({ length: count }, (_, v) => ({ at: [xyz[3 * (from + v)]!, xyz[3 * (from + v) + 1]!], bulge: 0 }));
}

/** Corners with their bulges; an arc of more than half a turn in parts. */
function cornersOf(line: Line, chains: Chains, k: number): Corner[] {
  const out: Corner[] = [];
  let v = chains.starts[k]!;
  const skipTo = (e: number, n: number) => {
    while (v < chains.starts[k + 1]! - 1 && !(chains.xyz[3 * v] === e && chains.xyz[3 * v + 1] === n)) v++;
  };
  for (const p of line.pieces) {
    if (p.type === "straight") out.push({ at: [p.from[0], p.from[1]], bulge: 0 });
    else if (p.type === "arc") {
      const parts = Math.ceil(Math.abs(p.sweep) / Math.PI - 1e-9) || 1,
        start = Math.atan2(p.from[1] - p.center[1], p.from[0] - p.center[0]);
      for (let j = 0; j < parts; j++) {
        const a = start - (p.sweep * j) / parts;
        out.push({
          at:
            j === 0
              ? [p.from[0], p.from[1]]
              : [p.center[0] + p.radius * Math.cos(a), p.center[1] + p.radius * Math.sin(a)],
          bulge: -Math.tan(p.sweep / parts / 4),
        });
      }
    } else {
      skipTo(p.from[0], p.from[1]);
      for (
        let first = true;
        first || !(chains.xyz[3 * v] === p.to[0] && chains.xyz[3 * v + 1] === p.to[1]);
        v++, first = false
      ) {
        out.push({ at: [chains.xyz[3 * v]!, chains.xyz[3 * v + 1]!], bulge: 0 });
        if (v >= chains.starts[k + 1]! - 2) break;
      }
    }
  }
  const last = line.pieces.at(-1)!;
  if (!line.closed) out.push({ at: [last.to[0], last.to[1]], bulge: 0 });
  return out;
}

function insert(
  d: DxfText,
  layer: string,
  block: string,
  [e, n]: readonly [number, number],
  scale: number,
  degrees: number,
  aspect = 1,
  attributes: readonly [string, string][] = [],
  z = 0,
): void {
  d.entity("INSERT", layer, "AcDbBlockReference");
  if (attributes.length) d.pair(66, 1);
  d.pair(2, block);
  d.position(10, e, n, z);
  d.pair(41, scale * aspect);
  for (const code of [42, 43]) d.pair(code, scale);
  if (degrees !== 0) d.pair(50, degrees);
  if (attributes.length === 0) return;
  for (const [tag, value] of attributes) {
    d.entity("ATTRIB", layer, "AcDbText");
    d.position(10, e, n, z);
    d.pair(40, 0.2 * scale);
    d.pair(1, plainText(value));
    d.pair(100, "AcDbAttribute");
    d.pair(2, tag);
    d.pair(70, 1);
  }
  d.entity("SEQEND", layer);
}

const TAGS = ["NUMBER", "CODE", "ELEVATION", "DESCRIPTION"];

export function writePlan(d: DxfText, s: DxfSource, layers: LayerTable, used: Used): void {
  const wanted = new Uint8Array(s.table.count);
  for (const i of s.rows) wanted[i] = 1;
  const lines = s.lines.map(({ code, entry }) => ({
    kind: entry.kind,
    group: entry.group ?? "",
    layer: entry.layer ?? code,
    style: entry.style,
    color: entry.color,
  }));
  // What is written later lies above.
  for (const p of displayList({ ...s, lines, layout: undefined })) {
    if (p.is !== "text" && p.hidden && s.hidden === "out") continue;
    if (p.is === "line" && s.lines[p.line]!.pieces.length > 0) {
      d.color = s.ownNames.get(s.lines[p.line]!.key)?.color;
      writeLine(d, s, p, layers.of(`${p.look.layer}-PLAN`, p.look.color ?? PAPER, p.hidden), used);
      d.color = undefined;
    }
    // Shots of lines have no symbol of their own; plain points are points.
    else if (p.is === "symbol" && wanted[p.point] && !p.look.shot && p.look.code !== "")
      writeSymbol(d, s, p, layers.of(`${p.look.layer}-SYMBOLS`, p.look.color ?? PAPER, p.hidden), used);
  }
}

function writeSymbol(
  d: DxfText,
  { table: t, unitsPerMm }: DxfSource,
  { point: i, look, symbol, size, aspect, turn }: SymbolPrimitive,
  layer: string,
  used: Used,
): void {
  const at: [number, number] = [t.e[i]!, t.n[i]!],
    missing = Number.isNaN(t.z[i]!),
    z = missing ? 0 : t.z[i]!;
  const values = [t.number[i]!, look.code, missing ? "" : String(t.z[i]), t.texts[t.description[i]!]!];
  const block = used.block(`SYMBOL-${symbol.name.toUpperCase()}`, symbol.strokes, TAGS);
  const attributes = TAGS.map((tag, j): [string, string] => [tag, values[j]!]);
  insert(d, layer, block, at, size * unitsPerMm, -turn, aspect, attributes, z);
  if (symbol.heart) {
    const heart = used.block(`HEART-${symbol.name.toUpperCase()}`, symbol.heart);
    insert(d, layer, heart, at, unitsPerMm, 0, 1, [], z);
  }
}

/** Notes and labels of points as the sheet places them at the plan's scale. Contour labels go with their contours. */
export function writeTexts(
  d: DxfText,
  layout: Layout,
  drawing: DrawingSettings,
  layers: LayerTable,
  unitsPerMm: number,
): void {
  for (const { way } of layout.strokes) {
    d.entity("LINE", layers.of("DIMENSIONS", PAPER), "AcDbLine");
    d.position(10, way[0], way[1], 0);
    d.position(11, way[2], way[3], 0);
  }
  for (const text of layout.texts) {
    const contour = text.is === "contour";
    const layer = contour
      ? layers.of(`CONTOUR-LABELS-${text.layer}`, lookOfSurface(drawing, text.layer).indexColor ?? "#7a5a2e")
      : text.is === "note"
        ? layers.of(`${text.layer}-NOTES`, text.color ?? PAPER)
        : text.is === "added"
          ? layers.of("WORDS", PAPER)
          : layers.of("POINT-LABELS", PAPER);
    const c = Math.cos(text.angle),
      s = Math.sin(text.angle),
      side = text.align * text.halfWidth * unitsPerMm;
    if (text.leader) {
      d.entity("LINE", layer, "AcDbLine");
      d.position(10, text.leader[0], text.leader[1], 0);
      d.position(11, text.leader[2], text.leader[3], 0);
    }
    baselines(text.lines.length, text.height).forEach((up, k) => {
      const y = up * unitsPerMm;
      // Texts of the format are as high as their capitals.
      d.text(
        layer,
        text.e + side * c - y * s,
        text.n + side * s + y * c,
        0,
        text.height * unitsPerMm * 0.727,
        (text.angle * 180) / Math.PI,
        text.lines[k]!,
        text.align === 0 ? "middle" : text.align < 0 ? "start" : "end",
        contour ? "CONTOUR-LABELS" : text.is === "point" ? "POINT-LABELS" : "NOTES",
      );
    });
  }
}

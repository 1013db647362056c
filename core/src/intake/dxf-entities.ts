/**
 * The entities of a DXF text (the open part of the format: pairs of a group code and a value, each on a line). Read in
 * one pass that goes on with every pair, so that no file, however damaged, is read for ever; nothing is kept but what is
 * asked for.
 */
import { readDecimal } from "../math/decimal";

/** A corner; NaN for a level that is not given. A bulge is the tangent of a quarter of the angle swept, to the left. */
export interface DxfVertex {
  x: number;
  y: number;
  z: number;
  bulge: number;
}

export interface DxfEntity {
  type: string;
  layer: string;
  inPaperSpace: boolean;
  vertices: DxfVertex[];
  closed: boolean;
  /** A mesh of corners, whose vertices are no way from one to the next. */
  isMesh: boolean;
  /** The first value that should be a number and is none, with its line in the file. */
  wrong?: { line: number; value: string };
}

export interface DxfDrawing {
  entities: DxfEntity[];
  /** The header's $INSUNITS. */
  units: number | undefined;
}

/** Throws an Error that says in which line the text stops being pairs of a code and a value. */
export function readEntities(text: string): DxfDrawing {
  const pairs = new Pairs(text),
    drawing: DxfDrawing = { entities: [], units: undefined };
  let section = "",
    variable = "";
  while (pairs.next()) {
    const { code, value } = pairs;
    if (code === 0 && value === "SECTION") section = "?";
    else if (code === 2 && section === "?") section = value;
    else if (code === 0 && value === "ENDSEC") section = "";
    else if (section === "HEADER" && code === 9) variable = value;
    else if (section === "HEADER" && code === 70 && variable === "$INSUNITS") drawing.units = Number(value);
    else if (section === "ENTITIES" && code === 0) readEntity(pairs, value, drawing.entities);
    else if (section === "ENTITIES") take(pairs, drawing.entities.at(-1));
  }
  return drawing;
}

const blank = (): DxfVertex => ({ x: NaN, y: NaN, z: NaN, bulge: 0 });

/** What begins with a pair of code 0: an entity of its own, a vertex of a polyline, or that polyline's end. */
function readEntity(pairs: Pairs, type: string, entities: DxfEntity[]): void {
  const last = entities.at(-1);
  pairs.part = type;
  if (last?.type === "POLYLINE" && type === "VERTEX") return void last.vertices.push(blank());
  if (type === "SEQEND") return;
  entities.push({ type, layer: "0", inPaperSpace: false, vertices: [], closed: false, isMesh: false });
}

/** A pair belongs to the entity that is being read; codes that are not asked for are passed over. */
function take(pairs: Pairs, entity: DxfEntity | undefined): void {
  if (!entity || pairs.part === "SEQEND") return;
  const { code, part } = pairs,
    isPolyline = entity.type === "POLYLINE" && part === "POLYLINE";
  if (part !== "VERTEX") {
    if (code === 8) entity.layer = pairs.value;
    else if (code === 67) entity.inPaperSpace = pairs.number(entity) === 1;
    else if (code === 70 && (isPolyline || part === "LWPOLYLINE")) {
      const flags = pairs.number(entity);
      entity.closed = (flags & 1) !== 0;
      entity.isMesh = isPolyline && (flags & (16 | 64)) !== 0;
    } else if (code === 38 && part === "LWPOLYLINE") pairs.level = pairs.number(entity);
    else if (code === 30 && isPolyline) pairs.level = pairs.number(entity);
    if (code === 8 || code === 67 || code === 70 || code === 38) return;
    if (isPolyline) return;
  }
  const axis =
    code >= 10 && code <= 13 ? "x" : code >= 20 && code <= 23 ? "y" : code >= 30 && code <= 33 ? "z" : undefined;
  if (axis === undefined && code !== 42) return;
  const { vertices } = entity;
  if (part === "LWPOLYLINE" && code === 10) vertices.push({ ...blank(), z: pairs.level });
  const corner = part === "VERTEX" || part === "LWPOLYLINE" ? vertices.length - 1 : code % 10;
  if (corner < 0 || !(part in CORNERS) || corner >= CORNERS[part]!) return;
  while (vertices.length <= corner) vertices.push(blank());
  const v = vertices[corner]!;
  if (axis) v[axis] = pairs.number(entity);
  else v.bulge = pairs.number(entity);
  if (part === "VERTEX" && Number.isNaN(v.z) && axis !== "z") v.z = pairs.level;
}

/** Kinds of entities whose corners are read, and how many they have at most. */
const CORNERS: Record<string, number> = Object.assign(Object.create(null) as Record<string, number>, {
  POINT: 1,
  LINE: 2,
  "3DFACE": 4,
  LWPOLYLINE: Infinity,
  VERTEX: Infinity,
});

/** Pairs one after another. */
class Pairs {
  code = 0;
  value = "";
  /** The kind of entity, or part of one, that pairs belong to now, and the level that its corners have if none is said. */
  private kind = "";
  level = NaN;
  private at = 0;
  private line = 0;

  constructor(private readonly text: string) {}

  get part(): string {
    return this.kind;
  }

  set part(kind: string) {
    this.kind = kind;
    if (kind !== "VERTEX" && kind !== "SEQEND") this.level = NaN;
  }

  /** The next pair; false at the end of the text, or at the word EOF. */
  next(): boolean {
    const code = this.nextLine();
    if (code === undefined || (code.trim() === "" && this.at >= this.text.length)) return false;
    if (!/^\s*-?\d{1,6}\s*$/.test(code))
      throw new Error(`line ${this.line} should be a group code and is “${code.trim().slice(0, 40)}”`);
    this.code = Number(code);
    const value = this.nextLine();
    if (value === undefined) throw new Error(`it ends in line ${this.line}, behind a group code`);
    this.value = value.trim();
    return !(this.code === 0 && this.value === "EOF");
  }

  /** The pair's value as a number; NaN, and the entity told of it, where it is none. */
  number(entity: DxfEntity): number {
    const value = readDecimal(this.value);
    if (!Number.isNaN(value)) return value;
    entity.wrong ??= { line: this.line, value: this.value.slice(0, 40) };
    return NaN;
  }

  private nextLine(): string | undefined {
    const { text, at } = this;
    if (at >= text.length) return undefined;
    const end = text.indexOf("\n", at),
      to = end < 0 ? text.length : end;
    this.at = to + 1;
    this.line++;
    return text.slice(at, to);
  }
}

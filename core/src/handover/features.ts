/** Points, lines, contours and triangles one after another, as the formats of features are written from them. */
import type { Line } from "../lines/model";
import { lineTitle } from "../lines/names";
import { attributeOf } from "../codes/read";
import { enclosedArea } from "../lines/measure";
import type { Contours } from "../surface/contour";
import type { Surface } from "../surface/model";
import { colorOfLine, isHidden, type HandoverSource } from "./source";

/** A way of vertices: east, north, level triples; a level not known is NaN. A closed way repeats its first vertex. */
export interface Way {
  xyz: Float64Array;
  closed: boolean;
}

export interface LineFeature extends Way {
  line: Line;
  /** What it is called: by its own name where it has one. */
  name: string;
  /** Its own name, else that of its code. */
  meaning: string | undefined;
  ownName: string | undefined;
  color: string | undefined;
  layer: string;
  /** A closed line of a code for areas. */
  isArea: boolean;
  hidden: boolean;
}

/** Lines that have a way, in their order; those hidden on the sheet as the job wants it. */
export function lineFeatures(s: HandoverSource): LineFeature[] {
  const { xyz, starts } = s.chains;
  return s.lines.flatMap((line, k) => {
    const hidden = isHidden(s, line.entry);
    if (starts[k + 1]! - starts[k]! < 2 || (hidden && s.hidden === "out")) return [];
    return {
      line,
      name: lineTitle(line, s.ownNames),
      meaning: s.ownNames.get(line.key)?.name ?? line.entry.name,
      ownName: s.ownNames.get(line.key)?.name,
      color: colorOfLine(s, line),
      layer: line.entry.layer ?? line.code,
      xyz: xyz.subarray(3 * starts[k]!, 3 * starts[k + 1]!),
      closed: line.closed,
      isArea: line.closed && line.entry.kind === "area",
      hidden,
    };
  });
}

/** Table rows of the points written; those of hidden layers as the job wants it. */
export function pointRows(s: HandoverSource): Int32Array {
  if (s.hidden === "off" || !s.drawing.hidden) return s.rows;
  return s.rows.filter((i) => {
    const entry = s.coded.parsed[s.coded.description[i]!]!.elements[0]?.entry;
    return !entry || !isHidden(s, entry);
  });
}

/** Fields of a point that formats of features have by themselves. */
export const POINT_FIELDS = ["number", "code", "elevation", "description", "note", "kind", "label"] as const;

/** The name of an attribute as a field beside the point's own. */
export const fieldOfAttribute = (name: string) =>
  [...POINT_FIELDS, "fid", "geom"].some((f) => f === name.toLowerCase()) ? `attr:${name}` : name;

/** Those attributes of a point, of `names`, that it has, by the names of their fields. */
export function attributesOfPoint(s: HandoverSource, i: number, names: readonly string[]): Record<string, string> {
  return Object.fromEntries(
    names.flatMap((name) => {
      const value = attributeOf(s.table, s.coded, i, name);
      return value === "" ? [] : [[fieldOfAttribute(name), value]];
    }),
  );
}

/**
 * Levels of a way; one not known is taken linearly by plan length from its neighbours, at an end from the nearest.
 * Undefined when none is known.
 */
export function filledLevels(xyz: ArrayLike<number>, from = 0, to = xyz.length / 3): number[] | undefined {
  const levels = Array.from({ length: to - from }, (_, k) => xyz[3 * (from + k) + 2]!);
  const known = levels.flatMap((z, k) => (Number.isNaN(z) ? [] : [k]));
  if (known.length === 0) return undefined;
  if (known.length === levels.length) return levels;
  const along = [0];
  for (let i = from + 1; i < to; i++)
    along.push(along.at(-1)! + Math.hypot(xyz[3 * i]! - xyz[3 * i - 3]!, xyz[3 * i + 1]! - xyz[3 * i - 2]!));
  return levels.map((z, k) => {
    if (!Number.isNaN(z)) return z;
    const after = known.find((j) => j > k),
      before = known.findLast((j) => j < k);
    if (before === undefined || after === undefined) return levels[before ?? after!]!;
    return (
      levels[before]! +
      ((levels[after]! - levels[before]!) * (along[k]! - along[before]!)) / (along[after]! - along[before]! || 1)
    );
  });
}

export interface ContourFeature extends Way {
  surface: string;
  level: number;
  index: boolean;
}

export function* contourFeatures(all: readonly Contours[]): Generator<ContourFeature> {
  for (const c of all)
    for (let k = 0; k < c.level.length; k++) {
      const from = c.starts[k]!,
        count = c.starts[k + 1]! - from,
        xyz = new Float64Array(3 * count);
      for (let v = 0; v < count; v++) {
        xyz[3 * v] = c.origin[0] + c.xy[2 * (from + v)]!;
        xyz[3 * v + 1] = c.origin[1] + c.xy[2 * (from + v) + 1]!;
        xyz[3 * v + 2] = c.level[k]!;
      }
      yield { surface: c.surface, level: c.level[k]!, index: c.index[k] === 1, closed: c.closed[k] === 1, xyz };
    }
}

/** Easting, northing and level of a surface's vertex. */
export function vertexOf({ origin, x, y, z }: Surface, v: number): [number, number, number] {
  return [origin[0] + x[v]!, origin[1] + y[v]!, z[v]!];
}

/** Breaklines of a surface: its fixed sides joined to ways of vertices, as long as one leads on from another. */
export function breaklineWays({ tri, twin, fixed, x }: Surface): number[][] {
  // Each fixed side once, by the vertices at its ends.
  const sides: [number, number][] = [],
    at = new Map<number, number[]>();
  for (let h = 0; h < tri.length; h++) {
    if (!fixed[h] || (twin[h]! >= 0 && twin[h]! < h)) continue;
    const ends: [number, number] = [tri[h]!, tri[h % 3 === 2 ? h - 2 : h + 1]!];
    for (const v of ends) (at.get(v) ?? at.set(v, []).get(v)!).push(sides.length);
    sides.push(ends);
  }
  const used = new Uint8Array(sides.length),
    ways: number[][] = [];
  const follow = (from: number) => {
    const way = [from];
    for (let v = from; ;) {
      const side = at.get(v)!.find((k) => !used[k]);
      if (side === undefined) break;
      used[side] = 1;
      v = sides[side]![0] === v ? sides[side]![1] : sides[side]![0];
      way.push(v);
      // Where others meet a way ends.
      if (at.get(v)!.length !== 2) break;
    }
    if (way.length > 1) ways.push(way);
    return way.length > 1;
  };
  // From ends and meetings first; what is left runs in circles.
  for (let v = 0; v < x.length; v++) if (at.has(v) && at.get(v)!.length !== 2) while (follow(v));
  for (const [v] of at) while (follow(v));
  return ways;
}

/** Plan area enclosed by a closed line, in the job's unit squared. */
export const areaOfLine = (line: Line) => line.area ?? enclosedArea(line.pieces);

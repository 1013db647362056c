/**
 * What plan and relief are drawn of, made from typed arrays: points as dots, lines and contours as strokes, and the plan's
 * ground and map as coloured triangles. Positions are offsets from the scene's origin, never whole grid coordinates.
 */
import type { DrawingSettings, SurfaceLook } from "@bramble/core";
import type { Layout } from "@bramble/core/drawing/layout";
import { isDrawn } from "@bramble/core/drawing/order";
import type { PointTable } from "@bramble/core/points/table";
import { chordsOfLeg, type Reference } from "@bramble/core/records/reference";
import type { Contours } from "@bramble/core/surface/contour";
import type { Surface } from "@bramble/core/surface/model";
import type { DifferenceMap } from "@bramble/core/volumes/map";
import type { View } from "../lib/view";
import { spacingOf, type Dots } from "./painting/dots";
import type { Faces } from "./painting/faces";
import { packed } from "./painting/picture";
import { mixed, type Strokes } from "./painting/strokes";
import type { LookNow } from "./look-now";
import { LabelGaps } from "@bramble/core/drawing/gaps";
import { slopesOfTriangles, STRENGTH, valuesOf, type GroundClasses } from "./ground";
import type { GroundSeen } from "../lib/state/choices";
import { thinned } from "./thinning";
import { hex, onSheet, rgbText, SEEN, type SheetColors } from "../lib/theme";

/** Job coordinates that positions are offsets from; in relief with the level that heights count from. */
export type Origin = readonly [e: number, n: number, level?: number];

const inRelief = (origin: Origin) => origin[2] !== undefined;

/** Points in the colour of their code; control is marked. */
export function pointsOf(
  t: PointTable,
  view: View,
  colorOf: ReadonlyMap<string, string>,
  hidden: ReadonlySet<string>,
  look: LookNow | undefined,
  colors: SheetColors,
): Dots {
  // One colour for each code, not looked up for each point.
  const tints = Uint32Array.from(view.codes, (code, c) => {
    const known = colorOf.get(code);
    if (hidden.has(code)) return 0;
    return packed(known ? onSheet(known, colors.dark) : hex(view.known[c] === 0 ? colors.amber : colors.soft));
  });
  const plain = packed(hex(colors.soft)),
    { code } = view;
  const byCode = (i: number) => (t.deleted[i] ? 0 : (tints[code[i] ?? 0] ?? plain));
  // One number for each row, so that drawing does not ask again at each frame.
  const now =
    look &&
    Uint32Array.from({ length: t.count }, (_, i) => {
      const own = byCode(i),
        color = own === 0 ? undefined : look.point(i);
      return color ? packed(color) : own;
    });
  return {
    count: t.count,
    e: t.e,
    n: t.n,
    stride: 1,
    color: now ? (i) => now[i]! : byCode,
    control: (i) => t.kind[i] === 1,
    spacing: spacingOf(t.e, t.n, t.count),
  };
}

const thin = (ends: Float32Array, color: string, order: number): Strokes => ({
  ends,
  width: 1,
  color: hex(color),
  order,
});

/** Lines in the colours of their codes; `levelAt` is asked in relief, what it knows no level of is not drawn there. */
export function linesOf(
  view: View,
  hidden: DrawingSettings["hidden"],
  look: LookNow | undefined,
  colors: SheetColors,
  origin: Origin,
  levelAt: (vertex: number) => number = () => 0,
): Strokes[] {
  const { xyz, starts } = view.chains,
    base = origin[2] ?? 0,
    byColor = linesByColor(view, hidden, look, colors);
  return byColor.map(({ color, lines }) => {
    const sides = lines.reduce((sum, l) => sum + Math.max(0, starts[l + 1]! - starts[l]! - 1), 0),
      ends = new Float32Array(6 * sides);
    let k = 0;
    for (const l of lines)
      for (let i = starts[l]! + 1; i < starts[l + 1]!; i++) {
        const [from, to] = [levelAt(i - 1) - base, levelAt(i) - base];
        if (Number.isNaN(from + to)) continue;
        ends[k++] = xyz[3 * i - 3]! - origin[0];
        ends[k++] = xyz[3 * i - 2]! - origin[1];
        ends[k++] = from;
        ends[k++] = xyz[3 * i]! - origin[0];
        ends[k++] = xyz[3 * i + 1]! - origin[1];
        ends[k++] = to;
      }
    return { ends: ends.subarray(0, k), width: 2, color, order: 40 };
  });
}

/** Which lines are drawn, together those of one colour. */
function linesByColor(
  view: View,
  hidden: DrawingSettings["hidden"],
  look: LookNow | undefined,
  colors: SheetColors,
): { color: readonly [number, number, number]; lines: number[] }[] {
  const all = new Map<string, { color: readonly [number, number, number]; lines: number[] }>();
  view.lines.forEach((line, l) => {
    if (!isDrawn(line, hidden)) return;
    const color = look?.line(l) ?? onSheet(line.color, colors.dark),
      known = all.get(color.join(" "));
    if (known) known.lines.push(l);
    else all.set(color.join(" "), { color, lines: [l] });
  });
  return [...all.values()];
}

/** Lines seen from far away, `apart` of one another: of one pixel, without the vertices that nobody tells apart. */
export function farLinesOf(
  view: View,
  hidden: DrawingSettings["hidden"],
  look: LookNow | undefined,
  colors: SheetColors,
  origin: Origin,
  least: number,
  apart: number,
): Strokes[] {
  const { xyz, starts } = view.chains,
    at = (k: number) => [xyz[3 * k]! - origin[0], xyz[3 * k + 1]! - origin[1]] as const;
  return linesByColor(view, hidden, look, colors).map(({ color, lines }) => {
    const ends: number[] = [];
    for (const l of lines)
      thinned(starts[l]!, starts[l + 1]!, at, least, (a, b) => ends.push(...at(a), 0, ...at(b), 0));
    return { ends: Float32Array.from(ends), width: 1, color, order: 40, apart };
  });
}

/** The index contours seen from far away, all contours where there are none: of one pixel. */
export function farContoursOf(
  list: readonly Contours[],
  lookOf: (surface: string) => SurfaceLook,
  colors: SheetColors,
  origin: Origin,
  least: number,
): Strokes[] {
  return list.flatMap(({ surface, xy, starts, index, origin: [oe, on] }) => {
    const look = lookOf(surface),
      own = look.indexColor,
      color = own ? rgbText(onSheet(own, colors.dark)) : colors.contourIndex,
      ends: number[] = [],
      shown = index.includes(1) ? 1 : 0;
    if (look.hidden) return [];
    const at = (k: number) => [xy[2 * k]! + oe - origin[0], xy[2 * k + 1]! + on - origin[1]] as const;
    index.forEach((is, l) => {
      if (is === shown) thinned(starts[l]!, starts[l + 1]!, at, least, (a, b) => ends.push(...at(a), 0, ...at(b), 0));
    });
    return [thin(Float32Array.from(ends), color, 21)];
  });
}

/** Contours of surfaces in their looks, with gaps behind their labels; those of hidden surfaces are left out. */
export function contoursOf(
  list: readonly Contours[],
  lookOf: (surface: string) => SurfaceLook,
  colors: SheetColors,
  origin: Origin,
  labels?: Layout,
): { plain: Strokes[]; index: Strokes[] } {
  const out: { plain: Strokes[]; index: Strokes[] } = { plain: [], index: [] },
    tint = (color: string | undefined, usual: string) => (color ? rgbText(onSheet(color, colors.dark)) : usual);
  for (const c of list) {
    const look = lookOf(c.surface);
    if (look.hidden) continue;
    const gaps = new LabelGaps(labels, c.surface),
      [plain, index] = [segmentsOf(c, 0, origin, gaps), segmentsOf(c, 1, origin, gaps)],
      [color, indexColor] = [tint(look.color, colors.contour), tint(look.indexColor, colors.contourIndex)];
    const wide = (weight: number | undefined, usual: number) =>
      weight === undefined ? usual : Math.max(1, weight * SEEN);
    out.plain.push({ ends: plain, width: wide(look.weight, 1), color: hex(color), order: 20 });
    out.index.push({ ends: index, width: wide(look.indexWeight, 1.6), color: hex(indexColor), order: 21 });
  }
  return out;
}

/** Chords whose memory is taken at once. */
const AT_ONCE = 20_000;

/** The chords of the index contours, or of the others, as pairs of ends. */
function segmentsOf(c: Contours, marked: number, origin: Origin, gaps: LabelGaps): Float32Array {
  const out: Float32Array[] = [],
    [oe, on] = c.origin;
  let part = new Float32Array(6 * AT_ONCE),
    k = 0;
  const give = (height: number, ae: number, an: number, be: number, bn: number) => {
    if (k === part.length) {
      out.push(part);
      [part, k] = [new Float32Array(6 * AT_ONCE), 0];
    }
    part[k] = ae - origin[0];
    part[k + 1] = an - origin[1];
    part[k + 2] = height;
    part[k + 3] = be - origin[0];
    part[k + 4] = bn - origin[1];
    part[k + 5] = height;
    k += 6;
  };
  // Labels stand on index contours, on all where there are none.
  const interrupted = !gaps.areNone && (marked === 1 || !c.index.includes(1));
  for (let l = 0; l < c.level.length; l++) {
    if (c.index[l] !== marked) continue;
    const height = inRelief(origin) ? c.level[l]! - origin[2]! : 0;
    for (let i = c.starts[l]! + 1; i < c.starts[l + 1]!; i++) {
      const [ae, an] = [oe + c.xy[2 * i - 2]!, on + c.xy[2 * i - 1]!],
        [be, bn] = [oe + c.xy[2 * i]!, on + c.xy[2 * i + 1]!];
      if (!interrupted) give(height, ae, an, be, bn);
      else
        for (const [t0, t1] of gaps.outside(ae, an, be, bn))
          give(height, ae + t0 * (be - ae), an + t0 * (bn - an), ae + t1 * (be - ae), an + t1 * (bn - an));
    }
  }
  return joined([...out, part.subarray(0, k)]);
}

function joined(parts: readonly Float32Array[]): Float32Array {
  const all = new Float32Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const p of parts) {
    all.set(p, at);
    at += p.length;
  }
  return all;
}

export function trianglesOf(s: Surface, colors: SheetColors, origin: Origin): Strokes[] {
  // Each side once, from the half-edge of the higher number or on the outline.
  const out = new Float32Array(6 * s.tri.length);
  let k = 0;
  for (let h = 0; h < s.tri.length; h++) {
    if (s.twin[h]! > h) continue;
    for (const v of [s.tri[h]!, s.tri[h % 3 === 2 ? h - 2 : h + 1]!]) {
      out.set(near(s, v, origin), k);
      k += 3;
    }
  }
  return [thin(out.subarray(0, k), colors.triangle, 10)];
}

/** The ground in its classes, laid on the paper so that what is drawn on it stays readable. */
export function groundOf(
  s: Surface,
  { edges, classes }: GroundClasses,
  seen: GroundSeen,
  colors: SheetColors,
  origin: Origin,
): Faces[] {
  const tints = Uint32Array.from(classes, ({ color }) => packed(onPaper(color, colors))),
    perTriangle = seen === "slopes" ? slopesOfTriangles(s) : valuesOf(s, seen);
  const shade = (value: number) => {
    let k = 0;
    while (k < edges.length && value >= edges[k]!) k++;
    return tints[k]!;
  };
  return [
    {
      corners: cornersOf(s, origin),
      triangles: s.tri,
      values: perTriangle ?? s.z,
      perTriangle: perTriangle !== undefined,
      shade,
      order: 0,
    },
  ];
}

/** A class's colour as it covers the paper. */
export function onPaper(color: string, { sheet }: SheetColors): [number, number, number] {
  const paper = hex(sheet);
  return hex(color).map((c, k) => paper[k]! + STRENGTH * (c - paper[k]!)) as [number, number, number];
}

function cornersOf(s: Surface, [oe, on]: Origin): Float32Array {
  const corners = new Float32Array(2 * s.x.length);
  for (let v = 0; v < s.x.length; v++) {
    corners[2 * v] = s.x[v]! + s.origin[0] - oe;
    corners[2 * v + 1] = s.y[v]! + s.origin[1] - on;
  }
  return corners;
}

/** The outline of a surface, and of its holes. */
export function edgeOf(s: Surface, colors: SheetColors, origin: Origin): Strokes[] {
  const out: number[] = [];
  for (let h = 0; h < s.tri.length; h++) {
    if (s.twin[h] !== -1) continue;
    for (const v of [s.tri[h]!, s.tri[h % 3 === 2 ? h - 2 : h + 1]!]) out.push(...near(s, v, origin));
  }
  return [thin(Float32Array.from(out), colors.edge, 11)];
}

/** Classes on either side of zero that have a colour of their own; what lies beyond has that of the last. */
const MOST_STEPS = 64;
/** How much of a class's colour covers the paper: of the least, and by how much more of the largest. */
const PALEST = 0.14,
  DEEPER = 0.66;
/** Fill is hatched: a line of so many pixels every so many. */
const HATCH = 1.5,
  HATCH_EVERY = 7;

/**
 * The difference of a comparison: cut in one colour, fill in the other and hatched, so that grey paper tells them apart, the
 * deeper the class the darker, with lines between classes. With `flood` what lies under a level, as water.
 */
export function mapOf(
  map: DifferenceMap,
  deadband: number,
  flood: number | undefined,
  colors: SheetColors,
  origin: Origin,
): (Faces | Strokes)[] {
  const count = map.corners.length / 3,
    [oe, on] = [map.origin[0] - origin[0], map.origin[1] - origin[1]],
    corners = new Float32Array(2 * count),
    values = new Float32Array(count);
  for (let v = 0; v < count; v++) {
    corners[2 * v] = map.corners[3 * v]! + oe;
    corners[2 * v + 1] = map.corners[3 * v + 1]! + on;
    values[v] = map.corners[3 * v + 2]! + (flood ?? 0);
  }
  const ends: number[] = [],
    bold: number[] = [];
  map.lines.forEach((xy, k) => {
    const into = map.edges[k] === 0 ? bold : ends;
    for (let i = 0; i < xy.length; i += 2) into.push(xy[i]! + oe, xy[i + 1]! + on, 0);
  });
  const shade = shadeOfMap(map, deadband, flood, colors);
  return [
    { corners, triangles: map.triangles, values, perTriangle: false, shade, order: 1 },
    thin(Float32Array.from(ends), colors.soft, 2),
    thin(Float32Array.from(bold), colors.ink, 3),
  ];
}

function shadeOfMap(map: DifferenceMap, deadband: number, flood: number | undefined, colors: SheetColors) {
  const isWater = flood !== undefined,
    largest = isWater ? Math.max(1e-6, flood + map.most) : Math.max(Math.abs(map.least), Math.abs(map.most)),
    step = isWater ? Math.max(1e-6, (flood + map.most) / 5) : map.step,
    paper = packed(hex(colors.sheet)),
    nothing = mixed(paper, packed([0.5, 0.5, 0.5]), 255 * 0.08),
    stroke = packed(hex(colors.fill).map((c) => Math.min(1, c * (colors.dark ? 1.35 : 0.55))));
  // By the farther bound of its class.
  const tints = (color: string) =>
    Uint32Array.from({ length: MOST_STEPS }, (_, k) =>
      mixed(paper, packed(hex(color)), 255 * (PALEST + DEEPER * Math.sqrt(Math.min(1, ((k + 1) * step) / largest)))),
    );
  const cut = tints(colors.cut),
    fill = tints(colors.fill),
    hatched = fill.map((color) => mixed(color, stroke, 255 * 0.6));
  return (d: number, x: number, y: number) => {
    const size = d < 0 ? -d : d;
    if (!(size > deadband) || (isWater && d <= 0)) return nothing;
    const k = Math.min(MOST_STEPS - 1, Math.ceil(size / step) - 1);
    if (d < 0) return cut[k]!;
    return (x + y) % HATCH_EVERY < HATCH ? hatched[k]! : fill[k]!;
  };
}

/**
 * Reference geometry under the job: lines with their arcs, and the triangles of surfaces. `levelAt` gives the level of a
 * position from the one that the file has there; what has none is not drawn. In plan all is at one level.
 */
export function referenceOf(
  list: readonly Reference[],
  colors: SheetColors,
  origin: Origin,
  levelAt: (e: number, n: number, own: number) => number = () => 0,
): { lines: Strokes[]; surfaces: Strokes[] } {
  const lines: number[] = [],
    faces: number[] = [],
    [oe, on, base = 0] = origin;
  const side = (into: number[], ...ends: [e: number, n: number, own: number][]) => {
    const levels = ends.map((end) => levelAt(...end) - base);
    if (levels.some(Number.isNaN)) return;
    ends.forEach(([e, n], k) => into.push(e - oe, n - on, levels[k]!));
  };
  for (const { lines: drawn, surfaces } of list) {
    for (const l of drawn)
      for (let leg = 0; leg < l.sweep.length; leg++) {
        const way = chordsOfLeg(l, leg),
          [from, to] = [l.xyz[3 * leg + 2]!, l.xyz[(3 * (leg + 1) + 2) % l.xyz.length]!],
          own = (k: number) => from + ((to - from) * k) / (way.length - 1);
        for (let k = 1; k < way.length; k++) side(lines, [...way[k - 1]!, own(k - 1)], [...way[k]!, own(k)]);
      }
    for (const { faces: corners, points } of surfaces) {
      const at = (v: number): [number, number, number] => [points[3 * v]!, points[3 * v + 1]!, points[3 * v + 2]!];
      for (let f = 0; f < corners.length; f += 3)
        for (let k = 0; k < 3; k++) side(faces, at(corners[f + k]!), at(corners[f + ((k + 1) % 3)]!));
    }
  }
  return {
    lines: [thin(Float32Array.from(lines), colors.soft, 12)],
    surfaces: [thin(Float32Array.from(faces), colors.triangle, 5)],
  };
}

/** Selected points, of which there are too many for a ring round each. */
export function selectedOf(t: PointTable, rows: readonly number[], colors: SheetColors): Dots {
  const tint = packed(hex(colors.bramble));
  return {
    count: rows.length,
    e: Float64Array.from(rows, (i) => t.e[i]!),
    n: Float64Array.from(rows, (i) => t.n[i]!),
    stride: 1,
    color: () => tint,
    control: () => false,
    spacing: Infinity,
    size: SELECTED,
  };
}

/** Pixels across of a selected point among many. */
const SELECTED = 4;

/** Points of an intake not taken in yet, as east, north pairs. */
export function incomingOf(pairs: Float64Array, colors: SheetColors): Dots {
  const tint = packed(hex(colors.bramble)),
    n = pairs.subarray(1),
    count = pairs.length / 2;
  return {
    count,
    e: pairs,
    n,
    stride: 2,
    color: () => tint,
    control: () => false,
    spacing: spacingOf(pairs, n, count, 2),
  };
}

export const near = (s: Surface, v: number, origin: Origin): [e: number, n: number, height: number] => [
  s.x[v]! + s.origin[0] - origin[0],
  s.y[v]! + s.origin[1] - origin[1],
  inRelief(origin) ? s.z[v]! - origin[2]! : 0,
];

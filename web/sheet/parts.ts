/**
 * What the plan is drawn of, made from typed arrays: points as dots; lines, contours and triangles for the graphics card.
 * Positions in its buffers are offsets from the job's origin, never whole grid coordinates. What is many comes in several
 * pieces, so that no frame has to draw all of it.
 */
import * as THREE from "three";
import type { DrawingSettings, SurfaceLook } from "@bramble/core";
import type { Layout } from "@bramble/core/drawing/layout";
import { isDrawn } from "@bramble/core/drawing/order";
import type { PointTable } from "@bramble/core/points/table";
import { chordsOfLeg, type Reference } from "@bramble/core/records/reference";
import type { Contours } from "@bramble/core/surface/contour";
import type { Surface } from "@bramble/core/surface/model";
import type { DifferenceMap } from "@bramble/core/volumes/map";
import type { View } from "../lib/view";
import { packed, spacingOf, type Dots } from "./dots";
import type { LookNow } from "./look-now";
import { LabelGaps } from "@bramble/core/drawing/gaps";
import { MOST_CLASSES, STRENGTH, valuesOf, type GroundClasses, type GroundSeen } from "./ground";
import { GROUND_MATERIAL, MAP_MATERIAL } from "./materials";
import { thinned } from "./thinning";
import { BATCH, piece, thickLines, thinLines, type Piece } from "./primitives";
import { hex, onSheet, rgbText, SEEN, type SheetColors } from "./theme";

/** Job coordinates that positions are offsets from; in relief with the level that heights count from. */
export type Origin = readonly [e: number, n: number, level?: number];

/** In relief what stands before a line hides it; in plan what is drawn later does. */
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

/** Lines in the colours of their codes; `levelAt` is asked in relief, what it knows no level of is not drawn there. */
export function linesOf(
  view: View,
  hidden: DrawingSettings["hidden"],
  look: LookNow | undefined,
  colors: SheetColors,
  origin: Origin,
  levelAt: (vertex: number) => number = () => 0,
): Piece[] {
  const { xyz, starts } = view.chains,
    base = origin[2] ?? 0;
  const segments = view.lines.reduce((s, _, l) => s + Math.max(0, starts[l + 1]! - starts[l]! - 1), 0);
  const position = new Float32Array(6 * segments),
    color = new Float32Array(6 * segments);
  let k = 0;
  view.lines.forEach((line, l) => {
    if (!isDrawn(line, hidden)) return;
    const tint = look?.line(l) ?? onSheet(line.color, colors.dark);
    for (let i = starts[l]! + 1; i < starts[l + 1]!; i++) {
      const [from, to] = [levelAt(i - 1) - base, levelAt(i) - base];
      if (Number.isNaN(from + to)) continue;
      position[6 * k] = xyz[3 * i - 3]! - origin[0];
      position[6 * k + 1] = xyz[3 * i - 2]! - origin[1];
      position[6 * k + 2] = from;
      position[6 * k + 3] = xyz[3 * i]! - origin[0];
      position[6 * k + 4] = xyz[3 * i + 1]! - origin[1];
      position[6 * k + 5] = to;
      color.set(tint, 6 * k);
      color.set(tint, 6 * k + 3);
      k++;
    }
  });
  return thickLines(position.subarray(0, 6 * k), 2, color.subarray(0, 6 * k), 40, inRelief(origin));
}

/** Lines seen from far away: of one pixel, without the vertices that nobody tells apart. */
export function farLinesOf(
  view: View,
  hidden: DrawingSettings["hidden"],
  look: LookNow | undefined,
  colors: SheetColors,
  origin: Origin,
  least: number,
): Piece[] {
  const { xyz, starts } = view.chains,
    byColor = new Map<string, number[]>();
  view.lines.forEach((line, l) => {
    if (!isDrawn(line, hidden)) return;
    const color = rgbText(look?.line(l) ?? onSheet(line.color, colors.dark));
    let ends = byColor.get(color);
    if (!ends) byColor.set(color, (ends = []));
    const at = (k: number) => [xyz[3 * k]! - origin[0], xyz[3 * k + 1]! - origin[1]] as const;
    thinned(starts[l]!, starts[l + 1]!, at, least, (a, b) => ends.push(...at(a), 0, ...at(b), 0));
  });
  return [...byColor].flatMap(([color, ends]) => thinLines(Float32Array.from(ends), color, 40));
}

/** The index contours seen from far away, all contours where there are none: of one pixel. */
export function farContoursOf(
  list: readonly Contours[],
  lookOf: (surface: string) => SurfaceLook,
  colors: SheetColors,
  origin: Origin,
  least: number,
): Piece[] {
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
    return thinLines(Float32Array.from(ends), color, 21);
  });
}

/** Contours of surfaces in their looks, with gaps behind their labels; those of hidden surfaces are left out. */
export function contoursOf(
  list: readonly Contours[],
  lookOf: (surface: string) => SurfaceLook,
  colors: SheetColors,
  origin: Origin,
  labels?: Layout,
): { plain: Piece[]; index: Piece[] } {
  const out: { plain: Piece[]; index: Piece[] } = { plain: [], index: [] },
    depth = inRelief(origin),
    tint = (color: string | undefined, usual: string) => (color ? rgbText(onSheet(color, colors.dark)) : usual);
  for (const c of list) {
    const look = lookOf(c.surface);
    if (look.hidden) continue;
    const gaps = new LabelGaps(labels, c.surface),
      [plain, index] = [segmentsOf(c, 0, origin, gaps), segmentsOf(c, 1, origin, gaps)],
      [color, indexColor] = [tint(look.color, colors.contour), tint(look.indexColor, colors.contourIndex)];
    // A line of a pixel is the quickest; a chosen weight is drawn as it is.
    if (look.weight === undefined) out.plain.push(...thinLines(plain, color, 20, depth));
    else out.plain.push(...thickLines(plain, Math.max(1, look.weight * SEEN), color, 20, depth));
    const width = look.indexWeight === undefined ? 1.6 : Math.max(1, look.indexWeight * SEEN);
    out.index.push(...thickLines(index, width, indexColor, 21, depth));
  }
  return out;
}

/** The chords of the index contours, or of the others, as pairs of ends. */
function segmentsOf(c: Contours, marked: number, origin: Origin, gaps: LabelGaps): Float32Array {
  const out: Float32Array[] = [],
    [oe, on] = c.origin;
  let part = new Float32Array(6 * BATCH),
    k = 0;
  const give = (height: number, ae: number, an: number, be: number, bn: number) => {
    if (k === part.length) {
      out.push(part);
      [part, k] = [new Float32Array(6 * BATCH), 0];
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

export function trianglesOf(s: Surface, colors: SheetColors, origin: Origin): Piece[] {
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
  return thinLines(out.subarray(0, k), colors.triangle, 10, inRelief(origin));
}

/** The ground in its classes, laid on the paper so that what is drawn on it stays readable. */
export function groundOf(
  s: Surface,
  classes: GroundClasses,
  seen: GroundSeen,
  colors: SheetColors,
  origin: Origin,
): Piece[] {
  const material = groundMaterial(s, classes, seen, colors),
    geometry = groundGeometry(s, material.uniforms.from!.value as number, origin, valuesOf(s, seen));
  return [piece(new THREE.Mesh(geometry, material), 0, s.tri.length)];
}

/** How a surface's classes are drawn; levels count from one near them, since the card knows seven digits. */
export function groundMaterial(
  s: Surface,
  { edges, classes }: GroundClasses,
  seen: GroundSeen,
  colors: SheetColors,
): THREE.ShaderMaterial {
  const bySlope = seen === "slopes",
    from = seen === "spacing" ? 0 : bySlope ? (s.z[0] ?? 0) : (edges[edges.length >> 1] ?? 0),
    material = GROUND_MATERIAL.clone(),
    [r, g, b] = hex(colors.sheet);
  material.defines = { MOST: MOST_CLASSES };
  material.uniforms.from!.value = from;
  material.uniforms.count!.value = edges.length;
  material.uniforms.bySlope!.value = bySlope;
  material.uniforms.edges!.value = Float32Array.from(
    { length: MOST_CLASSES },
    (_, k) => (edges[k] ?? 0) - (bySlope ? 0 : from),
  );
  material.uniforms.colors!.value = Array.from({ length: MOST_CLASSES }, (_, k) => {
    const [cr, cg, cb] = hex(classes[Math.min(k, classes.length - 1)]!.color);
    return new THREE.Vector3(r, g, b).lerp(new THREE.Vector3(cr, cg, cb), STRENGTH);
  });
  return material;
}

/**
 * The triangles of a surface, each vertex with its level above `from`; with `values`, one for each triangle, vertices are
 * not shared.
 */
export function groundGeometry(s: Surface, from: number, origin: Origin, values?: Float32Array): THREE.BufferGeometry {
  const count = values ? s.tri.length : s.x.length,
    position = new Float32Array(3 * count),
    level = new Float32Array(count);
  for (let k = 0; k < count; k++) {
    const v = values ? s.tri[k]! : k;
    position.set(near(s, v, origin), 3 * k);
    level[k] = values ? values[Math.floor(k / 3)]! - from : s.z[v]! - from;
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.BufferAttribute(position, 3));
  geometry.setAttribute("level", new THREE.BufferAttribute(level, 1));
  if (!values) geometry.setIndex(new THREE.BufferAttribute(Uint32Array.from(s.tri), 1));
  return geometry;
}

/** The outline of a surface, and of its holes. */
export function edgeOf(s: Surface, colors: SheetColors, origin: Origin): Piece[] {
  const out: number[] = [];
  for (let h = 0; h < s.tri.length; h++) {
    if (s.twin[h] !== -1) continue;
    for (const v of [s.tri[h]!, s.tri[h % 3 === 2 ? h - 2 : h + 1]!]) out.push(...near(s, v, origin));
  }
  return thinLines(Float32Array.from(out), colors.edge, 11, inRelief(origin));
}

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
): Piece[] {
  const { corners, triangles } = map,
    count = corners.length / 3,
    [oe, on] = [map.origin[0] - origin[0], map.origin[1] - origin[1]],
    position = new Float32Array(3 * count),
    d = new Float32Array(count);
  for (let v = 0; v < count; v++) {
    position[3 * v] = corners[3 * v]! + oe;
    position[3 * v + 1] = corners[3 * v + 1]! + on;
    d[v] = corners[3 * v + 2]! + (flood ?? 0);
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.BufferAttribute(position, 3));
  geometry.setAttribute("difference", new THREE.BufferAttribute(d, 1));
  geometry.setIndex(new THREE.BufferAttribute(triangles, 1));
  const material = MAP_MATERIAL.clone(),
    largest = Math.max(Math.abs(map.least), Math.abs(map.most));
  material.uniforms.cutColor!.value = new THREE.Vector3(...hex(colors.cut));
  material.uniforms.fillColor!.value = new THREE.Vector3(...hex(colors.fill));
  material.uniforms.paper!.value = new THREE.Vector3(...hex(colors.sheet));
  material.uniforms.hatch!.value = new THREE.Vector3(...hex(colors.fill)).multiplyScalar(colors.dark ? 1.35 : 0.55);
  material.uniforms.water!.value = flood !== undefined;
  material.uniforms.step!.value = flood === undefined ? map.step : Math.max(1e-6, (flood + map.most) / 5);
  material.uniforms.largest!.value = flood === undefined ? largest : Math.max(1e-6, flood + map.most);
  material.uniforms.deadband!.value = deadband;
  const mesh = new THREE.Mesh(geometry, material),
    ends: number[] = [],
    bold: number[] = [];
  map.lines.forEach((xy, k) => {
    const into = map.edges[k] === 0 ? bold : ends;
    for (let i = 0; i < xy.length; i += 2) into.push(xy[i]! + oe, xy[i + 1]! + on, 0);
  });
  return [
    piece(mesh, 1, triangles.length),
    ...thinLines(Float32Array.from(ends), colors.soft, 2),
    ...thinLines(Float32Array.from(bold), colors.ink, 3),
  ];
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
): { lines: Piece[]; surfaces: Piece[] } {
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
    lines: thinLines(Float32Array.from(lines), colors.soft, 12, inRelief(origin)),
    surfaces: thinLines(Float32Array.from(faces), colors.triangle, 5, inRelief(origin)),
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

const near = (s: Surface, v: number, origin: Origin): [e: number, n: number, height: number] => [
  s.x[v]! + s.origin[0] - origin[0],
  s.y[v]! + s.origin[1] - origin[1],
  inRelief(origin) ? s.z[v]! - origin[2]! : 0,
];

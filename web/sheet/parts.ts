/**
 * What the graphics card draws, made from typed arrays: points, lines, contours, triangles. Positions in its buffers are
 * offsets from the job's origin, never whole grid coordinates. What is many comes in several pieces, so that no frame
 * has to draw all of it.
 */
import * as THREE from "three";
import { LineMaterial } from "three/examples/jsm/lines/LineMaterial.js";
import { LineSegments2 } from "three/examples/jsm/lines/LineSegments2.js";
import { LineSegmentsGeometry } from "three/examples/jsm/lines/LineSegmentsGeometry.js";
import type { DrawingSettings } from "@bramble/core";
import { isDrawn } from "@bramble/core/drawing/layout";
import type { PointTable } from "@bramble/core/points/table";
import { chordsOf, type Reference } from "@bramble/core/records/reference";
import type { Contours } from "@bramble/core/surface/contour";
import type { Surface } from "@bramble/core/surface/model";
import type { View } from "../lib/view";
import { MAP_MATERIAL, POINT_MATERIAL } from "./materials";
import { hex, onSheet, type SheetColors } from "./theme";

/** Vertices in one piece. */
const BATCH = 40_000;

/** `userData.cost`: about how many vertices it is to draw; `userData.spacing`: how far apart points stand. */
export type Piece = THREE.Mesh<THREE.BufferGeometry, THREE.Material> | THREE.Points | THREE.LineSegments;
export type Origin = readonly [number, number];

export interface MapRange {
  level: number;
  largest: number;
  deadband: number;
}

/** Points in the colour of their code; control is marked. */
export function pointsOf(
  t: PointTable,
  view: View,
  colorOf: ReadonlyMap<string, string>,
  hidden: ReadonlySet<string>,
  colors: SheetColors,
  origin: Origin,
): Piece[] {
  const count = t.count;
  const position = new Float32Array(3 * count),
    color = new Float32Array(3 * count),
    kind = new Float32Array(count);
  // One colour for each code, not looked up for each point.
  const tints = view.codes.map((code, c) => {
    const known = colorOf.get(code);
    return known ? onSheet(known, colors.dark) : hex(view.known[c] === 0 ? colors.amber : colors.soft);
  });
  const plain = hex(colors.soft),
    unseen = view.codes.map((code) => hidden.has(code));
  let k = 0;
  for (let i = 0; i < count; i++) {
    if (t.deleted[i] || unseen[view.code[i] ?? 0]) continue;
    position[3 * k] = t.e[i]! - origin[0];
    position[3 * k + 1] = t.n[i]! - origin[1];
    const tint = tints[view.code[i] ?? 0] ?? plain;
    color[3 * k] = tint[0]!;
    color[3 * k + 1] = tint[1]!;
    color[3 * k + 2] = tint[2]!;
    kind[k] = t.kind[i] === 1 ? 1 : 0;
    k++;
  }
  return pointPieces(position.subarray(0, 3 * k), color.subarray(0, 3 * k), kind.subarray(0, k), 50);
}

function pointPieces(position: Float32Array, color: Float32Array, kind: Float32Array, order: number): Piece[] {
  const material = POINT_MATERIAL.clone(),
    spacing = spacingOf(position, kind.length);
  return slices(kind.length, BATCH, (from, to) => {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(position.subarray(3 * from, 3 * to), 3));
    geometry.setAttribute("tint", new THREE.BufferAttribute(color.subarray(3 * from, 3 * to), 3));
    geometry.setAttribute("kind", new THREE.BufferAttribute(kind.subarray(from, to), 1));
    const points = new THREE.Points(geometry, material);
    points.userData.spacing = spacing;
    return piece(points, order, to - from);
  });
}

export function linesOf(view: View, hidden: DrawingSettings["hidden"], colors: SheetColors, origin: Origin): Piece[] {
  const { xyz, starts } = view.chains;
  const segments = view.lines.reduce((s, _, l) => s + Math.max(0, starts[l + 1]! - starts[l]! - 1), 0);
  const position = new Float32Array(6 * segments),
    color = new Float32Array(6 * segments);
  let k = 0;
  view.lines.forEach((line, l) => {
    if (!isDrawn(line, hidden)) return;
    const tint = onSheet(line.color, colors.dark);
    for (let i = starts[l]! + 1; i < starts[l + 1]!; i++, k++) {
      position[6 * k] = xyz[3 * i - 3]! - origin[0];
      position[6 * k + 1] = xyz[3 * i - 2]! - origin[1];
      position[6 * k + 3] = xyz[3 * i]! - origin[0];
      position[6 * k + 4] = xyz[3 * i + 1]! - origin[1];
      color.set(tint, 6 * k);
      color.set(tint, 6 * k + 3);
    }
  });
  return thickLines(position.subarray(0, 6 * k), 2, color.subarray(0, 6 * k), 40);
}

export function contoursOf(
  list: readonly Contours[],
  colors: SheetColors,
  origin: Origin,
): { plain: Piece[]; index: Piece[] } {
  const build = (marked: number) => {
    const out = new Float32Array(6 * list.reduce((s, c) => s + c.xy.length / 2, 0));
    let k = 0;
    for (const c of list) {
      const de = c.origin[0] - origin[0],
        dn = c.origin[1] - origin[1];
      for (let l = 0; l < c.level.length; l++) {
        if (c.index[l] !== marked) continue;
        for (let i = c.starts[l]! + 1; i < c.starts[l + 1]!; i++, k += 6) {
          out[k] = c.xy[2 * i - 2]! + de;
          out[k + 1] = c.xy[2 * i - 1]! + dn;
          out[k + 3] = c.xy[2 * i]! + de;
          out[k + 4] = c.xy[2 * i + 1]! + dn;
        }
      }
    }
    return out.subarray(0, k);
  };
  return { plain: thinLines(build(0), colors.contour, 20), index: thickLines(build(1), 1.6, colors.contourIndex, 21) };
}

export function trianglesOf(s: Surface, colors: SheetColors, origin: Origin): Piece[] {
  // Each side once, from the half-edge of the higher number or on the outline.
  const out = new Float32Array(6 * s.tri.length);
  let k = 0;
  for (let h = 0; h < s.tri.length; h++) {
    if (s.twin[h]! > h) continue;
    for (const v of [s.tri[h]!, s.tri[h % 3 === 2 ? h - 2 : h + 1]!]) {
      const [e, n] = near(s, v, origin);
      out[k] = e;
      out[k + 1] = n;
      k += 3;
    }
  }
  return thinLines(out.subarray(0, k), colors.triangle, 10);
}

/**
 * The difference between the surface and a level: cut in one colour, fill in the other and hatched, so that grey paper
 * tells them apart.
 */
export function mapOf(s: Surface, range: MapRange, colors: SheetColors, origin: Origin): Piece[] {
  const position = new Float32Array(3 * s.x.length),
    d = new Float32Array(s.x.length);
  for (let v = 0; v < s.x.length; v++) {
    const [e, n] = near(s, v, origin);
    position[3 * v] = e;
    position[3 * v + 1] = n;
    d[v] = range.level - s.z[v]!;
  }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.BufferAttribute(position, 3));
  geometry.setAttribute("difference", new THREE.BufferAttribute(d, 1));
  geometry.setIndex(new THREE.BufferAttribute(Uint32Array.from(s.tri), 1));
  const material = MAP_MATERIAL.clone();
  material.uniforms.cutColor!.value = new THREE.Vector3(...hex(colors.cut));
  material.uniforms.fillColor!.value = new THREE.Vector3(...hex(colors.fill));
  material.uniforms.paper!.value = new THREE.Vector3(...hex(colors.sheet));
  material.uniforms.hatch!.value = new THREE.Vector3(...hex(colors.fill)).multiplyScalar(colors.dark ? 1.35 : 0.55);
  material.uniforms.largest!.value = range.largest;
  material.uniforms.deadband!.value = range.deadband;
  const mesh = new THREE.Mesh(geometry, material);
  return [piece(mesh, 1, s.tri.length)];
}

/** Reference geometry under the job: lines with their arcs, and the outlines and triangles of surfaces. */
export function referenceOf(
  list: readonly Reference[],
  colors: SheetColors,
  origin: Origin,
): { lines: Piece[]; surfaces: Piece[] } {
  const lines: number[] = [],
    faces: number[] = [];
  const [oe, on] = origin;
  for (const { lines: drawn, surfaces } of list) {
    for (const l of drawn)
      for (const [a, b] of chordsOf(l)) lines.push(a[0] - oe, a[1] - on, 0, b[0] - oe, b[1] - on, 0);
    for (const s of surfaces) {
      for (let f = 0; f < s.faces.length; f += 3)
        for (let k = 0; k < 3; k++) {
          const v = s.faces[f + k]!,
            w = s.faces[f + ((k + 1) % 3)]!;
          faces.push(
            s.points[3 * v]! - oe,
            s.points[3 * v + 1]! - on,
            0,
            s.points[3 * w]! - oe,
            s.points[3 * w + 1]! - on,
            0,
          );
        }
    }
  }
  return {
    lines: thinLines(Float32Array.from(lines), colors.soft, 12),
    surfaces: thinLines(Float32Array.from(faces), colors.triangle, 5),
  };
}

/** Points of an intake not taken in yet, as east, north pairs. */
export function incomingOf(places: Float64Array, colors: SheetColors, origin: Origin): Piece[] {
  const count = places.length / 2,
    position = new Float32Array(3 * count),
    tint = hex(colors.bramble);
  for (let i = 0; i < count; i++) {
    position[3 * i] = places[2 * i]! - origin[0];
    position[3 * i + 1] = places[2 * i + 1]! - origin[1];
  }
  const color = Float32Array.from({ length: 3 * count }, (_, i) => tint[i % 3]!);
  return pointPieces(position, color, new Float32Array(count), 60);
}

const near = (s: Surface, v: number, origin: Origin): [number, number] => [
  s.x[v]! + s.origin[0] - origin[0],
  s.y[v]! + s.origin[1] - origin[1],
];

/** Pairs of ends, three numbers each, as lines of one pixel. */
function thinLines(position: Float32Array, color: string, order: number): Piece[] {
  const material = new THREE.LineBasicMaterial({ color: new THREE.Color(...hex(color)), depthTest: false });
  return slices(position.length / 6, BATCH / 2, (from, to) => {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(position.subarray(6 * from, 6 * to), 3));
    return piece(new THREE.LineSegments(geometry, material), order, 2 * (to - from));
  });
}

/** The same, `width` pixels wide. */
function thickLines(position: Float32Array, width: number, color: Float32Array | string, order: number): Piece[] {
  const own = typeof color !== "string",
    material = new LineMaterial({ linewidth: width, vertexColors: own, depthTest: false });
  if (!own) material.color = new THREE.Color(...hex(color));
  // A thick segment is eight corners drawn many times over.
  return slices(position.length / 6, BATCH / 8, (from, to) => {
    const geometry = new LineSegmentsGeometry();
    geometry.setPositions(position.subarray(6 * from, 6 * to));
    if (own) geometry.setColors(color.subarray(6 * from, 6 * to));
    return piece(new LineSegments2(geometry, material) as unknown as Piece, order, 8 * (to - from));
  });
}

function piece<P extends Piece>(made: P, order: number, cost: number): P {
  made.renderOrder = order;
  made.frustumCulled = false;
  made.userData.cost = cost;
  return made;
}

function slices(count: number, most: number, make: (from: number, to: number) => Piece): Piece[] {
  const out: Piece[] = [];
  for (let from = 0; from < count; from += most) out.push(make(from, Math.min(count, from + most)));
  return out;
}

/** About how far apart points are: the side of the square that each would have of the middle half of their extent. */
function spacingOf(position: Float32Array, count: number): number {
  if (count < 4) return Infinity;
  // Of very many a few thousand tell as much.
  const size = Math.min(count, 20_000),
    step = count / size;
  const middle = (axis: number) => {
    const sorted = new Float32Array(size);
    for (let i = 0; i < size; i++) sorted[i] = position[3 * Math.floor(i * step) + axis]!;
    sorted.sort();
    return sorted[Math.floor(0.75 * size)]! - sorted[Math.floor(0.25 * size)]!;
  };
  return Math.sqrt((middle(0) * middle(1) * 4) / count) || 1;
}

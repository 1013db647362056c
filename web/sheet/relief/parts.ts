/** What the relief is drawn of: the ground in light and shade with its sides down to a base, and points upon it. */
import * as THREE from "three";
import type { PointTable } from "@bramble/core/points/table";
import type { Surface } from "@bramble/core/surface/model";
import type { DifferenceMap } from "@bramble/core/volumes/map";
import type { Dots } from "../painting/dots";
import { MOST_CLASSES, valuesOf, type GroundClasses } from "../ground";
import type { GroundSeen } from "../../lib/state/choices";
import { near, onPaper, type Origin } from "../parts";
import { GROUND_MATERIAL } from "./materials";
import { BATCH, piece, slices, type Piece } from "./primitives";
import { readerOf } from "../surface-reader";
import { hex, type SheetColors } from "../../lib/theme";
import type { ReliefScene } from "./scene";

/** The ground as plain paper has it. */
export const plainGround = (colors: SheetColors): GroundClasses => ({
  edges: [],
  classes: [{ name: "", color: colors.dark ? "#7d7464" : "#d9cfb4" }],
});

/** How a surface's classes are drawn; levels count from one near them, since the card knows seven digits. */
function groundMaterial(
  s: Surface,
  { edges, classes }: GroundClasses,
  seen: GroundSeen,
  colors: SheetColors,
): THREE.ShaderMaterial {
  const bySlope = seen === "slopes",
    from = seen === "spacing" ? 0 : bySlope ? (s.z[0] ?? 0) : (edges[edges.length >> 1] ?? 0);
  const material = GROUND_MATERIAL.clone();
  material.defines = { MOST: MOST_CLASSES };
  material.uniforms.from!.value = from;
  material.uniforms.count!.value = edges.length;
  material.uniforms.bySlope!.value = bySlope;
  material.uniforms.edges!.value = Float32Array.from(
    { length: MOST_CLASSES },
    (_, k) => (edges[k] ?? 0) - (bySlope ? 0 : from),
  );
  material.uniforms.colors!.value = Array.from(
    { length: MOST_CLASSES },
    (_, k) => new THREE.Vector3(...onPaper(classes[Math.min(k, classes.length - 1)]!.color, colors)),
  );
  return material;
}

/**
 * The triangles of a surface, each vertex with its level above `from`; with `values`, one for each triangle, vertices are
 * not shared.
 */
function groundGeometry(s: Surface, from: number, origin: Origin, values?: Float32Array): THREE.BufferGeometry {
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

function litMaterial(
  s: Surface,
  classes: GroundClasses,
  seen: GroundSeen,
  colors: SheetColors,
  scene: ReliefScene,
): THREE.ShaderMaterial {
  const material = groundMaterial(s, classes, seen, colors);
  // Lines that run in the ground are drawn on it.
  material.polygonOffset = true;
  material.polygonOffsetFactor = material.polygonOffsetUnits = 2;
  material.uniforms.light = scene.light;
  material.uniforms.heights = scene.heights;
  return material;
}

/** The ground of a surface, in pieces of so many triangles that no frame has to draw all. */
export function litGroundOf(
  s: Surface,
  classes: GroundClasses,
  seen: GroundSeen,
  colors: SheetColors,
  scene: ReliefScene,
  origin: Origin,
): Piece[] {
  const material = litMaterial(s, classes, seen, colors, scene),
    whole = groundGeometry(s, material.uniforms.from!.value as number, origin, valuesOf(s, seen));
  return slices(s.tri.length, 3 * Math.floor(BATCH / 3), (from, to) => {
    const geometry = new THREE.BufferGeometry();
    for (const [name, attribute] of Object.entries(whole.attributes)) geometry.setAttribute(name, attribute);
    geometry.setIndex(whole.index);
    geometry.setDrawRange(from, to - from);
    return piece(new THREE.Mesh(geometry, material), 0, to - from);
  });
}

/** How much of what lies behind another surface it hides. */
const GLASS = 0.45;

/** A surface beside the one that one is at, as glass of a colour: what lies below it is seen through it. */
export function glassOf(s: Surface, color: string, colors: SheetColors, scene: ReliefScene, origin: Origin): Piece[] {
  const pieces = litGroundOf(s, { edges: [], classes: [{ name: "", color }] }, "plain", colors, scene, origin);
  for (const glass of pieces) {
    const material = (glass as unknown as THREE.Mesh).material as THREE.ShaderMaterial;
    material.transparent = true;
    material.depthWrite = false;
    material.uniforms.opacity!.value = GLASS;
    // Where it lies in the ground itself it is seen on it.
    material.polygonOffsetFactor = material.polygonOffsetUnits = 1;
    // After all that is solid.
    glass.renderOrder = 60;
  }
  return pieces;
}

/** How much of the ground is seen through water. */
const WATER = 0.62;

/** Water up to a level, over what lies under it: flat, so that the ground that stands out of it hides the rest. */
export function waterOf(map: DifferenceMap, level: number, colors: SheetColors, origin: Origin): Piece[] {
  const { corners, triangles } = map,
    position = new Float32Array(corners.length),
    [oe, on, base = 0] = origin,
    wet: number[] = [];
  for (let v = 0; v < corners.length; v += 3) {
    position[v] = corners[v]! + map.origin[0] - oe;
    position[v + 1] = corners[v + 1]! + map.origin[1] - on;
    position[v + 2] = level - base;
  }
  // The depth under level 0 and the level: a triangle that is dry at all its corners carries no water.
  for (let k = 0; k < triangles.length; k += 3)
    if ([0, 1, 2].some((i) => corners[3 * triangles[k + i]! + 2]! + level > 0))
      wet.push(triangles[k]!, triangles[k + 1]!, triangles[k + 2]!);
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.BufferAttribute(position, 3));
  geometry.setIndex(new THREE.BufferAttribute(Uint32Array.from(wet), 1));
  const mesh = new THREE.Mesh(
    geometry,
    new THREE.MeshBasicMaterial({
      color: colors.fill,
      transparent: true,
      opacity: WATER,
      depthWrite: false,
      side: THREE.DoubleSide,
    }),
  );
  return [piece(mesh, 65, wet.length)];
}

/** Steps of the coarse ground along the longer side. */
const COARSE = 120;

/** The ground read at the corners of a grid: what is drawn of a large surface while it is turned. */
export function coarseGroundOf(
  s: Surface,
  classes: GroundClasses,
  seen: GroundSeen,
  colors: SheetColors,
  scene: ReliefScene,
  origin: Origin,
): Piece[] {
  const material = litMaterial(s, classes, seen, colors, scene),
    from = material.uniforms.from!.value as number,
    reader = readerOf(s),
    values = valuesOf(s, seen);
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let v = 0; v < s.x.length; v++) {
    minX = Math.min(minX, s.x[v]!);
    maxX = Math.max(maxX, s.x[v]!);
    minY = Math.min(minY, s.y[v]!);
    maxY = Math.max(maxY, s.y[v]!);
  }
  const step = Math.max(maxX - minX, maxY - minY) / COARSE,
    columns = Math.ceil((maxX - minX) / step) + 1,
    rows = Math.ceil((maxY - minY) / step) + 1;
  const position = new Float32Array(3 * columns * rows),
    level = new Float32Array(columns * rows).fill(NaN),
    index: number[] = [];
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) {
      const v = r * columns + c,
        [e, n] = [s.origin[0] + minX + c * step, s.origin[1] + minY + r * step],
        under = reader.at(e, n),
        z = under?.level ?? NaN;
      position.set([e - origin[0], n - origin[1], z - origin[2]!], 3 * v);
      level[v] = (values && under ? values[under.triangle]! : z) - from;
      if (r === 0 || c === 0) continue;
      const corners = [v - columns - 1, v - columns, v, v - 1];
      if (corners.some((k) => Number.isNaN(level[k]!))) continue;
      const [sw, se, ne, nw] = corners as [number, number, number, number];
      index.push(sw, se, ne, sw, ne, nw);
    }
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute("position", new THREE.BufferAttribute(position, 3));
  geometry.setAttribute("level", new THREE.BufferAttribute(level, 1));
  geometry.setIndex(index);
  return [piece(new THREE.Mesh(geometry, material), 0, index.length)];
}

const SIDE_MATERIAL = new THREE.ShaderMaterial({
  side: THREE.DoubleSide,
  uniforms: { color: { value: null }, light: { value: new THREE.Vector3() } },
  vertexShader: `
    varying vec3 at;
    void main() { at = position; gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }`,
  // A wall is lit by the way it faces alone, whichever way round it was drawn.
  fragmentShader: `
    varying vec3 at; uniform vec3 color; uniform vec3 light;
    void main() {
      vec3 across = cross(dFdx(at), dFdy(at));
      float lit = length(across.xy) > 0.0 ? dot(normalize(across.xy), normalize(light.xy)) : 0.0;
      gl_FragColor = vec4(color * (0.86 + 0.1 * abs(lit)), 1.0);
    }`,
});

/** Walls from the outline of a surface down to a level, so that the ground stands as a block. */
export function sidesOf(s: Surface, down: number, colors: SheetColors, scene: ReliefScene, origin: Origin): Piece[] {
  const outline: number[] = [];
  for (let h = 0; h < s.tri.length; h++) if (s.twin[h] === -1) outline.push(h);
  const material = SIDE_MATERIAL.clone();
  const [r, g, b] = hex(colors.dark ? "#5b5347" : "#c9bea6");
  material.uniforms.color!.value = new THREE.Vector3(r, g, b);
  material.uniforms.light = scene.light;
  const bottom = down - origin[2]!;
  return slices(outline.length, Math.floor(BATCH / 6), (from, to) => {
    const position = new Float32Array(18 * (to - from));
    for (let k = from; k < to; k++) {
      const h = outline[k]!,
        ends = [s.tri[h]!, s.tri[h % 3 === 2 ? h - 2 : h + 1]!].map((v): [number, number, number] => [
          s.x[v]! + s.origin[0] - origin[0],
          s.y[v]! + s.origin[1] - origin[1],
          s.z[v]! - origin[2]!,
        ]);
      const [a, b] = ends as [[number, number, number], [number, number, number]],
        [c, d]: [number, number, number][] = [
          [b[0], b[1], bottom],
          [a[0], a[1], bottom],
        ];
      position.set([...a, ...b, ...c!, ...a, ...c!, ...d!], 18 * (k - from));
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(position, 3));
    return piece(new THREE.Mesh(geometry, material), 1, 6 * (to - from));
  });
}

const POINT_MATERIAL = new THREE.ShaderMaterial({
  uniforms: { across: { value: 1 } },
  // A little nearer than it is: a point in the ground is seen on it.
  vertexShader: `
    attribute vec3 tint; varying vec3 vTint; uniform float across;
    void main() {
      vTint = tint;
      gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
      gl_Position.z -= 0.0006 * gl_Position.w;
      gl_PointSize = across;
    }`,
  fragmentShader: "varying vec3 vTint; void main() { gl_FragColor = vec4(vTint, 1.0); }",
});

/** Points at their levels as small squares of their colours. */
export function standingPointsOf(
  t: PointTable,
  dots: Dots,
  levelOf: (row: number) => number,
  scene: ReliefScene,
  origin: Origin,
): Piece[] {
  const material = POINT_MATERIAL.clone();
  material.uniforms.across = scene.dotSize;
  return slices(t.count, BATCH, (from, to) => {
    const position = new Float32Array(3 * (to - from)),
      tint = new Uint8Array(3 * (to - from)),
      color = new Uint32Array(1),
      bytes = new Uint8Array(color.buffer);
    let k = 0;
    for (let i = from; i < to; i++) {
      const height = levelOf(i) - origin[2]!;
      color[0] = dots.color(i);
      if (color[0] === 0 || Number.isNaN(height)) continue;
      position.set([t.e[i]! - origin[0], t.n[i]! - origin[1], height], 3 * k);
      tint.set(bytes.subarray(0, 3), 3 * k);
      k++;
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(position.slice(0, 3 * k), 3));
    geometry.setAttribute("tint", new THREE.BufferAttribute(tint.slice(0, 3 * k), 3, true));
    return piece(new THREE.Points(geometry, material), 50, 2 * k);
  });
}

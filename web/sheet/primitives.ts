/** Lines and meshes as pieces that the graphics card draws one after another: what is many comes in several. */
import * as THREE from "three";
import { alongCurve } from "@bramble/core/surface/curve";
import { LINE_MATERIAL } from "./materials";
import { hex } from "./theme";

/** Vertices in one piece: few enough for one frame, and for much of a large drawing to lie outside a near window. */
export const BATCH = 20_000;

/**
 * `userData.cost`: about how many vertices it is to draw. `userData.box`: where it lies in plan, as offsets from the
 * scene's origin; without one it is drawn wherever the window is.
 */
export type Piece = THREE.Mesh<THREE.BufferGeometry, THREE.Material> | THREE.LineSegments | THREE.Points;

/** Pairs of ends, three numbers each, as lines of one pixel; `depthTest`: hidden by what stands before them. */
export function thinLines(given: Float32Array, color: string, order: number, depthTest = false): Piece[] {
  const { position } = byNearness(given, BATCH / 2);
  const material = new THREE.LineBasicMaterial({ color: new THREE.Color(...hex(color)), depthTest });
  return slices(position.length / 6, BATCH / 2, (from, to) => {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(position.subarray(6 * from, 6 * to), 3));
    return piece(new THREE.LineSegments(geometry, material), order, 2 * (to - from), boxOfSides(position, from, to));
  });
}

/** The same, `width` pixels wide; one colour, or one for each end. */
export function thickLines(
  given: Float32Array,
  width: number,
  tints: Float32Array | string,
  order: number,
  depthTest = false,
): Piece[] {
  const { position, color = "" } = byNearness(given, BATCH / 4, tints);
  const material = LINE_MATERIAL.clone();
  material.depthTest = depthTest;
  material.uniforms.width!.value = width;
  const one = typeof color === "string" ? hex(color) : undefined;
  return slices(position.length / 6, BATCH / 4, (from, to) => {
    const count = to - from,
      here = new Float32Array(12 * count),
      other = new Float32Array(12 * count),
      aside = new Int8Array(4 * count),
      tint = new Uint8Array(12 * count),
      index = new Uint32Array(6 * count);
    for (let s = 0; s < count; s++) {
      const at = 6 * (from + s),
        v = 4 * s;
      // Left and right of the first end; seen from the second, right and left are exchanged.
      for (let k = 0; k < 4; k++) {
        const [mine, its] = k < 2 ? [at, at + 3] : [at + 3, at];
        for (let axis = 0; axis < 3; axis++) {
          here[3 * (v + k) + axis] = position[mine + axis]!;
          other[3 * (v + k) + axis] = position[its + axis]!;
          tint[3 * (v + k) + axis] = 255 * (one ? one[axis]! : (color as Float32Array)[mine + axis]!);
        }
        aside[v + k] = k % 2 === 0 ? 1 : -1;
      }
      index.set([v, v + 1, v + 2, v, v + 2, v + 3], 6 * s);
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(here, 3));
    geometry.setAttribute("other", new THREE.BufferAttribute(other, 3));
    geometry.setAttribute("aside", new THREE.BufferAttribute(aside, 1));
    geometry.setAttribute("tint", new THREE.BufferAttribute(tint, 3, true));
    geometry.setIndex(new THREE.BufferAttribute(index, 1));
    return piece(new THREE.Mesh(geometry, material), order, 4 * count, boxOfSides(position, from, to));
  });
}

export function piece<P extends Piece>(made: P, order: number, cost: number, box?: Corners): P {
  made.renderOrder = order;
  made.frustumCulled = false;
  made.userData.cost = cost;
  made.userData.box = box;
  return made;
}

/** West, south, east, north. */
export type Corners = readonly [number, number, number, number];

/** Sides in an order in which those of one piece lie near one another, where they are more than one piece. */
function byNearness<C extends Float32Array | string>(position: Float32Array, most: number, color?: C) {
  const count = position.length / 6;
  if (count <= most) return { position, color };
  const middle = (axis: number) =>
      Float64Array.from({ length: count }, (_, k) => position[6 * k + axis]! + position[6 * k + 3 + axis]!),
    order = alongCurve(middle(0), middle(1)),
    sorted = new Float32Array(position.length),
    tints = typeof color === "object" ? new Float32Array(position.length) : undefined;
  order.forEach((from, to) => {
    for (let k = 0; k < 6; k++) sorted[6 * to + k] = position[6 * from + k]!;
    if (tints) for (let k = 0; k < 6; k++) tints[6 * to + k] = (color as Float32Array)[6 * from + k]!;
  });
  return { position: sorted, color: tints ?? color };
}

function boxOfSides(position: Float32Array, from: number, to: number): Corners {
  let [w, s, e, n] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let k = 6 * from; k < 6 * to; k += 3) {
    w = Math.min(w, position[k]!);
    e = Math.max(e, position[k]!);
    s = Math.min(s, position[k + 1]!);
    n = Math.max(n, position[k + 1]!);
  }
  return [w, s, e, n];
}

export function slices(count: number, most: number, make: (from: number, to: number) => Piece): Piece[] {
  const out: Piece[] = [];
  for (let from = 0; from < count; from += most) out.push(make(from, Math.min(count, from + most)));
  return out;
}

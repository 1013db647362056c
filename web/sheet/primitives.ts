/** Lines and meshes as pieces that the graphics card draws one after another: what is many comes in several. */
import * as THREE from "three";
import { LINE_MATERIAL } from "./materials";
import { hex } from "./theme";

/** Vertices in one piece. */
export const BATCH = 40_000;

/** `userData.cost`: about how many vertices it is to draw. */
export type Piece = THREE.Mesh<THREE.BufferGeometry, THREE.Material> | THREE.LineSegments | THREE.Points;

/** Pairs of ends, three numbers each, as lines of one pixel; `depthTest`: hidden by what stands before them. */
export function thinLines(position: Float32Array, color: string, order: number, depthTest = false): Piece[] {
  const material = new THREE.LineBasicMaterial({ color: new THREE.Color(...hex(color)), depthTest });
  return slices(position.length / 6, BATCH / 2, (from, to) => {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(position.subarray(6 * from, 6 * to), 3));
    return piece(new THREE.LineSegments(geometry, material), order, 2 * (to - from));
  });
}

/** The same, `width` pixels wide; one colour, or one for each end. */
export function thickLines(
  position: Float32Array,
  width: number,
  color: Float32Array | string,
  order: number,
  depthTest = false,
): Piece[] {
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
    return piece(new THREE.Mesh(geometry, material), order, 4 * count);
  });
}

export function piece<P extends Piece>(made: P, order: number, cost: number): P {
  made.renderOrder = order;
  made.frustumCulled = false;
  made.userData.cost = cost;
  return made;
}

export function slices(count: number, most: number, make: (from: number, to: number) => Piece): Piece[] {
  const out: Piece[] = [];
  for (let from = 0; from < count; from += most) out.push(make(from, Math.min(count, from + most)));
  return out;
}

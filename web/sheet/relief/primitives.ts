/** Lines and meshes as pieces that the graphics card draws one after another: what is many comes in several. */
import * as THREE from "three";
import { LINE_MATERIAL } from "./materials";
import { strokeCount, type Strokes } from "../painting/strokes";

/** Vertices in one piece: few enough for one frame. */
export const BATCH = 20_000;

/** `userData.cost`: about how many vertices it is to draw. */
export type Piece = THREE.Mesh<THREE.BufferGeometry, THREE.Material> | THREE.LineSegments | THREE.Points;

/** Strokes in relief, where what stands before them hides them. */
export const piecesOf = (s: Strokes): Piece[] => (s.width === 1 ? thinLines(s) : thickLines(s));

function thinLines(s: Strokes): Piece[] {
  const { ends, color, order } = s,
    material = new THREE.LineBasicMaterial({ color: new THREE.Color(...color) });
  return slices(strokeCount(s), BATCH / 2, (from, to) => {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(ends.subarray(6 * from, 6 * to), 3));
    return piece(new THREE.LineSegments(geometry, material), order, 2 * (to - from));
  });
}

function thickLines(s: Strokes): Piece[] {
  const { ends, width, color, order } = s;
  const material = LINE_MATERIAL.clone();
  material.uniforms.width!.value = width;
  material.uniforms.color!.value = new THREE.Vector3(...color);
  return slices(strokeCount(s), BATCH / 4, (from, to) => {
    const count = to - from,
      here = new Float32Array(12 * count),
      other = new Float32Array(12 * count),
      aside = new Int8Array(4 * count),
      index = new Uint32Array(6 * count);
    for (let n = 0; n < count; n++) {
      const at = 6 * (from + n),
        v = 4 * n;
      // Left and right of the first end; seen from the second, right and left are exchanged.
      for (let k = 0; k < 4; k++) {
        const [mine, its] = k < 2 ? [at, at + 3] : [at + 3, at];
        for (let axis = 0; axis < 3; axis++) {
          here[3 * (v + k) + axis] = ends[mine + axis]!;
          other[3 * (v + k) + axis] = ends[its + axis]!;
        }
        aside[v + k] = k % 2 === 0 ? 1 : -1;
      }
      index.set([v, v + 1, v + 2, v, v + 2, v + 3], 6 * n);
    }
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute("position", new THREE.BufferAttribute(here, 3));
    geometry.setAttribute("other", new THREE.BufferAttribute(other, 3));
    geometry.setAttribute("aside", new THREE.BufferAttribute(aside, 1));
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

/**
 * Sums over the triangles of a surface, block by block, each compensated. After few levels changed only the blocks that
 * they touch are summed again; what comes out is the very same number as of a whole summing.
 */
import { Sum } from "../math/sum";
import type { Surface } from "./model";

/** Triangles of a block. */
const BLOCK = 512;

/** What is kept between summings of one thing over one surface. */
export interface KeptSums {
  of?: { surface: Surface; values: Float64Array };
}

/**
 * Sums of `count` kinds: `add` adds what the triangle with the first half-edge h gives to each. `touched` are triangles
 * that give something else for another reason than their own levels.
 */
export function sumTriangles(
  surface: Surface,
  count: number,
  add: (h: number, sums: readonly Sum[]) => void,
  kept: KeptSums = {},
  touched: Iterable<number> = [],
): number[] {
  const { tri } = surface,
    blocks = Math.ceil(tri.length / (3 * BLOCK)),
    dirty = kept.of && touchedBlocks(kept.of.surface, surface, blocks);
  if (dirty) for (const t of touched) dirty[Math.floor(t / BLOCK)] = 1;
  const values = dirty ? kept.of!.values.slice() : new Float64Array(blocks * count);
  for (let b = 0; b < blocks; b++) {
    if (dirty && dirty[b] === 0) continue;
    const sums = Array.from({ length: count }, () => new Sum());
    for (let h = 3 * BLOCK * b, end = Math.min(tri.length, h + 3 * BLOCK); h < end; h += 3) add(h, sums);
    sums.forEach((s, k) => (values[b * count + k] = s.value));
  }
  kept.of = { surface, values };
  return Array.from({ length: count }, (_, k) => {
    const total = new Sum();
    for (let b = 0; b < blocks; b++) total.add(values[b * count + k]!);
    return total.value;
  });
}

/** 1 where a block has a triangle at a vertex of another level; undefined when the mesh itself is another. */
function touchedBlocks(was: Surface, now: Surface, blocks: number): Uint8Array | undefined {
  if (was.tri !== now.tri || was.x !== now.x || was.y !== now.y) return undefined;
  const moved = movedVertices(was.z, now.z),
    touched = new Uint8Array(blocks);
  for (let h = 0; h < now.tri.length; h++) if (moved[now.tri[h]!] === 1) touched[Math.floor(h / (3 * BLOCK))] = 1;
  return touched;
}

/** 1 where a level is another. */
export function movedVertices(was: Float64Array, now: Float64Array): Uint8Array {
  const moved = new Uint8Array(now.length);
  for (let v = 0; v < now.length; v++) if (!Object.is(was[v], now[v])) moved[v] = 1;
  return moved;
}

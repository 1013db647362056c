/** From vertices of a surface to the shots that their levels rest on. */
import { next, prev } from "../surface/mesh";
import type { Surface } from "../surface/model";

/** Vertices looked at before the search for shots round one ends. */
const FAR = 400;
/** A shot along a breakline counts before one across the ground until it is so many times farther off. */
const ALONG = 4;

/** The shots that a vertex rests on, by their table rows, with their shares of its level. */
export type Rests = [row: number, share: number][];

/**
 * Where a shot stands at a vertex it is that; else the shots next to it along breaklines (on arcs, curves and where lines
 * cross), or round it on the ground (where an edge was cut), by the inverse of their distance. Nothing where the surface
 * has no shots.
 */
export function restsOf(s: Surface): (vertex: number) => Rests {
  const { point } = s;
  if (!point.some((p) => p >= 0)) return () => [];
  const sideOf = new Int32Array(s.x.length).fill(-1);
  for (let h = 0; h < s.tri.length; h++) if (sideOf[s.tri[h]!]! < 0 || s.twin[prev(h)] === -1) sideOf[s.tri[h]!] = h;
  return (vertex) => {
    if (point[vertex]! >= 0) return [[point[vertex]!, 1]];
    const round = nearest(s, sideOf, vertex, false),
      along = nearest(s, sideOf, vertex, true),
      reach = round.reduce((least, [, far]) => Math.min(least, far), Infinity);
    const chosen = along.length > 0 && along.every(([, far]) => far <= ALONG * reach) ? along : round,
      total = chosen.reduce((sum, [, far]) => sum + 1 / far, 0);
    return chosen.map(([v, far]) => [point[v]!, 1 / far / total]);
  };
}

/** The vertices with a shot that are met first on all ways from one, and how far the ways are. */
function nearest(s: Surface, sideOf: Int32Array, from: number, onlyFixed: boolean): [vertex: number, far: number][] {
  const far = new Map([[from, 0]]),
    queue = [from],
    found: [number, number][] = [];
  for (let k = 0; k < queue.length && queue.length < FAR; k++) {
    const v = queue[k]!;
    for (const [w, fixed] of neighbours(s, sideOf, v)) {
      if (far.has(w) || (onlyFixed && !fixed)) continue;
      const way = far.get(v)! + Math.max(1e-9, Math.hypot(s.x[w]! - s.x[v]!, s.y[w]! - s.y[v]!));
      far.set(w, way);
      if (s.point[w]! >= 0) found.push([w, way]);
      else queue.push(w);
    }
    if (!onlyFixed && found.length >= 3) break;
  }
  return found;
}

/** The neighbours of a vertex, and whether a breakline runs to them. */
function neighbours(s: Surface, sideOf: Int32Array, v: number): [vertex: number, fixed: boolean][] {
  const out: [number, boolean][] = [],
    first = sideOf[v]!;
  if (first < 0) return out;
  // Counter-clockwise from the first side, which is that of the outline where the vertex is on it.
  for (let h = first; ;) {
    out.push([s.tri[next(h)]!, s.fixed[h] === 1]);
    const onward = s.twin[prev(h)]!;
    if (onward === -1) {
      out.push([s.tri[prev(h)]!, s.fixed[prev(h)] === 1]);
      break;
    }
    if (onward === first) break;
    h = onward;
  }
  return out;
}

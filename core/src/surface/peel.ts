/**
 * An outline fitted to the points: triangles with a long side on the outline are peeled, the longest first (Duckham,
 * Kulik, Worboys, Galton 2008).
 */
import FlatQueue from "flatqueue";
import { next, prev, type TriMesh } from "./mesh";

const triangleOf = (h: number) => (h - (h % 3)) / 3;

/**
 * Peels triangles whose side on the outline is longer than `most`, none over a breakline or a drawn ring. With `oneRing`
 * only while the outline stays one simple ring; else the surface may fall into parts.
 */
export function peel(mesh: TriMesh, most: number, oneRing: boolean): void {
  const { tri, twin, owner, x, y } = mesh,
    gone = new Uint8Array(mesh.triangles),
    outline = new Uint8Array(mesh.vertices),
    queue = new FlatQueue<number>();
  const offer = (h: number) => {
    const [a, b] = [tri[h]!, tri[next(h)]!],
      length = Math.hypot(x[b]! - x[a]!, y[b]! - y[a]!);
    outline[a] = outline[b] = 1;
    if (owner[h] === 0 && length > most) queue.push(h, -length);
  };
  for (let h = 0; h < 3 * mesh.triangles; h++) if (twin[h] === -1) offer(h);
  const isOuter = (s: number) => twin[s]! < 0 || gone[triangleOf(twin[s]!)] === 1;
  let left = mesh.triangles;
  for (let h = queue.pop(); h !== undefined; h = queue.pop()) {
    const t = triangleOf(h);
    if (gone[t] === 1) continue;
    const outer = [h, next(h), prev(h)].filter(isOuter);
    if (outer.some((s) => owner[s] !== 0)) continue;
    // The outline stays a simple ring where it gains a corner that it had not, or loses one.
    if (oneRing && (left === 1 || (outer.length === 1 && outline[tri[prev(h)]!] === 1))) continue;
    gone[t] = 1;
    left--;
    for (const inner of [next(h), prev(h)]) {
      const o = twin[inner]!;
      // A neighbour that could not go before may go now, by any of its outer sides.
      if (o >= 0 && gone[triangleOf(o)] === 0) for (const s of [o, next(o), prev(o)]) if (isOuter(s)) offer(s);
    }
  }
  // From the end, since the last triangle fills the gap.
  for (let t = gone.length - 1; t >= 0; t--) if (gone[t] === 1) mesh.removeTriangle(t);
}

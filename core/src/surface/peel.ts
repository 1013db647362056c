/**
 * An outline fitted to the points: triangles with a long side on the outline are peeled, the longest first (Duckham,
 * Kulik, Worboys, Galton 2008).
 */
import FlatQueue from "flatqueue";
import { next, prev, type TriMesh } from "./mesh";

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
  let left = mesh.triangles;
  for (let h = queue.pop(); h !== undefined; h = queue.pop()) {
    const t = (h - (h % 3)) / 3;
    if (gone[t] === 1 || (oneRing && (outline[tri[prev(h)]!] === 1 || left === 1))) continue;
    gone[t] = 1;
    left--;
    for (const inner of [next(h), prev(h)]) {
      const o = twin[inner]!;
      if (o >= 0 && gone[(o - (o % 3)) / 3] === 0) offer(o);
    }
  }
  // From the end, since the last triangle fills the gap.
  for (let t = gone.length - 1; t >= 0; t--) if (gone[t] === 1) mesh.removeTriangle(t);
}

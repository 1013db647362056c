/** Lines → chords, where chords are needed: drawing, surfaces, text formats that know no arcs. */
import type { Line } from "./model";
import { placeOnArc } from "./arc";
import { chordsOfCurve, placeOnCurve } from "./curve";

/** All lines as chains of vertices: line k has the vertices [starts[k], starts[k + 1]). A closed line repeats its first. */
export interface Chains {
  /** East, north, level of each vertex; a level not known is NaN. */
  xyz: Float64Array;
  /** Table place of the shot that stands exactly here, −1 for a vertex that no shot made. */
  shot: Int32Array;
  starts: Uint32Array;
}

/**
 * `chord` is the largest distance from an arc or curve to its chords, in the job's unit. Places where levels on an arc are known are kept.
 * With `usable` the levels of shots marked 0 there are not known, nor those that an arc takes from them.
 */
export function flattenLines(lines: readonly Line[], chord: number, usable?: Uint8Array): Chains {
  const xyz: number[] = [], shot: number[] = [];
  const starts = new Uint32Array(lines.length + 1);
  lines.forEach((line, k) => {
    if (line.pieces.length === 0) {
      starts[k + 1] = shot.length;
      return;
    }
    const push = (e: number, n: number, z: number, s: number) => {
      xyz.push(e, n, s >= 0 && usable && !usable[s] ? NaN : z);
      shot.push(s);
    };
    const first = line.pieces[0]!;
    push(...first.from, first.shots[0]!);
    for (const p of line.pieces) {
      const known = !usable || p.shots.every((s) => s < 0 || usable[s]);
      if (p.type === "curve") {
        for (const u of chordsOfCurve(p, chord).slice(1, -1)) {
          const [e, n, z] = placeOnCurve(p, u);
          push(e, n, known ? z : NaN, -1);
        }
      } else if (p.type === "arc") {
        const step = 2 * Math.acos(Math.max(1 - chord / p.radius, 0.5));
        for (let l = 1; l < p.levels.length; l++) {
          const a = p.levels[l - 1]!.share, { share: b, shot: on } = p.levels[l]!;
          const parts = Math.max(1, Math.ceil((Math.abs(p.sweep) * (b - a)) / step - 1e-9));
          for (let j = 1; j <= parts; j++) {
            if (l === p.levels.length - 1 && j === parts) break;
            if (j === parts && on) push(...on.place, on.index);
            else {
              const [e, n, z] = placeOnArc(p, a + ((b - a) * j) / parts);
              push(e, n, known ? z : NaN, -1);
            }
          }
        }
      }
      push(...p.to, p.shots.at(-1)!);
    }
    starts[k + 1] = shot.length;
  });
  return { xyz: Float64Array.from(xyz), shot: Int32Array.from(shot), starts };
}

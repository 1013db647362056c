/** Lines → chords, where chords are needed: drawing, surfaces, text formats that know no arcs. */
import { Doubles, Ints } from "../math/grow";
import type { Line, Piece } from "./model";
import { positionOnArc } from "./arc";
import { chordsOfCurve, positionOnCurve } from "./curve";

/** All lines as chains of vertices: line k has the vertices [starts[k], starts[k + 1]). A closed line repeats its first. */
export interface Chains {
  /** East, north, level of each vertex; a level not known is NaN. */
  xyz: Float64Array;
  /** Table row of the shot that stands exactly here, −1 for a vertex that no shot made. */
  shot: Int32Array;
  starts: Uint32Array;
}

/** The chords of one line. */
export interface Chain {
  xyz: Float64Array;
  shot: Int32Array;
}

/** Lines are never changed in place, so the chords of each are made once for a chord tolerance. */
const made = new WeakMap<Line, { chord: number; chain: Chain }>();

export function chainOf(line: Line, chord: number): Chain {
  const last = made.get(line);
  if (last?.chord === chord) return last.chain;
  const chain = flatten(line, chord);
  made.set(line, { chord, chain });
  return chain;
}

/** The chords of a line in plan, as E, N pairs; `chord` is the largest distance from an arc or curve, in the job's unit. */
export function planOfLine(line: Line, chord: number): number[] {
  const { xyz } = chainOf(line, chord);
  return Array.from({ length: (2 * xyz.length) / 3 }, (_, k) => xyz[3 * (k >> 1) + (k & 1)]!);
}

/**
 * `chord` is the largest distance from an arc or curve to its chords, in the job's unit. Positions where levels on an arc are known are kept.
 * With `usable` the levels of shots marked 0 there are not known, nor those that an arc takes from them.
 */
export function flattenLines(lines: readonly Line[], chord: number, usable?: Uint8Array): Chains {
  const isPlain = (l: Line) => !usable || l.pieces.every((p) => p.shots.every((s) => s < 0 || usable[s]));
  const chains = lines.map((l) => (isPlain(l) ? chainOf(l, chord) : flatten(l, chord, usable)));
  const starts = new Uint32Array(lines.length + 1);
  chains.forEach((c, k) => (starts[k + 1] = starts[k]! + c.shot.length));
  const all = { xyz: new Float64Array(3 * starts.at(-1)!), shot: new Int32Array(starts.at(-1)!), starts };
  chains.forEach((c, k) => {
    all.xyz.set(c.xyz, 3 * starts[k]!);
    all.shot.set(c.shot, starts[k]!);
  });
  return all;
}

/** Memory for one line at a time. */
const xyz = new Doubles(),
  shot = new Ints();

function flatten(line: Line, chord: number, usable?: Uint8Array): Chain {
  if (line.pieces.length === 0) return { xyz: new Float64Array(0), shot: new Int32Array(0) };
  const push = (e: number, n: number, z: number, s: number) => {
    xyz.push(e);
    xyz.push(n);
    xyz.push(s >= 0 && usable && !usable[s] ? NaN : z);
    shot.push(s);
  };
  const first = line.pieces[0]!;
  push(...first.from, first.shots[0]!);
  for (const p of line.pieces) {
    if (p.type !== "straight") between(p, chord, !usable || p.shots.every((s) => s < 0 || usable[s]), push);
    push(...p.to, p.shots.at(-1)!);
  }
  return { xyz: xyz.take(), shot: shot.take() };
}

/** A parallel may be asked for at any distance; no arc that a survey has needs so many. */
const MOST_CHORDS = 100_000;

/** The vertices strictly between the ends of an arc or curve. */
function between(
  p: Exclude<Piece, { type: "straight" }>,
  chord: number,
  known: boolean,
  push: (e: number, n: number, z: number, shot: number) => void,
): void {
  if (p.type === "curve") {
    const parts = chordsOfCurve(p, chord);
    for (let j = 1; j < parts; j++) {
      const [e, n, z] = positionOnCurve(p, j / parts);
      push(e, n, known ? z : NaN, -1);
    }
    return;
  }
  const step = 2 * Math.acos(Math.max(1 - chord / p.radius, 0.5));
  for (let l = 1; l < p.levels.length; l++) {
    const a = p.levels[l - 1]!.share,
      { share: b, shot: on } = p.levels[l]!;
    const parts = Math.min(MOST_CHORDS, Math.max(1, Math.ceil((Math.abs(p.sweep) * (b - a)) / step - 1e-9)));
    for (let j = 1; j <= parts; j++) {
      if (l === p.levels.length - 1 && j === parts) break;
      if (j === parts && on) push(...on.position, on.index);
      else {
        const [e, n, z] = positionOnArc(p, a + ((b - a) * j) / parts);
        push(e, n, known ? z : NaN, -1);
      }
    }
  }
}

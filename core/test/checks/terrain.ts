/** Terrain with known blunders: generated shots of one crew on ground of known mathematics, in metres. */
import type { FieldString, LevelField } from "../../src/checks/levels/field";

/** A repeatable stream of numbers (mulberry32, public domain) with the draws that tests need. */
export class Draw {
  constructor(private state: number) {}
  unit(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }
  between(low: number, high: number): number {
    return low + (high - low) * this.unit();
  }
  whole(below: number): number {
    return Math.floor(this.unit() * below);
  }
  /** Box and Muller 1958. */
  normal(sigma: number): number {
    return sigma * Math.sqrt(-2 * Math.log(1 - this.unit())) * Math.cos(2 * Math.PI * this.unit());
  }
}

export interface TerrainWish {
  seed: number;
  /** Distance between the shots of the lattice. */
  spacing: number;
  /** Shots of the lattice, about. */
  shots: number;
  /** How much the ground curves from shot to shot: second difference of levels. */
  curve: number;
  face?: boolean;
  strings?: boolean;
  heap?: boolean;
  /** A fold of the ground that no line joins: a ridge, a ditch where it is negative, or a terrace of one side only. */
  fold?: Fold;
  spikes?: number;
  spike?: number;
  runs?: { length: number; shift: number }[];
}

export interface Fold {
  high: number;
  /** Width of its flat top and of either side, in spacings of the lattice. */
  top: number;
  side: number;
  /** Of its direction against the rows of the lattice, in radians. */
  turn: number;
  /** Where it crosses the middle of the lattice, as a share of its size. */
  at: number;
  /** All behind it is as high as its top. */
  terrace?: boolean;
  /** Its length along its direction as a share of the size; all of it where not given. */
  long?: number;
}

export interface Terrain {
  field: LevelField;
  /** Shots with a spike, and runs as positions in the crew's order. */
  spikes: Map<number, number>;
  runs: { from: number; to: number; shift: number }[];
}

const NOISE = 0.015;

/** How much a fold adds at a place; places as shares of the lattice's size, `step` its spacing. */
function foldAt({ high, top, side, turn, at, terrace, long }: Fold, e: number, n: number, step: number): number {
  const across = ((n - at) * Math.cos(turn) - (e - 0.5) * Math.sin(turn)) / step,
    along = (n - at) * Math.sin(turn) + (e - 0.5) * Math.cos(turn);
  const beside = (Math.abs(across) - top / 2) / side,
    beyond = long === undefined ? 0 : (Math.abs(along) - long / 2) / step / side;
  const off = Math.max(terrace && across > 0 ? 0 : beside, beyond);
  return high * Math.min(1, Math.max(0, 1 - off));
}

export function terrain(wish: TerrainWish): Terrain {
  const draw = new Draw(wish.seed),
    side = Math.max(4, Math.round(Math.sqrt(wish.shots))),
    size = side * wish.spacing;
  // Second difference of a·sin(x/l) over a step d is at most a·d²/l².
  const long = 5 * wish.spacing,
    high = wish.curve * 25,
    phase = [draw.between(0, 6), draw.between(0, 6)];
  const heap = {
    e: 0.72 * size,
    n: 0.3 * size,
    foot: 2.2 * wish.spacing,
    top: 0.8 * wish.spacing,
    height: wish.spacing / 2,
  };
  // A face runs across: its foot at n = f, its top 3 m behind, 6 m higher.
  const foot = (e: number) => 0.55 * size + 0.02 * size * Math.sin(e / (1.5 * long)),
    FACE = { deep: 3, high: 6 };
  const ground = (e: number, n: number) => {
    let z = 200 + 0.03 * n + high * 0.5 * (Math.sin(e / long + phase[0]!) + Math.cos(n / long + phase[1]!));
    if (wish.face) z += FACE.high * Math.min(1, Math.max(0, (n - foot(e)) / FACE.deep));
    if (wish.heap) {
      const d = Math.hypot(e - heap.e, n - heap.n);
      z += heap.height * Math.min(1, Math.max(0, (heap.foot - d) / (heap.foot - heap.top)));
    }
    if (wish.fold) z += foldAt(wish.fold, e / size, n / size, wish.spacing / size);
    return z;
  };
  const shots: [number, number][] = [],
    strings: FieldString[] = [];
  const string = (at: [number, number][], closed: boolean, divides: boolean) => {
    strings.push({ shots: Int32Array.from(at, (p) => shots.push(p) - 1), closed, divides });
  };
  const step = 0.75 * wish.spacing;
  const across = (n: (e: number) => number) => {
    const out: [number, number][] = [];
    for (let e = -wish.spacing; e <= size; e += step) out.push([e, n(e)]);
    return out;
  };
  if (wish.face) {
    string(across(foot), false, true);
    string(
      across((e) => foot(e) + FACE.deep),
      false,
      true,
    );
  }
  const ring = (r: number, count: number) =>
    Array.from({ length: count }, (_, k): [number, number] => [
      heap.e + r * Math.cos((2 * Math.PI * k) / count),
      heap.n + r * Math.sin((2 * Math.PI * k) / count),
    ]);
  if (wish.heap) {
    string(ring(heap.foot, 24), true, true);
    string(ring(heap.top, 16), true, true);
  }
  if (wish.strings)
    for (const at of [0.15, 0.85])
      string(
        across((e) => at * size + 0.03 * size * Math.sin(e / long)),
        false,
        at < 0.5,
      );
  for (let k = 0; k < side; k++)
    for (let c = 0; c < side; c++) {
      const e = (k % 2 ? side - 1 - c : c) * wish.spacing + draw.between(-0.15, 0.15) * wish.spacing,
        n = k * wish.spacing + draw.between(-0.15, 0.15) * wish.spacing;
      const f = foot(e);
      if (wish.face && n > f - 0.8 && n < f + FACE.deep + 0.8) continue;
      const d = Math.hypot(e - heap.e, n - heap.n);
      if (wish.heap && Math.abs(d - heap.foot) < 0.8) continue;
      if (wish.heap && d < heap.foot && d > heap.top - 0.8) continue;
      shots.push([e, n]);
    }
  const x = Float64Array.from(shots, (p) => p[0]),
    y = Float64Array.from(shots, (p) => p[1]),
    z = Float64Array.from(shots, ([e, n]) => ground(e, n) - 200 + draw.normal(NOISE));

  const first = strings.reduce((n, s) => n + s.shots.length, 0),
    lattice = shots.length - first;
  const runs: Terrain["runs"] = [],
    taken = new Set<number>();
  for (const { length, shift } of wish.runs ?? []) {
    for (let tries = 0; tries < 200; tries++) {
      const from = first + draw.whole(lattice - length);
      if (runs.some((r) => from <= r.to + 60 && from + length >= r.from - 60)) continue;
      runs.push({ from, to: from + length - 1, shift });
      for (let i = from; i < from + length; i++) {
        z[i]! += shift;
        taken.add(i);
      }
      break;
    }
  }
  const spikes = new Map<number, number>();
  for (let k = 0; k < (wish.spikes ?? 0);) {
    const i = first + draw.whole(lattice),
      [e, n] = shots[i]!;
    const edge = Math.min(e, n, size - wish.spacing - e, size - wish.spacing - n) < wish.spacing;
    if (edge || taken.has(i)) continue;
    const by = (draw.unit() < 0.5 ? -1 : 1) * (wish.spike ?? 0.9);
    spikes.set(i, by);
    taken.add(i);
    z[i]! += by;
    k++;
  }
  const walls: number[] = [];
  for (const s of strings)
    if (s.divides)
      for (let k = s.closed ? 0 : 1; k < s.shots.length; k++)
        for (const i of [s.shots.at(k - 1)!, s.shots[k]!]) walls.push(x[i]!, y[i]!);
  const order = Int32Array.from(shots, (_, i) => i);
  return {
    field: {
      count: shots.length,
      origin: [0, 0, 200],
      x,
      y,
      z,
      row: order,
      order,
      starts: Int32Array.from([0, shots.length]),
      strings,
      walls: Float64Array.from(walls),
    },
    spikes,
    runs,
  };
}

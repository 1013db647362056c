/** Lines drawn twice, lines that were meant to close, and areas of one code that lie over one another. */
import { smallest } from "../math/many";
import { notice, pts, say, type Noticed } from "../finding";
import { lengthText, type Unit } from "../math/units";
import { boxIndex, type BoxIndex } from "../math/near";
import { insideRing } from "../math/ring";
import { chainOf } from "../lines/flatten";
import type { Line } from "../lines/model";
import type { PointTable } from "../points/table";

/**
 * Two lines of one code over the same shots, whichever way they run. Lines of different codes may share all their shots:
 * a wall along a hedge is shot once.
 */
export function doubledLines(lines: readonly Line[]): Noticed[] {
  const first = new Map<string, number>();
  return lines.flatMap((l, k) => {
    const shots = l.shots.filter((i) => i >= 0);
    if (l.companion || shots.length < 2) return [];
    const way = `${l.code} ${l.closed} ${l.closed ? ringKey(shots) : wayKey(shots)}`,
      other = first.get(way);
    if (other === undefined) {
      first.set(way, k);
      return [];
    }
    const words = say`Line ${{ line: k }} runs over the same shots as line ${{ line: other }}: one of the two is too many.`;
    return [notice("line-doubled", "warning", words, { points: shots, lines: [other, k] })];
  });
}

const wayKey = (shots: readonly number[]) => {
  const [there, back] = [shots.join(" "), shots.toReversed().join(" ")];
  return there < back ? there : back;
};

/** A ring read from its lowest shot on, in the direction that comes first. */
function ringKey(shots: readonly number[]): string {
  const at = shots.indexOf(smallest(shots)),
    [lowest, ...rest] = [...shots.slice(at), ...shots.slice(0, at)];
  return `${lowest} ${wayKey(rest)}`;
}

/**
 * Open lines of three shots and more whose last shot stands within `near` of the first, in plan: the crew came round and
 * left the closing cue out, or shot the first point twice.
 */
export function nearlyClosed(
  lines: readonly Line[],
  t: Pick<PointTable, "e" | "n">,
  near: number,
  unit: Unit,
): Noticed[] {
  return lines.flatMap((l, k) => {
    const [a, z] = [l.shots[0], l.shots.at(-1)];
    if (l.closed || l.companion || l.shots.length < 3 || a === undefined || z === undefined || a < 0 || z < 0)
      return [];
    if (a === z) return [];
    const gap = Math.hypot(t.e[z]! - t.e[a]!, t.n[z]! - t.n[a]!);
    if (!(gap <= near)) return [];
    const words = [
      ...say`Line ${{ line: k }} ends at point ${pts(z)}, ${lengthText(gap, unit)} from its start, `,
      ...say`point ${pts(a)}: close it, or say that it stays open.`,
    ];
    return [
      notice("line-nearly-closed", "warning", words, {
        points: [a, z],
        lines: [k],
        at: [t.e[z]!, t.n[z]!],
        data: { gap },
      }),
    ];
  });
}

/** Areas of one code whose insides meet: their sides cross, or one lies within the other. */
export function overlappingAreas(lines: readonly Line[], chord: number): Noticed[] {
  const areas = lines.flatMap((l, k) => (l.closed && l.entry.kind === "area" && !l.companion ? [k] : []));
  const rings = areas.map((k) => sidesOf(ringOf(chainOf(lines[k]!, chord).xyz))),
    index = boxIndex(areas.length, (a) => boxOf(rings[a]!.ring));
  return areas.flatMap((k, a) =>
    index
      .search(...boxOf(rings[a]!.ring))
      .filter((b) => b > a && lines[areas[b]!]!.code === lines[k]!.code)
      .sort((x, y) => x - y)
      .flatMap((b) => {
        const at = meeting(rings[a]!, rings[b]!, chord);
        if (!at) return [];
        const words = [
          ...say`Areas ${{ line: k }} and ${{ line: areas[b]! }} lie over one another: `,
          "a corner may be wrong, or one is drawn twice.",
        ];
        return [notice("areas-overlap", "warning", words, { lines: [k, areas[b]!], at })];
      }),
  );
}

type Corner = [number, number];
type Ring = Corner[];

/** The corners of a closed chain, its first not repeated. */
function ringOf(xyz: Float64Array): Ring {
  const ring: Ring = [];
  for (let v = 0; v < xyz.length; v += 3) ring.push([xyz[v]!, xyz[v + 1]!]);
  const [first, last] = [ring[0], ring.at(-1)];
  if (first && last && ring.length > 1 && first[0] === last[0] && first[1] === last[1]) ring.pop();
  return ring;
}

function boxOf(ring: Ring): [number, number, number, number] {
  let box: [number, number, number, number] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [e, n] of ring) box = [Math.min(box[0], e), Math.min(box[1], n), Math.max(box[2], e), Math.max(box[3], n)];
  return box;
}

/** A ring with what is near its sides. */
interface Sides {
  ring: Ring;
  side(k: number): readonly [Corner, Corner];
  index: BoxIndex;
}

function sidesOf(ring: Ring): Sides {
  const side = (k: number) => [ring[k]!, ring[(k + 1) % ring.length]!] as const;
  return { ring, side, index: boxIndex(ring.length, (k) => boxOf([...side(k)])) };
}

/**
 * Where the insides of two rings meet by more than `chord`; areas that only touch along sides or at corners do not. Each
 * side is divided where it meets the other ring, and one of its parts lies well inside that, or one ring is the other.
 */
function meeting(a: Sides, b: Sides, chord: number): Corner | undefined {
  for (const [one, other] of [
    [a, b],
    [b, a],
  ] as const)
    for (let k = 0; k < one.ring.length; k++)
      for (const middle of partsOf(one.side(k), other)) if (wellInside(other, middle, chord)) return middle;
  const inA = within(a.ring);
  return inA && wellInside(b, inA, chord) ? inA : undefined;
}

/** The middles of the parts into which a side falls where it meets a ring. */
function partsOf([p, q]: readonly [Corner, Corner], { side, index }: Sides): Corner[] {
  const [de, dn] = [q[0] - p[0], q[1] - p[1]],
    shares = [0, 1];
  for (const k of index.search(...boxOf([p, q]))) {
    const [r, s] = side(k),
      across = de * (s[1] - r[1]) - dn * (s[0] - r[0]);
    if (across !== 0) shares.push(((r[0] - p[0]) * (s[1] - r[1]) - (r[1] - p[1]) * (s[0] - r[0])) / across);
    else for (const c of [r, s]) shares.push(((c[0] - p[0]) * de + (c[1] - p[1]) * dn) / (de * de + dn * dn));
  }
  const sorted = shares.filter((t) => t >= 0 && t <= 1).sort((x, y) => x - y);
  return sorted.slice(1).map((t, k): Corner => {
    const middle = (t + sorted[k]!) / 2;
    return [p[0] + middle * de, p[1] + middle * dn];
  });
}

/** Within a ring and farther from its sides than `reach`. */
function wellInside({ ring, side, index }: Sides, [e, n]: Corner, reach: number): boolean {
  if (!insideRing(ring, e, n)) return false;
  return index.search(e - reach, n - reach, e + reach, n + reach).every((k) => {
    const [[ae, an], [be, bn]] = side(k),
      [de, dn] = [be - ae, bn - an],
      share = Math.max(0, Math.min(1, ((e - ae) * de + (n - an) * dn) / (de * de + dn * dn || 1)));
    return Math.hypot(ae + share * de - e, an + share * dn - n) > reach;
  });
}

/** A position inside a ring: the middle of the widest part of the line half way up; undefined for one without area. */
function within(ring: Ring): Corner | undefined {
  const [, south, , north] = boxOf(ring),
    n = south + (north - south) * 0.5123;
  const east = ring
    .flatMap(([e0, n0], k) => {
      const [e1, n1] = ring[(k + 1) % ring.length]!;
      return n0 > n === n1 > n ? [] : [e0 + ((n - n0) / (n1 - n0)) * (e1 - e0)];
    })
    .sort((x, y) => x - y);
  let best: Corner | undefined,
    widest = 0;
  for (let k = 0; k + 1 < east.length; k += 2)
    if (east[k + 1]! - east[k]! > widest) {
      widest = east[k + 1]! - east[k]!;
      best = [(east[k]! + east[k + 1]!) / 2, n];
    }
  return best;
}

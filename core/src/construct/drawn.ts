/** How a construction is drawn while it is made: the lines, circles and sides that lead to its position. Ways of E, N, E, N … */
import { circleThrough } from "../lines/circle";
import { directionOf } from "../math/angles";
import type { PointRef } from "../points/refs";
import type { By, Ray } from "./model";
import { footOn, type InPlan, type Sources } from "./solve";

type Way = number[];
const CHORDS = 96;

/** Ways for the positions that a construction has, `at`; of sources that are not there nothing is drawn. */
export function drawnConstruction(by: By, from: Sources, at: readonly InPlan[]): Way[] {
  const see = (...refs: PointRef[]) => {
      const seen = refs.map((r) => from.at(r));
      return seen.every((x) => x !== undefined) ? (seen as InPlan[]) : undefined;
    },
    [p] = at;
  if ("meet" in by) return by.meet.flatMap((ray) => drawnRay(ray, see, at));
  if (!p) return [];
  if ("azimuth" in by) return ways(see(by.from), ([a]) => [way(a!, p)]);
  if ("from" in by) return ways(see(by.from, by.to), ([a, b]) => [way(a!, b!), way(footOn(a!, b!, p) ?? a!, p)]);
  if ("between" in by) return ways(see(...by.between), ([a, b]) => [way(a!, p, b!)]);
  if ("foot" in by) return ways(see(...by.on, by.foot), ([a, b, c]) => [way(a!, b!), way(a!, p), way(c!, p)]);
  if ("mirror" in by) return ways(see(...by.on, by.mirror), ([a, b, c]) => [way(a!, b!), way(c!, p)]);
  if ("centre" in by)
    return ways(see(...by.centre), ([a, b, c]) => {
      const around = circleThrough(0, 0, b![0] - a![0], b![1] - a![1], c![0] - a![0], c![1] - a![1]);
      return around ? [circle(p, around.radius)] : [];
    });
  if ("fourth" in by) return ways(see(...by.fourth), ([a, b, c]) => [way(a!, b!, c!, p, a!)]);
  if ("rectangle" in by)
    return ways(see(...by.rectangle), ([a, b]) => {
      const base = by.corner === 3 ? b! : a!,
        other = by.corner === 3 ? a! : b!,
        opposite: InPlan = [p[0] + other[0] - base[0], p[1] + other[1] - base[1]];
      return [way(base, p, opposite, other, base)];
    });
  return [];
}

const way = (...at: InPlan[]): Way => at.flatMap(([e, n]) => [e, n]);
const ways = (seen: InPlan[] | undefined, make: (at: InPlan[]) => Way[]): Way[] => (seen ? make(seen) : []);

function circle([e, n]: InPlan, radius: number): Way {
  return Array.from({ length: CHORDS + 1 }, (_, k) => {
    const [ce, cn] = directionOf((360 * k) / CHORDS);
    return [e + radius * ce, n + radius * cn];
  }).flat();
}

/** A circle, or a straight from where it begins over all positions on it and a little on. */
function drawnRay(ray: Ray, see: (...refs: PointRef[]) => InPlan[] | undefined, at: readonly InPlan[]): Way[] {
  if ("distance" in ray) return ways(see(ray.from), ([a]) => [circle(a!, ray.distance)]);
  return ways(see(...("line" in ray ? ray.line : [ray.from])), ([a, b]) => {
    const along = b ? [b[0] - a![0], b[1] - a![1]] : directionOf("azimuth" in ray ? ray.azimuth : 0),
      size = Math.hypot(along[0]!, along[1]!) || 1,
      [de, dn] = [along[0]! / size, along[1]! / size],
      right = ("line" in ray && ray.right) || 0,
      [e, n] = [a![0] + right * dn, a![1] - right * de],
      reached = at.map((p) => (p[0] - e) * de + (p[1] - n) * dn),
      from = Math.min(0, ...reached),
      to = Math.max(b ? size : 0, ...reached),
      more = 0.1 * (to - from) || 10;
    return [[e + (from - more) * de, n + (from - more) * dn, e + (to + more) * de, n + (to + more) * dn]];
  });
}

/**
 * What is measured between positions: legs with their lengths, directions and level differences; of a ring its area,
 * perimeter and centre. Frames E, N, Z in the job's unit; angles radians clockwise from north.
 */
import { azimuthOf } from "../../math/angles";
import { sideMeetsOthers } from "../../math/ring";
import { Sum } from "../../math/sum";

export type Measured = readonly [e: number, n: number, z: number];

export interface Leg {
  plan: number;
  /** NaN where a level is missing. */
  slope: number;
  /** Of two positions at one place NaN. */
  azimuth: number;
  rise: number;
  /** Rise by plan length; NaN where there is none. */
  gradient: number;
}

export interface Measurement {
  legs: Leg[];
  /** From the first position to the last as the crow flies; the same as the only leg of two. */
  across: Leg;
  plan: number;
  /** NaN where a level on the way is missing. */
  slope: number;
  /** Of three and more positions, closed: area and centre of the ring in plan. A ring that crosses itself has none. */
  ring?: { area: number; perimeter: number; centre: [number, number] };
}

export function legOf(a: Measured, b: Measured): Leg {
  const [de, dn, rise] = [b[0] - a[0], b[1] - a[1], b[2] - a[2]],
    plan = Math.hypot(de, dn);
  return {
    plan,
    slope: Math.hypot(de, dn, rise),
    azimuth: plan === 0 ? NaN : azimuthOf(a[0], a[1], b[0], b[1]),
    rise,
    gradient: plan === 0 ? NaN : rise / plan,
  };
}

/** Of two positions and more. Area and centre by the surveyor's formula, relative to the first position. */
export function measurementOf(at: readonly Measured[], closed: boolean): Measurement | undefined {
  if (at.length < 2) return undefined;
  const legs = at.slice(1).map((b, k) => legOf(at[k]!, b)),
    [plan, slope] = [new Sum(), new Sum()];
  for (const l of legs) {
    plan.add(l.plan);
    slope.add(l.slope);
  }
  const across = legOf(at[0]!, at.at(-1)!),
    ring = closed && at.length > 2 ? ringOf(at, plan.value + across.plan) : undefined;
  return { legs, across, plan: plan.value, slope: slope.value, ...(ring ? { ring } : {}) };
}

function ringOf(at: readonly Measured[], perimeter: number): Measurement["ring"] {
  const [oe, on] = at[0]!,
    [twice, me, mn] = [new Sum(), new Sum(), new Sum()];
  at.forEach(([e, n], k) => {
    const [f, m] = at[(k + 1) % at.length]!,
      [ae, an, be, bn] = [e - oe, n - on, f - oe, m - on],
      cross = ae * bn - be * an;
    twice.add(cross);
    me.add((ae + be) * cross);
    mn.add((an + bn) * cross);
  });
  const area = twice.value / 2;
  const ring = at.map(([e, n]): [number, number] => [e, n]),
    crosses = at.some((_, k) => sideMeetsOthers(ring, k));
  return area === 0 || crosses
    ? undefined
    : { area: Math.abs(area), perimeter, centre: [oe + me.value / (6 * area), on + mn.value / (6 * area)] };
}

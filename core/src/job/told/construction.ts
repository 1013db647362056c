/** What a construction would give, before it is made: every position with its level, how it is drawn, or why there is none. */
import { drawnConstruction } from "../../construct/drawn";
import { levelOf, type Levels } from "../../construct/follow";
import { pointsNamed, type By, type LevelBy } from "../../construct/model";
import { solve } from "../../construct/solve";
import { lostWords } from "../../construct/told";
import { findPoints, idMade } from "../../points/refs";
import { SurfaceReader } from "../../surface/locate";
import { askedOf } from "../chain/standing";
import type { Derived } from "../chain/values";
import type { JobState } from "../model/model";

export interface Construed {
  /** East, north, level of each position; the level is NaN where there is none. */
  at: [number, number, number][];
  /** Ways of E, N, E, N … */
  ways: number[][];
  /** Why there is no position, as a sentence. */
  problem?: string;
}

/** `state` has its points as they stand. `own` is the point that follows: nothing may follow itself. */
export function tryConstruction(
  { by, elevation }: { by: By; elevation?: number | LevelBy },
  state: JobState,
  derived: Derived,
  own?: number,
): Construed {
  const { points: t, intakes } = state,
    found = findPoints(t, intakes),
    there = (ref: string) => {
      const i = found.rowOf(ref);
      return i >= 0 && !t.deleted[i] ? i : -1;
    };
  const circle = own === undefined ? undefined : followerOf(own, { by, elevation }, state, found.numberOf);
  if (circle !== undefined) return { at: [], ways: [], problem: circle };
  const from: Levels = {
    ...askedOf(derived.lines, state, there),
    rowOf: there,
    at: (ref) => (there(ref) < 0 ? undefined : [t.e[there(ref)]!, t.n[there(ref)]!]),
    level: (ref) => (there(ref) < 0 ? NaN : t.z[there(ref)]!),
    levelOn(name, e, n) {
      const made = derived.surfaces.find((s) => s.name === name);
      return made?.ok ? (new SurfaceReader(made.value.surface).at(e, n)?.level ?? NaN) : NaN;
    },
  };
  const met = solve(by, from),
    at = "at" in met ? met.at : [],
    z = (position: readonly [number, number]) =>
      typeof elevation === "object" ? levelOf(by, elevation, position, from) : (elevation ?? NaN);
  return {
    at: at.map(([e, n]) => [e, n, z([e, n])]),
    ways: drawnConstruction(by, from, at),
    ...("at" in met ? {} : { problem: `There is no such position: ${lostWords(met, found.numberOf)}.` }),
  };
}

/** Why a point may not follow what it would: one of its sources follows it. */
function followerOf(
  own: number,
  { by, elevation }: { by: By; elevation?: number | LevelBy | undefined },
  { computed }: JobState,
  numberOf: (ref: string) => string,
): string | undefined {
  const follows = new Map(computed.map((c) => [c.point, c])),
    seen = new Set<number>(),
    waiting = pointsNamed({
      by: "at" in by ? undefined : by,
      elevation: typeof elevation === "object" ? elevation : undefined,
    } as never).map((ref) => ({ ref, by: ref }));
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const id = idMade(next.ref);
    if (id === own)
      return next.ref === next.by
        ? "A point cannot follow itself."
        : `Point ${numberOf(next.by)} follows this point, which therefore cannot follow it.`;
    if (id === undefined || seen.has(id)) continue;
    seen.add(id);
    for (const ref of pointsNamed(follows.get(id) ?? {})) waiting.push({ ref, by: next.by });
  }
  return undefined;
}

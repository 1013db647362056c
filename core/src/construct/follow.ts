/** Puts constructed points where their sources put them. */
import { FOLLOWS_E, FOLLOWS_N, FOLLOWS_Z } from "../records/kinds";
import type { PointRef } from "../points/refs";
import { GONE_UNPLACED, type PointTable } from "../points/table";
import { pairOf, type By, type Construction, type LevelBy } from "./model";
import type { Program } from "./program";
import { nearer, solve, type InPlan, type Lost, type Sources } from "./solve";

/** What beside points is asked while points are put where they stand. */
export type Asked = Pick<Sources, "way" | "line"> & {
  /** The level of a surface; NaN where it does not reach, or is not there. */
  levelOn(surface: string, e: number, n: number): number;
};

type Own = Pick<PointTable, "e" | "n" | "z" | "deleted" | "follows">;
/** Why a point that follows itself is not there. */
export const CIRCLE = { why: "its sources follow it in a circle" } as const satisfies Lost;

export interface Followed extends Own {
  /** Why a point is not there, or has no level, by its row. */
  lost: ReadonlyMap<number, Lost>;
}

/**
 * The columns of points with every constructed one where its sources put it, and marked in `follows` by which of its
 * coordinates follow. One that has no position is not there (GONE_UNPLACED). Inputs are not changed.
 */
export function followSources(program: Program, own: Own, asked: Asked): Followed {
  const { steps, circular, rowOf } = program,
    [e, n, z] = [own.e.slice(), own.n.slice(), own.z.slice()],
    [deleted, follows] = [own.deleted.slice(), own.follows.slice()],
    lost = new Map<number, Lost>();
  const row = (ref: PointRef) => rowOf.get(ref)!,
    at = (ref: PointRef): InPlan | undefined => {
      const i = row(ref);
      return i < 0 || deleted[i] ? undefined : [e[i]!, n[i]!];
    };
  const sources: Sources = { ...asked, at, rowOf: row };
  const levels: Levels = {
    ...sources,
    levelOn: asked.levelOn,
    level: (ref) => {
      const k = row(ref);
      return k < 0 || deleted[k] ? NaN : z[k]!;
    },
  };
  const lose = (i: number, why: Lost) => {
    deleted[i]! |= GONE_UNPLACED;
    lost.set(i, why);
  };
  for (const { row: i } of steps) deleted[i]! |= GONE_UNPLACED;
  for (const { row: i } of circular) lose(i, CIRCLE);
  for (const { row: i, construction: c } of steps) {
    if (c.by) {
      const met = chosen(c.by, sources);
      if (!("at" in met)) {
        lose(i, met);
        continue;
      }
      [e[i], n[i]] = met.at;
      follows[i]! |= FOLLOWS_E | FOLLOWS_N;
    }
    deleted[i]! &= ~GONE_UNPLACED;
    if (!c.elevation) continue;
    z[i] = levelOf(c.by, c.elevation, [e[i]!, n[i]!], levels);
    follows[i]! |= FOLLOWS_Z;
  }
  return { e, n, z, deleted, follows, lost };
}

/** The one position of a construction. */
export function chosen(by: NonNullable<Construction["by"]>, from: Sources): { at: InPlan } | Lost {
  const met = solve(by, from);
  if (!("at" in met)) return met;
  const [first, second] = met.at;
  if (!second) return { at: first! };
  const near = "near" in by ? by.near : undefined;
  if (near === undefined) return { both: [first!, second] };
  const to = typeof near === "string" ? from.at(near) : near;
  return to ? { at: nearer(met.at, to) } : { missing: near as PointRef };
}

/** What levels are worked out from. */
export type Levels = Sources & {
  levelOn: Asked["levelOn"];
  /** The level of a point; NaN where it has none, or is not there. */
  level(ref: PointRef): number;
};

/** The level of a point at its position; NaN where its source says none. */
export function levelOf(by: By | undefined, level: LevelBy, [e, n]: InPlan, from: Levels): number {
  const up = level.up ?? 0;
  if ("of" in level) return from.level(level.of) + up;
  if ("surface" in level) return from.levelOn(level.surface, e, n) + up;
  const pair = by && pairOf(by);
  if (pair) return alongPair(pair, [e, n], from) + up;
  if (!by || !("line" in by)) return NaN;
  const way = from.way(by.line);
  return typeof way === "string" ? NaN : (way.beside(by.station, by.offset ?? 0)?.z ?? NaN) + up;
}

/** On the slope from one point to the other, by plan distance along it. */
function alongPair(pair: readonly [PointRef, PointRef], [e, n]: InPlan, from: Levels) {
  const [a, b] = [from.at(pair[0]), from.at(pair[1])],
    [za, zb] = [from.level(pair[0]), from.level(pair[1])];
  if (!a || !b) return NaN;
  const [de, dn] = [b[0] - a[0], b[1] - a[1]],
    size = de * de + dn * dn,
    share = ((e - a[0]) * de + (n - a[1]) * dn) / size;
  return size === 0 ? NaN : za + share * (zb - za);
}

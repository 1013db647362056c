/**
 * Moves that a job keeps: points moved, turned, scaled and raised, or fitted to others. They are carried out one after
 * another each time anew, on what is stored, so that a move is changed and taken away like any other thing, and what came
 * from the field stays beside where it stands.
 */
import {
  fitted,
  moveBackInPlan,
  movementOf,
  riseAt,
  type FitOptions,
  type Fitted,
  type Transform,
} from "../math/similarity";
import { moveRows, movedRows } from "./moved";
import { findPoints, type PointRef } from "./refs";
import { GONE_DELETED, type MovedRows, type OwnPositions, type Position, type PointTable } from "./table";

export interface MovePair {
  from: PointRef;
  to: PointRef;
  /** Does not count, and is told all the same. */
  out?: true;
}

export interface MoveFit extends Partial<FitOptions> {
  pairs: MovePair[];
}

/** What is moved: deliveries, whatever they hold, or chosen points. */
export type PointsToMove = { intakes: string[] } | { chosen: PointRef[] };

export interface Move {
  name: string;
  points: PointsToMove;
  /** One of both. */
  transform?: Transform;
  fit?: MoveFit;
}

/** A move as it was carried out, or why it was not. */
export interface MoveMade {
  name: string;
  /** Rows that are moved, rising. */
  rows: Int32Array;
  /** Named points that are not there. */
  missing: number;
  /** Rows that follow their construction instead. */
  following: readonly number[];
  done: (MovedRows & { fit?: FitDone }) | { problem: string };
}

export interface FitDone extends Omit<Fitted, "movement" | "residuals"> {
  /** Of every pair, after − wanted; `out` ones are told and do not count. */
  residuals: { from: number; to: number; dE: number; dN: number; dZ: number; out: boolean }[];
}

/** What moves are carried out with. */
export interface MovingJob {
  intakes: readonly { id: string }[];
  /** Ids of points whose plan position follows others: they are moved by these. */
  constructed: ReadonlySet<number>;
  /** Puts what follows from observations where they put it. */
  settled(t: PointTable): PointTable;
}

/** The table with the moves carried out in their order, and how each came out. Inputs are not changed. */
export function carryOut(
  table: PointTable,
  moves: readonly Move[],
  job: MovingJob,
): { points: PointTable; moves: MoveMade[] } {
  let points = table;
  const made = moves.map((move): MoveMade => {
    const { rows, missing, following } = rowsToMove(points, move, job),
      about = { name: move.name, rows, missing, following },
      how = movementIn(points, move, job);
    if (typeof how === "string") return { ...about, done: { problem: how } };
    const { movement, fit } = how,
      pairs = fit ? fit.residuals.filter((r) => !r.out).flatMap((r) => [r.from, r.to]) : [];
    points = job.settled(movedRows(points, rows, movement));
    return {
      ...about,
      done: { name: move.name, movement, rows, pairs, byLevels: movement.rise !== undefined, ...(fit ? { fit } : {}) },
    };
  });
  return { points, moves: made };
}

/** Rows that a move moves. Points that a fit comes to stay where they are. */
export function rowsToMove(t: PointTable, { points, fit }: Move, { intakes, constructed }: Omit<MovingJob, "settled">) {
  const found = findPoints(t, intakes),
    targets = new Set(fit?.pairs.map((p) => found.rowOf(p.to))),
    all: number[] = [];
  let missing = 0;
  if ("chosen" in points)
    for (const ref of points.chosen) {
      const i = found.rowOf(ref);
      if (i < 0) missing++;
      else all.push(i);
    }
  else {
    const turns = new Set(points.intakes.map((id) => intakes.findIndex((k) => k.id === id)));
    for (let i = 0; i < t.count; i++) if (turns.has(t.intake[i]!) && t.intake[i]! >= 0) all.push(i);
  }
  const there = [...new Set(all)]
      .filter((i) => !(t.deleted[i]! & GONE_DELETED) && !targets.has(i))
      .sort((a, b) => a - b),
    follows = (i: number) => t.intake[i]! < 0 && constructed.has(t.id[i]!);
  return { rows: Int32Array.from(there.filter((i) => !follows(i))), missing, following: there.filter(follows) };
}

/** The movement, or why there is none. */
function movementIn(t: PointTable, move: Move, job: MovingJob) {
  if (!move.fit) return { movement: movementOf(move.transform ?? {}), fit: undefined };
  const { pairs, scale = 1, levels = "none" } = move.fit,
    found = findPoints(t, job.intakes),
    all: { from: number; to: number; out: boolean }[] = [];
  for (const p of pairs) {
    const [from, to] = [found.rowOf(p.from), found.rowOf(p.to)];
    for (const [row, ref] of [
      [from, p.from],
      [to, p.to],
    ] as const) {
      if (row < 0) {
        if (p.out) continue;
        return `the point ${found.numberOf(ref)} of its pairs is not there`;
      }
      if (t.intake[row]! < 0 && job.constructed.has(t.id[row]!))
        return `the point ${t.number[row]} of its pairs follows other points itself`;
    }
    if (from >= 0 && to >= 0) all.push({ from, to, out: p.out ?? false });
  }
  const at = (i: number) => positionFitted(t, i),
    made = fitted(
      all.filter((p) => !p.out).map((p) => ({ from: at(p.from), to: at(p.to) })),
      { scale, levels },
    );
  if (typeof made === "string") return made;
  const { movement, residuals: _, ...told } = made,
    residuals = all.map((p) => {
      const [from, to] = [at(p.from), at(p.to)],
        after = positionAfter(movement, from);
      return { ...p, dE: after[0] - to[0], dN: after[1] - to[1], dZ: after[2] - to[2] };
    });
  return { movement, fit: { ...told, residuals } };
}

/** Where a point counts in a fit: E, N, Z as it was shot. */
export const positionFitted = (t: PointTable, i: number): Position =>
  t.shotAt?.get(t.id[i]!) ?? [t.e[i]!, t.n[i]!, t.z[i]!];

function positionAfter(movement: MovedRows["movement"], [e, n, z]: Position): Position {
  const one = { e: [e], n: [n], z: [z], follows: [0] };
  moveRows(one as never, [0], movement);
  return [one.e[0]!, one.n[0]!, one.z[0]!];
}

/** Whether a move has a row. */
export function moves({ rows }: Pick<MovedRows, "rows">, row: number): boolean {
  let [from, to] = [0, rows.length];
  while (from < to) {
    const mid = (from + to) >> 1;
    if (rows[mid]! < row) from = mid + 1;
    else to = mid;
  }
  return rows[from] === row;
}

/** The moves that a point stands by, in their order. */
export const movesOf = (own: OwnPositions | undefined, row: number): MovedRows[] =>
  own?.moves.filter((m) => moves(m, row)) ?? [];

/**
 * What is stored of a point so that its moves bring it to a position; NaN stays. Coordinates that are as good as those
 * stored are those, to the last digit.
 */
export function positionBefore(own: OwnPositions, row: number, [e, n, z]: Position): Position {
  for (const { movement } of movesOf(own, row).reverse()) {
    const [we, wn] = moveBackInPlan(movement.plan, e, n);
    [e, n, z] = [we, wn, z - riseAt(movement.rise, we, wn)];
  }
  const stored = [own.e[row]!, own.n[row]!, own.z[row]!] as const;
  return [e, n, z].map((x, k) =>
    Math.abs(x - stored[k]!) <= 2 ** -44 * Math.max(1, Math.abs(x)) ? stored[k]! : x,
  ) as unknown as Position;
}

/** The move whose very pairs a point is one of, so that its position cannot be given by where it comes to. */
export function fittedBy(own: OwnPositions | undefined, row: number, level: boolean): MovedRows | undefined {
  return movesOf(own, row).find((m) => m.pairs.includes(row) && (!level || m.byLevels));
}

/** What a move would do, told before it is taken: how many, how far, where, and how each pair of a fit comes out. */
import { sameJson } from "../../math/json";
import { fitted } from "../../math/similarity";
import { positionFitted, rowsToMove, type FitDone, type Move, type MovePair } from "../../points/moves";
import { findPoints, refOf } from "../../points/refs";
import { GONE, type Position, type PointTable } from "../../points/table";
import { KINDS } from "../../records/kinds";
import { pairsByNearness, pairsByNumber } from "../../volumes/against-points";
import { constructedIn, movedPoints } from "../model/moving";
import type { JobState } from "../model/model";

/** Rows of the table before and after that are told. */
const MOST_TOLD = 200;
/** Pairs each of which is left out once, to see what it does. */
const MOST_TRIED = 200;
/** So much wider than nine of ten of its points a selection reaches when that is said. */
const WIDER = 5;

export interface MoveTold {
  /** Points that are moved, that are named and not there, and that follow their constructions instead. */
  count: number;
  missing: number;
  following: number;
  problem?: string;
  /** The ones moved farthest in plan and in level: by how much, and the point. */
  farthest?: { plan: number; level: number; point: number };
  /** What the moved points extend over, before the move. */
  extent?: { width: number; height: number };
  /** Far wider than where nine of ten are: nine of ten within the one distance of their middle, the last at the other. */
  wide?: { within: number; reach: number };
  /** The first of them. */
  rows: { id: number; before: Position; after: Position }[];
  fit?: FitTold;
  /** A move that does the same to points of these already. */
  same?: { name: string; count: number };
}

export interface FitTold extends Omit<FitDone, "residuals"> {
  residuals: (Omit<FitDone["residuals"][number], "from" | "to"> & {
    /** Ids. */
    from: number;
    to: number;
    /** RMS in plan of the others without it; not there where they would be too few. */
    without?: number;
  })[];
}

/** `at`: before which of the job's moves it comes; after all of them where it is new. Points are those stored. */
export function moveTold(state: JobState, move: Move, at = state.moves.length): MoveTold {
  const before = movedPoints(state.points, { ...state, moves: state.moves.slice(0, at) }).points,
    { points: after, movesMade } = movedPoints(state.points, { ...state, moves: [...state.moves.slice(0, at), move] }),
    { rows, missing, following, done } = movesMade.at(-1)!,
    living = rows.filter((i) => !before.deleted[i]),
    told: MoveTold = { count: living.length, missing, following: following.length, rows: [] },
    position = (t: PointTable, i: number): Position => [t.e[i]!, t.n[i]!, t.z[i]!];
  if (living.length === 0) told.problem = missing ? "None of its points is there." : "No point is moved.";
  if ("problem" in done) return { ...told, problem: `${done.problem[0]!.toUpperCase()}${done.problem.slice(1)}.` };
  for (const i of living) {
    const plan = Math.hypot(after.e[i]! - before.e[i]!, after.n[i]! - before.n[i]!),
      level = after.z[i]! - before.z[i]!;
    if (!told.farthest || plan > told.farthest.plan)
      told.farthest = { plan, level: told.farthest?.level ?? 0, point: before.id[i]! };
    if (Math.abs(level) > Math.abs(told.farthest.level)) told.farthest.level = level;
  }
  const wide = wideOf(before, living);
  return {
    ...told,
    ...(living.length ? { extent: extentOf(before, living) } : {}),
    ...(wide ? { wide } : {}),
    rows: Array.from(living.slice(0, MOST_TOLD), (i) => ({
      id: before.id[i]!,
      before: position(before, i),
      after: position(after, i),
    })),
    ...(done.fit ? { fit: fitTold(before, move, done.fit) } : {}),
    ...sameOf(state, move, at, before),
  };
}

function extentOf(t: PointTable, rows: Int32Array) {
  let [w, s, e, n] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const i of rows) {
    [w, e] = [Math.min(w, t.e[i]!), Math.max(e, t.e[i]!)];
    [s, n] = [Math.min(s, t.n[i]!), Math.max(n, t.n[i]!)];
  }
  return { width: e - w, height: n - s };
}

/** Nine of ten lie near the middle of all, and some far away: what looks small is not. */
function wideOf(t: PointTable, rows: Int32Array): MoveTold["wide"] {
  if (rows.length < 3) return undefined;
  const middle = (column: Float64Array) => Float64Array.from(rows, (i) => column[i]!).sort()[rows.length >> 1]!,
    [e, n] = [middle(t.e), middle(t.n)],
    far = Float64Array.from(rows, (i) => Math.hypot(t.e[i]! - e, t.n[i]! - n)).sort(),
    within = far[Math.ceil(0.9 * far.length) - 1]!,
    reach = far.at(-1)!;
  return reach > WIDER * within && within > 0 ? { within, reach } : undefined;
}

/** How each pair comes out, and the others without it. */
function fitTold(t: PointTable, { fit: { scale = 1 } = { pairs: [] } }: Move, done: FitDone): FitTold {
  const counted = done.residuals.filter((r) => !r.out),
    pairs = counted.map((r) => ({ from: positionFitted(t, r.from), to: positionFitted(t, r.to) })),
    tried = counted.length >= 3 && counted.length <= MOST_TRIED;
  const without = (r: FitDone["residuals"][number]) => {
    const others = fitted(pairs.toSpliced(counted.indexOf(r), 1), { scale, levels: "none" });
    return typeof others === "string" ? {} : { without: others.rmsPlan };
  };
  return {
    ...done,
    residuals: done.residuals.map((r) => ({
      ...r,
      from: t.id[r.from]!,
      to: t.id[r.to]!,
      ...(r.out || !tried ? {} : without(r)),
    })),
  };
}

/** Another move that does the same to points of these. */
function sameOf(state: JobState, move: Move, at: number, t: PointTable): Pick<MoveTold, "same"> {
  const said = ({ transform, fit }: Move) => ({ transform, fit }),
    of = { intakes: state.intakes, constructed: constructedIn(state) },
    rowsOf = (m: Move) => rowsToMove(t, m, of).rows;
  for (const [k, other] of state.moves.entries()) {
    if (k === at || !sameJson(said(other), said(move))) continue;
    const own = new Set(rowsOf(move)),
      count = rowsOf(other).filter((i) => own.has(i)).length;
    if (count) return { same: { name: other.name, count } };
  }
  return {};
}

export type PairsAsked = { by: "number"; strip?: string } | { by: "near"; within: number };

/**
 * Pairs for a fit that are not among those that it has: points of one number once a prefix or suffix is taken off, or the
 * nearest after the fit as it is. Those that others are fitted to stay where they are and were not measured with them:
 * control, designed and computed points and those of drawings, or where there are none all that are not moved.
 */
export function pairsFor(
  state: JobState,
  move: Move,
  asked: PairsAsked,
  taken: readonly MovePair[],
  at = state.moves.length,
): MovePair[] {
  const before = movedPoints(state.points, { ...state, moves: state.moves.slice(0, at) }).points,
    { points: after, movesMade } = movedPoints(state.points, { ...state, moves: [...state.moves.slice(0, at), move] }),
    { rows } = movesMade.at(-1)!,
    found = findPoints(before, state.intakes),
    has = new Set(taken.flatMap((p) => [found.rowOf(p.from), found.rowOf(p.to)])),
    own = new Set(rows),
    follows = constructedIn(state),
    free = Int32Array.from(before.id.keys()).filter(
      (i) => !before.deleted[i] && !own.has(i) && !has.has(i) && !(before.intake[i]! < 0 && follows.has(before.id[i]!)),
    ),
    known = free.filter((i) => KINDS[before.kind[i]!] !== "measured"),
    moved = rows.filter((i) => !(before.deleted[i]! & GONE) && !has.has(i)),
    pairs =
      asked.by === "number"
        ? pairsByNumber(moved, free, before.number, asked.strip)
        : pairsByNearness(moved, known.length ? known : free, after, asked.within),
    ref = (i: number) => refOf(before, state.intakes, i);
  return pairs.built.map((i, k) => ({ from: ref(i), to: ref(pairs.designed[k]!) }));
}

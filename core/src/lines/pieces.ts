/** Vertices with their cues → pieces: straight, arcs (`via`, `swing`), smooth curves (`flow`), as FIELD-CODES.md says exactly. */
import { append } from "../math/many";
import { arcPieces, fullCircle, straightPieces, type ArcLimits, type ArcOutcome, type Shot } from "./arc";
import { curvePieces, directionOnCurve } from "./curve";
import type { ArcPiece, Piece } from "./model";

/** A position of a line: a shot, or a corner that was made (index −1). */
export interface Vertex extends Shot {
  via?: boolean;
  swing?: boolean;
  flow?: boolean;
  still?: boolean;
}

export interface Outcome extends Omit<ArcOutcome, "pieces"> {
  /** Shots that the outcome is about. */
  shots: number[];
  /** Why a cue did nothing, where it is no arc. */
  why?: string;
}

export interface Built {
  pieces: Piece[];
  outcomes: Outcome[];
}

/** `loop` says that the line returns by its own cue: only then may a smooth curve be periodic. */
export function buildPieces(vertices: readonly Vertex[], closed: boolean, loop: boolean, limits: ArcLimits): Built {
  const count = vertices.length,
    outcomes: Outcome[] = [];
  const at = (k: number) => vertices[k % count]!;
  const tell = ({ pieces, ...outcome }: ArcOutcome, shots: readonly Shot[]) => {
    if (outcome.flat || outcome.ignored || outcome.misfit)
      outcomes.push({ ...outcome, shots: shots.map((s) => s.index).filter((i) => i >= 0) });
    return pieces;
  };
  const last = closed ? count : count - 1;
  if (!vertices.some((v) => v.via || v.swing || v.flow))
    return { pieces: straightPieces(closed ? [...vertices, at(0)] : vertices), outcomes };
  const flowing = flowRanges(vertices, loop, last);
  // On a curve the other cues do nothing: a via anywhere on it, a swing where a piece of it ends.
  const via = vertices.map((v) => v.via === true),
    swing = vertices.map((v) => v.swing === true);
  for (const { from, to } of flowing)
    for (let k = from; k <= to; k++) {
      if (via[k % count]) drop(via, k, "a via");
      if (swing[k % count] && k > from) drop(swing, k, "a swing");
    }
  if (!closed && swing[0]) drop(swing, 0, "a swing with nothing before it", "");
  for (let k = 0; k < count; k++) if (via[k] && swing[k]) drop(swing, k, "a swing on a via", "");

  if (closed && !via.includes(false)) return { pieces: tell(fullCircle(vertices, limits), vertices), outcomes };
  const periodic = flowing.find((f) => f.periodic);
  if (periodic) return { pieces: curve(vertices, true), outcomes };

  // A via without a shot before it or after it is no anchor for an arc and stays straight.
  const anchor = (k: number) => !via[k % count] || (!closed && (k === 0 || k === count - 1));
  if (!closed)
    for (const k of new Set([0, count - 1])) if (via[k]) outcomes.push({ ignored: true, shots: [at(k).index] });
  const pieces: Piece[] = [];
  const start = closed ? firstAnchor() : 0,
    end = start + last;
  for (let k = start; k < end;) {
    const flow = flowing.find((f) => f.from === k % count);
    if (flow) {
      const run = Array.from({ length: flow.to - flow.from + 1 }, (_, j) => at(flow.from + j));
      append(pieces, curve(run, false));
      k += flow.to - flow.from;
      continue;
    }
    let next = k + 1;
    while (!anchor(next)) next++;
    if (next > k + 1) {
      const between = Array.from({ length: next - k - 1 }, (_, j) => at(k + 1 + j));
      append(pieces, tell(arcPieces(at(k), between, at(next), limits), between));
    } else if (swing[next % count]) pieces.push(...swingPiece(pieces.at(-1), at(k), at(next)));
    else pieces.push(...straightPieces([at(k), at(next)]));
    k = next;
  }
  return { pieces, outcomes };

  /** A closed line is walked from a position where nothing bends across: no via, and no curve that passes over it. */
  function firstAnchor(): number {
    const inside = (k: number) => flowing.some((f) => k > f.from && k < f.to);
    const zero = !via[0] && !inside(0) && !inside(count);
    return zero
      ? 0
      : Math.max(
          0,
          via.findIndex((v, k) => !v && !inside(k)),
        );
  }

  function drop(list: boolean[], k: number, what: string, where = " inside a smooth curve"): void {
    list[k % count] = false;
    outcomes.push({ ignored: true, why: `${what}${where}`, shots: [at(k).index].filter((i) => i >= 0) });
  }

  /** Consecutive shots at one position count once. */
  function curve(shots: readonly Vertex[], round: boolean): Piece[] {
    const same = (a: Shot, b: Shot) => a.position[0] === b.position[0] && a.position[1] === b.position[1];
    const distinct = shots.filter((s, k) => k === 0 || !same(s, shots[k - 1]!));
    if (round && distinct.length > 1 && same(distinct[0]!, distinct.at(-1)!)) distinct.pop();
    if (distinct.length > 2) return curvePieces(distinct, round);
    return straightPieces(round && distinct[0] ? [...distinct, distinct[0]] : distinct);
  }

  function swingPiece(before: Piece | undefined, a: Vertex, b: Vertex): Piece[] {
    const straight = () => straightPieces([a, b]);
    const ignored = (why: string) => {
      outcomes.push({ ignored: true, why, shots: [b.index] });
      return straight();
    };
    if (!before) return ignored("a swing with nothing before it");
    const [te, tn] = endDirection(before),
      size = Math.hypot(te, tn);
    if (size === 0) return ignored("a swing after a piece without a direction");
    const ve = b.position[0] - a.position[0],
      vn = b.position[1] - a.position[1],
      vv = ve * ve + vn * vn;
    // The normal to the right of the direction in which the line arrives.
    const across = (ve * tn - vn * te) / size,
      ahead = (ve * te + vn * tn) / size;
    if (vv === 0) return ignored("a swing to the position where it starts");
    if (across === 0 || Math.abs(vv / (2 * across)) > limits.largestRadius)
      return ahead > 0 ? straight() : ignored("a swing straight back");
    const radius = vv / (2 * across);
    const center: [number, number] = [a.position[0] + (tn / size) * radius, a.position[1] - (te / size) * radius];
    // Half the swept angle lies between the tangent and the chord.
    const sweep = 2 * Math.atan2(across, ahead);
    const arc: ArcPiece = {
      type: "arc",
      from: a.position,
      to: b.position,
      center,
      radius: Math.abs(radius),
      sweep,
      levels: [
        { share: 0, level: a.position[2] },
        { share: 1, level: b.position[2] },
      ],
      shots: [a.index, b.index],
    };
    return [arc];
  }
}

interface Flow {
  from: number;
  to: number;
  periodic: boolean;
}

/**
 * Where smooth curves run: from a `flow` to the next `still`, else to the line's end; a closed line's last curve ends
 * at its first shot.
 */
function flowRanges(vertices: readonly Vertex[], loop: boolean, last: number): Flow[] {
  const out: Flow[] = [];
  let open: number | undefined;
  vertices.forEach((v, k) => {
    if (v.still && open !== undefined) {
      out.push({ from: open, to: k, periodic: false });
      open = undefined;
    }
    if (v.flow && open === undefined) open = k;
  });
  if (open !== undefined && open < last)
    out.push({ from: open, to: last, periodic: loop && open === 0 && out.length === 0 });
  return out.filter((f) => f.to > f.from);
}

/** Direction in which a piece arrives at its end, not of unit length. */
export function endDirection(p: Piece): [number, number] {
  if (p.type === "curve") return directionOnCurve(p, 1);
  return p.type === "arc" ? tangent(p, p.to) : [p.to[0] - p.from[0], p.to[1] - p.from[1]];
}

/** Direction in which a piece leaves its start. */
export function startDirection(p: Piece): [number, number] {
  if (p.type === "curve") return directionOnCurve(p, 0);
  return p.type === "arc" ? tangent(p, p.from) : [p.to[0] - p.from[0], p.to[1] - p.from[1]];
}

function tangent(p: ArcPiece, at: readonly [number, number, number]): [number, number] {
  const e = at[0] - p.center[0],
    n = at[1] - p.center[1];
  // Turning right the direction is the radius turned right.
  return p.sweep > 0 ? [n, -e] : [-n, e];
}

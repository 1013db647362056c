/**
 * Line work by geometry, as data that follows its sources: every new position is a point that follows others (fillets,
 * ends on other lines, feet, mirrored shots), every line goes through points. What cannot be done is told in a sentence.
 */
import { footOn, type InPlan } from "../../construct/solve";
import type { HandLine } from "../../lines/model";
import { freeLineName } from "../../lines/names";
import { lineLine } from "../../lines/meet";
import { lineRefOf } from "../../lines/refs";
import { lengthText } from "../../math/units";
import { plural } from "../../math/words";
import { refOf, type PointRef } from "../../points/refs";
import type { AtStation } from "../../volumes/station-table";
import type { OneChange, SeveralChange } from "../change/change";
import type { JobState } from "../model/model";
import { asHand, handOf, named, NO_PARALLEL, settled, type DrawnLine } from "./drawn-lines";
import { nameGoesOn } from "./line-names";
import { Making } from "./making";

/** An edit that makes points; `count` says how many ids it takes. */
export type GeometryEdit = { change: SeveralChange; count: number } | { refused: string };

const lineOf = (l: Pick<DrawnLine, "code" | "run">) => (l.run ? `${l.code} ${l.run}` : l.code);

const done = (making: Making, text: string, ...changes: OneChange[]): GeometryEdit => ({
  change: { type: "several", text, changes: [...making.changes(), ...changes] },
  count: making.count,
});

/** Where a table row stands in plan. */
const planOf = ({ points: t }: JobState, row: number): InPlan => [t.e[row]!, t.n[row]!];

/** Shots that a curve or arc passes are no corners of straight pieces. */
const isSteered = (line: DrawnLine, k: number) => Boolean(line.steering?.[k]);

/** The line as one by hand in which its points are others; with the changes by which the present one goes. */
function instead(job: JobState, line: DrawnLine, to: (hand: HandLine) => HandLine): OneChange[] {
  const own = handOf(job, line);
  if (own) return [named(own, to(settled(job, own)))];
  const { hand, without } = asHand(job, line);
  return [...without, named(null, to(hand)), ...nameGoesOn(job, line, { hand: hand.name! })];
}

/**
 * Rounds the corner of a line at its k-th shot by an arc of a radius, in the job's unit, that touches both sides. Its centre, both ends and its middle are
 * points: where both sides moved aside by the radius meet, the feet from there, and between it and the corner.
 */
export function filletCorner(
  job: JobState,
  line: DrawnLine,
  k: number,
  radius: number,
  ids?: readonly number[],
): GeometryEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  if (!(radius > 0)) return { refused: "A fillet has a radius above 0." };
  const count = line.shots.length,
    [before, after] = line.closed ? [(k + count - 1) % count, (k + 1) % count] : [k - 1, k + 1],
    [a, b, c] = [before, k, after].map((j) => line.shots[j]);
  if (count < 3 || a === undefined || b === undefined || c === undefined)
    return { refused: "A corner is rounded between two pieces: choose a shot that is no end of its line." };
  if ([before, k, after].some((j) => isSteered(line, j)))
    return { refused: "An arc or a smooth curve passes there; only a corner of two straight pieces is rounded." };
  const [pa, pb, pc] = [a, b, c].map((row) => planOf(job, row)) as [InPlan, InPlan, InPlan],
    turn = turnAt(pa, pb, pc);
  if (Math.abs(turn) < 1e-6) return { refused: "Both pieces lie in one direction there: nothing is to be rounded." };
  // From the corner to where the arc touches.
  const most = Math.min(distance(pa, pb), distance(pb, pc)),
    half = Math.tan(Math.abs(turn) / 2);
  if (radius * half > most * (1 + 1e-12))
    return {
      refused: `A radius of ${lengthText(radius, job.unit)} reaches beyond the pieces there: at most ${lengthText(most / half, job.unit)}.`,
    };
  const making = new Making(job, ids),
    [ra, rb, rc] = [a, b, c].map((row) => refOf(job.points, job.intakes, row)) as [PointRef, PointRef, PointRef],
    aside = turn > 0 ? radius : -radius,
    arc = filletArc(making, [ra, rb], [rb, rc], aside, rb, radius);
  if (!arc) return { refused: "No arc of this radius touches both pieces." };
  const text = `${lineOf(line)} rounded at ${job.points.number[b]} by ${lengthText(radius, job.unit)}`;
  return done(
    making,
    text,
    ...instead(job, line, (hand) => {
      const at = hand.points.indexOf(rb),
        { [rb]: said, ...cues } = hand.cues ?? {};
      // What the corner said of the line goes on at the arc's beginning.
      return {
        ...hand,
        points: hand.points.toSpliced(at < 0 ? k : at, 1, ...arc.points),
        cues: { ...cues, ...(said ? { [arc.points[0]!]: said } : {}), [arc.middle]: "via" },
      };
    }),
  );
}

/** The points of an arc between two straight lines, each through two points; `aside`: its centre from both, + right. */
function filletArc(
  making: Making,
  one: [PointRef, PointRef],
  other: [PointRef, PointRef],
  aside: number,
  corner: PointRef,
  radius: number,
): { points: PointRef[]; middle: PointRef } | undefined {
  const centre = making.construct({
      meet: [
        { line: one, right: aside },
        { line: other, right: aside },
      ],
    }),
    from = centre && making.construct({ foot: centre.ref, on: one }, { along: true }),
    middle = centre && making.construct({ between: [centre.ref, corner], distance: radius }),
    to = centre && making.construct({ foot: centre.ref, on: other }, { along: true });
  return from && middle && to && { points: [from.ref, middle.ref, to.ref], middle: middle.ref };
}

const distance = (a: InPlan, b: InPlan) => Math.hypot(b[0] - a[0], b[1] - a[1]);

/** What a way through three positions turns at the second, radians, + to the right. */
function turnAt(a: InPlan, b: InPlan, c: InPlan): number {
  const [ue, un] = [b[0] - a[0], b[1] - a[1]],
    [ve, vn] = [c[0] - b[0], c[1] - b[1]];
  return Math.atan2(un * ve - ue * vn, ue * ve + un * vn);
}

/**
 * Extends a line straight on from the end that comes there first to where it meets the straight line through the points of
 * two rows. The new end stands where both meet, whatever becomes of them; its level is that of the line's slope now.
 */
export function extendTo(
  job: JobState,
  line: DrawnLine,
  [c, d]: readonly [number, number],
  ids?: readonly number[],
): GeometryEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  if (line.closed) return { refused: "A closed line has no end to extend; open it first." };
  if (line.shots.length < 2) return { refused: "A line of one shot has no direction." };
  const ends = (["last", "first"] as const).flatMap((end) => {
    const [inner, outer] = end === "last" ? [line.shots.at(-2)!, line.shots.at(-1)!] : [line.shots[1]!, line.shots[0]!],
      [p, q] = [planOf(job, inner), planOf(job, outer)],
      met = meetOf(p, q, planOf(job, c), planOf(job, d));
    if (!met) return [];
    const on = (met[0] - q[0]) * (q[0] - p[0]) + (met[1] - q[1]) * (q[1] - p[1]);
    return on > 0 ? [{ end, inner, outer, far: distance(q, met) }] : [];
  });
  const [best] = ends.sort((x, y) => x.far - y.far);
  if (!best) return { refused: `Neither end of ${lineOf(line)} comes to that line when it goes straight on.` };
  if (isSteered(line, best.end === "last" ? line.shots.length - 1 : 0))
    return { refused: "It ends in an arc or a smooth curve, which has no straight way on." };
  const making = new Making(job, ids),
    ref = (row: number) => refOf(job.points, job.intakes, row),
    { z, number } = job.points,
    rise = z[best.outer]! - z[best.inner]!,
    along = distance(planOf(job, best.inner), planOf(job, best.outer)),
    made = making.construct(
      { meet: [{ line: [ref(best.inner), ref(best.outer)] }, { line: [ref(c), ref(d)] }] },
      z[best.outer]! + (rise * best.far) / along,
    );
  if (!made) return { refused: "The two lines are parallel there." };
  const at = `${lineOf(line)} extended by ${lengthText(best.far, job.unit)} from ${number[best.outer]}`;
  return done(
    making,
    at,
    ...instead(job, line, (hand) => ({
      ...hand,
      points: best.end === "last" ? [...hand.points, made.ref] : [made.ref, ...hand.points],
    })),
  );
}

/**
 * The straight piece of another line, by the rows of its shots, to which a line comes first when it goes straight on from an
 * end; else the one whose own prolongation is met first. Undefined where none is met.
 */
export function pieceMet(job: JobState, line: DrawnLine, other: DrawnLine): [number, number] | undefined {
  if (line.shots.length < 2) return undefined;
  const ways = [line.shots.slice(-2), line.shots.slice(0, 2).reverse()].map((rows) => rows.map((r) => planOf(job, r))),
    count = other.shots.length - (other.closed ? 0 : 1);
  let best: { on: boolean; far: number; piece: [number, number] } | undefined;
  for (let k = 0; k < count; k++) {
    const next = (k + 1) % other.shots.length,
      piece: [number, number] = [other.shots[k]!, other.shots[next]!];
    if (isSteered(other, k) || isSteered(other, next)) continue;
    const [c, d] = piece.map((r) => planOf(job, r)) as [InPlan, InPlan];
    for (const [p, q] of ways as [InPlan, InPlan][]) {
      const met = meetOf(p, q, c, d);
      if (!met || (met[0] - q[0]) * (q[0] - p[0]) + (met[1] - q[1]) * (q[1] - p[1]) <= 0) continue;
      const size = distance(c, d),
        share = ((met[0] - c[0]) * (d[0] - c[0]) + (met[1] - c[1]) * (d[1] - c[1])) / (size * size),
        on = share >= 0 && share <= 1,
        far = distance(q, met);
      if (!best || (on === best.on ? far < best.far : on)) best = { on, far, piece };
    }
  }
  return best?.piece;
}

/** The straight piece of a line that is nearest to a point, by the turn of the shot at which it begins. */
function nearestPiece(job: JobState, line: DrawnLine, row: number): number | undefined {
  const p = planOf(job, row),
    count = line.shots.length - (line.closed ? 0 : 1);
  let best: { far: number; k: number } | undefined;
  for (let k = 0; k < count; k++) {
    const next = (k + 1) % line.shots.length;
    if (isSteered(line, k) || isSteered(line, next)) continue;
    const [a, b] = [line.shots[k]!, line.shots[next]!].map((r) => planOf(job, r)) as [InPlan, InPlan],
      size = (b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2,
      share = size && Math.min(1, Math.max(0, ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / size)),
      far = distance(p, [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])]);
    if (!best || far < best.far) best = { far, k };
  }
  return best?.k;
}

/** Where the straight lines through two pairs of positions meet, worked out near the first; undefined of parallel ones. */
function meetOf(a: InPlan, b: InPlan, c: InPlan, d: InPlan): InPlan | undefined {
  const near = ([e, n]: InPlan): [number, number] => [e - a[0], n - a[1]],
    [met] = lineLine([0, 0], near(b), near(c), near(d));
  return met && [a[0] + met[0], a[1] + met[1]];
}

export type BesideHow = "square" | "parallel";

/**
 * A line by hand of a code, at the straight piece of a line that is nearest to the point of a row: square from the point to
 * it, or through the point, parallel to it and as long.
 */
export function lineBeside(
  job: JobState,
  line: DrawnLine,
  how: BesideHow,
  row: number,
  code: string,
  ids?: readonly number[],
): GeometryEdit {
  const k = nearestPiece(job, line, row);
  if (k === undefined)
    return { refused: "An arc or a smooth curve has no direction that holds: a straight piece is asked." };
  const making = new Making(job, ids),
    ref = refOf(job.points, job.intakes, row),
    on = [k, (k + 1) % line.shots.length].map((j) => refOf(job.points, job.intakes, line.shots[j]!)) as [
      PointRef,
      PointRef,
    ],
    foot = making.construct({ foot: ref, on }, { along: true }),
    number = job.points.number[row]!;
  if (!foot) return { refused: "The piece has no length there." };
  if (distance(foot.at, planOf(job, row)) < job.tolerance.coincident)
    return { refused: `Point ${number} lies on the line itself.` };
  if (how === "square") {
    const hand: HandLine = { name: freeName(job), code, points: [ref, foot.ref] };
    return done(making, `${code} square from ${number} to ${lineOf(line)}`, named(null, hand));
  }
  const points = on.flatMap((end) => making.construct({ fourth: [end, foot.ref, ref] })?.ref ?? []),
    hand: HandLine = { name: freeName(job), code, points };
  return done(making, `${code} through ${number} parallel to ${lineOf(line)}`, named(null, hand));
}

const freeName = (job: JobState) => freeLineName(new Set(job.lines.map((l) => l.name)));

/** The line mirrored at the straight line through the points of two rows, as one of its own: arcs and curves with it. */
export function mirrorLine(
  job: JobState,
  line: DrawnLine,
  axis: readonly [number, number],
  ids?: readonly number[],
): GeometryEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  const on = axis.map((row) => refOf(job.points, job.intakes, row)) as [PointRef, PointRef],
    making = new Making(job, ids),
    { hand } = asHand(job, line),
    mirrored = new Map<PointRef, PointRef>();
  for (const ref of hand.points) {
    const at = making.at(ref);
    if (mirrored.has(ref) || !at) continue;
    const [p, q] = axis.map((row) => planOf(job, row)) as [InPlan, InPlan],
      foot = footOn(p, q, at);
    if (!foot) return { refused: "The two points of the axis stand at one position." };
    // What is on the axis is its own mirror image.
    const isOn = distance(foot, at) < job.tolerance.coincident,
      made = isOn ? undefined : making.construct({ mirror: ref, on }, { of: ref });
    mirrored.set(ref, made?.ref ?? ref);
  }
  if (making.count === 0) return { refused: "All of it lies on the axis." };
  const { cues: said, color, code, closed } = hand,
    cues = Object.fromEntries(
      Object.entries(said ?? {}).map(([ref, words]) => [mirrored.get(ref) ?? ref, otherSide(words)]),
    ),
    next: HandLine = {
      name: freeName(job),
      code,
      points: hand.points.map((ref) => mirrored.get(ref) ?? ref),
      ...(Object.keys(cues).length ? { cues } : {}),
      ...(closed ? { closed } : {}),
      ...(color ? { color } : {}),
    };
  const [p, q] = axis.map((row) => job.points.number[row]!);
  return done(making, `${lineOf(line)} mirrored at ${p} to ${q}`, named(null, next));
}

/** What stood to the right stands to the left. */
const otherSide = (words: string) =>
  words
    .split(" ")
    .map((w) => {
      const [word, value] = w.split("=");
      if (value === undefined || (word !== "off" && word !== "box")) return w;
      const [right, ...more] = value.split(",");
      return `${word}=${[-Number(right), ...more].join(",")}`;
    })
    .join(" ");

/** Points along a line at stations, each of which stays at its station when the line becomes another. */
export function pointsAlong(
  job: JobState,
  line: DrawnLine,
  stations: readonly AtStation[],
  description: string,
  ids?: readonly number[],
): GeometryEdit {
  const of = lineRefOf(line, { table: job.points, intakes: job.intakes });
  if (!of) return { refused: NO_PARALLEL };
  if (stations.length === 0) return { refused: "The line is shorter than that: no point comes of it." };
  const making = new Making(job, ids);
  for (const { station, e, n } of stations)
    making.put([e, n], { by: { line: of, station }, elevation: { along: true }, description });
  return done(making, `${plural(stations.length, "point")} made along ${lineOf(line)}`);
}

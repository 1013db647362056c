/**
 * Where a construction puts its point in plan, by plane geometry on the positions of its sources. Worked out relative to
 * the first of them, so that large coordinates keep their digits. Frames E, N; angles in degrees clockwise.
 */
import { directionOf } from "../math/angles";
import { circleThrough } from "../lines/circle";
import { circleCircle, lineCircle, lineLine, type Circle } from "../lines/meet";
import type { ArcPiece, Line, Piece } from "../lines/model";
import type { PointRef } from "../points/refs";
import type { AlongWay } from "../volumes/along-way";
import type { By, LineAsked, LineRef, Ray } from "./model";

export type InPlan = readonly [e: number, n: number];
/** Why it has no position: a source is missing, its sources make it impossible, or two fit and nothing says which is meant. */
export type Lost = { missing: PointRef } | { why: string } | { both: readonly [InPlan, InPlan] };
/** All positions that a construction has: one, or two of which one is to be chosen. */
export type Solved = { at: InPlan[] } | Lost;

/** What constructions are worked out from. */
export interface Sources {
  /** East, north; undefined where the point is not there. */
  at(ref: PointRef): InPlan | undefined;
  /** The way along a line, or a sentence why there is none. */
  way(line: LineAsked): AlongWay | string;
  /** The line of the job that is meant, or a sentence why there is none. */
  line(ref: LineRef): Pick<Line, "pieces"> | string;
  /** Table row of a point, as pieces of lines name their shots; −1 where it is not there. */
  rowOf(ref: PointRef): number;
}

const lost = (why: string): Lost => ({ why });
const one = (e: number, n: number): Solved => ({ at: [[e, n]] });
const SAME = "two of its points stand at one position",
  STRAIGHT = "its three points are on one line";

/** Every position of a construction. Those of two that meet come in a fixed order, which moving sources keeps. */
export function solve(by: By, from: Sources): Solved {
  if ("at" in by) return one(...by.at);
  if ("line" in by) return besideLine(by, from);
  if ("tangents" in by) return tangentsMeet(by, from);
  if ("meet" in by) return meeting(by.meet, from);
  if ("azimuth" in by)
    return onPoints([by.from], from, ([e, n]) => {
      const [de, dn] = directionOf(by.azimuth);
      return one(e + by.distance * de, n + by.distance * dn);
    });
  if ("from" in by) return onPoints([by.from, by.to], from, (a, b) => alongPair(by, a, b));
  if ("between" in by)
    return onPoints(by.between, from, ([e, n], b) => {
      const [de, dn] = [b[0] - e, b[1] - n],
        size = Math.hypot(de, dn);
      if ("ratio" in by) return one(e + by.ratio * de, n + by.ratio * dn);
      return size === 0 ? lost(SAME) : one(e + (by.distance * de) / size, n + (by.distance * dn) / size);
    });
  if ("foot" in by)
    return onPoints([...by.on, by.foot], from, (a, b, p) => {
      const foot = footOn(a, b, p);
      return foot ? one(...foot) : lost(SAME);
    });
  if ("mirror" in by)
    return onPoints([...by.on, by.mirror], from, (a, b, p) => {
      const foot = footOn(a, b, p);
      return foot ? one(p[0] + 2 * (foot[0] - p[0]), p[1] + 2 * (foot[1] - p[1])) : lost(SAME);
    });
  if ("centre" in by)
    return onPoints(by.centre, from, (a, b, c) => {
      const around = isStraight(a, b, c)
        ? undefined
        : circleThrough(0, 0, b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]);
      return around ? one(a[0] + around.e, a[1] + around.n) : lost(STRAIGHT);
    });
  if ("fourth" in by) return onPoints(by.fourth, from, (a, b, c) => one(a[0] + (c[0] - b[0]), a[1] + (c[1] - b[1])));
  return onPoints(by.rectangle, from, (a, b) => {
    const [de, dn] = unitOf(a, b);
    if (de === 0 && dn === 0) return lost(SAME);
    const [e, n] = by.corner === 3 ? b : a;
    return one(e + by.width * dn, n - by.width * de);
  });
}

/** The nearest of several positions to one; the first of two as near. */
export function nearer(at: readonly InPlan[], [e, n]: InPlan): InPlan {
  const far = (x: InPlan) => Math.hypot(x[0] - e, x[1] - n);
  return at.reduce((best, x) => (far(x) < far(best) ? x : best));
}

function onPoints(refs: readonly PointRef[], from: Sources, make: (...at: [InPlan, InPlan, InPlan]) => Solved): Solved {
  const at: InPlan[] = [];
  for (const ref of refs) {
    const position = from.at(ref);
    if (!position) return { missing: ref };
    at.push(position);
  }
  return make(...(at as unknown as [InPlan, InPlan, InPlan]));
}

/** The foot of the perpendicular from p on the line through a and b; undefined where these are one. */
export function footOn([e, n]: InPlan, b: InPlan, p: InPlan): [number, number] | undefined {
  const [de, dn] = [b[0] - e, b[1] - n],
    size = de * de + dn * dn;
  if (size === 0) return undefined;
  const t = ((p[0] - e) * de + (p[1] - n) * dn) / size;
  return [e + t * de, n + t * dn];
}

function unitOf(a: InPlan, b: InPlan): [number, number] {
  const [de, dn] = [b[0] - a[0], b[1] - a[1]],
    size = Math.hypot(de, dn);
  return size === 0 ? [0, 0] : [de / size, dn / size];
}

/** What rounding makes of lengths of a size. */
const ROUNDING = 2 ** -46;
/** Nearer than this two positions of such coordinates cannot be told apart. */
const slack = (...at: readonly InPlan[]) =>
  ROUNDING * Math.max(...at.map(([e, n]) => Math.max(Math.abs(e), Math.abs(n))));

function isStraight(a: InPlan, b: InPlan, c: InPlan): boolean {
  const [ue, un] = [b[0] - a[0], b[1] - a[1]],
    [ve, vn] = [c[0] - a[0], c[1] - a[1]],
    size = Math.max(Math.hypot(ue, un), Math.hypot(ve, vn));
  return Math.abs(ue * vn - un * ve) <= slack(a, b, c) * size;
}

type AlongPair = Extract<By, { from: PointRef; to: PointRef }>;

function alongPair(by: AlongPair, a: InPlan, b: InPlan): Solved {
  const [de, dn] = unitOf(a, b);
  if (de === 0 && dn === 0) return lost(SAME);
  if ("angle" in by) {
    const [s, c] = directionOf(by.angle),
      d = by.distance;
    return one(a[0] + d * (de * c + dn * s), a[1] + d * (dn * c - de * s));
  }
  const [[e, n], along] = "beyond" in by ? [b, by.beyond] : [a, by.forward],
    right = by.right ?? 0;
  return one(e + along * de + right * dn, n + along * dn - right * de);
}

function besideLine(by: Extract<By, { line: unknown }>, from: Sources): Solved {
  const way = from.way(by.line);
  if (typeof way === "string") return lost(way);
  const at = way.beside(by.station, by.offset ?? 0);
  return at ? one(at.e, at.n) : lost("its line has no length");
}

const isArc = (p: Piece): p is ArcPiece => p.type === "arc";

/** Where the tangents at both ends of an arc meet: of the arc that has the shot in its middle, else of the one that ends there. */
function tangentsMeet(by: Extract<By, { tangents: unknown }>, from: Sources): Solved {
  const line = from.line(by.tangents);
  if (typeof line === "string") return lost(line);
  const row = from.rowOf(by.piece);
  if (row < 0) return { missing: by.piece };
  const arcs = line.pieces.filter(isArc),
    arc = arcs.find((p) => p.shots.slice(1, -1).includes(row)) ?? arcs.find((p) => p.shots.at(-1) === row);
  if (!arc) return lost("no arc of its line has that point in its middle or at its end");
  const half = arc.sweep / 2,
    c = Math.cos(half);
  // Half a turn has parallel tangents.
  if (Math.abs(c) < 1e-9) return lost("the tangents of its arc are parallel");
  const [re, rn] = [arc.from[0] - arc.center[0], arc.from[1] - arc.center[1]],
    // The radius to the middle of the arc: a sweep to the right turns clockwise.
    [me, mn] = [re * c + rn * Math.sin(half), rn * c - re * Math.sin(half)];
  return one(arc.center[0] + me / c, arc.center[1] + mn / c);
}

/** A ray, relative to an origin: a straight line through two positions, or a circle. */
type Local = { through: [[number, number], [number, number]] } | { circle: Circle };

function meeting(rays: readonly [Ray, Ray], from: Sources): Solved {
  const [origin] = anchors(rays[0], from);
  if (!origin) return { missing: missingOf(rays[0], from)! };
  const local: Local[] = [];
  let size = slack(origin);
  for (const ray of rays) {
    const missing = missingOf(ray, from);
    if (missing !== undefined) return { missing };
    const at = anchors(ray, from).map((x): [number, number] => [x![0] - origin[0], x![1] - origin[1]]);
    size = Math.max(size, slack(...anchors(ray, from).map((x) => x!)));
    if ("line" in ray) {
      const [de, dn] = unitOf(at[0]!, at[1]!),
        right = ray.right ?? 0;
      if (de === 0 && dn === 0) return lost(SAME);
      local.push({ through: [at[0]!, at[1]!].map(([e, n]) => [e + right * dn, n - right * de]) as never });
    } else if ("azimuth" in ray) {
      const [de, dn] = directionOf(ray.azimuth),
        [e, n] = at[0]!;
      local.push({ through: [at[0]!, [e + de, n + dn]] });
    } else local.push({ circle: { e: at[0]![0], n: at[0]![1], radius: ray.distance } });
  }
  const [a, b] = local as [Local, Local],
    met = meet(a, b, size);
  return typeof met === "string" ? lost(met) : { at: met.map(([e, n]) => [origin[0] + e, origin[1] + n]) };
}

const anchorRefs = (ray: Ray): PointRef[] => ("line" in ray ? ray.line : [ray.from]);
const anchors = (ray: Ray, from: Sources) => anchorRefs(ray).map((ref) => from.at(ref));
const missingOf = (ray: Ray, from: Sources) => anchorRefs(ray).find((ref) => !from.at(ref));

function meet(a: Local, b: Local, size: number): [number, number][] | string {
  if ("through" in a && "through" in b) {
    const at = lineLine(...a.through, ...b.through);
    return at.length ? at : "its lines are parallel";
  }
  if ("circle" in a && "circle" in b) return circles(a.circle, b.circle, size);
  return "through" in a
    ? lineAndCircle(a.through, (b as { circle: Circle }).circle, size)
    : lineAndCircle((b as { through: [[number, number], [number, number]] }).through, a.circle, size);
}

/** A line that touches a circle to what rounding leaves has one position, not two or none. */
function lineAndCircle(
  [p, q]: [[number, number], [number, number]],
  c: Circle,
  size: number,
): [number, number][] | string {
  const [de, dn] = unitOf(p, q),
    along = (c.e - p[0]) * de + (c.n - p[1]) * dn,
    across = (c.e - p[0]) * dn - (c.n - p[1]) * de;
  if (Math.abs(Math.abs(across) - c.radius) <= size + ROUNDING * c.radius)
    return [[p[0] + along * de, p[1] + along * dn]];
  const at = lineCircle(p, q, c);
  return at.length ? at : "its line passes the circle by";
}

function circles(a: Circle, b: Circle, size: number): [number, number][] | string {
  const [de, dn] = [b.e - a.e, b.n - a.n],
    d = Math.hypot(de, dn);
  if (d <= size) return "its circles have one centre";
  const near = size + ROUNDING * Math.max(a.radius, b.radius);
  const touches =
    Math.abs(d - a.radius - b.radius) <= near
      ? a.radius
      : Math.abs(d - Math.abs(a.radius - b.radius)) <= near
        ? Math.sign(a.radius - b.radius) * a.radius
        : undefined;
  if (touches !== undefined) return [[a.e + (touches * de) / d, a.n + (touches * dn) / d]];
  const at = circleCircle(a, b);
  if (at.length) return at;
  return d > a.radius + b.radius ? "its circles are apart" : "one of its circles lies within the other";
}

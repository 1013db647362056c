/**
 * Courses run from a position: where they lead, by how much they fail to close, that shared out in proportion to length
 * (the compass rule, Bowditch 1808), and slips by which they would close. Frames E, N.
 */
import { circleThrough, sweepBetween } from "../../lines/circle";
import { azimuthOf, directionOf } from "../../math/angles";
import type { InPlan } from "../solve";
import { chordOver, isArc, lengthOf, type Course } from "./model";

/** Where a course leads. */
export interface Corner {
  at: InPlan;
  /** Half of the way along an arc. */
  middle?: InPlan;
  /** The length along the course that leads here. */
  length: number;
}

/**
 * Where courses lead from a position (E, N). All directions that are written are turned by so many degrees to the right;
 * an arc that goes on from the course before turns with that. Why not, and at which course, where one cannot be run.
 */
export function runCourses(
  start: InPlan,
  courses: readonly Course[],
  turned = 0,
): { corners: Corner[] } | { problem: string; course: number } {
  const corners: Corner[] = [];
  // From zero, so that large coordinates lose no digits on the way.
  let at: InPlan = [0, 0],
    heading: number | undefined;
  const on = (from: InPlan, azimuth: number, distance: number): InPlan => {
      const [de, dn] = directionOf(azimuth);
      return [from[0] + distance * de, from[1] + distance * dn];
    },
    back = ([e, n]: InPlan): InPlan => [start[0] + e, start[1] + n];
  for (const [k, c] of courses.entries()) {
    let middle: InPlan | undefined;
    if (isArc(c)) {
      const begins = c.chord === undefined ? heading : c.chord + turned - c.turn / 2;
      if (begins === undefined)
        return { course: k, problem: "An arc that comes first needs the direction of its chord: towards N 10 E." };
      middle = on(at, begins + c.turn / 4, chordOver(c.radius, c.turn / 2));
      at = on(at, begins + c.turn / 2, chordOver(c.radius, c.turn));
      heading = begins + c.turn;
    } else {
      heading = c.azimuth + turned;
      at = on(at, heading, c.distance);
    }
    corners.push({ at: back(at), ...(middle ? { middle: back(middle) } : {}), length: lengthOf(c) });
  }
  return { corners };
}

export interface Closure {
  /** What is missing from the end to where it should be. */
  de: number;
  dn: number;
  error: number;
  /** Radians, from the end towards where it should be. */
  azimuth: number;
  /** Along all courses. */
  length: number;
  /** One in so many: length over error; Infinity where it closes to the last digit. */
  ratio: number;
}

/** How far the courses end from where they should. */
export function closureOf(corners: readonly Corner[], target: InPlan): Closure {
  const { at } = corners.at(-1)!,
    [de, dn] = [target[0] - at[0], target[1] - at[1]],
    error = Math.hypot(de, dn),
    length = corners.reduce((sum, c) => sum + c.length, 0);
  return { de, dn, error, azimuth: azimuthOf(0, 0, de, dn), length, ratio: error === 0 ? Infinity : length / error };
}

/** The corners with the error of closure shared out in proportion to the length run, so that the last is at the target. */
export function distributed(corners: readonly Corner[], target: InPlan): Corner[] {
  const { de, dn, length } = closureOf(corners, target);
  let run = 0;
  return corners.map(({ at, middle, length: own }) => {
    const half = (run + own / 2) / length;
    run += own;
    const whole = run / length,
      moved = ([e, n]: InPlan, share: number): InPlan => [e + share * de, n + share * dn];
    return { at: moved(at, whole), ...(middle ? { middle: moved(middle, half) } : {}), length: own };
  });
}

/** One course read otherwise, and what the string would fail to close by. */
export interface Slip {
  course: number;
  /** What would be another: the course runs the other way, lies in another quadrant, or the arc turns to the other side. */
  kind: "reversed" | "east for west" | "north for south" | "other side";
  instead: Course;
  error: number;
}

/** A slip is told where with it this part of the error is left, and it closes one in so many. */
const LEFT = 0.1,
  CLOSES = 1000;
/** A string that closes so well has no slip. */
const WELL = 5000;
const MOST_TOLD = 4;
/** Each slip is run through the whole string: of longer ones none is sought, so that typing is not held up. */
const LONGEST_SOUGHT = 400;

/** Slips by which the string would close, the best first; none where it closes well as it is, or is very long. */
export function slipsOf(start: InPlan, courses: readonly Course[], target: InPlan, turned = 0): Slip[] {
  if (courses.length > LONGEST_SOUGHT) return [];
  const ran = runCourses(start, courses, turned);
  if ("problem" in ran) return [];
  const { error, length, ratio } = closureOf(ran.corners, target);
  if (ratio >= WELL) return [];
  const found: Slip[] = [];
  courses.forEach((c, course) => {
    for (const [kind, instead] of otherwise(c)) {
      const tried = runCourses(start, courses.with(course, instead), turned);
      if ("problem" in tried) continue;
      const closes = closureOf(tried.corners, target);
      if (closes.error <= LEFT * error && closes.error * CLOSES <= length)
        found.push({ course, kind, instead, error: closes.error });
    }
  });
  return found.sort((a, b) => a.error - b.error).slice(0, MOST_TOLD);
}

/** The ways in which a course is most often misread. Quadrants are those that are written. */
function* otherwise(c: Course): Generator<[Slip["kind"], Course]> {
  if (isArc(c)) return yield ["other side", { ...c, turn: -c.turn }];
  yield ["reversed", { ...c, azimuth: (c.azimuth + 180) % 360 }];
  // Along an axis two of these are one and the same.
  if (c.azimuth % 180 !== 0) yield ["east for west", { ...c, azimuth: 360 - c.azimuth }];
  if (c.azimuth % 180 !== 90) yield ["north for south", { ...c, azimuth: (540 - c.azimuth) % 360 }];
}

const CHORDS = 48;

/** The way that corners lead, as E, N pairs: arcs by chords. */
export function wayOfCorners(start: InPlan, corners: readonly Corner[]): number[] {
  const way: number[] = [...start];
  let from = start;
  for (const { at, middle } of corners) {
    const around =
      middle && circleThrough(0, 0, middle[0] - from[0], middle[1] - from[1], at[0] - from[0], at[1] - from[1]);
    if (around) {
      const right = (middle[0] - from[0]) * (at[1] - from[1]) < (middle[1] - from[1]) * (at[0] - from[0]),
        begins = Math.atan2(-around.e, -around.n),
        sweep = sweepBetween(around, 0, 0, at[0] - from[0], at[1] - from[1], right);
      for (let k = 1; k < CHORDS; k++) {
        const a = begins + (sweep * k) / CHORDS;
        way.push(from[0] + around.e + around.radius * Math.sin(a), from[1] + around.n + around.radius * Math.cos(a));
      }
    }
    way.push(...at);
    from = at;
  }
  return way;
}

/**
 * Points that the office constructs: each way described once (RECIPE.md, “COMPUTED”). Shapes, forms, the solver's words and
 * what refers to what follow from it. Points are named by what the caller knows them by: numbers in a recipe,
 * references by identity in a job (points/refs.ts).
 */
import type { PointRef } from "../points/refs";
import type { DesignLine } from "../volumes/along-way";

/** A line of the job: by its code, run and delivery, by its first shot, or by the name of one drawn by hand. */
export type LineRef = { code: string; run?: string; intake?: string } | LineFrom | { hand: string };
type LineFrom = { code: string; run: string; from: PointRef };
/** A line along which stations run. */
export type LineAsked = DesignLine | LineFrom | { hand: string };

/** What meets another: a straight line both ways, a circle, or the line through two points moved to its right. */
export type Ray =
  | { from: PointRef; azimuth: number }
  | { from: PointRef; distance: number }
  | { line: [PointRef, PointRef]; right?: number };

/** Where a point stands in plan. Angles in degrees, clockwise (from north where no direction is said); lengths in the job's unit. */
export type By =
  | { at: [number, number] }
  | { from: PointRef; azimuth: number; distance: number }
  | { from: PointRef; to: PointRef; forward: number; right?: number }
  | { from: PointRef; to: PointRef; beyond: number; right?: number }
  | { from: PointRef; to: PointRef; angle: number; distance: number }
  | { between: [PointRef, PointRef]; ratio: number }
  | { between: [PointRef, PointRef]; distance: number }
  | { foot: PointRef; on: [PointRef, PointRef] }
  | { mirror: PointRef; on: [PointRef, PointRef] }
  | { centre: [PointRef, PointRef, PointRef] }
  | { fourth: [PointRef, PointRef, PointRef] }
  | { rectangle: [PointRef, PointRef]; width: number; corner: 3 | 4 }
  | { line: LineAsked; station: number; offset?: number }
  | { tangents: LineRef; piece: PointRef }
  | { meet: [Ray, Ray]; near?: PointRef | [number, number] };

/** Where its level comes from: a point, the slope between the two points that `By` names or the line that it is on, a surface. */
export type LevelBy = { of: PointRef; up?: number } | { along: true; up?: number } | { surface: string; up?: number };

/** What a point that the office made follows. What it does not follow (typed coordinates, a typed level) is the point's own. */
export interface Construction {
  /** The id of the point. */
  point: number;
  /** Absent where its position in plan was typed. */
  by?: Exclude<By, { at: unknown }>;
  /** Absent where its level was typed, or is missing. */
  elevation?: LevelBy;
}

/** What stands in a field of a way. */
export type FieldKind =
  | "position"
  | "point"
  | "two"
  | "three"
  | "azimuth"
  | "angle"
  | "length"
  | "ratio"
  | "corner"
  | "line"
  | "line of the job"
  | "rays"
  | "near";

interface WayField {
  is: FieldKind;
  /** What forms call it. */
  words: string;
  optional?: true;
}
interface Way {
  /** What it is called where one chooses. */
  name: string;
  /** The fields by which it is known from all after it, and those beside them. */
  fields: Readonly<Record<string, WayField>>;
  /** The two points between which a level may run, by their fields. */
  along?: readonly [string, number?][];
}

const field = (is: FieldKind, words: string): WayField => ({ is, words }),
  may = (is: FieldKind, words: string): WayField => ({ is, words, optional: true }),
  FROM = { from: field("point", "From"), to: field("point", "Towards") },
  FROM_TO: Way["along"] = [["from"], ["to"]],
  PAIR = (of: string): Way["along"] => [
    [of, 0],
    [of, 1],
  ];

/** In the order in which they are told from one another: a later one has no field set that an earlier one has. */
export const WAYS = {
  at: { name: "By coordinates", fields: { at: field("position", "Position") } },
  azimuth: {
    name: "Azimuth and distance from a point",
    fields: {
      from: field("point", "From"),
      azimuth: field("azimuth", "Azimuth"),
      distance: field("length", "Distance"),
    },
  },
  beyond: {
    name: "On beyond two points",
    fields: { ...FROM, beyond: field("length", "On beyond"), right: may("length", "To the right") },
    along: FROM_TO,
  },
  forward: {
    name: "Forward and right along two points",
    fields: { ...FROM, forward: field("length", "Forward"), right: may("length", "To the right") },
    along: FROM_TO,
  },
  angle: {
    name: "Angle and distance at a point",
    fields: {
      from: field("point", "At"),
      to: field("point", "Turned from"),
      angle: field("angle", "Angle"),
      distance: field("length", "Distance"),
    },
    along: FROM_TO,
  },
  ratio: {
    name: "Between two points, by share",
    fields: { between: field("two", "Between"), ratio: field("ratio", "Share of the way") },
    along: PAIR("between"),
  },
  between: {
    name: "Between two points, by distance",
    fields: { between: field("two", "Between"), distance: field("length", "From the first") },
    along: PAIR("between"),
  },
  foot: {
    name: "Foot of a perpendicular",
    fields: { foot: field("point", "Of point"), on: field("two", "On the line") },
    along: PAIR("on"),
  },
  mirror: { name: "Mirrored at a line", fields: { mirror: field("point", "Point"), on: field("two", "At the line") } },
  meet: {
    name: "Where two meet",
    fields: { meet: field("rays", "These two"), near: may("near", "The one nearer to") },
  },
  centre: { name: "Centre of a circle through three points", fields: { centre: field("three", "Through") } },
  fourth: { name: "Fourth corner of a parallelogram", fields: { fourth: field("three", "After") } },
  rectangle: {
    name: "Corner of a rectangle",
    fields: {
      rectangle: field("two", "Base"),
      width: field("length", "Width to the right"),
      corner: field("corner", "Corner"),
    },
    along: PAIR("rectangle"),
  },
  station: {
    name: "Station and offset of a line",
    fields: {
      line: field("line", "Line"),
      station: field("length", "Station"),
      offset: may("length", "Offset to the right"),
    },
  },
  tangents: {
    name: "Where the tangents of an arc meet",
    fields: { tangents: field("line of the job", "Line"), piece: field("point", "Arc at point") },
  },
} as const satisfies Record<string, Way>;
export type WayName = keyof typeof WAYS;
export const WAY_NAMES = Object.keys(WAYS) as WayName[];

export const wayNamed = (name: WayName): Way => WAYS[name];

/** The fields that a way cannot do without. */
export const neededFields = (name: WayName): string[] =>
  Object.entries(wayNamed(name).fields).flatMap(([key, f]) => (f.optional ? [] : [key]));

/** Which way a `By` goes; every one that has the right shape goes one. */
export function wayOf(by: By): WayName {
  return WAY_NAMES.find((w) => neededFields(w).every((key) => key in by))!;
}

/** The two points of a `By` between which a level may run along; undefined where it names no two. */
export function pairOf(by: By): [PointRef, PointRef] | undefined {
  const { along } = wayNamed(wayOf(by)),
    value = (key: string, k?: number) => {
      const v = (by as unknown as Record<string, PointRef | PointRef[]>)[key]!;
      return (k === undefined ? v : v[k]) as PointRef;
    };
  return along && [value(...along[0]!), value(...along[1]!)];
}

/** Whether `{ along: true }` says something for a way: it names two points, or runs along a line. */
export const hasAlong = (by: By): boolean => pairOf(by) !== undefined || "line" in by;

type Pass = (ref: PointRef, path: string) => PointRef;

/** A `By` with every point that it names passed through `to`. */
export function passedBy<B extends By>(by: B, to: Pass): B {
  const out: Record<string, unknown> = { ...by },
    list = (refs: PointRef[], path: string) => refs.map((r, k) => to(r, `${path}[${k}]`));
  for (const [key, { is }] of Object.entries(wayNamed(wayOf(by)).fields)) {
    const value = out[key];
    if (value === undefined) continue;
    if (is === "point") out[key] = to(value as PointRef, key);
    else if (is === "two" || is === "three") out[key] = list(value as PointRef[], key);
    else if ((is === "line" || is === "line of the job") && "from" in (value as object))
      out[key] = { ...value, from: to((value as LineFrom).from, `${key}.from`) };
    else if (is === "near" && typeof value === "string") out[key] = to(value, key);
    else if (is === "rays")
      out[key] = (value as Ray[]).map((r, k) =>
        "line" in r
          ? { ...r, line: list(r.line, `${key}[${k}].line`) }
          : { ...r, from: to(r.from, `${key}[${k}].from`) },
      );
  }
  return out as B;
}

export const passedLevel = (level: LevelBy, to: Pass): LevelBy =>
  "of" in level ? { ...level, of: to(level.of, "of") } : level;

/** Every point that a construction names, its own not among them. */
export function pointsNamed(c: Pick<Construction, "by" | "elevation">): PointRef[] {
  const out: PointRef[] = [],
    take: Pass = (ref) => {
      out.push(ref);
      return ref;
    };
  if (c.by) passedBy(c.by, take);
  if (c.elevation) passedLevel(c.elevation, take);
  return out;
}

/** The line of the job that a `By` names, where it names one. */
export function lineNamed(by: By | undefined): LineAsked | undefined {
  if (!by) return undefined;
  return "tangents" in by ? by.tangents : "line" in by ? by.line : undefined;
}

/** What a position that was snapped to is, by the shots that give it; undefined where no shots do. `ref` names a point by its row. */
export function constructionOfSnap(
  { kind, e, n, shots }: { kind: string; e: number; n: number; shots?: readonly number[][] },
  t: { e: ArrayLike<number>; n: ArrayLike<number> },
  ref: (row: number) => PointRef,
): By | undefined {
  const [on, off] = (shots ?? []).map((rows) => rows.map(ref)) as [[PointRef, PointRef]?, [PointRef, PointRef]?];
  if (!on) return undefined;
  if (kind === "crossing") return off && { meet: [{ line: on }, { line: off }] };
  if (kind === "centre") return { centre: on as unknown as [PointRef, PointRef, PointRef] };
  if (kind === "middle") return { between: on, ratio: 0.5 };
  const first = shots![0]![0]!;
  return { between: on, distance: Math.hypot(e - t.e[first]!, n - t.n[first]!) };
}

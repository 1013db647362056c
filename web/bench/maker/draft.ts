/** A construction while it is typed and picked: texts by field, read as a construction, and written back from one. */
import { settingOf, type JobState } from "@bramble/core";
import {
  hasAlong,
  wayNamed,
  wayOf,
  type By,
  type FieldKind,
  type LevelBy,
  type LineAsked,
  type Ray,
  type WayName,
} from "@bramble/core/construct/model";
import { sameJson } from "@bramble/core/math/json";
import { formatFixed, plainNumber } from "@bramble/core/math/round";
import { numberTyped, readTypedLength } from "@bramble/core/math/typed";
import { SNAPS, type Snap } from "@bramble/core/lines/snap";
import { findPoints, refsOfNumbers, type PointRef } from "@bramble/core/points/refs";
import { numberIndex } from "@bramble/core/points/index";
import { directionReading } from "../../controls/fields/reading";
import { decimalsOf } from "../../lib/units-shown";

export const LEVELS = {
  none: "missing",
  typed: "typed",
  of: "of a point",
  along: "on the slope",
  surface: "from a surface",
} as const;
export type LevelKind = keyof typeof LEVELS;
export const RAYS = { azimuth: "azimuth from", distance: "distance from", line: "line through" } as const;
export type RayKind = keyof typeof RAYS;

export interface Draft {
  way: WayName;
  texts: Readonly<Record<string, string>>;
  level: LevelKind;
  /** Of two positions the one that was chosen, or one near it. */
  near?: PointRef | readonly [number, number];
  /** Of coordinates that were picked: what was meant there, as long as they are not typed over. */
  picked?: { by: By; e: number; n: number; z: number; said?: string };
}

export const BLANK: Draft = { way: "at", texts: {}, level: "none" };

export interface DraftContext {
  job: JobState;
  lines: ReadonlyMap<string, LineAsked>;
}

/** What a draft says; what of it cannot be read, with the field; or the first field that is still to be filled. */
export type ReadDraft = { by: By; elevation?: number | LevelBy } | { problem: string; at: string } | { needs: string };

/** The parts of a field that are typed each for itself, by what follows its name. */
const PARTS: Partial<Record<FieldKind, readonly string[]>> = {
  two: [".0", ".1"],
  three: [".0", ".1", ".2"],
  position: [".n", ".e"],
};

const rayKindOf = (texts: Draft["texts"], key: string): RayKind =>
  (texts[`${key}.is`] as RayKind | undefined) ?? "azimuth";

/** The fields of points of a draft in the order in which they are filled. */
export function pointKeys({ way, texts }: Pick<Draft, "way" | "texts">): string[] {
  return Object.entries(wayNamed(way).fields).flatMap(([key, { is }]) => {
    if (is === "point") return [key];
    if (is === "two" || is === "three") return PARTS[is]!.map((p) => key + p);
    if (is !== "rays") return [];
    return [0, 1].flatMap((k) => {
      const ray = `${key}.${k}`;
      return rayKindOf(texts, ray) === "line" ? [`${ray}.line.0`, `${ray}.line.1`] : [`${ray}.from`];
    });
  });
}

/** The draft going another way; points that were named stay, in their order. */
export function anotherWay(draft: Draft, way: WayName): Draft {
  const named = pointKeys(draft).flatMap((key) => draft.texts[key]?.trim() || []),
    texts: Record<string, string> = { ...draft.texts };
  const next = { way, texts };
  for (const key of pointKeys(next)) delete texts[key];
  pointKeys(next).forEach((key, k) => named[k] && (texts[key] = named[k]));
  const level = draft.level === "along" && !wayNamed(way).along && way !== "station" ? "none" : draft.level;
  return { way, texts, level };
}

class Unread extends Error {
  constructor(readonly told: { problem: string; at: string } | { needs: string }) {
    super();
  }
}

/** Reads a draft, or says what it still needs. */
export function readDraft(draft: Draft, { job, lines }: DraftContext): ReadDraft {
  const there = numberIndex(job.points),
    refOf = refsOfNumbers(job.points, job.intakes),
    angle = directionReading(settingOf(job, "angle"));
  const text = (key: string): string => {
    const t = draft.texts[key]?.trim() ?? "";
    if (t === "") throw new Unread({ needs: key });
    return t;
  };
  const wrong = (at: string, problem: string): never => {
    throw new Unread({ problem, at });
  };
  const point = (key: string): PointRef => {
      const number = text(key),
        row = there.get(number);
      if (row === undefined) return wrong(key, `There is no point ${number}.`);
      return job.points.deleted[row] ? wrong(key, `Point ${number} has no position now.`) : refOf(number);
    },
    length = (key: string): number => {
      const read = readTypedLength(text(key), job.unit);
      return "value" in read ? read.value : wrong(key, read.problem);
    },
    optional = (key: string): number | undefined => (draft.texts[key]?.trim() ? length(key) : undefined),
    direction = (key: string): number => {
      const read = angle.read(text(key));
      return "value" in read ? read.value : wrong(key, read.problem);
    },
    line = (key: string) => lines.get(text(key)) ?? wrong(key, `There is no ${text(key)}.`);
  const ray = (key: string): Ray => {
    const kind = rayKindOf(draft.texts, key);
    if (kind === "azimuth") return { from: point(`${key}.from`), azimuth: direction(`${key}.azimuth`) };
    if (kind === "distance") {
      const [from, distance] = [point(`${key}.from`), length(`${key}.distance`)];
      return distance > 0 ? { from, distance } : wrong(`${key}.distance`, "A distance above 0.");
    }
    const right = optional(`${key}.right`);
    return { line: [point(`${key}.line.0`), point(`${key}.line.1`)], ...(right ? { right } : {}) };
  };
  const READ: Record<FieldKind, (key: string) => unknown> = {
    position: (key) => [length(`${key}.e`), length(`${key}.n`)],
    point,
    two: (key) => PARTS.two!.map((p) => point(key + p)),
    three: (key) => PARTS.three!.map((p) => point(key + p)),
    azimuth: direction,
    angle: direction,
    length,
    ratio: (key) => {
      const x = numberTyped(text(key));
      return Number.isFinite(x) ? x : wrong(key, "A share such as 0.5.");
    },
    corner: (key) => (draft.texts[key] === "4" ? 4 : 3),
    line,
    "line of the job": line,
    rays: (key) => [ray(`${key}.0`), ray(`${key}.1`)],
    near: () => draft.near,
  };
  try {
    const by: Record<string, unknown> = {};
    for (const [key, f] of Object.entries(wayNamed(draft.way).fields)) {
      if (f.optional && f.is === "length") {
        const x = optional(key);
        if (x !== undefined) by[key] = x;
      } else if (f.is === "near") {
        if (draft.near) by[key] = draft.near;
      } else by[key] = READ[f.is](key);
    }
    const elevation = readLevel(draft, by as By, {
      point,
      length,
      optional,
      text,
      wrong,
      surfaces: job.surfaces,
      decimals: decimalsOf(job.unit),
    });
    const said = "at" in by && draft.picked ? draft.picked.by : (by as By);
    return elevation === undefined ? { by: said } : { by: said, elevation };
  } catch (e) {
    if (e instanceof Unread) return e.told;
    throw e;
  }
}

interface Readers {
  point(key: string): PointRef;
  length(key: string): number;
  optional(key: string): number | undefined;
  text(key: string): string;
  wrong(at: string, problem: string): never;
  surfaces: JobState["surfaces"];
  decimals: number;
}

function readLevel(draft: Draft, by: By, r: Readers): number | LevelBy | undefined {
  const up = (level: LevelBy): LevelBy => {
    const x = r.optional("level.up");
    return x ? { ...level, up: x } : level;
  };
  switch (draft.level) {
    case "none":
      return undefined;
    case "typed": {
      const { picked, texts } = draft;
      // A level that was picked is kept to its last digit as long as it was not typed over.
      if (picked && texts.level === formatFixed(picked.z, r.decimals)) return picked.z;
      return r.length("level");
    }
    case "of":
      return up({ of: r.point("level.of") });
    case "along":
      return hasAlong(draft.picked?.by ?? by)
        ? up({ along: true })
        : r.wrong("level", "This way names no two points along which a level could run.");
    case "surface": {
      const name = r.text("level.surface");
      return r.surfaces.some((s) => s.name === name)
        ? up({ surface: name })
        : r.wrong("level.surface", `There is no surface “${name}”.`);
    }
  }
}

/** A construction as a draft, to be changed. Lines that are not listed go by words of their own. */
export function draftOf(
  { by, elevation }: { by: By; elevation?: number | LevelBy | undefined },
  { job, lines }: DraftContext,
): Draft {
  const { numberOf } = findPoints(job.points, job.intakes),
    angle = directionReading(settingOf(job, "angle")),
    way = wayOf(by),
    texts: Record<string, string> = {},
    wordsOf = (line: LineAsked) => [...lines].find(([, l]) => sameJson(l, line))?.[0] ?? "";
  const ray = (r: Ray, key: string) => {
    texts[`${key}.is`] = "line" in r ? "line" : "azimuth" in r ? "azimuth" : "distance";
    if ("line" in r) {
      r.line.forEach((ref, k) => (texts[`${key}.line.${k}`] = numberOf(ref)));
      if (r.right) texts[`${key}.right`] = plainNumber(r.right);
    } else texts[`${key}.from`] = numberOf(r.from);
    if ("azimuth" in r) texts[`${key}.azimuth`] = angle.write(r.azimuth);
    if ("distance" in r) texts[`${key}.distance`] = plainNumber(r.distance);
  };
  for (const [key, { is }] of Object.entries(wayNamed(way).fields)) {
    const value = (by as unknown as Record<string, unknown>)[key];
    if (value === undefined) continue;
    if (is === "position")
      [texts[`${key}.e`], texts[`${key}.n`]] = (value as [number, number]).map(plainNumber) as [string, string];
    else if (is === "point") texts[key] = numberOf(value as PointRef);
    else if (is === "two" || is === "three")
      (value as PointRef[]).forEach((ref, k) => (texts[`${key}.${k}`] = numberOf(ref)));
    else if (is === "azimuth" || is === "angle") texts[key] = angle.write(value as number);
    else if (is === "line" || is === "line of the job") texts[key] = wordsOf(value as LineAsked);
    else if (is === "rays") (value as Ray[]).forEach((r, k) => ray(r, `${key}.${k}`));
    else if (is !== "near") texts[key] = plainNumber(value as number);
  }
  const near = "near" in by ? by.near : undefined;
  return {
    way,
    texts: { ...texts, ...levelTexts(elevation, numberOf) },
    level: levelKind(elevation),
    ...(near ? { near } : {}),
  };
}

function levelKind(elevation: number | LevelBy | undefined): LevelKind {
  if (elevation === undefined) return "none";
  if (typeof elevation === "number") return "typed";
  return "of" in elevation ? "of" : "surface" in elevation ? "surface" : "along";
}

function levelTexts(
  elevation: number | LevelBy | undefined,
  numberOf: (ref: PointRef) => string,
): Record<string, string> {
  if (elevation === undefined) return {};
  if (typeof elevation === "number") return { level: plainNumber(elevation) };
  return {
    ...(elevation.up ? { "level.up": plainNumber(elevation.up) } : {}),
    ...("of" in elevation ? { "level.of": numberOf(elevation.of) } : {}),
    ...("surface" in elevation ? { "level.surface": elevation.surface } : {}),
  };
}

/** Coordinates that were picked, as texts; what was meant there is kept beside them. */
export function pickedDraft(draft: Draft, snap: Snap, by: By | undefined, job: JobState): Draft {
  const d = decimalsOf(job.unit),
    texts = { ...draft.texts, "at.e": formatFixed(snap.e, d), "at.n": formatFixed(snap.n, d) },
    { e, n, z } = snap,
    picked = {
      by: by ?? { at: [e, n] as [number, number] },
      e,
      n,
      z,
      ...(snap.kind === "nearest" && snap.lines.length === 0 ? {} : { said: SNAPS[snap.kind].said }),
    };
  const next: Draft = { ...draft, texts, picked };
  // The level that the position has is taken, where none is asked for otherwise.
  if (draft.level === "of" || draft.level === "surface") return next;
  if (by && hasAlong(by)) return { ...next, level: "along" };
  return Number.isNaN(z)
    ? { ...next, level: "none" }
    : { ...next, level: "typed", texts: { ...texts, level: formatFixed(z, d) } };
}

/**
 * What things of a job refer to, each kind of part once: names of sets, surfaces, comparisons and files, and points by
 * number or by identity. A part is passed through `Passing`, which is told each reference and says what becomes of it; who
 * uses a thing, renaming, removing, renumbering, the order of undo and a recipe's checks all come from that.
 */
import { passedBy, passedLevel } from "../../construct/model";
import { withRefs } from "../../drawing/added/refs";
import type { Preset } from "../../construct/preset";
import type { DrawingSettings } from "../../drawing/model";
import { sameJson } from "../../math/json";
import type { Numbers } from "../../points/numbers";
import type { PointRef } from "../../points/refs";
import { GROUND, type SetRule } from "../../sets/model";
import type { SurfaceRecipe } from "../../surface/model";
import type { VolumeRecipe } from "../../volumes/model";
import type { JobDefinition } from "./model";
import { NAMED_PARTS, nameOf, type NamedPart, type ThingOf } from "./parts";

/** What is referred to by its name, and what sentences call it. */
export const REFERRED = { sets: "set", surfaces: "surface", volumes: "comparison", handover: "file" } as const;
export type Referred = keyof typeof REFERRED;

/** How a list of numbers is meant: by the numbers that points have, or by those that they came with. */
export type NumbersMeant = "now" | "came";

export interface Passing {
  /** `path` is where it stands in the thing, as a recipe's messages write it. */
  name(of: Referred, name: string, path: string): string;
  /** A set's name while there is such a set, else numbers of points; `*` for all. */
  selection<N extends Numbers>(given: N, path: string): N;
  /** Numbers as a condition, as a code is one: what is called so is meant, whichever point it is. */
  numbers<N extends Numbers>(list: N, path: string, meant: NumbersMeant): N;
  point(ref: PointRef, path: string): PointRef;
}

type Pass<T> = (thing: T, to: Passing) => T;

/** A thing with one field passed on, where it has it. */
const field = <T extends object, K extends keyof T>(thing: T, key: K, pass: (value: NonNullable<T[K]>) => T[K]): T =>
  thing[key] === undefined || thing[key] === null ? thing : { ...thing, [key]: pass(thing[key] as NonNullable<T[K]>) };

const passPoints =
  (to: Passing, path: string) =>
  <R extends readonly PointRef[]>(refs: R): R =>
    refs.map((ref, k) => to.point(ref, `${path}[${k}]`)) as readonly PointRef[] as R;

function passRule(rule: SetRule, to: Passing, path: string): SetRule {
  if ("set" in rule) return { set: to.name("sets", rule.set, `${path}.set`) };
  if ("numbers" in rule) return { numbers: to.numbers(rule.numbers, `${path}.numbers`, "now") };
  if ("points" in rule) return { points: passPoints(to, `${path}.points`)(rule.points) };
  const within = (rules: SetRule[], word: string) => rules.map((r, k) => passRule(r, to, `${path}.${word}[${k}]`));
  if ("all" in rule) return { all: within(rule.all, "all") };
  if ("any" in rule) return { any: within(rule.any, "any") };
  return "not" in rule ? { not: passRule(rule.not, to, `${path}.not`) } : rule;
}

function passSurface(s: SurfaceRecipe, to: Passing): SurfaceRecipe {
  const corners =
    <C extends PointRef[]>(path: string) =>
    (list: C[]) =>
      list.map((c, k) => passPoints(to, `${path}[${k}]`)(c));
  // A surface of a file has its points from there.
  let next = s.file === undefined ? field(s, "points", (set) => to.name("sets", set, "points")) : s;
  next = field(next, "breaklines", (lines) =>
    field(lines, "except", (except) =>
      except.map((x, k) =>
        "pieces" in x ? { pieces: corners<[PointRef, PointRef]>(`breaklines.except[${k}].pieces`)(x.pieces) } : x,
      ),
    ),
  );
  next = field(next, "swap", corners<[PointRef, PointRef]>("swap"));
  return field(next, "drop", corners<[PointRef, PointRef, PointRef]>("drop"));
}

/** Fields of a comparison that name a surface; as levels, `from` and `to` are numbers. */
const SURFACES_OF_VOLUME = ["heap", "storage", "surface", "from", "to"] as const;

const passVolume: Pass<VolumeRecipe> = (v, to) =>
  SURFACES_OF_VOLUME.reduce<VolumeRecipe>(
    (next, key) => (typeof next[key] === "string" ? { ...next, [key]: to.name("surfaces", next[key], key) } : next),
    v,
  );

const passNames =
  (to: Passing, of: Referred, path: string) =>
  (names: string[]): string[] =>
    names.map((name, k) => to.name(of, name, `${path}[${k}]`));

/** How each part's things are passed on. */
const PASSES: { [P in NamedPart]: Pass<ThingOf<P>> } = {
  setups: (s, to) => {
    const next = field(s, "backsights", (b) => to.numbers(b, "backsights", "came"));
    return field(next, "renamed", (list) =>
      list.map((r, k) => ({ ...r, is: to.numbers([r.is], `renamed[${k}].is`, "came")[0]! })),
    );
  },
  moves: (m, to) => ({
    ...m,
    points: "chosen" in m.points ? { chosen: passPoints(to, "points.chosen")(m.points.chosen) } : m.points,
    ...(m.fit && {
      fit: {
        ...m.fit,
        pairs: m.fit.pairs.map((p, k) => ({
          ...p,
          from: to.point(p.from, `fit.pairs[${k}].from`),
          to: to.point(p.to, `fit.pairs[${k}].to`),
        })),
      },
    }),
  }),
  lines: (l, to) =>
    field({ ...l, points: passPoints(to, "points")(l.points) }, "cues", (cues) =>
      Object.fromEntries(Object.entries(cues).map(([ref, words]) => [to.point(ref, "cues"), words])),
    ),
  computed: (c, to) => {
    const next = field(c, "by", (by) => passedBy(by, (ref, path) => to.point(ref, `by.${path}`)));
    // In a recipe it may be typed.
    return field(next, "elevation", (level) =>
      typeof level !== "object"
        ? level
        : "surface" in level
          ? { ...level, surface: to.name("surfaces", level.surface, "elevation.surface") }
          : passedLevel(level, (ref, path) => to.point(ref, `elevation.${path}`)),
    );
  },
  names: (n, to) => ("from" in n.line ? { ...n, line: { ...n.line, from: to.point(n.line.from, "line.from") } } : n),
  sets: (s, to) => ({ ...s, rule: passRule(s.rule, to, "rule") }),
  surfaces: passSurface,
  contours: (c, to) => ({ ...c, surface: to.name("surfaces", c.surface, "surface") }),
  volumes: passVolume,
  differences: (d, to) => ({
    ...field(
      field(d, "surface", (s) => to.name("surfaces", s, "surface")),
      "against",
      (against) => to.selection(against, "against"),
    ),
    points: to.selection(d.points, "points"),
  }),
  accepted: (a) => a,
  added: (a, to) => withRefs(a, (ref) => to.point(ref, "points")),
  handover: (f, to) => {
    if (f.format === "report") return field(f, "comparisons", passNames(to, "volumes", "comparisons"));
    if (f.format === "package") return field(f, "files", passNames(to, "handover", "files"));
    return "points" in f ? field(f, "points", (points) => to.selection(points, "points")) : f;
  },
  states: (s) => s,
};

const passDrawing: Pass<DrawingSettings> = (drawing, to) => {
  const next = field(drawing, "points", (labels) =>
    // Labels of all points say so by a star.
    labels.map((p, k) => (p.set === "*" ? p : { ...p, set: to.name("sets", p.set, `points[${k}].set`) })),
  );
  return field(next, "surfaces", (looks) =>
    looks.map((l, k) => ({ ...l, surface: to.name("surfaces", l.surface, `surfaces[${k}].surface`) })),
  );
};

const passPresets: Pass<Preset[]> = (presets, to) =>
  presets.map((p, k) =>
    typeof p.level === "object" && "surface" in p.level
      ? { ...p, level: { ...p.level, surface: to.name("surfaces", p.level.surface, `presets[${k}].level.surface`) } }
      : p,
  );

/** Settings that name things, and how each is passed on. */
const SETTING_PASSES = { drawing: passDrawing, presets: passPresets };
export type NamingSetting = keyof typeof SETTING_PASSES;
export const NAMING_SETTINGS = Object.keys(SETTING_PASSES) as NamingSetting[];

/** Things that say nothing without what they name: they go with it. */
const goesWith = (part: NamedPart | NamingSetting, of: Referred) =>
  of === "surfaces" && (part === "contours" || part === "drawing");

/** A thing of a part as it becomes; the very same where no reference becomes another. */
export function passed<P extends NamedPart>(part: P, thing: ThingOf<P>, to: Passing): ThingOf<P> {
  const next = (PASSES[part] as Pass<ThingOf<P>>)(thing, to);
  return sameJson(next, thing) ? thing : next;
}

/** A setting as it becomes; the very same where no reference becomes another. */
export function passedSetting<T>(field: NamingSetting, value: T, to: Passing): T {
  const next = (SETTING_PASSES[field] as unknown as Pass<T>)(value, to);
  return sameJson(next, value) ? value : next;
}

/** Passes everything on as it is. */
export const AS_IT_IS: Passing = {
  name: (_, name) => name,
  selection: (given) => given,
  numbers: (list) => list,
  point: (ref) => ref,
};

/** A reference by name of something of a job. */
export interface NameReference {
  part: NamedPart | NamingSetting;
  /** Its index in the part, and its name. */
  at: number;
  user: string;
  of: Referred;
  name: string;
  path: string;
  /** Says nothing without what it names. */
  goesWith: boolean;
}

/** Parts whose things name points alone: there may be very many of them, and every stored change asks for names. */
const OF_POINTS: ReadonlySet<NamedPart> = new Set<NamedPart>([
  "setups",
  "moves",
  "lines",
  "accepted",
  "names",
  "added",
  "states",
]);

type Parts = Partial<Pick<JobDefinition, NamedPart | NamingSetting>>;

/** Every reference by name. What a selection is called is a set while `isSet` says so, else numbers. */
export function* namesIn(job: Parts, isSet: (name: string) => boolean): Generator<NameReference> {
  const seen: Omit<NameReference, "part" | "at" | "user" | "goesWith">[] = [];
  const recorder: Passing = {
    ...AS_IT_IS,
    name(of, name, path) {
      seen.push({ of, name, path });
      return name;
    },
    selection(given, path) {
      if (typeof given === "string" && isSet(given)) seen.push({ of: "sets", name: given, path });
      return given;
    },
  };
  const told = (part: NamedPart | NamingSetting, at: number, user: string) =>
    seen.splice(0).map((r) => ({ ...r, part, at, user, goesWith: goesWith(part, r.of) }));
  for (const part of NAMED_PARTS.filter((p) => !OF_POINTS.has(p)))
    for (const [at, thing] of (job[part] ?? []).entries()) {
      (PASSES[part] as Pass<unknown>)(thing, recorder);
      yield* told(part, at, nameOf(part, thing));
    }
  for (const field of NAMING_SETTINGS)
    if (job[field]) {
      (SETTING_PASSES[field] as Pass<unknown>)(job[field], recorder);
      yield* told(field, 0, "");
    }
}

/** Every reference to a point, with who refers to it. Acceptances have ids, and say nothing without their points. */
export function* pointsIn(job: Parts): Generator<{ part: NamedPart; user: string; ref: PointRef }> {
  const seen: PointRef[] = [];
  const recorder: Passing = {
    ...AS_IT_IS,
    point(ref) {
      seen.push(ref);
      return ref;
    },
  };
  for (const part of NAMED_PARTS)
    for (const thing of job[part] ?? []) {
      (PASSES[part] as Pass<unknown>)(thing, recorder);
      for (const ref of seen.splice(0)) yield { part, user: nameOf(part, thing), ref };
    }
}

/** The names that there are, with the set that always exists. */
export function namesThere(job: Parts): Record<Referred, ReadonlySet<string>> {
  return {
    sets: new Set([GROUND, ...(job.sets ?? []).map((s) => s.name)]),
    surfaces: new Set((job.surfaces ?? []).map((s) => s.name)),
    volumes: new Set((job.volumes ?? []).map((v) => v.name)),
    handover: new Set((job.handover ?? []).map((f) => f.file)),
  };
}

/** A user of a name, in words without an article. */
export function userWords({ part, user, of }: Pick<NameReference, "part" | "user" | "of">): string {
  if (part === "presets") return "preset for points";
  // Its name is an id that nobody knows.
  if (part === "computed") return "construction of a point";
  if (part === "drawing") return of === "sets" ? "labels of points" : "look of a surface";
  if (part === "contours") return "contours";
  const words = part in REFERRED ? REFERRED[part as Referred] : part === "differences" ? "as-built check" : part;
  return `${words} “${user}”`;
}

/** What uses something of a job by its name, each user once; without what goes with it. */
export function usersOf(job: JobDefinition, of: Referred, name: string): string[] {
  const users = [...namesIn(job, (s) => job.sets.some((x) => x.name === s))].filter(
    (r) => r.of === of && r.name === name && !r.goesWith,
  );
  return [...new Set(users.map((r) => `the ${userWords(r)}`))];
}

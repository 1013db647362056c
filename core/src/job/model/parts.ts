/**
 * The parts of a job that are lists of named things, each described once; a change makes, changes or takes away one
 * thing of one part.
 */
import { refusal, type Refusal } from "../../errors";
import type { Accepted } from "../../checks/accepted";
import type { CodeEntry } from "../../codes/model";
import type { Construction } from "../../construct/model";
import type { Added } from "../../drawing/added/model";
import type { HandoverFile } from "../../handover/files";
import type { HandLine } from "../../lines/model";
import { lineNamed, type LineName } from "../../lines/names";
import type { Move } from "../../points/moves";
import { setupName, type SetupEdit } from "../../points/setups";
import type { PointSet } from "../../sets/model";
import type { ContoursRecipe, SurfaceRecipe } from "../../surface/model";
import type { DifferenceRecipe } from "../../volumes/as-built";
import type { VolumeRecipe } from "../../volumes/model";
import { type Schema } from "../../shape";
import { codeEntrySchema } from "./shapes/book";
import { acceptedSchema, stateSchema } from "./shapes/checks";
import { setupSchema } from "./shapes/intake";
import { moveSchema } from "./shapes/moves";
import { lineNameSchema, namedLineSchema } from "./shapes/points";
import { setSchema } from "./shapes/rules";
import { contoursSchema, surfaceSchema } from "./shapes/surfaces";
import { differenceSchema, volumeSchema } from "./shapes/volumes";
import { constructionSchema } from "./shapes/computed";
import { addedSchema } from "./shapes/added";
import { handoverSchema } from "./shapes/handover";

/** A state that is kept in mind: the job as it was after an entry of its ledger; 0: before the first. */
export interface NamedState {
  name: string;
  seq: number;
}

export interface Part<T> {
  /** One of its things in a sentence: “Surface “ground” made”. */
  words: string;
  schema: Schema;
  /** The name by which a thing is known; no two of a part share it. */
  nameOf(thing: T): string;
  /** The most that a job may have. */
  most: number;
  /** Belongs to one job's points and files, and means nothing in another. */
  own?: true;
  /** Whether positions of points follow from it. */
  positions?: true;
}

const part = <T>(
  words: string,
  schema: Schema,
  nameOf: (thing: T) => string,
  most: number,
  more: Pick<Part<T>, "own" | "positions"> = {},
): Part<T> => ({ words, schema, nameOf, most, ...more });

export const PARTS = {
  setups: part<SetupEdit>("setup", setupSchema, setupName, 10_000, { own: true, positions: true }),
  /** Points moved, turned, scaled, raised, or fitted to others: in their order, before what follows points. */
  moves: part<Move>("move", moveSchema, (m) => m.name, 1000, { own: true }),
  /** What points that the office made follow. */
  computed: part<Construction>("construction", constructionSchema, (c) => String(c.point), 100_000, { own: true }),
  /** Lines drawn by hand. */
  lines: part<HandLine>("line", namedLineSchema, (l) => l.name ?? "", 100_000, { own: true }),
  /** What lines are called, and coloured, beside what their codes say. */
  names: part<LineName>("name of the line", lineNameSchema, (n) => lineNamed(n.line), 100_000, { own: true }),
  sets: part<PointSet>("point set", setSchema, (s) => s.name, 10_000),
  surfaces: part<SurfaceRecipe>("surface", surfaceSchema, (s) => s.name, 1000),
  contours: part<ContoursRecipe>("contours of", contoursSchema, (c) => c.surface, 1000),
  volumes: part<VolumeRecipe>("comparison", volumeSchema, (v) => v.name, 10_000),
  differences: part<DifferenceRecipe>("as-built check", differenceSchema, (d) => d.name, 10_000),
  accepted: part<Accepted>("accepted finding", acceptedSchema, (a) => a.name, 100_000, { own: true }),
  /** What a person adds to the drawing. */
  added: part<Added>("addition to the drawing", addedSchema, (a) => a.name, 100_000, { own: true }),
  handover: part<HandoverFile>("handover file", handoverSchema, (f) => f.file, 10_000),
  states: part<NamedState>("state", stateSchema, (s) => s.name, 1000, { own: true }),
};

export type NamedPart = keyof typeof PARTS;
export type ThingOf<P extends NamedPart> = (typeof PARTS)[P] extends Part<infer T> ? T : never;
export type JobParts = { [P in NamedPart]: ThingOf<P>[] };
export const NAMED_PARTS = Object.keys(PARTS) as NamedPart[];
/** Not of a recipe: states speak of the ledger, which stays where the job is; moves are edits there. */
const OF_THE_JOB = ["states", "moves"] as const;
type OfTheJob = (typeof OF_THE_JOB)[number];
export type RecipePart = Exclude<NamedPart, OfTheJob>;
export const RECIPE_PARTS = NAMED_PARTS.filter((p): p is RecipePart => !OF_THE_JOB.includes(p as OfTheJob));

/** The codes of the book are changed one by one as well, though the book is a setting. */
export const CODES: Part<CodeEntry> = part<CodeEntry>("code", codeEntrySchema, (c) => c.code, 5000, {
  positions: true,
});
export type ThingPart = NamedPart | "codes";

export function partOf(p: ThingPart): Part<unknown> {
  return (p === "codes" ? CODES : PARTS[p]) as Part<unknown>;
}

/**
 * The name by which a thing of a part is known: contours go by their surface, files by their name, setups by intake and
 * id.
 */
export function nameOf(p: ThingPart, thing: unknown): string {
  return partOf(p).nameOf(thing);
}

/** What is wrong with a list in which two things have one name; undefined when all differ. */
export function repeatedPart(p: NamedPart, things: readonly unknown[]): Refusal | undefined {
  const seen = new Set<string>();
  for (const [k, thing] of things.entries()) {
    const name = nameOf(p, thing);
    if (seen.has(name)) return refusal("recipe-field", { path: `${p}[${k}]`, why: `“${name}” is there twice` });
    seen.add(name);
  }
  return undefined;
}

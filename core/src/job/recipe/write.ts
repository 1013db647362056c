/** A job's state written down as a recipe that runs to the same result. */
import { acceptedForRecipe } from "../../checks/accepted";
import { attributesOf, decodeAttributes, type Attributes } from "../../points/attributes";
import { decodeCueEdits } from "../../points/cue-edits";
import { fieldValue, type RecipeEdit } from "../../points/edits";
import { PLAIN_FIELDS } from "../../records/fields";
import { append } from "../../math/many";
import { numberIndex } from "../../points/index";
import { writeNumbers } from "../../points/numbers";
import { asShot } from "../../points/shots";
import { GONE_DELETED, GONE_GAVE_WAY, type PointTable } from "../../points/table";
import { FOLLOWS_Z } from "../../records/kinds";
import type { ReferenceLineGiven } from "../../intake/model";
import type { DifferenceRecipe } from "../../volumes/as-built";
import type { JobState } from "../model/model";
import { withFiles } from "../../surface/recipe-files";
import { referringGiven } from "./referred";
import { computedPoints, type ComputedPoint } from "./computed";
import { movesGiven } from "./moved";
import type { Recipe } from "./recipe";
import { pickGiven, RECIPE_SETTINGS } from "../model/settings";

/**
 * `receivedTable` is the table as the intakes alone give it; points are paired by intake and row. `fileOf` names the
 * file of an intake beside the recipe. Which points give way is left to the clash policy; renumberings come
 * after the other edits, moves after these, and points that the office made come last, as they are now.
 */
export function writeRecipe(state: JobState, receivedTable: PointTable, fileOf: (index: number) => string): Recipe {
  const now = asShot(state.points),
    received = asShot(receivedTable);
  const holder = numberIndex(received);
  const rowNow = new Map<string, number>();
  for (let i = 0; i < now.count; i++) rowNow.set(`${now.intake[i]} ${now.row[i]}`, i);
  const changed = new Map<string, { set: NonNullable<RecipeEdit["set"]>; intake: string; numbers: string[] }>();
  const steered = new Map<string, { cues: string; intake: string; numbers: string[] }>();
  const renumbered: { intake: string; from: string; to: string }[] = [];
  for (let r = 0; r < received.count; r++) {
    // What the office made is told by itself. What gives way to another is told like the others: it may come back.
    if (received.deleted[r]! & GONE_DELETED || received.intake[r]! < 0) continue;
    // Unless the same delivery has the number twice: an edit by number then means the one that stands.
    if (
      received.deleted[r]! & GONE_GAVE_WAY &&
      received.intake[holder.get(received.number[r]!) ?? -1] === received.intake[r]
    )
      continue;
    const i = rowNow.get(`${received.intake[r]} ${received.row[r]}`);
    const intake = state.intakes[received.intake[r]!]!.id;
    const set: NonNullable<RecipeEdit["set"]> = {};
    for (const field of i === undefined ? [] : PLAIN_FIELDS) {
      const value = fieldValue(now, i!, field);
      if (!Object.is(value, fieldValue(received, r, field))) set[field] = value;
    }
    const [own, came] = [i === undefined ? "" : attributesOf(now, i), attributesOf(received, r)];
    if (i !== undefined && own !== came) set.attributes = differing(decodeAttributes(came), decodeAttributes(own));
    // Setting a target height alone would move the elevation; here the elevation is told as it is.
    // A level that follows from observations moves with its target height in the recipe as well.
    if (set.targetHeight !== undefined && set.elevation === undefined && !(now.follows[i!]! & FOLLOWS_Z))
      set.elevation = fieldValue(now, i!, "elevation");
    if (i === undefined || now.deleted[i]! & GONE_DELETED) set.deleted = true;
    else if (now.number[i] !== received.number[r])
      renumbered.push({ intake, from: received.number[r]!, to: now.number[i]! });
    const cues = i === undefined ? "" : String(fieldValue(now, i, "cues"));
    if (cues !== "" && !set.deleted) {
      const group = steered.get(`${intake}\0${cues}`) ?? { cues, intake, numbers: [] };
      group.numbers.push(received.number[r]!);
      steered.set(`${intake}\0${cues}`, group);
    }
    if (Object.keys(set).length === 0) continue;
    const key = `${intake}\0${JSON.stringify(set)}`;
    const group = changed.get(key) ?? { set, intake, numbers: [] };
    group.numbers.push(received.number[r]!);
    changed.set(key, group);
  }
  const edits: RecipeEdit[] = [...changed.values()].map(({ set, intake, numbers }) => ({
    points: writeNumbers(numbers),
    intake,
    set,
  }));
  edits.push(
    ...[...steered.values()].map(({ cues, intake, numbers }) => ({
      points: writeNumbers(numbers),
      intake,
      cues: decodeCueEdits(cues),
    })),
    ...renumberings(renumbered),
  );
  const moves = movesGiven(state);
  append(edits, moves.edits);
  const made = computedPoints({ ...state, points: asShot(moves.moved) }).map((c) => withAskedFile(c, state, fileOf)),
    referring = referringGiven({ ...state, points: now });
  const setups = state.setups.filter((s) => state.intakes.some((k) => k.id === s.intake));
  return {
    recipe: 1,
    unit: state.unit,
    ...pickGiven(state, RECIPE_SETTINGS),
    codeBook: state.book,
    intakes: state.intakes.map((k, i) => ({
      id: k.id,
      file: fileOf(i),
      format: k.format ?? "delimited",
      ...(k.layout ? { layout: k.layout } : {}),
      ...(k.line ? { line: lineFile(k.line, state, fileOf) } : {}),
      ...(k.heightAt ? { heightAt: k.heightAt } : {}),
      ...(k.unit ? { unit: k.unit } : {}),
      ...(k.encoding ? { encoding: k.encoding } : {}),
      clash: k.clash,
      ...(k.add !== undefined ? { add: k.add } : {}),
      ...(k.answers ? { clashes: k.answers } : {}),
      ...(k.crew ? { crew: k.crew } : {}),
      ...(k.only ? { only: k.only } : {}),
      kind: k.kind,
    })),
    edits,
    ...(made.length ? { computed: made } : {}),
    ...(setups.length ? { setups } : {}),
    ...(referring.lines.length ? { lines: referring.lines } : {}),
    ...(referring.names.length ? { names: referring.names } : {}),
    sets: referring.sets,
    surfaces: referring.surfaces.map((s) => withFiles(s, (file) => nameNow(file, state, fileOf))),
    contours: state.contours,
    volumes: state.volumes,
    ...(state.differences.length ? { differences: state.differences.map((d) => withLineFile(d, state, fileOf)) } : {}),
    ...(state.accepted.length ? { accepted: acceptedForRecipe(state.accepted, now) } : {}),
    ...(referring.added.length ? { added: referring.added } : {}),
    handover: state.handover,
  };
}

/** What leads from one set of attributes to another; null takes one away. */
function differing(from: Attributes, to: Attributes): Record<string, string | null> {
  const names = [...new Set([...Object.keys(from), ...Object.keys(to)])].sort();
  return Object.fromEntries(names.filter((n) => from[n] !== to[n]).map((n) => [n, to[n] ?? null]));
}

/** A file's name as the recipe has it: two intakes may have brought files of one name. */
function nameNow(file: string, state: JobState, fileOf: (index: number) => string): string {
  const at = state.intakes.findIndex((k) => k.file === file);
  return at < 0 ? file : fileOf(at);
}

/** A line of a file that points are held against goes by the file's name in the recipe. */
function withLineFile(d: DifferenceRecipe, state: JobState, fileOf: (index: number) => string): DifferenceRecipe {
  return d.line && "file" in d.line ? { ...d, line: { ...d.line, file: nameNow(d.line.file, state, fileOf) } } : d;
}

/** The same of a line along which a constructed point has its station. */
function withAskedFile(c: ComputedPoint, state: JobState, fileOf: (index: number) => string): ComputedPoint {
  const { by } = c;
  return "line" in by && "file" in by.line
    ? { ...c, by: { ...by, line: { ...by.line, file: nameNow(by.line.file, state, fileOf) } } }
    : c;
}

function lineFile(line: ReferenceLineGiven, state: JobState, fileOf: (index: number) => string): ReferenceLineGiven {
  return "points" in line ? line : { ...line, file: nameNow(line.file, state, fileOf) };
}

/** Renumberings in an order in which each new number is free; circles go by a number that nobody has. */
function renumberings(list: { intake: string; from: string; to: string }[]): RecipeEdit[] {
  const edits: RecipeEdit[] = [];
  const waiting = new Map(list.map((r) => [r.from, r]));
  const step = (r: { intake: string; from: string; to: string }, to: string) =>
    edits.push({ points: writeNumbers([r.from]), intake: r.intake, set: { number: to } });
  while (waiting.size) {
    const free = [...waiting.values()].find((r) => !waiting.has(r.to));
    if (free) {
      step(free, free.to);
      waiting.delete(free.from);
      continue;
    }
    const r = [...waiting.values()][0]!;
    const aside = `${r.from}~aside`;
    step(r, aside);
    waiting.delete(r.from);
    waiting.set(aside, { ...r, from: aside });
  }
  return edits;
}

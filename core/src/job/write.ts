/** A job's state written down as a recipe that runs to the same result. */
import type { ReferenceLineGiven } from "../intake/model";
import { fieldValue, type EditField, type RecipeEdit } from "../points/edits";
import { decodeCueEdits } from "../points/cue-edits";
import { FOLLOWS_Z, type PointTable } from "../points/table";
import { asShot } from "../points/shots";
import type { JobState } from "./model";
import { plainSettings, type Recipe } from "./recipe";

/** Fields compared with what the intake gave; the number last, since edits name points by it. */
const FIELDS: Exclude<EditField, "cues">[] = ["northing", "easting", "elevation", "description", "note", "targetHeight", "precision", "kind", "surface"];

/**
 * `receivedTable` is the table as the intakes alone give it; points are paired by intake and row. `fileOf` names the file of an intake
 * beside the recipe. Points that an intake replaced are left to the clash policy; renumberings come after the other edits.
 */
export function writeRecipe(state: JobState, receivedTable: PointTable, fileOf: (index: number) => string): Recipe {
  const now = asShot(state.points), received = asShot(receivedTable);
  const placeNow = new Map<string, number>();
  for (let i = 0; i < now.count; i++) placeNow.set(`${now.intake[i]} ${now.row[i]}`, i);
  const changed = new Map<string, { set: NonNullable<RecipeEdit["set"]>; intake: string; numbers: string[] }>();
  const steered = new Map<string, { cues: string; intake: string; numbers: string[] }>();
  const renumbered: { intake: string; from: string; to: string }[] = [];
  for (let r = 0; r < received.count; r++) {
    if (received.deleted[r]) continue;
    const i = placeNow.get(`${received.intake[r]} ${received.row[r]}`);
    const intake = state.intakes[received.intake[r]!]!.id;
    const set: NonNullable<RecipeEdit["set"]> = {};
    for (const field of i === undefined ? [] : FIELDS) {
      const value = fieldValue(now, i!, field);
      if (!Object.is(value, fieldValue(received, r, field))) set[field] = value;
    }
    // Setting a target height alone would move the elevation; here the elevation is told as it is.
    // A level that follows from observations moves with its target height in the recipe as well.
    if (set.targetHeight !== undefined && set.elevation === undefined && !(now.follows[i!]! & FOLLOWS_Z)) set.elevation = fieldValue(now, i!, "elevation");
    if (i === undefined || now.deleted[i]) set.deleted = true;
    else if (now.number[i] !== received.number[r]) renumbered.push({ intake, from: received.number[r]!, to: now.number[i]! });
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
  const edits: RecipeEdit[] = [...changed.values()].map(({ set, intake, numbers }) => ({ points: numbers.join(", "), intake, set }));
  edits.push(...[...steered.values()].map(({ cues, intake, numbers }) => ({ points: numbers.join(", "), intake, cues: decodeCueEdits(cues) })), ...renumberings(renumbered));
  const setups = state.setups.filter((s) => state.intakes.some((k) => k.id === s.intake));
  return {
    recipe: 1, name: state.name, ...(state.date ? { date: state.date } : {}), unit: state.unit, order: state.order, tolerance: state.tolerance, ...plainSettings(state), codeBook: state.book,
    intakes: state.intakes.map((k, i) => ({
      id: k.id, file: fileOf(i), format: k.format ?? "delimited", ...(k.layout ? { layout: k.layout } : {}), ...(k.line ? { line: lineFile(k.line, state, fileOf) } : {}),
      ...(k.heightAt ? { heightAt: k.heightAt } : {}), ...(k.unit ? { unit: k.unit } : {}), ...(k.encoding ? { encoding: k.encoding } : {}), clash: k.clash,
      ...(k.add !== undefined ? { add: k.add } : {}), ...(k.answers ? { clashes: k.answers } : {}), ...(k.crew ? { crew: k.crew } : {}), kind: k.kind,
    })),
    edits, ...(setups.length ? { setups } : {}), ...(state.lines.length ? { lines: state.lines } : {}), sets: state.sets, surfaces: state.surfaces.map((s) => (s.file === undefined ? s : { ...s, file: nameNow(s.file, state, fileOf) })), contours: state.contours, volumes: state.volumes, handover: state.handover,
  };
}

/** A file's name as the recipe has it: two intakes may have brought files of one name. */
function nameNow(file: string, state: JobState, fileOf: (index: number) => string): string {
  const at = state.intakes.findIndex((k) => k.file === file);
  return at < 0 ? file : fileOf(at);
}

function lineFile(line: ReferenceLineGiven, state: JobState, fileOf: (index: number) => string): ReferenceLineGiven {
  return "points" in line ? line : { ...line, file: nameNow(line.file, state, fileOf) };
}

/** Renumberings in an order in which each new number is free; circles go by a number that nobody has. */
function renumberings(list: { intake: string; from: string; to: string }[]): RecipeEdit[] {
  const edits: RecipeEdit[] = [];
  const waiting = new Map(list.map((r) => [r.from, r]));
  const step = (r: { intake: string; from: string; to: string }, to: string) => edits.push({ points: r.from, intake: r.intake, set: { number: to } });
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

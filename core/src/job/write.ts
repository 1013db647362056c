/** A job's state written down as a recipe that runs to the same result. */
import { fieldValue, type EditField, type EditValue, type RecipeEdit } from "../points/edits";
import type { PointTable } from "../points/table";
import type { JobState } from "./model";
import type { Recipe } from "./recipe";

/** Fields compared with what the intake gave; the number last, since edits name points by it. */
const FIELDS: EditField[] = ["northing", "easting", "elevation", "description", "note", "targetHeight", "precision", "kind", "surface"];

/**
 * `received` is the table as the intakes alone give it: the same ids in the same order. `fileOf` names the file of an intake beside the recipe.
 * Points that an intake replaced are left to the clash policy; deletions and renumberings come after the other edits.
 */
export function writeRecipe(state: JobState, received: PointTable, fileOf: (index: number) => string): Recipe {
  const now = state.points;
  const changed = new Map<string, { set: Partial<Record<EditField, EditValue>>; intake: string; numbers: string[] }>();
  const renumbered: { intake: string; from: string; to: string }[] = [];
  const add = (i: number, set: Partial<Record<EditField, EditValue>>) => {
    const intake = state.intakes[now.intake[i]!]!.id;
    const key = `${intake}\0${JSON.stringify(set)}`;
    const group = changed.get(key) ?? { set, intake, numbers: [] };
    group.numbers.push(received.number[i]!);
    changed.set(key, group);
  };
  for (let i = 0; i < now.count; i++) {
    if (received.deleted[i]) continue;
    const set: Partial<Record<EditField, EditValue>> = {};
    for (const field of FIELDS) {
      const value = fieldValue(now, i, field);
      if (!Object.is(value, fieldValue(received, i, field))) set[field] = value;
    }
    // Setting a target height alone would move the elevation; here the elevation is told as it is.
    if (set.targetHeight !== undefined && set.elevation === undefined) set.elevation = fieldValue(now, i, "elevation");
    if (now.deleted[i]) set.deleted = true;
    else if (now.number[i] !== received.number[i]) renumbered.push({ intake: state.intakes[now.intake[i]!]!.id, from: received.number[i]!, to: now.number[i]! });
    if (Object.keys(set).length) add(i, set);
  }
  const edits: RecipeEdit[] = [...changed.values()].map(({ set, intake, numbers }) => ({ points: numbers.join(", "), intake, set }));
  edits.push(...renumberings(renumbered));
  return {
    recipe: 1, name: state.name, ...(state.date ? { date: state.date } : {}), unit: state.unit, tolerance: state.tolerance, codeBook: state.book,
    intakes: state.intakes.map((k, i) => ({
      id: k.id, file: fileOf(i), format: "delimited", layout: k.layout, ...(k.unit ? { unit: k.unit } : {}), ...(k.encoding ? { encoding: k.encoding } : {}),
      clash: k.clash, ...(k.add !== undefined ? { add: k.add } : {}), ...(k.crew ? { crew: k.crew } : {}), kind: k.kind,
    })),
    edits, sets: state.sets, surfaces: state.surfaces, contours: state.contours, volumes: state.volumes, handover: state.handover,
  };
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

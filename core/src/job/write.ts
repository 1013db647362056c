/** A job's state written down as a recipe that runs to the same result. */
import { fieldValue, type EditField, type EditValue, type RecipeEdit } from "../points/edits";
import type { PointTable } from "../points/table";
import type { JobState } from "./model";
import type { Recipe } from "./recipe";

/** Fields compared with what the intake gave; the number last, since edits name points by it. */
const FIELDS: EditField[] = ["northing", "easting", "elevation", "description", "note", "targetHeight", "precision", "kind", "surface"];

/**
 * `received` is the table as the intakes alone give it; points are paired by intake and row. `fileOf` names the file of an intake
 * beside the recipe. Points that an intake replaced are left to the clash policy; renumberings come after the other edits.
 */
export function writeRecipe(state: JobState, received: PointTable, fileOf: (index: number) => string): Recipe {
  const now = state.points;
  const placeNow = new Map<string, number>();
  for (let i = 0; i < now.count; i++) placeNow.set(`${now.intake[i]} ${now.row[i]}`, i);
  const changed = new Map<string, { set: Partial<Record<EditField, EditValue>>; intake: string; numbers: string[] }>();
  const renumbered: { intake: string; from: string; to: string }[] = [];
  for (let r = 0; r < received.count; r++) {
    if (received.deleted[r]) continue;
    const i = placeNow.get(`${received.intake[r]} ${received.row[r]}`);
    const intake = state.intakes[received.intake[r]!]!.id;
    const set: Partial<Record<EditField, EditValue>> = {};
    for (const field of i === undefined ? [] : FIELDS) {
      const value = fieldValue(now, i!, field);
      if (!Object.is(value, fieldValue(received, r, field))) set[field] = value;
    }
    // Setting a target height alone would move the elevation; here the elevation is told as it is.
    if (set.targetHeight !== undefined && set.elevation === undefined) set.elevation = fieldValue(now, i!, "elevation");
    if (i === undefined || now.deleted[i]) set.deleted = true;
    else if (now.number[i] !== received.number[r]) renumbered.push({ intake, from: received.number[r]!, to: now.number[i]! });
    if (Object.keys(set).length === 0) continue;
    const key = `${intake}\0${JSON.stringify(set)}`;
    const group = changed.get(key) ?? { set, intake, numbers: [] };
    group.numbers.push(received.number[r]!);
    changed.set(key, group);
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

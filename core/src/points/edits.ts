/** Office edits of points: what the ledger keeps, and what a recipe's EDIT does. Tables are never changed in place. */
import type { IntakeInfo } from "../intake/model";
import { KINDS, type PointKind } from "../records/kinds";
import { refusal } from "../errors";
import { decodeCueEdits, encodeCueEdits, type CueEdit } from "./cue-edits";
import { TextStore } from "../math/texts";
import { readNumberList } from "./numbers";
import { FOLLOWS_E, FOLLOWS_N, FOLLOWS_Z, numberIndex, SURFACE_CHOICES, type PointTable, type SurfaceChoice } from "./table";

export const EDIT_FIELDS = [
  "number", "northing", "easting", "elevation", "description", "note", "targetHeight", "precision", "kind", "surface", "deleted", "cues",
] as const;
export type EditField = (typeof EDIT_FIELDS)[number];
/** Numbers for coordinates (null where missing), texts, or true/false for `deleted`. */
export type EditValue = string | number | boolean | null;

const NUMERIC = { northing: "n", easting: "e", elevation: "z", targetHeight: "targetHeight", precision: "precision" } as const;

/** A coordinate that follows from raw observations, as an edit tells it: setting it back lets the point follow again. */
export const OBSERVED = "observed";
const FOLLOW_BIT: Partial<Record<EditField, number>> = { northing: FOLLOWS_N, easting: FOLLOWS_E, elevation: FOLLOWS_Z };

const AXIS: Partial<Record<EditField, 0 | 1 | 2>> = { easting: 0, northing: 1, elevation: 2 };

/** The present value of one field of one point, as a ledger entry keeps it; coordinates are those of the shot. */
export function fieldValue(t: PointTable, i: number, field: EditField): EditValue {
  switch (field) {
    case "number": return t.number[i]!;
    case "description": return t.texts[t.description[i]!]!;
    case "note": return t.texts[t.note[i]!]!;
    case "cues": return t.texts[t.cues[i]!]!;
    case "kind": return KINDS[t.kind[i]!]!;
    case "surface": return SURFACE_CHOICES[t.surface[i]!]!;
    case "deleted": return t.deleted[i] === 1;
    default: {
      if (t.follows[i]! & (FOLLOW_BIT[field] ?? 0)) return OBSERVED;
      const axis = AXIS[field], shot = axis === undefined ? undefined : t.shotAt?.get(t.id[i]!);
      if (shot) return Number.isNaN(shot[axis!]) ? null : shot[axis!]!;
      const value = t[NUMERIC[field]][i]!;
      return Number.isNaN(value) ? null : value;
    }
  }
}

export interface CellEdit { place: number; field: EditField; value: EditValue }

/** The table with the edits made; only the columns concerned are copied, so that unchanged ones stay the same arrays. */
export function withEdits(t: PointTable, edits: readonly CellEdit[]): PointTable {
  const out = { ...t };
  const copied = new Set<string>();
  const column = <K extends keyof PointTable>(key: K): PointTable[K] => {
    if (!copied.has(key)) {
      copied.add(key);
      out[key] = (t[key] as unknown as { slice(): PointTable[K] }).slice();
    }
    return out[key];
  };
  let store: TextStore | undefined;
  const text = (value: EditValue) => (store ??= new TextStore(column("texts"))).of(String(value ?? ""));
  for (const { place, field, value } of edits) {
    switch (field) {
      case "number": column("number")[place] = String(value); break;
      case "description": column("description")[place] = text(value); break;
      case "note": column("note")[place] = text(value); break;
      case "cues": column("cues")[place] = text(value); break;
      case "kind": column("kind")[place] = KINDS.indexOf(value as PointKind); break;
      case "surface": column("surface")[place] = SURFACE_CHOICES.indexOf(value as SurfaceChoice); break;
      case "deleted": column("deleted")[place] = value ? 1 : 0; break;
      default: {
        const bit = FOLLOW_BIT[field];
        // Coordinates that follow again keep their last value until they are reduced.
        if (bit && value === OBSERVED) {
          column("follows")[place]! |= bit;
          break;
        }
        if (bit && t.follows[place]! & bit) column("follows")[place]! &= ~bit;
        const given = value === null ? NaN : Number(value), axis = AXIS[field], shot = axis === undefined ? undefined : out.shotAt?.get(t.id[place]!);
        if (shot) {
          const next = [...shot] as [number, number, number];
          next[axis!] = given;
          out.shotAt = new Map(out.shotAt).set(t.id[place]!, next);
        } else column(NUMERIC[field])[place] = given;
      }
    }
  }
  return out;
}

/** An EDIT of a recipe: `set` for all points that a number list names, of one intake or of the job. */
export interface RecipeEdit {
  points: string;
  intake?: string;
  set?: Partial<Record<Exclude<EditField, "cues">, EditValue>>;
  /** Cues added to elements of the points' descriptions, or taken away. */
  cues?: CueEdit[];
}

/**
 * Carries out one EDIT. Numbers that do not exist are passed over and counted. A change of target height moves the
 * elevation by old − new, unless the same EDIT sets the elevation.
 */
export function applyRecipeEdit(t: PointTable, edit: RecipeEdit, intakes: readonly IntakeInfo[], path: string): { table: PointTable; missing: number } {
  const list = readNumberList(edit.points);
  if (!list) throw refusal("recipe-field", { path: `${path}.points`, why: `“${edit.points}” is no list of point numbers` });
  const intake = edit.intake === undefined ? undefined : intakes.findIndex((k) => k.id === edit.intake);
  if (intake === -1) throw refusal("reference-missing", { path: `${path}.intake`, what: "intake", name: edit.intake! });
  const edits: CellEdit[] = [], set = edit.set ?? {};
  const found = new Set<string>();
  for (let i = 0; i < t.count; i++) {
    if ((t.deleted[i] && set.deleted !== false) || (intake !== undefined && t.intake[i] !== intake) || !list.has(t.number[i]!)) continue;
    found.add(t.number[i]!);
    const height = set.targetHeight;
    // A level that follows from observations moves with its target height by itself.
    if (height !== undefined && set.elevation === undefined && !(t.follows[i]! & FOLLOWS_Z) && !Number.isNaN(t.targetHeight[i]!) && !Number.isNaN(t.z[i]!)) {
      edits.push({ place: i, field: "elevation", value: Number(fieldValue(t, i, "elevation")) + t.targetHeight[i]! - Number(height ?? 0) });
    }
    for (const [field, value] of Object.entries(set)) edits.push({ place: i, field: field as EditField, value: value! });
    if (edit.cues) edits.push({ place: i, field: "cues", value: encodeCueEdits([...decodeCueEdits(t.texts[t.cues[i]!]!), ...edit.cues]) });
  }
  const asked = list.singles.length + list.ranges.reduce((s, [a, b]) => s + Number(b - a) + 1, 0);
  const table = withEdits(t, edits);
  if (set.number !== undefined) checkUnique(table, path);
  return { table, missing: Math.max(0, asked - found.size) };
}

function checkUnique(t: PointTable, path: string): void {
  const living = t.deleted.reduce((s, d) => s + 1 - d, 0);
  if (numberIndex(t).size !== living) throw refusal("recipe-field", { path: `${path}.set.number`, why: "another point has this number already" });
}

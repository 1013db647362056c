/**
 * Changes of a job: what the ledger keeps. Each is data with old and new, so that it can be checked against the present
 * state, carried out in the browser and on the server alike, and undone by its inverse.
 */
import type { CodeEntry } from "../codes/model";
import { KINDS } from "../records/kinds";
import { refusal } from "../errors";
import { fieldValue, withEdits, type EditField, type EditValue } from "../points/edits";
import type { PointTable } from "../points/table";
import { withPlaces } from "./reduce";
import { nameOf, type JobDefinition, type JobState, type NamedPart } from "./model";

export interface PointsChange { type: "points"; edits: { id: number; field: EditField; old: EditValue; new: EditValue }[] }
/** One named thing of a part: made (old null), changed, or taken away (new null). */
export interface NamedChange { type: "named"; part: NamedPart | "codes"; name: string; old: unknown; new: unknown; /** Of a thing taken away its place in the list, so that undo puts it back there. */ at?: number }
export const SETTING_FIELDS = [
  "name", "date", "client", "crew", "note", "order", "tolerance", "angle", "areaUnit", "volumeUnit", "curvature", "scaleFactor", "system", "geoid", "crews", "nextNumber", "book", "drawing",
] as const;
export type SettingField = (typeof SETTING_FIELDS)[number];
export interface SettingChange { type: "setting"; field: SettingField; old: unknown; new: unknown }
/** Changes that belong together: all are made, or none. `text` says in the ledger what they do. */
export interface SeveralChange { type: "several"; text: string; changes: (PointsChange | NamedChange | SettingChange)[] }
/** An intake taken in or withdrawn, with the ids of the points that it replaced. Stored by the server only. */
export interface IntakeChange {
  type: "intake"; intake: string; file: string; action: "take" | "withdraw"; replaced: number[];
  /** The server's own number of this reading of the file. */
  id: number;
  /** The earlier reading of the same file that steps back while this one stands. */
  instead?: number;
  /** Office edits of the earlier reading that found no point in this one. */
  lost?: string[];
}

export type Change = PointsChange | NamedChange | SettingChange | SeveralChange | IntakeChange;
/** Changes that the browser may ask for by themselves; intakes go their own way with their bytes. */
export type EditableChange = Exclude<Change, IntakeChange>;

export function inverse(change: Change): Change {
  switch (change.type) {
    case "points": return { ...change, edits: change.edits.map((e) => ({ ...e, old: e.new, new: e.old })).reverse() };
    case "intake": return { ...change, action: change.action === "take" ? "withdraw" : "take" };
    case "several": return { ...change, changes: change.changes.map((c) => inverse(c) as SeveralChange["changes"][number]).reverse() };
    default: return { ...change, old: change.new, new: change.old };
  }
}

/** Place of each id in a table whose ids rise. */
export function placeOf(t: PointTable, id: number): number {
  let lo = 0, hi = t.count - 1;
  while (lo <= hi) {
    const mid = (lo + hi) >> 1;
    if (t.id[mid] === id) return mid;
    if (t.id[mid]! < id) lo = mid + 1;
    else hi = mid - 1;
  }
  return -1;
}

/** Fields of points that the places of points depend on: by reduction of raw observations, and by the cue `past`. */
const PLACED_BY: ReadonlySet<EditField> = new Set<EditField>(["number", "northing", "easting", "elevation", "targetHeight", "kind", "deleted", "description", "cues"]);

/** The state after an editable change. Refused when it is based on old data, or would give two points one number. */
export function applyChange(state: JobState, change: EditableChange): JobState {
  if (change.type === "several") return change.changes.reduce<JobState>(applyChange, state);
  if (change.type === "points") {
    const next = { ...state, points: applyPoints(state.points, change) };
    return change.edits.some((e) => PLACED_BY.has(e.field)) ? withPlaces(next) : next;
  }
  const next = { ...state, ...applyDefinition(state, change) };
  return change.type === "setting" || change.part === "setups" || change.part === "codes" ? withPlaces(next) : next;
}

function applyPoints(t: PointTable, change: PointsChange): PointTable {
  const edits = change.edits.map((e) => {
    const place = placeOf(t, e.id);
    if (place < 0) throw refusal("change-unknown", { what: "A point that you changed" });
    if (t.kind[place] === KINDS.indexOf("reference") && e.field !== "deleted") throw refusal("change-reference", { number: t.number[place]! });
    const now = fieldValue(t, place, e.field);
    if (!sameValue(now, e.old)) throw refusal("change-outdated", { what: `The ${fieldName(e.field)} of point ${t.number[place]}`, theirs: String(now ?? "missing") });
    return { place, field: e.field, value: e.new };
  });
  const out = withEdits(t, edits);
  for (const e of change.edits) if (e.field === "number" || (e.field === "deleted" && e.new === false)) checkNumberFree(out, placeOf(out, e.id));
  return out;
}

function checkNumberFree(t: PointTable, place: number): void {
  const number = t.number[place]!;
  for (let i = 0; i < t.count; i++) {
    if (i !== place && !t.deleted[i] && t.number[i] === number) throw refusal("change-number-taken", { number });
  }
}

/** The definition after a change of a named thing or a setting; the same check of old data. */
export function applyDefinition(state: JobDefinition, change: NamedChange | SettingChange): Partial<JobDefinition> {
  if (change.type === "setting") {
    checkSame(state[change.field] ?? null, change.old, `The job's ${settingName(change.field)}`);
    return { [change.field]: change.new ?? undefined };
  }
  const list: unknown[] = change.part === "codes" ? (state.book.codes ?? []) : state[change.part];
  const at = list.findIndex((x) => nameOf(change.part, x) === change.name);
  checkSame(at < 0 ? null : list[at], change.old, `“${change.name}”`);
  const code = change.part === "codes" && change.new !== null ? change.name.toUpperCase() : undefined;
  if (code && list.some((x, k) => k !== at && nameOf("codes", x).toUpperCase() === code)) throw refusal("request-wrong", { why: `The book has a code “${code}” already` });
  const next = list.slice();
  if (change.new === null) next.splice(at, 1);
  else if (at < 0) next.splice(change.at ?? next.length, 0, change.new);
  else next[at] = change.new;
  return change.part === "codes" ? { book: { ...state.book, codes: next as CodeEntry[] } } : { [change.part]: next };
}

function checkSame(now: unknown, old: unknown, what: string): void {
  if (!sameJson(now, old)) throw refusal("change-outdated", { what, theirs: now === null ? "not there" : "different" });
}

/** Equal as JSON, whatever the order of fields. */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const ka = Object.keys(a).filter((k) => (a as Record<string, unknown>)[k] !== undefined);
  const kb = Object.keys(b).filter((k) => (b as Record<string, unknown>)[k] !== undefined);
  return ka.length === kb.length && ka.every((k) => sameJson((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]));
}

function sameValue(a: EditValue, b: EditValue): boolean {
  return Object.is(a, b) || (a === 0 && b === 0);
}

const FIELD_NAMES: Partial<Record<EditField, string>> = { targetHeight: "target height", surface: "place in surfaces", deleted: "deletion" };

export function fieldName(field: EditField): string {
  return FIELD_NAMES[field] ?? field;
}

const SETTING_NAMES: Partial<Record<SettingField, string>> = {
  book: "code book", areaUnit: "unit of areas", volumeUnit: "unit of volumes", curvature: "curvature and refraction", scaleFactor: "scale factor",
  system: "coordinate system", drawing: "drawing", geoid: "geoid grid", crews: "number ranges", nextNumber: "next number", angle: "angle style", order: "coordinate order",
};

export function settingName(field: SettingField): string {
  return SETTING_NAMES[field] ?? field;
}

/** A change in a few words, for the ledger and the undo message. */
export function describeChange(change: Change): string {
  switch (change.type) {
    case "points": {
      const ids = new Set(change.edits.map((e) => e.id)).size;
      const first = change.edits[0];
      if (!first) return "Nothing";
      const fields = [...new Set(change.edits.map((e) => fieldName(e.field)))].join(", ");
      if (first.field === "deleted") return `${first.new ? "Delete" : "Bring back"} ${ids} ${ids === 1 ? "point" : "points"}`;
      return `Change ${fields} of ${ids} ${ids === 1 ? "point" : "points"}`;
    }
    case "named": {
      const thing = { setups: "setup", lines: "the line drawn", codes: "code", sets: "point set", surfaces: "surface", contours: "contours of", volumes: "comparison", handover: "handover file" }[change.part];
      return `${change.old === null ? "Make" : change.new === null ? "Remove" : "Change"} ${thing} “${change.name}”`;
    }
    case "several": return change.text;
    case "setting": return `Change the job's ${settingName(change.field)}`;
    case "intake": {
      if (change.instead !== undefined) return change.action === "take" ? `Read “${change.file}” again` : `Go back to the earlier reading of “${change.file}”`;
      return `${change.action === "take" ? "Take in" : "Withdraw"} “${change.file}”`;
    }
  }
}

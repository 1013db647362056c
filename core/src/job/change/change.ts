/**
 * Changes of a job: what the ledger keeps. Each is data with old and new, so that it can be checked against the present
 * state, carried out in the browser and on the server alike, and undone by its inverse.
 */
import type { CodeEntry } from "../../codes/model";
import type { LineName, OwnName } from "../../lines/names";
import { EDIT_FIELDS, fieldName, fieldOf, type EditField } from "../../records/fields";
import { refusal, type Refusal } from "../../errors";
import { sameJson } from "../../math/json";
import { plainNumber } from "../../math/round";
import { plural } from "../../math/words";
import { addedOf, tableOfAdded, type AddedPoints } from "../../points/add";
import { fieldValue, TableDraft, type EditValue } from "../../points/edits";
import { attributesOf } from "../../points/attributes";
import { numberIndex } from "../../points/index";
import { GONE_DELETED, insertPoints, rowOf, withoutRows, type PointTable } from "../../points/table";
import { KINDS } from "../../records/kinds";
import type { JobDefinition, JobState } from "../model/model";
import { nameOf, partOf, type ThingPart } from "../model/parts";
import { withPositions } from "../model/reduce";
import { SETTINGS, type Setting, type SettingField } from "../model/settings";

export interface PointEdit {
  id: number;
  field: EditField;
  old: EditValue;
  new: EditValue;
}
export interface PointsChange {
  type: "points";
  edits: PointEdit[];
}
/** Points that the office makes. */
export interface AddChange {
  type: "add";
  points: AddedPoints;
}
/** The inverse of `add`: the points are taken out again, if they still are as they were added. */
export interface RemoveChange {
  type: "remove";
  points: AddedPoints;
}
/** One named thing of a part: made (old null), changed, or taken away (new null). */
export interface NamedChange {
  type: "named";
  part: ThingPart;
  name: string;
  old: unknown;
  new: unknown;
  /** Of a thing taken away its index in the list, so that undo puts it back there. */
  at?: number;
}
export interface SettingChange {
  type: "setting";
  field: SettingField;
  old: unknown;
  new: unknown;
}
export type OneChange = PointsChange | AddChange | RemoveChange | NamedChange | SettingChange;
/** Changes that belong together: all are made, or none. `text` says in the ledger what was done. */
export interface SeveralChange {
  type: "several";
  text: string;
  changes: OneChange[];
}
/** An intake taken in or withdrawn, with the ids of the points that it replaced. Stored by the server only. */
export interface IntakeChange {
  type: "intake";
  intake: string;
  file: string;
  action: "take" | "withdraw";
  replaced: number[];
  /** The server's own number of this reading of the file. */
  id: number;
  /** The earlier reading of the same file that steps back while this one stands. */
  instead?: number;
  /** Office edits of the earlier reading that found no point in this one. */
  lost?: string[];
}

export type Change = OneChange | SeveralChange | IntakeChange;
/**
 * Stands in an entry of the ledger for a change that is too large to come with it, of so many bytes of JSON: what it did is
 * asked for, and carried out by asking for the whole job.
 */
export interface LargeChange {
  type: "large";
  bytes: number;
}
export type ToldChange = Change | LargeChange;
/** Changes that the browser may ask for by themselves; intakes go their own way with their bytes. */
export type EditableChange = Exclude<Change, IntakeChange>;

const inverseOfOne = (c: OneChange): OneChange => {
  switch (c.type) {
    case "points":
      return { ...c, edits: c.edits.map((e) => ({ ...e, old: e.new, new: e.old })).reverse() };
    case "add":
      return { ...c, type: "remove" };
    case "remove":
      return { ...c, type: "add" };
    default:
      return { ...c, old: c.new, new: c.old };
  }
};

export function inverse<C extends Change>(change: C): Change & { type: C["type"] | "add" | "remove" } {
  switch (change.type) {
    case "intake":
      return { ...change, action: change.action === "take" ? "withdraw" : "take" } as never;
    case "several":
      return { ...change, changes: change.changes.map(inverseOfOne).reverse() } as never;
    default:
      return inverseOfOne(change) as never;
  }
}

function movesPositions(c: OneChange): boolean {
  switch (c.type) {
    case "points":
      return c.edits.some((e) => fieldOf(e.field).positions);
    case "named":
      return partOf(c.part).positions ?? false;
    case "setting":
      return SETTINGS[c.field].positions ?? false;
    default:
      return true;
  }
}

const onesOf = (change: EditableChange): readonly OneChange[] =>
  change.type === "several" ? change.changes : [change];

/** The state after an editable change. Refused when it is based on old data, or would give two points one number. */
export function applyChange(state: JobState, change: EditableChange): JobState {
  return applyChanges(state, [change]);
}

/** The state after several changes; what is observed is reduced once, after the last. */
export function applyChanges(state: JobState, changes: readonly EditableChange[]): JobState {
  const ones = changes.flatMap(onesOf),
    next = ones.reduce(applyOne, state);
  return ones.some(movesPositions) ? withPositions(next) : next;
}

function applyOne(state: JobState, c: OneChange): JobState {
  switch (c.type) {
    case "points":
      return { ...state, points: editPoints(state.points, c) };
    case "add":
      return { ...state, points: addPoints(state.points, c.points) };
    case "remove":
      return { ...state, points: removePoints(state.points, c.points) };
    default:
      return { ...state, ...applyDefinition(state, c) };
  }
}

function editPoints(t: PointTable, change: PointsChange): PointTable {
  const draft = new TableDraft(t);
  for (const e of change.edits) {
    const row = rowOf(t, e.id);
    if (row < 0) throw refusal("change-unknown", { what: "A point that you changed" });
    if (KINDS[t.kind[row]!] === "reference" && e.field !== "deleted")
      throw refusal("change-reference", { number: t.number[row]! });
    const now = fieldValue(draft.table, row, e.field);
    if (!sameValue(now, e.old)) throw outdatedField(t.number[row]!, e, now);
    draft.set(row, e.field, e.new);
  }
  const { table, twice } = draft.done();
  if (twice >= 0) throw refusal("change-number-taken", { number: table.number[twice]! });
  return table;
}

/** An edit's value in a sentence. */
export function valueText(v: unknown): string {
  return v === null ? "missing" : v === "" ? "blank" : typeof v === "number" ? plainNumber(v) : String(v);
}

/** Why an edit of one field is not carried out: somebody else changed it. Both values are told. */
export function outdatedField(number: string, edit: PointEdit, theirs: EditValue, author?: string): Refusal {
  return refusal("change-outdated", {
    what: `The ${fieldName(edit.field)} of point ${number}`,
    theirs: valueText(theirs),
    mine: valueText(edit.new),
    author,
    clash: { id: edit.id, field: edit.field, theirs, mine: edit.new },
  });
}

function addPoints(t: PointTable, added: AddedPoints): PointTable {
  const taken = numberIndex(t),
    seen = new Set<string>();
  added.id.forEach((id, k) => {
    const number = added.number[k]!;
    if (rowOf(t, id) >= 0 || (k > 0 && id <= added.id[k - 1]!))
      throw refusal("request-wrong", { why: "A point that is made has an id that is taken already" });
    if (taken.has(number) || seen.has(number)) throw refusal("change-number-taken", { number });
    seen.add(number);
  });
  return insertPoints(t, tableOfAdded(added));
}

function removePoints(t: PointTable, added: AddedPoints): PointTable {
  const rows = added.id.map((id) => rowOf(t, id));
  const gone = rows.findIndex((i) => i < 0);
  if (gone >= 0) throw refusal("change-unknown", { what: `Point ${added.number[gone]}` });
  const as = tableOfAdded(added),
    now = tableOfAdded(addedOf(t, rows));
  rows.forEach((i, k) => {
    const same = EDIT_FIELDS.every((f) => !fieldOf(f).added || sameValue(fieldValue(as, k, f), fieldValue(now, k, f)));
    const asMade =
      t.surface[i] === 0 && t.cues[i] === 0 && attributesOf(t, i) === "" && !(t.deleted[i]! & GONE_DELETED);
    if (!same || !asMade) throw refusal("change-outdated", { what: `Point ${t.number[i]}`, theirs: "different" });
  });
  return withoutRows(t, rows);
}

/** The definition after a change of a named thing or a setting; the same check of old data. */
export function applyDefinition(state: JobDefinition, change: NamedChange | SettingChange): Partial<JobDefinition> {
  if (change.type === "setting") {
    checkSame(state[change.field] ?? null, change.old, `The job's ${SETTINGS[change.field].words}`);
    return { [change.field]: change.new ?? undefined };
  }
  const list: unknown[] = change.part === "codes" ? (state.book.codes ?? []) : state[change.part];
  const at = list.findIndex((x) => nameOf(change.part, x) === change.name);
  checkSame(at < 0 ? null : list[at], change.old, `“${change.name}”`);
  const code = change.part === "codes" && change.new !== null ? change.name.toUpperCase() : undefined;
  if (code && list.some((x, k) => k !== at && nameOf("codes", x).toUpperCase() === code))
    throw refusal("request-wrong", { why: `The book has a code “${code}” already` });
  const next = list.slice();
  if (change.new === null) next.splice(at, 1);
  else if (at < 0) next.splice(change.at ?? next.length, 0, change.new);
  else next[at] = change.new;
  return change.part === "codes" ? { book: { ...state.book, codes: next as CodeEntry[] } } : { [change.part]: next };
}

/** The change with the index of each thing that it takes away, so that its inverse puts it back where it was. */
export function withIndices(state: JobDefinition, change: EditableChange): EditableChange {
  const remember = (c: OneChange): OneChange => {
    if (c.type !== "named") return c;
    const list: readonly unknown[] = c.part === "codes" ? (state.book.codes ?? []) : state[c.part],
      at = list.findIndex((x) => nameOf(c.part, x) === c.name);
    return c.new === null && c.at === undefined && at >= 0 ? { ...c, at } : c;
  };
  if (change.type !== "several") return remember(change);
  try {
    const changes = change.changes.map((c) => {
      const whole = remember(c);
      // The next one speaks of what this one leaves.
      if (c.type === "named") state = { ...state, ...applyDefinition(state, c) };
      return whole;
    });
    return { ...change, changes };
  } catch {
    // Why it cannot be done is said where it is carried out.
    return change;
  }
}

function checkSame(now: unknown, old: unknown, what: string): void {
  if (!sameJson(now, old)) throw refusal("change-outdated", { what, theirs: now === null ? "not there" : "different" });
}

/** Equal values of a field; 0 and −0 are one level. */
export function sameValue(a: EditValue, b: EditValue): boolean {
  return Object.is(a, b) || (a === 0 && b === 0);
}

/**
 * A change in a few words, as the deed that it was: “Elevation of 1 point changed”, for the ledger and the undo
 * message.
 */
export function describeChange(change: Change): string {
  switch (change.type) {
    case "points": {
      const count = plural(new Set(change.edits.map((e) => e.id)).size, "point"),
        first = change.edits[0];
      if (!first) return "Nothing changed";
      if (first.field === "deleted") return `${capital(count)} ${first.new ? "deleted" : "brought back"}`;
      return `${capital([...new Set(change.edits.map((e) => fieldName(e.field)))].join(", "))} of ${count} changed`;
    }
    case "add":
    case "remove": {
      const { number } = change.points,
        what = number.length === 1 ? `Point ${number[0]}` : plural(number.length, "point");
      return `${what} ${change.type === "add" ? "made" : "taken out again"}`;
    }
    case "named": {
      const made = change.old === null,
        gone = change.new === null;
      if (change.part === "accepted") return gone ? "Finding opened again" : "Finding accepted";
      if (change.part === "computed")
        return made
          ? "A point made to follow others"
          : gone
            ? "A point follows nothing any more"
            : "Construction of a point changed";
      if (change.part === "names") return namedLine(change.old as LineName | null, change.new as LineName | null);
      if (change.part === "lines") return made ? "Line drawn" : `Line drawn by hand ${gone ? "removed" : "changed"}`;
      if (change.part === "states" && made) return `State “${change.name}” named`;
      return `${capital(partOf(change.part).words)} “${change.name}” ${made ? "made" : gone ? "removed" : "changed"}`;
    }
    case "several":
      return change.text;
    case "setting":
      return `The job's ${(SETTINGS[change.field] as Setting<unknown>).words} changed`;
    case "intake":
      if (change.instead !== undefined)
        return change.action === "take"
          ? `“${change.file}” read again`
          : `Gone back to the earlier reading of “${change.file}”`;
      return `“${change.file}” ${change.action === "take" ? "taken in" : "withdrawn"}`;
  }
}

function namedLine(old: LineName | null, next: LineName | null): string {
  const now: OwnName = next ?? {},
    was: OwnName = old ?? {};
  if (now.name !== undefined && now.name !== was.name) return `A line named “${now.name}”`;
  if (now.color !== was.color && next)
    return `Colour of ${now.name === undefined ? "a line" : `“${now.name}”`} changed`;
  return was.name === undefined ? "A line has the colour of its code again" : `Name “${was.name}” of a line taken away`;
}

function capital(s: string): string {
  return s.charAt(0).toUpperCase() + s.slice(1);
}

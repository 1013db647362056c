/** Office edits of points: what the ledger keeps, and what a recipe's EDIT does. Tables are never changed in place. */
import { refusal } from "../errors";
import type { Transform } from "../math/similarity";
import type { IntakeInfo } from "../intake/model";
import { TextStore } from "../math/texts";
import { decodeCueEdits, encodeCueEdits, type CueEdit } from "./cue-edits";
import type { AttributeColumn } from "../records/records";
import {
  attributesGiven,
  attributesOf,
  decodeAttributes,
  encodeAttributes,
  putAttributes,
  trimmed,
  withAttributes,
  type AttributesGiven,
} from "./attributes";
import { fieldOf, type EditField, type LengthField } from "../records/fields";
import { carryIndex, numberIndex } from "./index";
import { addToNumber, orderedNumbers, readNumberList, type Numbers } from "./numbers";
import { fittedRows, transformedRows, type FitGiven, type FitMade } from "./moved";
import { GONE_DELETED, GONE_GAVE_WAY, type Position, type PointTable } from "./table";
import { FOLLOWS_Z } from "../records/kinds";

/** Numbers for coordinates (null where missing), texts, or true/false for `deleted`. */
export type EditValue = string | number | boolean | null;

/**
 * A coordinate that follows from raw observations, as an edit tells it: setting it back lets the point follow again.
 */
export const OBSERVED = "observed";

/** The present value of one field of one point, as a ledger entry keeps it; coordinates are those of the shot. */
export function fieldValue(t: PointTable, i: number, field: EditField): EditValue {
  const f = fieldOf(field);
  switch (f.is) {
    case "number":
      return t.number[i]!;
    case "text":
      return t.texts[t[f.column][i]!]!;
    case "cues":
      return t.texts[t.cues[i]!]!;
    case "attributes":
      return attributesOf(t, i);
    case "choice":
      return f.of[t[f.column][i]!]!;
    case "deleted":
      return (t.deleted[i]! & GONE_DELETED) !== 0;
    case "length": {
      // Of a moved point what is stored, not where it stands by its moves.
      const from = (f.coordinate && !isConstructed(t, i, field) && t.stored) || t;
      if (from.follows[i]! & (f.coordinate?.follows ?? 0)) return OBSERVED;
      const at = f.coordinate && (from.shotAt?.get(t.id[i]!) ?? [from.e[i]!, from.n[i]!, from.z[i]!]),
        value = at ? at[f.coordinate!.axis] : t[f.column][i]!;
      return Number.isNaN(value) ? null : value;
    }
  }
}

/** Whether a field of a point that the office made follows its construction: it is changed there, in no cell. */
export function isConstructed(t: PointTable, i: number, field: EditField): boolean {
  const f = fieldOf(field);
  return t.intake[i]! < 0 && f.is === "length" && (t.follows[i]! & (f.coordinate?.follows ?? 0)) !== 0;
}

export interface CellEdit {
  row: number;
  field: EditField;
  value: EditValue;
}

/**
 * A table being edited: each column is copied when it is first written to, so that unchanged ones stay the same arrays.
 */
export class TableDraft {
  /** As edited so far. */
  readonly table: PointTable;
  private readonly copied = new Set<keyof PointTable>();
  private readonly renumbered = new Set<number>();
  /** Columns of attributes that are this draft's own. */
  private readonly ownAttributes = new Set<AttributeColumn>();

  constructor(private readonly base: PointTable) {
    this.table = { ...base };
  }

  set(row: number, field: EditField, value: EditValue): void {
    const { table: t } = this,
      texts = TextStore.over(t.texts);
    const f = fieldOf(field);
    switch (f.is) {
      case "number":
        this.renumber(row, String(value));
        break;
      case "deleted":
        this.renumbered.add(row);
        this.column("deleted")[row] = (t.deleted[row]! & ~GONE_DELETED) | (value ? GONE_DELETED : 0);
        break;
      case "text":
        this.column(f.column)[row] = texts.of(String(value ?? ""));
        break;
      case "cues":
        this.column("cues")[row] = texts.of(String(value ?? ""));
        break;
      case "attributes":
        t.attributes = putAttributes(t.attributes, this.ownAttributes, t.count, row, String(value ?? ""), (x) =>
          texts.of(x),
        );
        break;
      case "choice":
        this.column(f.column)[row] = f.of.indexOf(String(value));
        break;
      case "length":
        this.setLength(row, f, value);
    }
  }

  private renumber(row: number, number: string): void {
    const { table: t } = this,
      id = t.id[row]!,
      { [id]: first = t.number[row]!, ...others } = t.cameAs ?? {};
    this.renumbered.add(row);
    this.column("number")[row] = number;
    if (number !== first) t.cameAs = { ...others, [id]: first };
    else if (Object.keys(others).length) t.cameAs = others;
    else delete t.cameAs;
  }

  private setLength(row: number, { column, coordinate }: LengthField, value: EditValue): void {
    const { table: t } = this,
      bit = coordinate?.follows;
    // Coordinates that follow again keep their last value until they are reduced.
    if (bit && value === OBSERVED) {
      this.column("follows")[row]! |= bit;
      return;
    }
    if (bit && t.follows[row]! & bit) this.column("follows")[row]! &= ~bit;
    const given = value === null ? NaN : Number(value),
      shot = coordinate && t.shotAt?.get(t.id[row]!);
    if (!shot) {
      this.column(column)[row] = given;
      return;
    }
    const next = [...shot] as [number, number, number];
    next[coordinate!.axis] = given;
    if (!this.copied.has("shotAt")) {
      this.copied.add("shotAt");
      t.shotAt = new Map(t.shotAt);
    }
    (t.shotAt as Map<number, Position>).set(t.id[row]!, next);
  }

  /** The edited table, and the row of a point whose number another living point has too, −1 for none. */
  done(): { table: PointTable; twice: number } {
    const { table: t } = this;
    // A column in which nothing stands any more is none.
    if (this.ownAttributes.size) t.attributes = t.attributes.flatMap((c) => trimmed(c) ?? []);
    return {
      table: this.table,
      twice: this.renumbered.size ? carryIndex(this.base, this.table, [...this.renumbered]) : -1,
    };
  }

  private column<K extends keyof PointTable>(key: K): PointTable[K] {
    if (!this.copied.has(key)) {
      this.copied.add(key);
      this.table[key] = (this.base[key] as unknown as { slice(): PointTable[K] }).slice();
    }
    return this.table[key];
  }
}

/** The table with the edits made. */
export function withEdits(t: PointTable, edits: readonly CellEdit[]): PointTable {
  const draft = new TableDraft(t);
  for (const { row, field, value } of edits) draft.set(row, field, value);
  return draft.done().table;
}

/** An EDIT of a recipe: `set` for all points that a number list names, of one intake or of the job. */
export interface RecipeEdit {
  points: Numbers;
  intake?: string;
  set?: Partial<Record<Exclude<EditField, "cues" | "attributes">, EditValue>> & {
    /** Each given its value, or taken away by null; the others stay. */
    attributes?: AttributesGiven;
    /** The number of the first point; the others count on from it, in the order in which the list names them. */
    numbersFrom?: string;
  };
  /** Cues added to elements of the points' descriptions, or taken away. */
  cues?: CueEdit[];
  /** Moves the points, or fits them to others. */
  transform?: Transform;
  fit?: FitGiven;
}

/**
 * Carries out EDITs one after another. Numbers that do not exist are passed over and counted. A change of target height
 * moves the elevation by old − new, unless the same EDIT sets the elevation. An EDIT that names its intake reaches
 * those of its points too that give way to another's and whose number no other point of the intake has, so that they are
 * as the office left them when the other leaves; they do not count as found. `settled` gives what follows from observations
 * its places again, which is asked for before points are moved.
 */
export function applyRecipeEdits(
  t: PointTable,
  edits: readonly RecipeEdit[],
  intakes: readonly Pick<IntakeInfo, "id">[],
  path = "edits",
  settled: (t: PointTable) => PointTable = (x) => x,
): { table: PointTable; missing: number; fits: FitMade[] } {
  const fits: FitMade[] = [];
  let table = t,
    missing = 0,
    draft = new TableDraft(t);
  let aside = asideIndex(t);
  for (const [k, edit] of edits.entries()) {
    const list = readNumberList(edit.points),
      at = `${path}[${k}]`;
    if (!list)
      throw refusal("recipe-field", {
        path: `${at}.points`,
        why: `“${String(edit.points)}” is no list of point numbers`,
      });
    const moves = edit.transform !== undefined || edit.fit !== undefined;
    if (moves) {
      // Places are moved as they are after the edits before, what follows from observations too.
      table = settled(draft.done().table);
      draft = new TableDraft(table);
    }
    const intake = edit.intake === undefined ? undefined : intakes.findIndex((x) => x.id === edit.intake);
    if (intake === -1) throw refusal("reference-missing", { path: `${at}.intake`, what: "intake", name: edit.intake! });
    const found = new Set<string>(),
      chosen: number[] = [],
      index = numberIndex(table);
    // Exact numbers of living points are looked up; ranges, and points to be brought back, are looked for.
    const rows =
      list.exact && edit.set?.deleted !== false
        ? list.exact.flatMap((n) => index.get(n) ?? []).sort((a, b) => a - b)
        : undefined;
    for (let r = 0; r < (rows?.length ?? table.count); r++) {
      const i = rows ? rows[r]! : r;
      if (
        table.deleted[i]! & GONE_GAVE_WAY ||
        (table.deleted[i]! & GONE_DELETED && edit.set?.deleted !== false) ||
        (intake !== undefined && table.intake[i] !== intake)
      )
        continue;
      if (!rows && !list.has(table.number[i]!)) continue;
      found.add(table.number[i]!);
      chosen.push(i);
      editPoint(draft, i, edit);
    }
    if (intake !== undefined && aside.size)
      for (const number of list.exact ?? [...aside.keys()].filter((n) => list.has(n))) {
        if (table.intake[index.get(number) ?? -1] === intake) continue;
        for (const i of aside.get(number) ?? []) {
          if (table.intake[i] !== intake) continue;
          if (table.deleted[i]! & GONE_DELETED && edit.set?.deleted !== false) continue;
          chosen.push(i);
          editPoint(draft, i, edit);
        }
      }
    if (edit.set?.numbersFrom !== undefined) numberFrom(draft, chosen, edit.set.numbersFrom, edit.points);
    missing += Math.max(0, list.size - found.size);
    if (moves) {
      table = draft.done().table;
      if (edit.transform) table = transformedRows(table, chosen, edit.transform);
      if (edit.fit) {
        const made = fittedRows(table, chosen, edit.fit, k, `${at}.fit`);
        table = made.table;
        fits.push(made.fit);
      }
      draft = new TableDraft(table);
    }
    // Numbers and deletions decide whom the next edit names.
    const { number, numbersFrom, deleted } = edit.set ?? {};
    if (number === undefined && numbersFrom === undefined && deleted === undefined) continue;
    const done = draft.done();
    if (done.twice >= 0)
      throw refusal("recipe-field", {
        path: `${at}.set.${numbersFrom === undefined ? "number" : "numbersFrom"}`,
        why: "another point has this number already",
      });
    table = done.table;
    aside = asideIndex(table);
    draft = new TableDraft(table);
  }
  return { table: draft.done().table, missing, fits };
}

/** Number → rows of those that give way to another; no edit changes which they are. */
function asideIndex(t: PointTable): Map<string, number[]> {
  const out = new Map<string, number[]>();
  for (let i = 0; i < t.count; i++)
    if (t.deleted[i]! & GONE_GAVE_WAY) out.set(t.number[i]!, [...(out.get(t.number[i]!) ?? []), i]);
  return out;
}

/** A series of numbers, in the order of the list where it has one, else in that of the table. */
function numberFrom(draft: TableDraft, rows: number[], first: string, list: Numbers): void {
  const { number } = draft.table,
    order = new Map(orderedNumbers(list).map((n, k) => [n, k]));
  rows
    .toSorted((a, b) => (order.get(number[a]!) ?? 0) - (order.get(number[b]!) ?? 0) || a - b)
    .map((i, k) => [i, addToNumber(first, k)] as const)
    .forEach(([i, to]) => draft.set(i, "number", to));
}

function editPoint(draft: TableDraft, i: number, { set = {}, cues }: RecipeEdit): void {
  const { table: t } = draft,
    height = set.targetHeight,
    before = t.targetHeight[i]!;
  // A level that follows from observations moves with its target height by itself.
  const follows = (t.follows[i]! & FOLLOWS_Z) !== 0;
  if (
    // One that is cleared says nothing of the level.
    typeof height === "number" &&
    set.elevation === undefined &&
    !follows &&
    !Number.isNaN(before) &&
    !Number.isNaN(t.z[i]!)
  ) {
    draft.set(i, "elevation", Number(fieldValue(t, i, "elevation")) + before - height);
  }
  const { numbersFrom: _, attributes, ...fields } = set;
  for (const [field, value] of Object.entries(fields)) draft.set(i, field as EditField, value!);
  if (attributes) {
    const all = withAttributes(decodeAttributes(attributesOf(draft.table, i)), attributesGiven(attributes));
    draft.set(i, "attributes", encodeAttributes(all));
  }
  if (cues) draft.set(i, "cues", encodeCueEdits([...decodeCueEdits(t.texts[t.cues[i]!]!), ...cues]));
}

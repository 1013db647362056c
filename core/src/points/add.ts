/** Points that the office makes: columns of a change, put into the table and taken out again. */
import { TextStore } from "../math/texts";
import type { PointKind } from "../records/kinds";
import { EDIT_FIELDS, fieldOf } from "../records/fields";
import { tableOf, type PointTable } from "./table";

/** One value for each point. Coordinates in the job's unit; a missing level, precision or target height is null. */
export interface AddedPoints {
  /** Rising, and the job's own for ever. */
  id: number[];
  number: string[];
  easting: number[];
  northing: number[];
  elevation: (number | null)[];
  description: string[];
  note?: string[];
  /** Computed, unless it says otherwise. */
  kind?: Exclude<PointKind, "reference">[];
  precision?: (number | null)[];
  targetHeight?: (number | null)[];
}

export const ADDED = EDIT_FIELDS.filter((f) => fieldOf(f).added) as Exclude<keyof AddedPoints, "id">[];

/** The added points as a table of their own, of no intake. */
export function tableOfAdded(p: AddedPoints): PointTable {
  const count = p.id.length,
    t = { ...tableOf(count), id: Int32Array.from(p.id), number: [...p.number] },
    store = TextStore.over(t.texts);
  for (const field of ADDED) {
    const f = fieldOf(field),
      given = p[field];
    for (let i = 0; i < count; i++) {
      const value = given?.[i];
      if (f.is === "length") t[f.column][i] = (value as number | null | undefined) ?? NaN;
      else if (f.is === "text") t[f.column][i] = store.of((value as string | undefined) ?? "");
      else if (f.is === "choice") t[f.column][i] = f.of.indexOf((value as string | undefined) ?? f.usual);
    }
  }
  t.texts = store.texts;
  return t;
}

/** The columns of some rows of a table, as a change holds them. */
export function addedOf(t: PointTable, rows: readonly number[]): AddedPoints {
  const columns = ADDED.map((field) => {
    const f = fieldOf(field);
    return [
      field,
      rows.map((i) => {
        if (f.is === "length") return Number.isNaN(t[f.column][i]!) ? null : t[f.column][i]!;
        return f.is === "text" ? t.texts[t[f.column][i]!]! : f.is === "choice" ? f.of[t[f.column][i]!]! : t.number[i]!;
      }),
    ];
  });
  return { id: rows.map((i) => t.id[i]!), ...(Object.fromEntries(columns) as Omit<AddedPoints, "id">) };
}

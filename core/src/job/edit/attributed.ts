/** What points have for attributes, as the page shows them: by column, and where that is blank by description. */
import type { JobState } from "../model/model";
import { ownAttribute } from "../../points/attributes";

/** What descriptions were read as: codes by the points' rows, and what they say of attributes. */
export interface Described {
  /** Code of each point as an index into `codes`. */
  code: ArrayLike<number>;
  codes: readonly string[];
  /** Values by attribute, in small letters, and row. */
  said: ReadonlyMap<string, ReadonlyMap<number, string>>;
}

export interface Attributed {
  job: JobState;
  view: Described;
}

/** Attributes that points have, and those that the codes in use may have; one written in two ways is one. */
export function attributeNames({ job: { points, book }, view: { codes } }: Attributed): string[] {
  const used = new Set(codes.map((c) => c.toUpperCase())),
    names = new Map(points.attributes.map((a) => [a.name.toLowerCase(), a.name]));
  for (const c of book.codes ?? [])
    if (used.has(c.code.toUpperCase()))
      for (const { name } of c.attributes ?? [])
        if (!names.has(name.toLowerCase())) names.set(name.toLowerCase(), name);
  return [...names.values()];
}

/** An attribute of the point of a row: what stands in its column, else what its description says. */
export function attributeText({ job: { points: t }, view }: Attributed, i: number, name: string): string {
  const own = ownAttribute(t, i, name);
  return own === "" ? saidOf(view, i, name) : (own ?? "");
}

/** What the description of a point says of an attribute. */
export const saidOf = (view: Described, i: number, name: string) => view.said.get(name.toLowerCase())?.get(i) ?? "";

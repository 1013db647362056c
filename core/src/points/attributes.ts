/** A point's attributes as one text, which is how an edit keeps them: JSON of names and texts, names in order. */
import type { AttributeColumn } from "../records/records";

export type Attributes = Readonly<Record<string, string>>;

/** "" for none; blank ones are left out. */
export function encodeAttributes(of: Attributes): string {
  const given = Object.entries(of).filter(([, value]) => value !== "");
  return given.length ? JSON.stringify(Object.fromEntries(given.sort((a, b) => (a[0] < b[0] ? -1 : 1)))) : "";
}

export function decodeAttributes(text: string): Attributes {
  return text === "" ? {} : (JSON.parse(text) as Attributes);
}

/** Attributes as a recipe gives them: numbers too, and null for none. */
export type AttributesGiven = Readonly<Record<string, string | number | null>>;
export function attributesGiven(given: AttributesGiven): Attributes {
  return Object.fromEntries(Object.entries(given).map(([name, value]) => [name, value === null ? "" : String(value)]));
}

type Columns = { attributes: readonly AttributeColumn[]; texts: readonly string[] };

export function attributesOf(t: Columns, i: number): string {
  return encodeAttributes(Object.fromEntries(t.attributes.map((c) => [c.name, t.texts[c.values[i]!]!])));
}

/**
 * The columns with another row's worth of attributes, those that hold nothing any more left out; `owned` are columns
 * that may be written to, which the new ones join.
 */
export function putAttributes(
  columns: readonly AttributeColumn[],
  owned: Set<AttributeColumn>,
  count: number,
  row: number,
  text: string,
  indexOf: (text: string) => number,
): AttributeColumn[] {
  const given = new Map(Object.entries(decodeAttributes(text)));
  const out = columns.map((c) => {
    const value = given.get(c.name);
    given.delete(c.name);
    const own = owned.has(c) ? c : { name: c.name, values: c.values.slice() };
    owned.add(own);
    own.values[row] = value === undefined ? 0 : indexOf(value);
    return own;
  });
  for (const [name, value] of given) {
    const made = { name, values: new Uint32Array(count) };
    made.values[row] = indexOf(value);
    owned.add(made);
    out.push(made);
  }
  return out;
}

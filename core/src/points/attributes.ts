/** A point's attributes as one text, which is how an edit keeps them: JSON of names and texts, names in order. */
import type { AttributeColumn } from "../records/records";

/** Texts by name; null where the office has taken one away, so that what the description says of it does not count either. */
export type Attributes = Readonly<Record<string, string | null>>;

/** "" for none; blank ones are left out. */
export function encodeAttributes(of: Attributes): string {
  const given = Object.entries(of).filter(([, value]) => value !== "");
  return given.length ? JSON.stringify(Object.fromEntries(given.sort((a, b) => (a[0] < b[0] ? -1 : 1)))) : "";
}

export function decodeAttributes(text: string): Attributes {
  return text === "" ? {} : (JSON.parse(text) as Attributes);
}

/** Attributes as a recipe gives them: numbers too, and null for one taken away. */
export type AttributesGiven = Readonly<Record<string, string | number | null>>;
export function attributesGiven(given: AttributesGiven): Attributes {
  return Object.fromEntries(
    Object.entries(given).map(([name, value]) => [name, value === null ? null : String(value)]),
  );
}

/** Attributes with others given; a name is written as it was before, in whatever letters it is given. */
export function withAttributes(was: Attributes, given: Attributes): Attributes {
  // By entries throughout: a name may be one that plain objects keep for themselves.
  const out = new Map(Object.entries(was)),
    names = new Map(Object.keys(was).map((n) => [n.toLowerCase(), n]));
  for (const [name, value] of Object.entries(given)) out.set(names.get(name.toLowerCase()) ?? name, value);
  return Object.fromEntries(out);
}

type Columns = { attributes: readonly AttributeColumn[]; texts: readonly string[] };

export function attributesOf(t: Columns, i: number): string {
  return encodeAttributes(
    Object.fromEntries(t.attributes.map((c) => [c.name, c.taken?.[i] === 1 ? null : t.texts[c.values[i]!]!])),
  );
}

/** An attribute of a point by its columns, in whatever letters: its text, null where it was taken away, "" for none. */
export function ownAttribute(t: Columns, i: number, name: string): string | null {
  const wanted = name.toLowerCase();
  for (const c of t.attributes) {
    if (c.values[i] === 0 && c.taken?.[i] !== 1) continue;
    if (c.name.toLowerCase() === wanted) return c.taken?.[i] === 1 ? null : t.texts[c.values[i]!]!;
  }
  return "";
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
  const put = (c: AttributeColumn, value: string | null | undefined) => {
    owned.add(c);
    c.values[row] = value ? indexOf(value) : 0;
    if (value === null) (c.taken ??= new Uint8Array(count))[row] = 1;
    else if (c.taken) c.taken[row] = 0;
    return c;
  };
  const own = (c: AttributeColumn): AttributeColumn =>
    owned.has(c) ? c : { name: c.name, values: c.values.slice(), ...(c.taken && { taken: c.taken.slice() }) };
  const out = columns.map((c) => {
    const value = given.get(c.name);
    given.delete(c.name);
    return put(own(c), value);
  });
  for (const [name, value] of given) out.push(put({ name, values: new Uint32Array(count) }, value));
  return out;
}

/** The column without memory of what nobody took away; undefined where it holds nothing at all. */
export function trimmed(c: AttributeColumn): AttributeColumn | undefined {
  const isTaken = c.taken?.some((x) => x === 1) ?? false;
  if (!isTaken && !c.values.some((v) => v !== 0)) return undefined;
  return c.taken && !isTaken ? { name: c.name, values: c.values } : c;
}

/** Cells of the points table: what is typed in one as a value, and cells with new values as one change of the job. */
import { compileBook } from "../../codes/book";
import type { AttributeDefinition } from "../../codes/model";
import { parseDescription, wantedInstead } from "../../codes/parse";
import { readTypedLength } from "../../math/typed";
import { plural } from "../../math/words";
import { attributesOf, decodeAttributes, encodeAttributes, withAttributes } from "../../points/attributes";
import { decodeCueEdits, encodeCueEdits } from "../../points/cue-edits";
import { fieldValue, OBSERVED, type EditValue } from "../../points/edits";
import { choiceName, fieldName, fieldOf, type EditField } from "../../records/fields";
import type { EditableChange, OneChange, PointEdit } from "../change/change";
import { renumber, type Follower } from "../change/renumber";
import type { JobState } from "../model/model";
import { attributeText, type Attributed } from "./attributed";
import { COORDINATES, coordinateEdits, isCoordinate, levelIsObserved, whyNotGiven } from "./coordinates";

export interface NewCell {
  row: number;
  field: EditField;
  value: EditValue;
  /** Of the field “attributes” the one that is meant. */
  attribute?: string;
}

/**
 * The change that puts values into cells, undefined where nothing becomes another; and what follows points that get
 * another number. Throws a Refusal where numbers cannot be given so.
 */
export function changeOfCells(
  of: Attributed,
  cells: readonly NewCell[],
): { change: EditableChange | undefined; follows: Follower[] } {
  const { job } = of,
    { points: t } = job,
    numbers = cells.filter((c) => c.field === "number" && c.value !== t.number[c.row]),
    edits = [
      ...cells
        .filter((c) => c.field !== "number" && c.field !== "attributes")
        .flatMap((c) => editsFor(job, c.row, c.field, c.value)),
      ...attributeEdits(of, cells),
    ];
  const first: OneChange[] = edits.length ? [{ type: "points", edits }] : [];
  if (numbers.length === 0) return { change: first[0], follows: [] };
  const { change, follows } = renumber(
    job,
    numbers.map((c) => ({ id: t.id[c.row]!, number: String(c.value) })),
  );
  if (first.length === 0) return { change, follows };
  const changes = change.type === "several" ? change.changes : [change as OneChange];
  const text = `${plural(new Set(cells.map((c) => c.row)).size, "point")} changed, ${numbers.length} of them renumbered`;
  return { change: { type: "several", text, changes: [...changes, ...first] }, follows };
}

/** Attributes of one point are one field: cells of several of them are one edit. */
function attributeEdits(of: Attributed, cells: readonly NewCell[]): PointEdit[] {
  const { points: t } = of.job,
    rows = new Map<number, Map<string, string | null>>();
  for (const { row, attribute, value } of cells) {
    if (attribute === undefined) continue;
    const text = String(value ?? "");
    // What is shown already is no change; what was there is taken away, also where the description says it.
    if (text === attributeText(of, row, attribute)) continue;
    let given = rows.get(row);
    if (!given) rows.set(row, (given = new Map()));
    given.set(attribute, text === "" ? null : text);
  }
  return [...rows].flatMap(([row, given]) => {
    const old = attributesOf(t, row),
      now = encodeAttributes(withAttributes(decodeAttributes(old), Object.fromEntries(given)));
    return old === now ? [] : [{ id: t.id[row]!, field: "attributes" as const, old, new: now }];
  });
}

/** What was typed as a value of the field, or the sentence why it cannot be. */
export function readCell(field: EditField, text: string, job: JobState): { value: EditValue } | { problem: string } {
  const t = text.trim(),
    f = fieldOf(field);
  switch (f.is) {
    case "number":
      return t ? { value: t } : { problem: "A point needs a number." };
    case "text":
    case "attributes":
      return { value: t };
    case "choice": {
      const choice = f.offered.find((c) => c === t || choiceName(f, c) === t);
      return choice ? { value: choice } : { problem: `Choose ${oneOf(f.offered.map((c) => choiceName(f, c)))}.` };
    }
    case "cues":
      return { problem: "Cues are changed on the lines." };
    case "deleted":
      return { value: t === "true" };
    case "length":
      if (t === "") return f.required ? { problem: `A point needs its ${fieldName(field)}.` } : { value: null };
      return readTypedLength(t, job.unit);
  }
}

const oneOf = (words: readonly string[]) => `${words.slice(0, -1).join(", ")} or ${words.at(-1)}`;

/** What the code of a point says of an attribute; undefined where it has none of that name. */
export function definitionAt(
  { job, view }: Attributed,
  row: number,
  attribute: string,
): AttributeDefinition | undefined {
  const code = view.codes[view.code[row] ?? 0]?.toUpperCase(),
    name = attribute.toLowerCase();
  return job.book.codes
    ?.find((c) => c.code.toUpperCase() === code)
    ?.attributes?.find((a) => a.name.toLowerCase() === name);
}

/** Why a text cannot be the value of a cell; undefined where it can. */
export function refusedAttribute(of: Attributed, row: number, attribute: string, text: string): string | undefined {
  const definition = text === "" ? undefined : definitionAt(of, row, attribute),
    want = definition && wantedInstead(definition, text);
  return want && `${attribute} of this point is ${want}.`;
}

/**
 * The edits that setting one field of one point means: a target height moves the elevation by old − new, in
 * the job's unit; a coordinate typed for an object that stands ahead of its shot takes the place of its `past`.
 */
export function editsFor(job: JobState, row: number, field: EditField, value: EditValue) {
  const t = job.points,
    id = t.id[row]!;
  if (isCoordinate(field) && !t.shotAt?.has(id) && value !== OBSERVED)
    return coordinateEdits(t, row, { [field]: value as number | null });
  const why = isCoordinate(field) && whyNotGiven(t, row, field);
  if (why) throw why;
  const edits = [{ id, field, old: fieldValue(t, row, field), new: value }];
  if (t.shotAt?.has(id) && isCoordinate(field)) {
    const book = compileBook(job.book),
      cues = t.texts[t.cues[row]!]!,
      shown = { northing: t.n[row]!, easting: t.e[row]!, elevation: t.z[row]! };
    const element = parseDescription(t.texts[t.description[row]!]!, book, cues).elements.find((e) =>
      e.cues.some((c) => c.action === "past"),
    )!;
    const standing = coordinateEdits(
      t,
      row,
      Object.fromEntries(
        COORDINATES.map((f) => [f, f === field ? (value as number | null) : Number.isNaN(shown[f]) ? null : shown[f]]),
      ),
    );
    const without = { element: element.code + element.run, remove: [book.spellingsOf("past")[0]!] };
    return [
      ...standing,
      { id, field: "cues" as EditField, old: cues, new: encodeCueEdits([...decodeCueEdits(cues), without]) },
    ].filter((e) => e.old !== e.new);
  }
  const before = t.targetHeight[row]!;
  // A level that follows from raw observations moves with its target height by itself.
  if (levelIsObserved(t, row)) return edits.filter((e) => e.old !== e.new);
  if (field === "targetHeight" && typeof value === "number" && !Number.isNaN(before) && !Number.isNaN(t.z[row]!)) {
    const level = fieldValue(t, row, "elevation") as number;
    edits.push({ id, field: "elevation", old: level, new: level + before - value });
  }
  return edits.filter((e) => e.old !== e.new);
}

/** The columns of the points table: how each is read, written, sorted and edited. */
import type { JobState } from "@bramble/core";
import {
  EDIT_FIELDS,
  fieldName,
  fieldOf,
  fieldTitle,
  isPlain,
  type ChoiceField,
  type EditField,
  type PlainField,
} from "@bramble/core/records/fields";
import { FOLLOWS_Z } from "@bramble/core/records/kinds";
import { measuredName, measuredOf, type MeasuredField } from "@bramble/core/records/measured";
import { readTypedLength } from "@bramble/core/math/typed";
import type { AttributeDefinition } from "@bramble/core/codes/model";
import { compileBook } from "@bramble/core/codes/book";
import { parseDescription, wantedInstead } from "@bramble/core/codes/parse";
import { formatFixed, plainNumber } from "@bramble/core/math/round";
import { decodeCueEdits, encodeCueEdits } from "@bramble/core/points/cue-edits";
import { fieldValue, type EditValue } from "@bramble/core/points/edits";
import type { PointTable } from "@bramble/core/points/table";
import { attributeText, type Attributed } from "../../lib/attributes";
import { decimalsOf } from "../../lib/units-shown";

export interface Column {
  key: string;
  title: string;
  width: number;
  numeric: boolean;
  /** The field that an edit changes; none for what is derived or received. */
  field?: EditField;
  choices?: readonly string[];
  /** The attribute, where the field is one of many in one. */
  attribute?: string;
  text(of: TableData, i: number): string;
  /** What the column sorts by; texts compare as people sort numbers. */
  sort(of: TableData, i: number): number | string;
}

/** What the cells are read from. The columns stay the same while it changes, so that only changed rows are rendered. */
export type TableData = Attributed;

/** A column whose text is what it sorts by. */
const words = (key: string, title: string, width: number, text: Column["text"], field?: EditField): Column => ({
  key,
  title,
  width,
  numeric: false,
  ...(field && { field }),
  text,
  sort: text,
});

/** A choice as a person reads it. */
const choiceName = ({ called = {} }: ChoiceField, choice: string) => called[choice] ?? choice;

const codeNames = new WeakMap<object, Map<string, string>>();

/** The full name that the book gives a code. */
function nameOfCode({ book }: JobState, code: string): string {
  let names = codeNames.get(book);
  if (!names) codeNames.set(book, (names = new Map(book.codes?.map((c) => [c.code.toUpperCase(), c.name ?? ""]))));
  return names.get(code.toUpperCase()) ?? "";
}

/** As the file wrote it: the day only where it gave one. */
export function timeText(milliseconds: number): string {
  if (Number.isNaN(milliseconds)) return "";
  const [day, time] = new Date(milliseconds).toISOString().slice(0, 19).split("T") as [string, string];
  return milliseconds < 86_400_000 ? time : `${day} ${time}`;
}

/** The column of a field that has one of its own in the table. */
function fieldColumn(field: PlainField | "number", unit: JobState["unit"]): Column {
  const f = fieldOf(field),
    own = { key: field, field, width: f.width ?? 92, numeric: f.is === "length" };
  if (f.is === "length") {
    const values = (t: PointTable) => t[f.column];
    return { ...own, title: `${fieldTitle(field)} ${unit}`, ...lengthCells(unit, values) };
  }
  const title = fieldTitle(field);
  if (f.is === "choice")
    return {
      ...own,
      title,
      choices: f.offered,
      text: ({ job }, i) => choiceName(f, f.of[job.points[f.column][i]!]!),
      sort: ({ job }, i) => job.points[f.column][i]!,
    };
  const text: Column["text"] =
    f.is === "text"
      ? ({ job: { points: t } }, i) => t.texts[t[f.column]?.[i] ?? 0]!
      : ({ job }, i) => job.points.number[i]!;
  return { ...own, title, text, sort: text };
}

/** Cells of numbers with the decimals of lengths. */
function lengthCells(unit: JobState["unit"], values: (t: PointTable) => Float64Array) {
  const decimals = decimalsOf(unit);
  return {
    text: ({ job }: TableData, i: number) => formatFixed(values(job.points)[i]!, decimals),
    // What is missing comes before all that is there.
    sort({ job }: TableData, i: number) {
      const x = values(job.points)[i]!;
      return Number.isNaN(x) ? -Infinity : x;
    },
  };
}

/** The column of something that was measured, for a job in which some point has it. */
function measuredColumn(field: MeasuredField, unit: JobState["unit"]): Column {
  const m = measuredOf(field),
    name = measuredName(field),
    title = name.charAt(0).toUpperCase() + name.slice(1);
  if (m.is === "text")
    return words(field, title, 110, ({ job: { points: t } }, i) => t.texts[t.measured[field]?.[i] ?? 0]!);
  const values = (t: PointTable) => t.measured[field] as Float64Array,
    cells = lengthCells(unit, values);
  return {
    key: field,
    title: [title, m.is === "length" ? unit : m.unit].filter(Boolean).join(" "),
    width: 120,
    numeric: true,
    ...cells,
    ...(m.is === "number" && { text: ({ job }: TableData, i: number) => plainNumber(values(job.points)[i]!) }),
  };
}

/** Fields that stand in columns of their own, the plan coordinates in the job's order. */
function ownFields(order: JobState["order"]): (PlainField | "number")[] {
  const own = EDIT_FIELDS.filter((f): f is PlainField | "number" => f === "number" || isPlain(f)),
    [first, second] = order === "NE" ? (["northing", "easting"] as const) : (["easting", "northing"] as const);
  return own.map((f) => (f === "northing" ? first : f === "easting" ? second : f));
}

/** `attributes`: the names of the attributes that points of the job have; `measured`: what was measured of some. */
export function columnsOf(
  unit: JobState["unit"],
  order: JobState["order"],
  attributes: readonly string[],
  measured: readonly MeasuredField[] = [],
): Column[] {
  const own = ownFields(order).map((f) => fieldColumn(f, unit)),
    code = [
      words("code", "Code", 92, ({ view }, i) => view.codes[view.code[i] ?? 0] ?? ""),
      words("name", "Code’s name", 140, ({ job, view }, i) => nameOfCode(job, view.codes[view.code[i] ?? 0] ?? "")),
    ];
  return [
    // What the description was read as stands before it.
    ...own.flatMap((c) => (c.key === "description" ? [...code, c] : [c])),
    ...measured.map((f) => measuredColumn(f, unit)),
    // What the description says of it stands where the point's own column is blank.
    ...attributes.map((name): Column => ({
      ...words(`attr:${name}`, name, 84, (of, i) => attributeText(of, i, name), "attributes"),
      attribute: name,
    })),
    {
      key: "intake",
      title: "Intake",
      width: 110,
      numeric: false,
      text: ({ job }, i) => job.intakes[job.points.intake[i]!]?.id ?? "",
      sort: ({ job }, i) => job.points.intake[i]!,
    },
    words("crew", "Crew", 70, ({ job }, i) => job.intakes[job.points.intake[i]!]?.crew ?? ""),
    words("setup", "Setup", 110, ({ view }, i) => view.pointSetups.get(i)?.join(", ") ?? ""),
    {
      key: "time",
      title: "Time",
      width: 130,
      numeric: false,
      text: ({ job }, i) => timeText(job.points.time[i]!),
      sort: ({ job }, i) => job.points.time[i]! || 0,
    },
    {
      key: "row",
      title: "Row",
      width: 60,
      numeric: true,
      text: ({ job }, i) => String(job.points.row[i]),
      sort: ({ job }, i) => job.points.row[i]!,
    },
  ];
}

/** What the cell is opened with: the value as it is typed, which for choices is the choice itself. */
export function cellText(column: Column, of: TableData, row: number): string {
  const f = column.field && fieldOf(column.field);
  return f?.is === "choice" ? f.of[of.job.points[f.column][row]!]! : column.text(of, row);
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
  { job, view }: TableData,
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
export function refusedAttribute(of: TableData, row: number, attribute: string, text: string): string | undefined {
  const definition = text === "" ? undefined : definitionAt(of, row, attribute),
    want = definition && wantedInstead(definition, text);
  return want && `${attribute} of this point is ${want}.`;
}

const COORDINATES = ["northing", "easting", "elevation"] as const;

/**
 * The edits that setting one field of one point means: a target height moves the elevation by old − new; a
 * coordinate typed for an object that
 * stands ahead of its shot takes the place of its `past`.
 */
export function editsFor(job: JobState, row: number, field: EditField, value: EditValue) {
  const t = job.points,
    id = t.id[row]!;
  const edits = [{ id, field, old: fieldValue(t, row, field), new: value }];
  if (t.shotAt?.has(id) && (COORDINATES as readonly string[]).includes(field)) {
    const book = compileBook(job.book),
      cues = t.texts[t.cues[row]!]!,
      shown = { northing: t.n[row]!, easting: t.e[row]!, elevation: t.z[row]! };
    const element = parseDescription(t.texts[t.description[row]!]!, book, cues).elements.find((e) =>
      e.cues.some((c) => c.action === "past"),
    )!;
    const standing = COORDINATES.map((f) => ({
      id,
      field: f as EditField,
      old: fieldValue(t, row, f),
      new: f === field ? value : Number.isNaN(shown[f]) ? null : shown[f],
    }));
    const without = { element: element.code + element.run, remove: [book.spellingsOf("past")[0]!] };
    return [
      ...standing,
      { id, field: "cues" as EditField, old: cues, new: encodeCueEdits([...decodeCueEdits(cues), without]) },
    ].filter((e) => e.old !== e.new);
  }
  const before = t.targetHeight[row]!;
  // A level that follows from raw observations moves with its target height by itself.
  if (t.follows[row]! & FOLLOWS_Z) return edits.filter((e) => e.old !== e.new);
  if (field === "targetHeight" && typeof value === "number" && !Number.isNaN(before) && !Number.isNaN(t.z[row]!)) {
    const level = fieldValue(t, row, "elevation") as number;
    edits.push({ id, field: "elevation", old: level, new: level + before - value });
  }
  return edits.filter((e) => e.old !== e.new);
}

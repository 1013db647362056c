/** The columns of the points table: how each is read, written, sorted and edited. */
import { KINDS, type JobState } from "@bramble/core";
import type { EditField } from "@bramble/core/points/fields";
import { readTypedLength } from "@bramble/core/math/typed";
import type { AttributeDefinition } from "@bramble/core/codes/model";
import { compileBook } from "@bramble/core/codes/book";
import { parseDescription, wantedInstead } from "@bramble/core/codes/parse";
import { formatFixed } from "@bramble/core/math/round";
import { decodeCueEdits, encodeCueEdits } from "@bramble/core/points/cue-edits";
import { fieldValue, type EditValue } from "@bramble/core/points/edits";
import { FOLLOWS_Z, SURFACE_CHOICES, type PointTable } from "@bramble/core/points/table";
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

const SURFACE_NAMES: Record<string, string> = { auto: "by code", in: "in", out: "out" };

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

/** `attributes`: the names of the attributes that points of the job have. */
export function columnsOf(unit: JobState["unit"], order: JobState["order"], attributes: readonly string[]): Column[] {
  const level = (x: number) => formatFixed(x, decimalsOf(unit));
  const length = (
    title: string,
    width: number,
    field: "northing" | "easting" | "elevation" | "targetHeight" | "precision",
    values: (t: PointTable) => Float64Array,
  ): Column => ({
    key: field,
    title: `${title} ${unit}`,
    width,
    numeric: true,
    field,
    text: ({ job }, i) => level(values(job.points)[i]!),
    // What is missing comes before all that is there.
    sort({ job }, i) {
      const x = values(job.points)[i]!;
      return Number.isNaN(x) ? -Infinity : x;
    },
  });
  const northing = length("Northing", 100, "northing", (t) => t.n),
    easting = length("Easting", 100, "easting", (t) => t.e);
  const textOf = (t: PointTable, values: Uint32Array | undefined, i: number) => t.texts[values?.[i] ?? 0]!;
  return [
    words("number", "Number", 84, ({ job }, i) => job.points.number[i]!, "number"),
    ...(order === "NE" ? [northing, easting] : [easting, northing]),
    length("Elevation", 92, "elevation", (t) => t.z),
    words("code", "Code", 92, ({ view }, i) => view.codes[view.code[i] ?? 0] ?? ""),
    words("name", "Code’s name", 140, ({ job, view }, i) => nameOfCode(job, view.codes[view.code[i] ?? 0] ?? "")),
    words("description", "Description", 168, ({ job: { points: t } }, i) => textOf(t, t.description, i), "description"),
    {
      key: "surface",
      title: "In surfaces",
      width: 84,
      numeric: false,
      field: "surface",
      choices: SURFACE_CHOICES,
      text: ({ job }, i) => SURFACE_NAMES[SURFACE_CHOICES[job.points.surface[i]!]!]!,
      sort: ({ job }, i) => job.points.surface[i]!,
    },
    words("note", "Note", 140, ({ job: { points: t } }, i) => textOf(t, t.note, i), "note"),
    {
      key: "kind",
      title: "Kind",
      width: 88,
      numeric: false,
      field: "kind",
      choices: KINDS.filter((k) => k !== "reference"),
      text: ({ job }, i) => KINDS[job.points.kind[i]!]!,
      sort: ({ job }, i) => job.points.kind[i]!,
    },
    length("Target height", 110, "targetHeight", (t) => t.targetHeight),
    length("Precision", 92, "precision", (t) => t.precision),
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
  return column.key === "surface" ? SURFACE_CHOICES[of.job.points.surface[row]!]! : column.text(of, row);
}

/** What was typed as a value of the field, or the sentence why it cannot be. */
export function readCell(field: EditField, text: string, job: JobState): { value: EditValue } | { problem: string } {
  const t = text.trim();
  switch (field) {
    case "number":
      return t ? { value: t } : { problem: "A point needs a number." };
    case "description":
    case "note":
      return { value: t };
    case "surface": {
      const choice = SURFACE_CHOICES.find((c) => c === t || SURFACE_NAMES[c] === t);
      return choice ? { value: choice } : { problem: "Choose by code, in or out." };
    }
    case "kind":
      return (KINDS as readonly string[]).includes(t) && t !== "reference"
        ? { value: t }
        : { problem: `Choose one of ${KINDS.slice(0, 4).join(", ")}.` };
    case "attributes":
      return { value: t };
    case "cues":
      return { problem: "Cues are changed on the lines." };
    case "deleted":
      return { value: t === "true" };
    default: {
      if (t === "")
        return field === "northing" || field === "easting"
          ? { problem: `A point needs its ${field}.` }
          : { value: null };
      return readTypedLength(t, job.unit);
    }
  }
}

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

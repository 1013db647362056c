/** The columns of the points table: how each is read, written, sorted and edited. */
import type { JobState } from "@bramble/core";
import {
  EDIT_FIELDS,
  fieldOf,
  choiceName,
  fieldTitle,
  isPlain,
  type EditField,
  type PlainField,
} from "@bramble/core/records/fields";
import { measuredName, measuredOf, type MeasuredField } from "@bramble/core/records/measured";
import { formatFixed, plainNumber } from "@bramble/core/math/round";
import type { PointTable } from "@bramble/core/points/table";
import type { View } from "../../lib/view";
import { attributeText, type Attributed } from "@bramble/core/job/edit/attributed";
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
export interface TableData extends Attributed {
  view: View;
}

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

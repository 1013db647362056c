/** The columns of the points table: how each is read, written, sorted and edited. */
import { KINDS, type JobState } from "@bramble/core";
import { readTypedLength } from "@bramble/core/math/typed";
import { compileBook } from "@bramble/core/codes/book";
import { parseDescription } from "@bramble/core/codes/parse";
import { formatFixed } from "@bramble/core/math/round";
import { decodeCueEdits, encodeCueEdits } from "@bramble/core/points/cue-edits";
import { fieldValue, type EditField, type EditValue } from "@bramble/core/points/edits";
import { FOLLOWS_Z, SURFACE_CHOICES } from "@bramble/core/points/table";
import type { View } from "../../lib/view";
import { decimalsOf } from "../../lib/units-shown";

export interface Column {
  key: string;
  title: string;
  width: number;
  numeric: boolean;
  /** The field that an edit changes; none for what is derived or received. */
  field?: EditField;
  choices?: readonly string[];
  text(i: number): string;
  /** What the column sorts by; texts compare as people sort numbers. */
  sort(i: number): number | string;
}

const SURFACE_NAMES: Record<string, string> = { auto: "by code", in: "in", out: "out" };

export function columnsOf(job: JobState, view: View): Column[] {
  const t = job.points,
    d = decimalsOf(job.unit),
    u = job.unit;
  const level = (x: number) => formatFixed(x, d);
  const coordinate = (key: "northing" | "easting", of: Float64Array): Column => ({
    key,
    title: `${key === "northing" ? "Northing" : "Easting"} ${u}`,
    width: 100,
    numeric: true,
    field: key,
    text: (i) => level(of[i]!),
    sort: (i) => of[i]!,
  });
  const northing = coordinate("northing", t.n),
    easting = coordinate("easting", t.e);
  return [
    {
      key: "number",
      title: "Number",
      width: 84,
      numeric: false,
      field: "number",
      text: (i) => t.number[i]!,
      sort: (i) => t.number[i]!,
    },
    ...(job.order === "NE" ? [northing, easting] : [easting, northing]),
    {
      key: "elevation",
      title: `Elevation ${u}`,
      width: 92,
      numeric: true,
      field: "elevation",
      text: (i) => level(t.z[i]!),
      sort: (i) => (Number.isNaN(t.z[i]!) ? -Infinity : t.z[i]!),
    },
    {
      key: "code",
      title: "Code",
      width: 92,
      numeric: false,
      text: (i) => view.codes[view.code[i] ?? 0] ?? "",
      sort: (i) => view.codes[view.code[i] ?? 0] ?? "",
    },
    {
      key: "description",
      title: "Description",
      width: 168,
      numeric: false,
      field: "description",
      text: (i) => t.texts[t.description[i]!]!,
      sort: (i) => t.texts[t.description[i]!]!,
    },
    {
      key: "surface",
      title: "In surfaces",
      width: 84,
      numeric: false,
      field: "surface",
      choices: SURFACE_CHOICES,
      text: (i) => SURFACE_NAMES[SURFACE_CHOICES[t.surface[i]!]!]!,
      sort: (i) => t.surface[i]!,
    },
    {
      key: "note",
      title: "Note",
      width: 140,
      numeric: false,
      field: "note",
      text: (i) => t.texts[t.note[i]!]!,
      sort: (i) => t.texts[t.note[i]!]!,
    },
    {
      key: "kind",
      title: "Kind",
      width: 88,
      numeric: false,
      field: "kind",
      choices: KINDS.filter((k) => k !== "reference"),
      text: (i) => KINDS[t.kind[i]!]!,
      sort: (i) => t.kind[i]!,
    },
    {
      key: "targetHeight",
      title: `Target height ${u}`,
      width: 110,
      numeric: true,
      field: "targetHeight",
      text: (i) => level(t.targetHeight[i]!),
      sort: (i) => t.targetHeight[i]! || 0,
    },
    {
      key: "precision",
      title: `Precision ${u}`,
      width: 92,
      numeric: true,
      field: "precision",
      text: (i) => level(t.precision[i]!),
      sort: (i) => t.precision[i]! || 0,
    },
    ...t.attributes.map((a): Column => ({
      key: `attr:${a.name}`,
      title: a.name,
      width: 84,
      numeric: false,
      text: (i) => t.texts[a.values[i]!]!,
      sort: (i) => t.texts[a.values[i]!]!,
    })),
    {
      key: "intake",
      title: "Intake",
      width: 110,
      numeric: false,
      text: (i) => job.intakes[t.intake[i]!]?.id ?? "",
      sort: (i) => t.intake[i]!,
    },
    { key: "row", title: "Row", width: 60, numeric: true, text: (i) => String(t.row[i]), sort: (i) => t.row[i]! },
  ];
}

/** What the cell is opened with: the value as it is typed, which for choices is the choice itself. */
export function cellText(column: Column, job: JobState, place: number): string {
  return column.key === "surface" ? SURFACE_CHOICES[job.points.surface[place]!]! : column.text(place);
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

const COORDINATES = ["northing", "easting", "elevation"] as const;

/**
 * The edits that setting one field of one point means: a target height moves the elevation by old − new; a
 * coordinate typed for an object that
 * stands ahead of its shot takes the place of its `past`.
 */
export function editsFor(job: JobState, place: number, field: EditField, value: EditValue) {
  const t = job.points,
    id = t.id[place]!;
  const edits = [{ id, field, old: fieldValue(t, place, field), new: value }];
  if (t.shotAt?.has(id) && (COORDINATES as readonly string[]).includes(field)) {
    const book = compileBook(job.book),
      cues = t.texts[t.cues[place]!]!,
      shown = { northing: t.n[place]!, easting: t.e[place]!, elevation: t.z[place]! };
    const element = parseDescription(t.texts[t.description[place]!]!, book, cues).elements.find((e) =>
      e.cues.some((c) => c.action === "past"),
    )!;
    const standing = COORDINATES.map((f) => ({
      id,
      field: f as EditField,
      old: fieldValue(t, place, f),
      new: f === field ? value : Number.isNaN(shown[f]) ? null : shown[f],
    }));
    const without = { element: element.code + element.run, remove: [book.spellingsOf("past")[0]!] };
    return [
      ...standing,
      { id, field: "cues" as EditField, old: cues, new: encodeCueEdits([...decodeCueEdits(cues), without]) },
    ].filter((e) => e.old !== e.new);
  }
  const before = t.targetHeight[place]!;
  // A level that follows from raw observations moves with its target height by itself.
  if (t.follows[place]! & FOLLOWS_Z) return edits.filter((e) => e.old !== e.new);
  if (field === "targetHeight" && typeof value === "number" && !Number.isNaN(before) && !Number.isNaN(t.z[place]!)) {
    const level = fieldValue(t, place, "elevation") as number;
    edits.push({ id, field: "elevation", old: level, new: level + before - value });
  }
  return edits.filter((e) => e.old !== e.new);
}

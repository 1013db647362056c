/** A look at a file before it is made: its first rows as they will be written, or what it holds and a small plan. */
import { writeDelimited } from "../../handover/delimited";
import { contourFeatures, lineFeatures, pointRows } from "../../handover/features";
import { listTable } from "../../handover/lists";
import { refusal } from "../../errors";
import {
  heldBy,
  wordsOfFile,
  type HandoverFile,
  type PlanFile,
  type ReportFile,
  type TextStyle,
} from "../../handover/files";
import { filesOf } from "../../handover/names";
import type { Page, Rectangle } from "../../handover/plan/page";
import { planPages, planSheets, type PlanSource } from "../../handover/plan/plan";
import { fromPaper } from "../../handover/plan/sheets";
import { thinned } from "../../handover/plan/thin";
import type { HandoverSource } from "../../handover/source";
import type { OutTable } from "../../handover/table";
import { formatFixed } from "../../math/round";
import { handoverSource, planSource, pointsFor, sheetsOf } from "./handover-source";
import { about } from "../../volumes/words";
import type { JobState } from "../model/model";
import { questionsOf } from "../told/questions";
import type { Derived } from "../chain/values";

export type Preview =
  | {
      as: "rows";
      /** The first lines of the file, as they are written, and how many rows follow the head in all. */
      text: string;
      rows: number;
    }
  | { as: "sheets"; sheets: { name: string; titles: string[]; rows: string[][]; count: number }[] }
  | { as: "drawing"; holds: [what: string, count: number][]; plan: Plan }
  | {
      as: "pages";
      pages: Page[];
      scale: number;
      turn: number;
      unitsPerMm: number;
      at: [number, number];
      field: Rectangle;
    }
  | { as: "text"; text: string }
  | { as: "facts"; facts: [what: string, value: string][] };

/** A plan in a square of its own: ways and points as pairs of east and north, from 0 to 1 of the larger side. */
export interface Plan {
  ways: { color: string; xy: Float32Array }[];
  points: Float32Array;
  /** The size of the plan in the same measure. */
  width: number;
  height: number;
}

const FIRST_ROWS = 10,
  /** Vertices and points that a small picture shows. */
  MOST_DRAWN = 60_000;

export function previewOf(file: HandoverFile, state: JobState, derived: Derived): Preview {
  const source = () => handoverSource(file, state, derived);
  switch (file.format) {
    case "csv":
      return rowsOf(pointsFor(file, { source: source(), last: undefined }), file);
    case "list":
      return rowsOf(listTable(file, source()), file);
    case "xlsx":
      return { as: "sheets", sheets: sheetsOf(file, { source: source(), last: undefined }).map(sheetOf) };
    case "pdf":
      return pagesOf(file, planSource(file, state, derived, "as it is now"));
    case "codebook":
      return { as: "text", text: JSON.stringify(state.book, null, 2).split("\n").slice(0, 24).join("\n") };
    case "report":
      return file.of === "crew" ? questionsIn(state, derived) : comparisonsIn(file, state);
    case "ledger":
      return { as: "facts", facts: [["Holds", "every entry: who, when, what, old and new, the oldest first"]] };
    case "recipe":
      return {
        as: "facts",
        facts: [
          ["Deliveries", state.intakes.map((k) => k.file).join(", ") || "none"],
          ["Sets, surfaces, comparisons", [state.sets, state.surfaces, state.volumes].map((x) => x.length).join(", ")],
          ["Files of the handover", String(state.handover.length)],
        ],
      };
    case "package":
      return { as: "facts", facts: filesOf(file, state.handover).map((f) => [f.file, wordsOfFile(f)]) };
    default:
      return drawingOf(file, source());
  }
}

/** Points of a job from which on a picture of its plan goes without their texts, which take long to place. */
const WITHOUT_TEXTS = 30_000,
  /** Points of a table that is in the picture. */
  ROWS_SHOWN = 500,
  /** Of the larger side of a picture of a page. */
  PIXELS = 600;

function pagesOf(file: PlanFile, s: PlanSource): Preview {
  const sheets = planSheets(file, s),
    many = s.table.count > WITHOUT_TEXTS,
    want = many ? { notes: false, points: false, contours: true } : s.layout.want,
    // A long table of points is no picture.
    tables = file.tables?.filter((of) => of !== "points" || s.rows.length <= ROWS_SHOWN),
    steps = planPages({ ...file, tables }, { ...s, layout: { ...s.layout, want } });
  let step = steps.next();
  while (!step.done) step = steps.next();
  const { turned, scale, unitsPerMm, frame, windows } = sheets,
    [first] = windows,
    middle = fromPaper(turned)(
      first!.x + (frame.field.width * unitsPerMm) / 2,
      first!.y + (frame.field.height * unitsPerMm) / 2,
    );
  const pages = step.value.map((page) => thinned(page, Math.max(page.width, page.height) / PIXELS));
  return { as: "pages", pages, scale, turn: turned.turn, unitsPerMm, at: middle, field: frame.field };
}

/** What the crew is asked; all of it, since it is read before it is sent. */
function questionsIn(state: JobState, derived: Derived): Preview {
  const rows = questionsOf(state, derived).map((q) => [q.mark, q.task, q.about]);
  return {
    as: "sheets",
    sheets: [{ name: "questions", titles: ["No.", "To do", "What was noticed"], rows, count: rows.length }],
  };
}

function comparisonsIn({ comparisons }: ReportFile, { volumes }: JobState): Preview {
  const told = volumes.filter((v) => !comparisons || comparisons.includes(v.name));
  if (told.length === 0) throw refusal("report-empty", {});
  return { as: "facts", facts: told.map((v) => [v.name, about(v)]) };
}

/** The first rows as one would see them in the file. */
function rowsOf(table: OutTable, style: TextStyle): Preview {
  const bytes = writeDelimited({ ...table, count: Math.min(FIRST_ROWS, table.count) }, { ...style, encoding: "utf-8" });
  return { as: "rows", text: new TextDecoder().decode(bytes).trimEnd(), rows: table.count };
}

function sheetOf(table: OutTable) {
  const few = { ...table, count: Math.min(FIRST_ROWS, table.count) },
    cells = few.columns.map((c) => ("number" in c ? (k: number) => formatFixed(c.number(k), c.decimals) : c.text));
  return {
    name: table.name,
    titles: table.columns.map((c) => c.title),
    rows: Array.from({ length: few.count }, (_, k) => cells.map((cell) => cell(k))),
    count: table.count,
  };
}

function drawingOf(file: HandoverFile, s: HandoverSource): Preview {
  const held = new Set(heldBy(file));
  const holds: [string, number][] = [];
  const rows = held.has("points") ? pointRows(s) : new Int32Array(0),
    lines = held.has("lines") ? lineFeatures(s) : [];
  if (held.has("points")) holds.push(["Points", rows.length]);
  if (held.has("lines")) {
    holds.push(["Lines", lines.filter((f) => !f.isArea).length], ["Areas", lines.filter((f) => f.isArea).length]);
  }
  if (held.has("contours")) for (const c of s.contours) holds.push([`Contours of “${c.surface}”`, c.level.length]);
  if (held.has("surfaces")) for (const x of s.surfaces) holds.push([`Triangles of “${x.name}”`, x.tri.length / 3]);
  if (held.has("survey")) {
    const surveys = s.delivered.flatMap((d) => d.survey ?? []);
    holds.push(
      ["Setups", surveys.reduce((sum, x) => sum + x.setups.length, 0)],
      ["Raw observations", surveys.reduce((sum, x) => sum + x.observations.count, 0)],
    );
  }
  return { as: "drawing", holds, plan: planOf(s, rows, lines, held.has("contours")) };
}

function planOf(
  s: HandoverSource,
  rows: Int32Array,
  lines: readonly { xyz: Float64Array; color: string | undefined }[],
  contours: boolean,
): Plan {
  const ways: { color: string; xyz: Float64Array }[] = [];
  let left = MOST_DRAWN;
  const add = (color: string, xyz: Float64Array) => {
    if ((left -= xyz.length / 3) > 0) ways.push({ color, xyz });
  };
  for (const { xyz, color } of lines) add(color ?? "#3a3a3a", xyz);
  if (contours) for (const c of contourFeatures(s.contours)) add(c.index ? "#7a5a2e" : "#b79a72", c.xyz);
  // Of very many points some stand for all.
  const step = Math.max(1, Math.ceil(rows.length / MOST_DRAWN)),
    points = new Float64Array(2 * Math.ceil(rows.length / step));
  for (let k = 0; k < points.length / 2; k++)
    points.set([s.table.e[rows[k * step]!]!, s.table.n[rows[k * step]!]!], 2 * k);

  let [minE, minN, maxE, maxN] = [Infinity, Infinity, -Infinity, -Infinity];
  const reach = (e: number, n: number) => {
    minE = Math.min(minE, e);
    maxE = Math.max(maxE, e);
    minN = Math.min(minN, n);
    maxN = Math.max(maxN, n);
  };
  for (const { xyz } of ways) for (let k = 0; k < xyz.length; k += 3) reach(xyz[k]!, xyz[k + 1]!);
  for (let k = 0; k < points.length; k += 2) reach(points[k]!, points[k + 1]!);
  const size = Math.max(maxE - minE, maxN - minN) || 1;
  return {
    ways: ways.map(({ color, xyz }) => ({
      color,
      xy: Float32Array.from({ length: (2 * xyz.length) / 3 }, (_, k) =>
        k % 2 ? (xyz[3 * ((k - 1) / 2) + 1]! - minN) / size : (xyz[(3 * k) / 2]! - minE) / size,
      ),
    })),
    points: Float32Array.from(points, (x, k) => (x - (k % 2 ? minN : minE)) / size),
    width: Number.isFinite(minE) ? (maxE - minE) / size : 1,
    height: Number.isFinite(minE) ? (maxN - minN) / size : 1,
  };
}

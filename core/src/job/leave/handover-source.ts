/** What a file of the handover is written from: the points that it is of, and what it holds of the geometry. */
import { refusal } from "../../errors";
import { pointsTable } from "../../handover/columns";
import { rowWriter } from "../../handover/delimited";
import { listTable } from "../../handover/lists";
import {
  heldBy,
  pointsOf,
  type HandoverFile,
  type HandoverFormat,
  type PlanFile,
  type PointColumns,
} from "../../handover/files";
import type { Holds } from "../../handover/model";
import type { PlanSource } from "../../handover/plan/plan";
import type { HandoverSource } from "../../handover/source";
import type { OutTable } from "../../handover/table";
import { MOST_ROWS } from "../../handover/workbook";
import { pointsOfSelection } from "../../sets/sets";
import { layoutSource } from "./drawn";
import type { JobState } from "../model/model";
import { questionsOf } from "../told/questions";
import { setContext } from "../edit/sets";
import { settingOf } from "../model/settings";
import type { Derived, Made } from "../chain/values";
import { rowOf } from "../../points/table";

/** A job as it was, with all that followed from it. */
export interface JobThen {
  state: JobState;
  derived: Derived;
}

/** What the rows of a file are made of: the job now, and when the file was made last, where it was. */
export interface RowsOf {
  source: HandoverSource;
  last: JobThen | undefined;
}

/** What a file is written from. Surfaces and contours that it would hold must have been made. */
export function handoverSource(
  file: HandoverFile,
  state: JobState,
  derived: Derived,
  mayBeEmpty = false,
): HandoverSource {
  const rows = pointsOfSelection(pointsOf(file) ?? "*", setContext(state, derived), `handover “${file.file}”`);
  const wants = (what: Holds) => heldBy(file).includes(what),
    named = pointsOf(file);
  if (!mayBeEmpty && named !== undefined && named !== "*" && rows.length === 0)
    throw refusal("handover-no-points", { file: file.file, points: named });
  const source: Omit<HandoverSource, "labels"> = {
    name: state.name,
    client: state.client ?? "",
    date: state.date,
    unit: state.unit,
    areaUnit: settingOf(state, "areaUnit"),
    system: state.system,
    book: state.book,
    intakes: state.intakes,
    delivered: state.delivered,
    table: state.points,
    coded: derived.coded,
    rows,
    doubtful: new Set(
      derived.findings
        .filter((f) => f.kind === "zero-elevation" && f.accepted === undefined)
        .flatMap((f) => f.points.map((id) => rowOf(state.points, id))),
    ),
    lines: derived.lines,
    ownNames: derived.ownNames,
    chains: derived.chains,
    surfaces:
      wants("surfaces") || (wants("contours") && file.format === "landxml")
        ? valuesOf(derived.surfaces).map((s) => s.surface)
        : [],
    contours: wants("contours") ? valuesOf(derived.drawnContours) : [],
    setups: derived.setupReports,
    pointSetups: derived.pointSetups,
    questions: file.format === "list" && file.of === "questions" ? questionsOf(state, derived) : [],
    drawing: state.drawing ?? {},
    hidden: settingOf(state, "hiddenLayers"),
  };
  return { ...source, labels: labelsOf(derived) };
}

/** All of a list; throws why the first that could not be made was not. */
function valuesOf<T>(all: readonly Made<T>[]): T[] {
  return all.map((m) => {
    if (!m.ok) throw m.refusal;
    return m.value;
  });
}

/** Notes of points by the points' rows. */
function labelsOf({ notes, symbols }: Derived): Map<number, string> {
  const labels = new Map<number, string>();
  for (const { symbol, text } of notes) {
    if (symbol < 0) continue;
    const row = symbols.point[symbol]!;
    labels.set(row, labels.has(row) ? `${labels.get(row)}; ${text}` : text);
  }
  return labels;
}

/** The points of a file as a table; of a file of changes those whose row reads otherwise than the last time. */
export function pointsFor(
  file: PointColumns & { file: string; format: HandoverFormat },
  { source, last }: RowsOf,
): OutTable {
  const now = pointsTable(file, source, source.rows);
  if (file.only !== "changed" || !last) return now;
  const then = handoverSource({ ...file, only: undefined } as HandoverFile, last.state, last.derived, true),
    readThen = rowWriter(pointsTable(file, then, then.rows), {}),
    readNow = rowWriter(now, {});
  const rowThen = new Map(Array.from(then.rows, (row, k) => [then.table.id[row]!, k]));
  const changed = source.rows.filter((row, k) => {
    const was = rowThen.get(source.table.id[row]!);
    return was === undefined || readThen(was) !== readNow(k);
  });
  return pointsTable(file, source, changed);
}

/** A workbook's sheets: the points, and the lines and areas where there are any. */
export function sheetsOf(file: PointColumns & { file: string; format: HandoverFormat }, job: RowsOf): OutTable[] {
  const sheets = [
    pointsFor(file, job),
    ...(["lines", "areas"] as const).map((of) => listTable({ of }, job.source)).filter((t) => t.count > 0),
  ];
  const long = sheets.find((t) => t.count >= MOST_ROWS);
  if (long)
    throw refusal("handover-large", {
      file: file.file,
      what: `${long.count} rows`,
      instead: "Hand the points over as text, or fewer of them",
    });
  return sheets;
}

/** What a plan sheet is drawn from; `of` says which state of the job it is. */
export function planSource(file: PlanFile, state: JobState, derived: Derived, of: string): PlanSource {
  return {
    ...handoverSource(file, state, derived),
    layout: layoutSource(state, derived, { notes: true, points: true, contours: true }),
    crew: state.crew ?? "",
    of,
  };
}

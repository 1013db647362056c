/** The look before commit: a file read by the same step that would take it in, counted and checked, nothing stored. */
import type { CodeBook } from "../../codes/model";
import type { Format } from "../../intake/model";
import type { CrewRange } from "../../points/numbers";
import type { RefusedRow } from "../../records/records";
import { setupFindings } from "../../checks/setups";
import { sentenceOf } from "../../finding";
import type { IntakeInfo } from "../../intake/model";
import { clashesOf, repeatedDelivery, type LookedClash, type Repeated } from "../recipe/repeated";
import { adviceOf, explained, farAway } from "../../checks/far-away";
import { exchangedRows, sortedPositions } from "../../checks/axes";
import { oddValues, type OddValue } from "../../checks/incoming";
import { compileBook } from "../../codes/book";
import { parseDescription } from "../../codes/parse";
import { placePast } from "../../codes/past";
import { codeFindings, readCodes, type CodedPoints } from "../../codes/read";
import { Refusal } from "../../errors";
import { guessFormat, layOut } from "../../intake/deliver";
import { headingsOf, sampleLines, sampleRows, type CompleteLayout } from "../../intake/guess";
import { assembleLines } from "../../lines/assemble";
import { lengthText } from "../../math/units";
import { endingDigits, nearestName } from "../../math/words";
import type { SetupReport } from "../../points/setup-report";
import type { PointTable } from "../../points/table";
import { withTaken } from "../../points/take";
import type { JobState } from "../model/model";
import { readIntake, type IntakeContext, type IntakeJob, type RecipeIntake } from "../recipe/recipe";
import { reduceState } from "../model/reduce";
import { unplacedRows } from "./summary";

/** A rectangle of the plan. */
export interface Box {
  minE: number;
  minN: number;
  maxE: number;
  maxN: number;
}

export interface LookedCode {
  code: string;
  count: number;
  by: "code" | "alias" | "cut-off" | "unknown";
  written: string;
  nearest?: string;
}
export interface LookedLine {
  code: string;
  name: string;
  color: string | undefined;
  count: number;
  closed: number;
  length: number;
}

/** A word behind a code that the code does not read. */
export interface LookedWord {
  word: string;
  code: string;
  /** Shots that have it. */
  count: number;
}

export interface Look {
  format: Format;
  /** For text and tables. */
  layout?: CompleteLayout;
  /** Tables, layers or sheets that the file holds, with their rows. */
  tables: { name: string; rows: number }[];
  /** What the file calls its columns. */
  head?: string[];
  sample: { row: number; fields: string[] }[];
  /** The first lines as they are, for fixed-width text. */
  lines: string[];
  /** Why nothing can be read; what of the file can be shown still is. */
  problem?: string;
  rows: number;
  points: number;
  withoutElevation: number;
  refused: RefusedRow[];
  clashes: LookedClash[];
  /** Where it repeats an earlier delivery: what is new, the same, changed, gone. */
  repeated?: Repeated;
  codes: LookedCode[];
  words: LookedWord[];
  values: OddValue[];
  setups: SetupReport[];
  /** Control that the setups do not meet, in the sentences that the findings will have. */
  misclosures: string[];
  /** Numbers of the points that the setups' reports name by their rows. */
  numberAt: Record<number, string>;
  drawn: LookedLine[];
  /** Numbers of shots that would be a line alone. */
  alone: string[];
  reference?: { lines: number; surfaces: string[] };
  /** Rows whose axes look exchanged. */
  exchanged: number[];
  notes: string[];
  /** East, north of each point. */
  positions: Float64Array;
  /** Where to look: the box of the points, without single rows whose axes look exchanged. */
  box?: Box;
}

/** Everything that the look needs of the job. */
export type LookJob = IntakeJob & Pick<JobState, "book" | "crews">;

const SAMPLE = 60;

/** The look at a file of which nothing is known yet; `problem` says why nothing will be. */
export const emptyLook = (format: Format, problem?: string): Look => ({
  format,
  ...(problem === undefined ? {} : { problem }),
  tables: [],
  sample: [],
  lines: [],
  rows: 0,
  points: 0,
  withoutElevation: 0,
  refused: [],
  clashes: [],
  codes: [],
  words: [],
  values: [],
  setups: [],
  misclosures: [],
  numberAt: {},
  drawn: [],
  alone: [],
  exchanged: [],
  notes: [],
  positions: new Float64Array(0),
});

/** Throws nothing for a file that cannot be read: the problem is part of the look. */
export function lookAt(job: LookJob, bytes: Uint8Array, given: RecipeIntake, context: IntakeContext): Look {
  const look: Look = {
    ...emptyLook(given.format ?? guessFormat(bytes)),
    tables: (context.tables?.tables ?? []).map((t) => ({ name: t.name, rows: t.rows.length })),
  };
  try {
    const laid = layOut(given.file, bytes, given, look.format, context.tables, job.order);
    if (laid) {
      look.layout = laid.layout;
      look.head = laid.head ?? headingsOf(laid.text, laid.layout);
      look.sample = sampleRows(laid.text, laid.layout, SAMPLE);
      if (laid.layout.columns.some((c) => typeof c === "object")) {
        look.format = "fixed";
        look.lines = sampleLines(bytes, SAMPLE);
      }
    }
    const { info, taken, delivered } = readIntake(job, bytes, given, { ...context, lookOnly: true });
    const t = taken.added;
    look.format = info.format ?? look.format;
    look.rows = info.rows;
    const nowhere = unplacedRows(t, job.intakes.length);
    look.points = t.count - nowhere.length;
    look.refused = [...info.refused, ...nowhere].sort((a, b) => a.row - b.row);
    look.notes = info.notes;
    look.reference = info.reference;
    look.positions = new Float64Array(2 * t.count);
    for (let i = 0; i < t.count; i++) {
      look.positions[2 * i] = t.e[i]!;
      look.positions[2 * i + 1] = t.n[i]!;
      if (Number.isNaN(t.z[i]!)) look.withoutElevation++;
    }
    look.clashes = clashesOf(job, t, taken.clashes);
    look.repeated = repeatedDelivery(job, t, look.clashes);
    look.codes = codesOf(t, job.book);
    look.words = wordsOf(t, job.book);
    look.values = oddValues(t, job.points, {
      unit: job.unit,
      tolerance: job.tolerance,
      range: job.crews?.find((c) => c.crew === given.crew) as CrewRange | undefined,
    });
    for (const b of info.beyond)
      look.values.push({
        row: b.row,
        number: b.number,
        what: "station",
        text: `its station lies ${lengthText(b.by, job.unit)} beyond the end of the line`,
      });
    const living = Int32Array.from({ length: t.count }, (_, i) => i).filter((i) => !t.deleted[i]);
    const exchanged = exchangedRows(t, living, sortedPositions(t), sortedPositions(job.points));
    look.exchanged = exchanged.map((i) => t.row[i]!);
    const far = farFromAll(job, t, new Set(exchanged));
    for (const { row: i, text } of far)
      look.values.push({ row: t.row[i]!, number: t.number[i]!, what: "position", text });
    look.box = boxWithout(t, exchanged.length > t.count / 2 ? [] : [...exchanged, ...far.map((f) => f.row)]);
    const book = compileBook(job.book),
      coded = readCodes(t, book);
    for (const f of codeFindings(t, coded, book)) {
      if (f.kind === "attribute-missing" || f.kind === "attribute-wrong")
        for (const i of f.points)
          look.values.push({ row: t.row[i]!, number: t.number[i]!, what: "attribute", text: String(f.data.text) });
    }
    Object.assign(look, linesOf(job, t, coded));
    if (delivered.survey) {
      look.setups = reduceState({
        ...job,
        points: withTaken(job.points, taken),
        intakes: [...job.intakes, { id: given.id }],
        delivered: [...job.delivered, delivered],
      }).setups.filter((s) => s.intake === job.intakes.length);
      for (const { row } of look.setups.flatMap((s) => s.outlying))
        look.numberAt[row] = job.points.number[row] ?? t.number[row - job.points.count]!;
      look.misclosures = setupFindings(look.setups, [...job.intakes, info] as IntakeInfo[], job.unit)
        .filter((f) => f.kind === "control-differs")
        .map((f) => sentenceOf(f, { point: (i) => look.numberAt[i]!, line: String }));
    }
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    look.problem = e.message;
  }
  return look;
}

/** Rows of a table for which something holds, as a column. */
function rowsWhere(count: number, holds: (row: number) => boolean): Int32Array {
  const out = new Int32Array(count);
  let n = 0;
  for (let i = 0; i < count; i++) if (holds(i)) out[n++] = i;
  return out.subarray(0, n);
}

/** Points of a delivery far from all others, its own and the job's, with what is said of each. */
function farFromAll({ points, unit }: LookJob, t: PointTable, exchanged: ReadonlySet<number>) {
  const own = rowsWhere(t.count, (i) => !t.deleted[i] && !exchanged.has(i)),
    others = rowsWhere(points.count, (i) => !points.deleted[i]);
  const of = (x: "e" | "n") => {
    const all = new Float64Array(own.length + others.length);
    own.forEach((i, k) => (all[k] = t[x][i]!));
    others.forEach((i, k) => (all[own.length + k] = points[x][i]!));
    return all;
  };
  const found = farAway({ e: of("e"), n: of("n") });
  return (found?.far ?? []).flatMap((k, which) => {
    const row = own[k];
    if (row === undefined) return [];
    const [e, n] = [t.e[row]!, t.n[row]!],
      advice = adviceOf(explained(e, n, found!.box, unit), e, n, unit);
    return [{ row, text: `lies ${lengthText(found!.distance[which]!, unit, 0)} from all others. ${advice}` }];
  });
}

function boxWithout(t: PointTable, positions: readonly number[]): Box | undefined {
  const left = new Set(positions),
    box: Box = { minE: Infinity, minN: Infinity, maxE: -Infinity, maxN: -Infinity };
  for (let i = 0; i < t.count; i++) {
    if (left.has(i) || t.deleted[i]) continue;
    box.minE = Math.min(box.minE, t.e[i]!);
    box.maxE = Math.max(box.maxE, t.e[i]!);
    box.minN = Math.min(box.minN, t.n[i]!);
    box.maxN = Math.max(box.maxN, t.n[i]!);
  }
  return box.minE <= box.maxE ? box : undefined;
}

/** Codes as they are written: unknown ones first, then what was read by alias. */
function codesOf(t: PointTable, codeBook: CodeBook): LookedCode[] {
  const book = compileBook(codeBook);
  const perText = textsOf(t);
  const codes = new Map<string, LookedCode>();
  for (const [text, count] of perText) {
    for (const e of parseDescription(t.texts[text]!, book).elements) {
      const by = e.entry ? e.by! : "unknown";
      const written = by === "code" || by === "unknown" ? e.code : e.word.slice(0, endingDigits(e.word)).toUpperCase();
      const key = `${by} ${written} ${e.code}`;
      const known = codes.get(key) ?? {
        code: e.code,
        count: 0,
        by,
        written,
        ...(by === "unknown" ? { nearest: nearestName(e.code, book.codes.keys()) } : {}),
      };
      known.count += count;
      codes.set(key, known);
    }
  }
  const rank = { unknown: 0, "cut-off": 1, alias: 2, code: 3 };
  return [...codes.values()].sort((a, b) => rank[a.by] - rank[b.by] || b.count - a.count);
}

/** Words that their code does not read, the most frequent first. */
function wordsOf(t: PointTable, codeBook: CodeBook): LookedWord[] {
  const book = compileBook(codeBook),
    perText = textsOf(t),
    words = new Map<string, LookedWord>();
  for (const [text, count] of perText) {
    for (const { kind, word, code } of parseDescription(t.texts[text]!, book).issues) {
      if (kind !== "unread-word" || code === undefined) continue;
      const key = `${code} ${word}`,
        known = words.get(key) ?? { word, code, count: 0 };
      known.count += count;
      words.set(key, known);
    }
  }
  return [...words.values()].sort((a, b) => b.count - a.count);
}

/** How many points have each description. */
function textsOf(t: PointTable): Map<number, number> {
  const per = new Map<number, number>();
  for (let i = 0; i < t.count; i++) per.set(t.description[i]!, (per.get(t.description[i]!) ?? 0) + 1);
  return per;
}

/** Lines that the points will draw, by code. */
function linesOf(job: LookJob, t: PointTable, coded: CodedPoints): Pick<Look, "drawn" | "alone"> {
  const book = compileBook(job.book),
    { lines, findings } = assembleLines(placePast(t, book), coded, job.tolerance, job.unit, book);
  const out = new Map<string, LookedLine>();
  for (const l of lines) {
    if (l.pieces.length === 0) continue;
    const group = out.get(l.code) ?? {
      code: l.code,
      name: l.entry.name ?? l.code,
      color: l.entry.color,
      count: 0,
      closed: 0,
      length: 0,
    };
    group.count++;
    group.length += l.length;
    if (l.closed) group.closed++;
    out.set(l.code, group);
  }
  return {
    drawn: [...out.values()].sort((a, b) => b.count - a.count || (a.code < b.code ? -1 : 1)),
    alone: findings.filter((f) => f.kind === "single-point-line").flatMap((f) => f.points.map((i) => t.number[i]!)),
  };
}

/** The text of physical lines, by their numbers from 1: refused rows are handed back as they came. */
export function textOfRows(bytes: Uint8Array, rows: Iterable<number>): Map<number, string> {
  const wanted = new Set(rows),
    out = new Map<number, string>(),
    decoder = new TextDecoder();
  let line = 1,
    start = 0;
  const take = (end: number) => {
    if (wanted.has(line)) out.set(line, decoder.decode(bytes.subarray(start, Math.min(end, start + 10_000))));
  };
  for (let i = 0; i < bytes.length && out.size < wanted.size; i++) {
    if (bytes[i] !== 10 && bytes[i] !== 13) continue;
    take(i);
    if (bytes[i] === 13 && bytes[i + 1] === 10) i++;
    start = i + 1;
    line++;
  }
  if (start < bytes.length) take(bytes.length);
  return out;
}

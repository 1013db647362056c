/** Shots and their cues → lines with their pieces, parallels and findings. Rebuilt whole each time, so nothing is drawn twice. */
import type { CodedPoints } from "../codes/read";
import type { CompiledBook } from "../codes/book";
import { finding, type Finding } from "../finding";
import type { CodeEntry, HandLine, Tolerances } from "../job/model";
import { fromMetres, type Unit } from "../math/units";
import { Sum } from "../math/sum";
import { someOf } from "../math/words";
import type { PointTable } from "../points/table";
import type { ArcLimits } from "./arc";
import { parallel } from "./companion";
import { gatherDrafts, type Draft } from "./gather";
import { enclosedArea, planLength, slopeLength } from "./measure";
import { lineName, type Line, type Piece } from "./model";
import { buildPieces, type Outcome } from "./pieces";

export interface Lines { lines: Line[]; findings: Finding[] }

/** All lines of the job in the order in which they were opened, by intake; a line's parallels follow it. */
export function assembleLines(
  t: PointTable, coded: CodedPoints, tolerance: Tolerances, unit: Unit, book: Pick<CompiledBook, "codes" | "lookup" | "actionOf">, byHand: readonly HandLine[] = [],
): Lines {
  const findings: Finding[] = [];
  const lines: Line[] = [];
  const limits: ArcLimits = { flat: fromMetres(0.0001, unit), largestRadius: fromMetres(100_000, unit) };
  const { drafts, ignored, missing } = gatherDrafts(t, coded, shotsByIntake(t), byHand, book);
  for (const { line, numbers } of missing) {
    findings.push(finding("unread-word", "warning", `Line ${line}, drawn by hand: there is no point ${someOf(numbers)}; it was passed over.`, { data: { line, numbers } }));
  }
  for (const { at, why } of ignored) ignoredCue(at, why);
  for (const draft of drafts) finish(draft);
  return { lines, findings };

  function ignoredCue(i: number, why: string): void {
    findings.push(finding("cue-ignored", "note", `Point ${t.number[i]}: ${why}; the cue does nothing.`, { points: [t.number[i]!], at: [t.e[i]!, t.n[i]!] }));
  }

  function finish(d: Draft): void {
    const isArea = d.entry.kind === "area";
    const closed = d.loop || (isArea && d.vertices.length >= 3);
    const { pieces, outcomes } = buildPieces(d.vertices, closed, d.loop, limits);
    const line = measured({ code: d.code, entry: d.entry, run: d.run, intake: d.intake, shots: d.vertices.flatMap((v) => (v.index >= 0 ? [v.index] : [])), closed, pieces });
    const index = lines.push(line) - 1;
    lineFindings(line, index, isArea && !d.loop && closed, outcomes);
    const asked = [...(d.entry.companions ?? []).map((c) => ({ ...c, at: -1 })), ...d.offsets];
    for (const { right, up, code, at } of asked) {
      const beside = parallel(line, right, up, tolerance.chord);
      if (beside.vanished) ignoredCue(at >= 0 ? at : line.shots[0]!, `an arc of ${lineName(line)} has no parallel at ${right}, which was left out`);
      if (beside.pieces.length === 0) continue;
      lines.push({
        ...measured({ code: code?.toUpperCase() ?? line.code, entry: entryOf(code, line.entry), run: d.run, intake: d.intake, shots: [], closed: line.closed, pieces: beside.pieces }),
        companion: { of: line, right, up },
      });
    }
  }

  /** The book's entry of a parallel; a code that the book does not have is a plain line of that name. */
  function entryOf(code: string | undefined, own: CodeEntry): CodeEntry {
    return code === undefined ? own : (book.codes.get(code.toUpperCase()) ?? { code: code.toUpperCase(), kind: "line" });
  }

  function lineFindings(line: Line, index: number, closedByItself: boolean, outcomes: readonly Outcome[]): void {
    const name = lineName(line);
    const numbers = (places: readonly number[]) => places.map((i) => t.number[i]!);
    const first = line.shots[0]!;
    const more = { points: numbers(line.shots), lines: [index], at: [t.e[first]!, t.n[first]!] as [number, number] };
    if (line.pieces.length === 0) {
      findings.push(finding("single-point-line", "warning",
        `Line ${name} has a single shot, point ${t.number[first]}: nothing is drawn. Its other shots may be coded differently.`, more));
    }
    if (closedByItself) {
      findings.push(finding("area-unclosed", "note", `Area ${name} ends at point ${numbers(line.shots).at(-1)} without a loop; it was closed.`, more));
    }
    for (const { shots, ...outcome } of outcomes) {
      const at: [number, number] | undefined = shots.length ? [t.e[shots[0]!]!, t.n[shots[0]!]!] : undefined;
      const points = numbers(shots), where = { points, lines: [index], ...(at ? { at } : {}) };
      if (outcome.why) findings.push(finding("cue-ignored", "note", `Line ${name}, point ${points.join(", ")}: ${outcome.why}; the cue does nothing.`, where));
      else if (outcome.ignored) findings.push(finding("cue-ignored", "note", `Line ${name}: no arc can pass point ${points.join(", ")} there; it stays straight.`, where));
      if (outcome.flat) findings.push(finding("arc-flat", "note", `Line ${name}: the shots at point ${points.join(", ")} are straight; no arc is drawn.`, where));
      if (outcome.misfit !== undefined && outcome.misfit > tolerance.arc) {
        findings.push(finding("arc-misfit", "warning", `Line ${name}: a shot lies ${outcome.misfit.toFixed(3)} ${unit} off its arc past points ${points.join(", ")}.`, { ...where, data: { misfit: outcome.misfit } }));
      }
    }
  }
}

/** A line with its lengths and, when closed, its area. */
function measured(line: Omit<Line, "length" | "slopeLength" | "area">): Line {
  const sum = (of: (p: Piece) => number) => {
    const s = new Sum();
    for (const p of line.pieces) s.add(of(p));
    return s.value;
  };
  return { ...line, length: sum(planLength), slopeLength: sum(slopeLength), ...(line.closed && line.pieces.length ? { area: enclosedArea(line.pieces) } : {}) };
}

/** Living points of each intake in shot order: by time if every one has a time, else by row; equal times by row. */
export function shotsByIntake(t: PointTable): Int32Array[] {
  const counts = new Map<number, number>();
  for (let i = 0; i < t.count; i++) if (!t.deleted[i] && t.intake[i]! >= 0) counts.set(t.intake[i]!, (counts.get(t.intake[i]!) ?? 0) + 1);
  const lists = new Map([...counts].sort((a, b) => a[0] - b[0]).map(([intake, n]) => [intake, { list: new Int32Array(n), n: 0 }]));
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i] || t.intake[i]! < 0) continue;
    const l = lists.get(t.intake[i]!)!;
    l.list[l.n++] = i;
  }
  return [...lists.values()].map(({ list }) => {
    const timed = list.every((i) => !Number.isNaN(t.time[i]!));
    return list.sort((a, b) => (timed ? t.time[a]! - t.time[b]! : 0) || t.row[a]! - t.row[b]!);
  });
}

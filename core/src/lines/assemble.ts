/** Shots and their cues → lines with their pieces, parallels and findings. Rebuilt whole each time, so nothing is drawn twice. */
import type { CodeEntry } from "../codes/model";
import { type HandLine, type Line, lineName } from "./model";
import type { Tolerances } from "../math/tolerances";
import type { CodedPoints } from "../codes/read";
import type { CompiledBook } from "../codes/book";
import { finding, type Finding } from "../finding";
import { fromMetres, type Unit } from "../math/units";
import { someOf } from "../math/words";
import { shotsByIntake } from "../points/shots";
import type { PointTable } from "../points/table";
import type { ArcLimits } from "./arc";
import { parallel } from "./companion";
import { gatherDrafts, type Draft } from "./gather";
import { enclosedArea, lengthsOf } from "./measure";
import { buildPieces, type Outcome } from "./pieces";

export interface Lines { lines: Line[]; findings: Finding[] }

/** What a draft became: its line with parallels, and what its cues did not do. Kept between runs, so that a changed shot rebuilds only its lines. */
interface Finished { draft: Draft; lines: Line[]; outcomes: Outcome[]; vanished: { right: number; at: number }[] }
export type KeptLines = Map<string, Finished>;

/**
 * All lines of the job in the order in which they were opened, by intake; a line's parallels follow it. `kept` holds the lines of the last
 * run with the same book and tolerances: those whose shots are as they were are the same objects again.
 */
export function assembleLines(
  t: PointTable, coded: CodedPoints, tolerance: Tolerances, unit: Unit, book: Pick<CompiledBook, "codes" | "lookup" | "actionOf">, byHand: readonly HandLine[] = [],
  kept: KeptLines = new Map(),
): Lines {
  const findings: Finding[] = [];
  const lines: Line[] = [];
  const limits: ArcLimits = { flat: fromMetres(0.0001, unit), largestRadius: fromMetres(100_000, unit) };
  const { drafts, ignored, missing } = gatherDrafts(t, coded, shotsByIntake(t), byHand, book);
  for (const { line, numbers } of missing) {
    findings.push(finding("unread-word", "warning", `Line ${line}, drawn by hand: there is no point ${someOf(numbers)}; it was passed over.`, { data: { line, numbers } }));
  }
  for (const { at, why } of ignored) ignoredCue(at, why);
  const before = new Map(kept);
  kept.clear();
  for (const draft of drafts) {
    const key = `${draft.intake} ${draft.code} ${draft.run} ${draft.vertices[0]!.index}`, last = before.get(key);
    const done = last && sameDraft(last.draft, draft) ? last : finish(draft);
    kept.set(key, done);
    const [line] = done.lines as [Line];
    lineFindings(line, lines.length, line.entry.kind === "area" && !draft.loop && line.closed, done.outcomes);
    for (const { right, at } of done.vanished) ignoredCue(at, `an arc of ${lineName(line)} has no parallel at ${right}, which was left out`);
    for (const l of done.lines) lines.push(l);
  }
  return { lines, findings };

  function ignoredCue(i: number, why: string): void {
    findings.push(finding("cue-ignored", "note", `Point ${t.number[i]}: ${why}; the cue does nothing.`, { points: [t.number[i]!], at: [t.e[i]!, t.n[i]!] }));
  }

  function finish(draft: Draft): Finished {
    const { code, run, entry, intake, vertices, loop } = draft;
    const closed = loop || (entry.kind === "area" && vertices.length >= 3);
    const { pieces, outcomes } = buildPieces(vertices, closed, loop, limits);
    const shots = vertices.filter((v) => v.index >= 0), steered = shots.some((v) => v.via || v.swing || v.flow || v.still);
    const line = measured({
      code, entry, run, intake, shots: shots.map((v) => v.index), closed, pieces, ...(draft.hand !== undefined ? { hand: draft.hand } : {}),
      ...(steered ? { steering: shots.map((v) => STEERS.filter((s) => v[s]).join(" ")) } : {}),
    });
    const done: Finished = { draft, lines: [line], outcomes, vanished: [] };
    for (const { right, up, code: beside, at } of [...(entry.companions ?? []).map((c) => ({ ...c, at: -1 })), ...draft.offsets]) {
      const { pieces: shifted, vanished } = parallel(line, right, up, tolerance.chord);
      if (vanished) done.vanished.push({ right, at: at >= 0 ? at : line.shots[0]! });
      if (shifted.length === 0) continue;
      done.lines.push({
        ...measured({ code: beside?.toUpperCase() ?? code, entry: entryOf(beside, entry), run, intake, shots: [], closed, pieces: shifted }), companion: { of: line, right, up },
      });
    }
    return done;
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
  const [length, slope] = lengthsOf(line.pieces);
  return { ...line, length, slopeLength: slope, ...(line.closed && line.pieces.length ? { area: enclosedArea(line.pieces) } : {}) };
}

const STEERS = ["via", "swing", "flow", "still"] as const;

/** A line by hand alone, for looking at it before it is drawn: its lines with parallels, and what it names that is not there. */
export function drawHandLine(t: PointTable, line: HandLine, tolerance: Tolerances, unit: Unit, book: CompiledBook): Lines & { missing: string[] } {
  const { missing } = gatherDrafts(t, NO_CODES, [], [line], book);
  return { ...assembleLines({ ...t, intake: new Int32Array(t.count).fill(-1) }, NO_CODES, tolerance, unit, book, [line]), missing: missing.flatMap((m) => m.numbers) };
}

const NO_CODES: CodedPoints = { parsed: [], description: new Uint32Array(0), ground: new Uint8Array(0), usable: new Uint8Array(0) };

/** Whether two drafts give the very same line. */
function sameDraft(a: Draft, b: Draft): boolean {
  if (a.entry !== b.entry || a.loop !== b.loop || a.vertices.length !== b.vertices.length || a.offsets.length !== b.offsets.length) return false;
  for (let k = 0; k < a.vertices.length; k++) {
    const v = a.vertices[k]!, w = b.vertices[k]!;
    if (v.index !== w.index || !Object.is(v.place[0], w.place[0]) || !Object.is(v.place[1], w.place[1]) || !Object.is(v.place[2], w.place[2])) return false;
    if (v.via !== w.via || v.swing !== w.swing || v.flow !== w.flow || v.still !== w.still) return false;
  }
  return a.offsets.every((o, k) => {
    const p = b.offsets[k]!;
    return o.right === p.right && o.up === p.up && o.code === p.code && o.at === p.at;
  });
}

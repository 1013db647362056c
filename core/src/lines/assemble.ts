/** Shots and their cues → lines (FIELD-CODES.md, "How points become lines"). Rebuilt whole each time, so nothing is drawn twice. */
import type { CodedPoints } from "../codes/read";
import type { ParsedElement } from "../codes/parse";
import type { Action } from "../codes/book";
import { finding, type Finding } from "../finding";
import type { CodeEntry, Tolerances } from "../job/model";
import { fromMetres, type Unit } from "../math/units";
import { Sum } from "../math/sum";
import type { PointTable } from "../points/table";
import { arcPieces, fullCircle, straightPieces, type ArcLimits, type ArcOutcome, type Shot } from "./arc";
import { enclosedArea, planLength, slopeLength } from "./measure";
import { lineName, type Line, type Piece } from "./model";

export interface Lines { lines: Line[]; findings: Finding[] }

interface Open { shots: number[]; via: boolean[]; order: number }
interface RunState { entry: CodeEntry; code: string; run: string; intake: number; open: Open | undefined }

/** All lines of the job, by intake and then in the order in which they were opened. */
export function assembleLines(t: PointTable, coded: CodedPoints, tolerance: Tolerances, unit: Unit): Lines {
  const findings: Finding[] = [];
  const done: { line: Line; order: number }[] = [];
  const limits: ArcLimits = { flat: fromMetres(0.0001, unit), largestRadius: fromMetres(100_000, unit) };
  // What finish() learns about a line before its index is known.
  const unclosed = new Set<Line>();
  const arcs = new Map<Line, { outcome: ArcOutcome; shots: number[] }[]>();
  let opened = 0;

  for (const shots of shotsByIntake(t)) {
    const runs = new Map<string, RunState>();
    for (const i of shots) {
      for (const element of coded.parsed[coded.description[i]!]!.elements) {
        if (element.entry && (element.entry.kind ?? "point") !== "point") addShot(runs, i, element);
        else cuesWithoutLine(i, element);
      }
    }
    for (const state of runs.values()) if (state.open) finish(state, false);
  }
  done.sort((a, b) => a.order - b.order);
  done.forEach(({ line }, index) => lineFindings(line, index));
  return { lines: done.map((d) => d.line), findings };

  function addShot(runs: Map<string, RunState>, i: number, element: ParsedElement): void {
    const has = (action: Action) => element.cues.some((c) => c.action === action);
    const { entry, code, run } = element as ParsedElement & { entry: CodeEntry };
    if (has("lone")) return;
    const key = `${code}\t${run}`;
    let state = runs.get(key);
    if (!state) runs.set(key, (state = { entry, code, run, intake: t.intake[i]!, open: undefined }));
    if (has("new") && state.open) finish(state, false);
    if (!state.open) {
      if (entry.opens === "cue" && !has("new")) {
        ignored(i, `no ${code} is open here, and one opens only with its cue`);
        return;
      }
      state.open = { shots: [], via: [], order: opened++ };
    }
    const { open } = state;
    if (open.shots.at(-1) !== i) {
      open.shots.push(i);
      open.via.push(has("via"));
    }
    if (has("loop") && open.shots.length < 3) ignored(i, "a line of fewer than three shots cannot return to its first");
    else if (has("loop")) finish(state, true);
    if (has("end") && state.open) finish(state, false);
  }

  function cuesWithoutLine(i: number, element: ParsedElement): void {
    if (!element.entry) return;
    const steering = element.cues.find((c) => ["new", "end", "loop", "via"].includes(c.action));
    if (steering) ignored(i, `${element.code} makes no line that “${steering.action}” could steer`);
  }

  function ignored(i: number, why: string): void {
    findings.push(finding("cue-ignored", "note", `Point ${t.number[i]}: ${why}; the cue does nothing.`, {
      points: [t.number[i]!], at: [t.e[i]!, t.n[i]!],
    }));
  }

  function finish(state: RunState, loop: boolean): void {
    const { shots, via, order } = state.open!;
    state.open = undefined;
    const isArea = state.entry.kind === "area";
    const closed = loop || (isArea && shots.length >= 3);
    const { pieces, outcomes } = buildPieces(t, shots, via, closed, limits);
    const sum = (of: (p: Piece) => number) => {
      const s = new Sum();
      for (const p of pieces) s.add(of(p));
      return s.value;
    };
    const line: Line = {
      code: state.code, entry: state.entry, run: state.run, intake: state.intake, shots, closed, pieces,
      length: sum(planLength), slopeLength: sum(slopeLength), ...(closed ? { area: enclosedArea(pieces) } : {}),
    };
    done.push({ line, order });
    if (isArea && !loop && closed) unclosed.add(line);
    if (outcomes.length) arcs.set(line, outcomes);
  }

  function lineFindings(line: Line, index: number): void {
    const name = lineName(line);
    const numbers = (places: number[]) => places.map((i) => t.number[i]!);
    const first = line.shots[0]!;
    const more = { points: numbers(line.shots), lines: [index], at: [t.e[first]!, t.n[first]!] as [number, number] };
    if (line.shots.length === 1) {
      findings.push(finding("single-point-line", "warning",
        `Line ${name} has a single shot, point ${t.number[first]}: nothing is drawn. Its other shots may be coded differently.`, more));
    }
    if (unclosed.has(line)) {
      findings.push(finding("area-unclosed", "note", `Area ${name} ends at point ${numbers(line.shots).at(-1)} without a loop; it was closed.`, more));
    }
    for (const { outcome, shots } of arcs.get(line) ?? []) {
      const at: [number, number] = [t.e[shots[0]!]!, t.n[shots[0]!]!];
      const points = numbers(shots);
      if (outcome.ignored) findings.push(finding("cue-ignored", "note", `Line ${name}: no arc can pass point ${points.join(", ")} there; it stays straight.`, { points, lines: [index], at }));
      if (outcome.flat) findings.push(finding("arc-flat", "note", `Line ${name}: the shots at point ${points.join(", ")} are straight; no arc is drawn.`, { points, lines: [index], at }));
      if (outcome.misfit !== undefined && outcome.misfit > tolerance.arc) {
        findings.push(finding("arc-misfit", "warning", `Line ${name}: a shot lies ${outcome.misfit.toFixed(3)} ${unit} off its arc past points ${points.join(", ")}.`, {
          points, lines: [index], at, data: { misfit: outcome.misfit },
        }));
      }
    }
  }
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

/** Turns shots into pieces; a run of `via` shots between two anchors is one arc. */
function buildPieces(t: PointTable, shots: number[], via: boolean[], closed: boolean, limits: ArcLimits) {
  const at = (k: number): Shot => {
    const index = shots[k % shots.length]!;
    return { index, place: [t.e[index]!, t.n[index]!, t.z[index]!] };
  };
  const outcomes: { outcome: ArcOutcome; shots: number[] }[] = [];
  const count = shots.length;
  const tell = (outcome: ArcOutcome, from: number, to: number) => {
    if (outcome.flat || outcome.ignored || outcome.misfit) outcomes.push({ outcome, shots: Array.from({ length: to - from }, (_, k) => at(from + k).index) });
    return outcome.pieces;
  };
  if (!via.includes(true)) return { pieces: straightPieces(Array.from({ length: closed ? count + 1 : count }, (_, k) => at(k))), outcomes };
  if (closed && !via.includes(false)) return { pieces: tell(fullCircle(shots.map((_, k) => at(k)), limits), 0, count), outcomes };

  // A via without a shot before it or after it is no anchor for an arc and stays straight.
  const anchor = (k: number) => !via[k % count] || (!closed && (k === 0 || k === count - 1));
  if (!closed) for (const k of new Set([0, count - 1])) if (via[k]) outcomes.push({ outcome: { pieces: [], ignored: true }, shots: [at(k).index] });
  const pieces: Piece[] = [];
  const start = closed ? via.indexOf(false) : 0, last = closed ? start + count : count - 1;
  for (let k = start; k < last; ) {
    let next = k + 1;
    while (!anchor(next)) next++;
    if (next === k + 1) pieces.push(...straightPieces([at(k), at(next)]));
    else pieces.push(...tell(arcPieces(at(k), Array.from({ length: next - k - 1 }, (_, j) => at(k + 1 + j)), at(next), limits), k + 1, next));
    k = next;
  }
  return { pieces, outcomes };
}

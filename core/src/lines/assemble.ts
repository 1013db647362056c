/**
 * Shots and their cues → lines with their pieces, parallels and findings. Rebuilt whole each time, so nothing is drawn
 * twice.
 */
import type { CodeEntry } from "../codes/model";
import type { HandLine, Line } from "./model";
import type { Tolerances } from "../math/tolerances";
import type { CodedPoints } from "../codes/read";
import type { CompiledBook } from "../codes/book";
import type { Noticed } from "../finding";
import { append } from "../math/many";
import { fromMetres, type Unit } from "../math/units";
import { shotsByIntake } from "../points/shots";
import type { ArcLimits } from "./arc";
import { parallel } from "./companion";
import { findPoints, type PointFinder } from "../points/refs";
import { gatherDrafts, type Draft, type LineColumns } from "./gather";
import { enclosedArea, lengthsOf } from "./measure";
import { buildPieces, type Outcome } from "./pieces";
import { LinesTold, type Vanished } from "./told";

export interface Lines {
  lines: Line[];
  findings: Noticed[];
}

/**
 * What a draft became: its line with parallels, and what its cues did not do. Kept between runs, so that a changed shot
 * rebuilds only its lines.
 */
interface Finished {
  draft: Draft;
  lines: Line[];
  outcomes: Outcome[];
  vanished: Vanished[];
}
export type KeptLines = Map<string, Finished>;

/**
 * All lines of the job in the order in which they were opened, by intake; a line's parallels follow it. `kept` holds
 * the lines of the last run with the same book and tolerances: those whose shots are as they were are the same objects
 * again.
 */
export function assembleLines(
  t: LineColumns,
  coded: CodedPoints,
  tolerance: Tolerances,
  unit: Unit,
  book: Pick<CompiledBook, "codes" | "lookup" | "actionOf">,
  byHand: readonly HandLine[] = [],
  found: PointFinder = findPoints(t, []),
  kept: KeptLines = new Map(),
): Lines {
  const told = new LinesTold(t, tolerance, unit),
    lines: Line[] = [],
    limits: ArcLimits = { flat: fromMetres(0.0001, unit), largestRadius: fromMetres(100_000, unit) };
  const { drafts, ignored, missing } = gatherDrafts(t, coded, shotsByIntake(t), byHand, book, found);
  told.missing(missing);
  for (const { at, why } of ignored) told.ignoredCue(at, why);
  const before = new Map(kept),
    keyOf = keysOfDrafts(t);
  kept.clear();
  for (const draft of drafts) {
    const key = keyOf(draft),
      last = before.get(key),
      done = last && sameDraft(last.draft, draft) ? last : finish(draft, key, { tolerance, book, limits });
    kept.set(key, done);
    const [line] = done.lines as [Line];
    told.line(line, lines.length, line.entry.kind === "area" && !draft.loop && line.closed);
    for (const outcome of done.outcomes) told.outcome(lines.length, outcome);
    for (const v of done.vanished) told.vanished(line, v);
    append(lines, done.lines);
  }
  return { lines, findings: told.findings };
}

/** The first shot and the run tell a line; a second one from the same shot is counted. */
function keysOfDrafts(t: Pick<LineColumns, "id">): (draft: Draft) => string {
  const used = new Map<string, number>();
  return ({ code, run, hand, vertices }) => {
    const first = hand === undefined ? `${code}${run} from ${t.id[vertices[0]!.index]!}` : `by hand: ${hand}`,
      times = (used.get(first) ?? 0) + 1;
    used.set(first, times);
    return times > 1 ? `${first} (${times})` : first;
  };
}

/** What is between a draft and its lines. */
interface Finishing {
  tolerance: Tolerances;
  book: Pick<CompiledBook, "codes">;
  limits: ArcLimits;
}

/** A draft's line with its parallels. */
function finish(draft: Draft, key: string, { tolerance, book, limits }: Finishing): Finished {
  const { code, run, entry, intake, vertices, loop } = draft;
  const closed = loop || (entry.kind === "area" && vertices.length >= 3);
  const { pieces, outcomes } = buildPieces(vertices, closed, loop, limits);
  const shots = vertices.filter((v) => v.index >= 0),
    steered = shots.some((v) => v.via || v.swing || v.flow || v.still);
  const line = measured({
    key,
    code,
    entry,
    run,
    intake,
    shots: shots.map((v) => v.index),
    closed,
    pieces,
    ...(draft.hand !== undefined ? { hand: draft.hand } : {}),
    ...(steered ? { steering: shots.map((v) => STEERS.filter((s) => v[s]).join(" ")) } : {}),
  });
  const done: Finished = { draft, lines: [line], outcomes, vanished: [] };
  // Parallels that the book asks for, then those of cues.
  for (const { right, up, code: beside, at } of [
    ...(entry.companions ?? []).map((c) => ({ ...c, at: -1 })),
    ...draft.offsets,
  ]) {
    const { pieces: shifted, vanished, none } = parallel(line, right, up, tolerance.chord);
    if (vanished || none) done.vanished.push({ right, at: at >= 0 ? at : line.shots[0]!, all: none });
    if (shifted.length === 0) continue;
    done.lines.push({
      ...measured({
        key: `${key}, parallel ${done.lines.length}`,
        code: beside?.toUpperCase() ?? code,
        entry: entryOf(beside, entry, book),
        run,
        intake,
        shots: [],
        closed,
        pieces: shifted,
      }),
      companion: { of: line, right, up },
    });
  }
  return done;
}

/** The book's entry of a parallel; a code that the book does not have is a plain line of that name. */
function entryOf(code: string | undefined, own: CodeEntry, book: Pick<CompiledBook, "codes">): CodeEntry {
  return code === undefined ? own : (book.codes.get(code.toUpperCase()) ?? { code: code.toUpperCase(), kind: "line" });
}

/** A line with its lengths and, when closed, its area. */
function measured(line: Omit<Line, "length" | "slopeLength" | "area">): Line {
  const [length, slope] = lengthsOf(line.pieces);
  return {
    ...line,
    length,
    slopeLength: slope,
    ...(line.closed && line.pieces.length ? { area: enclosedArea(line.pieces) } : {}),
  };
}

const STEERS = ["via", "swing", "flow", "still"] as const;

/**
 * A line by hand alone, for looking at it before it is drawn: its lines with parallels, and what it names that is not
 * there.
 */
export function drawHandLine(
  t: LineColumns,
  line: HandLine,
  tolerance: Tolerances,
  unit: Unit,
  book: CompiledBook,
  found: PointFinder,
): Lines & { missing: string[] } {
  const { missing } = gatherDrafts(t, NO_CODES, [], [line], book, found);
  return {
    ...assembleLines(
      { ...t, intake: new Int32Array(t.count).fill(-1) },
      NO_CODES,
      tolerance,
      unit,
      book,
      [line],
      found,
    ),
    missing: missing.flatMap((m) => m.numbers),
  };
}

const NO_CODES: CodedPoints = {
  parsed: [],
  description: new Uint32Array(0),
  ground: new Uint8Array(0),
  usable: new Uint8Array(0),
};

/** Whether two drafts give the very same line. */
function sameDraft(a: Draft, b: Draft): boolean {
  if (
    a.entry !== b.entry ||
    a.loop !== b.loop ||
    a.vertices.length !== b.vertices.length ||
    a.offsets.length !== b.offsets.length
  )
    return false;
  for (let k = 0; k < a.vertices.length; k++) {
    const v = a.vertices[k]!,
      w = b.vertices[k]!;
    if (
      v.index !== w.index ||
      !Object.is(v.position[0], w.position[0]) ||
      !Object.is(v.position[1], w.position[1]) ||
      !Object.is(v.position[2], w.position[2])
    )
      return false;
    if (v.via !== w.via || v.swing !== w.swing || v.flow !== w.flow || v.still !== w.still) return false;
  }
  return a.offsets.every((o, k) => {
    const p = b.offsets[k]!;
    return o.right === p.right && o.up === p.up && o.code === p.code && o.at === p.at;
  });
}

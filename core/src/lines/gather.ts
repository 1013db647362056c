/**
 * Shots and their cues → drafts of lines: which positions each line has, in order, and how it ends (FIELD-CODES.md, "How
 * points become lines").
 */
import { append } from "../math/many";
import type { CodeEntry } from "../codes/model";
import type { HandLine, Position } from "./model";
import { cueOfWord } from "../codes/cue-edits";
import type { CodedPoints } from "../codes/read";
import type { Cue, ParsedElement } from "../codes/description";
import { type Action, type CompiledBook, STEERING_ACTIONS } from "../codes/book";
import { orderedNumbers } from "../points/numbers";
import { fieldIndex, numberIndex } from "../points/index";
import type { PointTable } from "../points/table";
import { readLength } from "../math/reach";
import type { Vertex } from "./pieces";

export interface Offset {
  right: number;
  up: number;
  code?: string;
}

export interface Draft {
  code: string;
  run: string;
  entry: CodeEntry;
  intake: number;
  /** Of a line drawn by hand its name. */
  hand?: string;
  vertices: Vertex[];
  /** Returned to its first shot by `loop`, `box` or `quad`. */
  loop: boolean;
  /** Parallels asked for by cues; `at` is the shot that asked. */
  offsets: (Offset & { at: number })[];
  /** Order in which lines were opened. */
  order: number;
}

/** A cue that did nothing at a shot, and why. */
export interface IgnoredCue {
  at: number;
  why: string;
}

interface Run {
  entry: CodeEntry;
  code: string;
  run: string;
  open: Draft | undefined;
  drafts: Draft[];
  /** Shots that come right after others of their line; points by their rows, and by the words that named them. */
  after: { shot: number; other: number; number: string }[];
  joins: { draft: Draft; other: number; number: string; at: number }[];
}

/** What steers a line drawn by hand: its points and their order are those of its list. */
const BY_HAND: ReadonlySet<Action> = new Set<Action>(["via", "swing", "flow", "still", "loop", "box", "quad", "off"]);

/** What the lines depend on. */
export type LineColumns = Pick<
  PointTable,
  "count" | "id" | "e" | "n" | "z" | "number" | "deleted" | "time" | "row" | "intake" | "cameAs"
>;

export interface Gathered {
  drafts: Draft[];
  ignored: IgnoredCue[];
  /** Numbers that a hand line names and the job does not have. */
  missing: { line: string; name?: string; numbers: string[] }[];
}

const STEERING: ReadonlySet<Action> = new Set<Action>(STEERING_ACTIONS);

/**
 * `shotsOf` lists the living points of each intake in shot order; `byHand` are lines drawn by the office, which come
 * last.
 */
export function gatherDrafts(
  t: LineColumns,
  coded: CodedPoints,
  shotsOf: readonly Int32Array[],
  byHand: readonly HandLine[],
  book: Pick<CompiledBook, "lookup" | "actionOf">,
): Gathered {
  const ignored: IgnoredCue[] = [];
  const all: Draft[] = [];
  const ignore = (at: number, why: string) => void ignored.push({ at, why });
  const living = (number: string): number | undefined => {
    const i = numberIndex(t).get(number);
    return i === undefined || t.deleted[i] ? undefined : i;
  };
  let opened = 0,
    fieldRow: ReturnType<typeof fieldIndex> | undefined;
  /** The point that a cue at a shot names: the office by the numbers of now, the field by those that points came with. */
  const pointOf = (shot: number, { value = "", byOffice }: Cue): number | undefined => {
    if (byOffice) return living(value);
    const i = (fieldRow ??= fieldIndex(t))(t.intake[shot]!, value);
    return i < 0 || t.deleted[i] ? undefined : i;
  };

  for (const shots of shotsOf) {
    const runs = new Map<string, Run>();
    const members = runMembers(shots);
    for (const i of shots) {
      for (const element of coded.parsed[coded.description[i]!]!.elements) {
        if (!element.entry) continue;
        if ((element.entry.kind ?? "point") !== "point")
          addShot(runs, i, element as ParsedElement & { entry: CodeEntry }, members);
        else {
          const steering = element.cues.find((c) => STEERING.has(c.action));
          if (steering) ignore(i, `${element.code} makes no line that “${steering.action}” could steer`);
        }
      }
    }
    for (const run of runs.values()) close(run);
    for (const run of runs.values()) placeAfter(run);
    for (const run of runs.values()) for (const j of run.joins) join(runs, run, j);
    for (const run of runs.values())
      append(
        all,
        run.drafts.filter((d) => d.vertices.length > 0),
      );
  }
  const missing: Gathered["missing"] = [];
  for (const line of byHand) drawByHand(line);
  return { drafts: all.sort((a, b) => a.order - b.order), ignored, missing };

  /** A hand line has its own order and its own cues; its points may be of any code. */
  function drawByHand(line: HandLine): void {
    const { entry, code, run } = book.lookup(line.code),
      list = orderedNumbers(line.points);
    const lost = list.filter((n) => living(n) === undefined);
    if (lost.length) missing.push({ line: line.code, name: line.name, numbers: lost });
    const draft: Draft = {
      code,
      run,
      entry: entry ?? { code, kind: "line" },
      intake: -1,
      ...(line.name !== undefined ? { hand: line.name } : {}),
      vertices: [],
      loop: line.closed ?? false,
      offsets: [],
      order: opened++,
    };
    for (const number of list) {
      const i = living(number);
      if (i === undefined || draft.vertices.at(-1)?.index === i) continue;
      const cues = (line.cues?.[number] ?? "")
        .split(/\s+/)
        .filter(Boolean)
        .flatMap((word): Cue[] => {
          const cue = cueOfWord(word, book);
          if (cue && BY_HAND.has(cue.action)) return [cue];
          ignore(i, `“${word}” steers no line that is drawn by hand`);
          return [];
        });
      draft.vertices.push(vertexOf(i, cues));
      for (const c of cues) {
        if (c.action === "off") offset(draft, i, c);
        if (c.action === "loop" && draft.vertices.length > 2) draft.loop = true;
        if (c.action === "box" && !box(draft, c.value ?? ""))
          ignore(i, "a rectangle needs exactly two shots and a width other than zero");
        if (c.action === "quad" && !quad(draft)) ignore(i, "a parallelogram needs exactly three shots");
      }
    }
    if (draft.vertices.length < 3) draft.loop = false;
    if (draft.vertices.length) all.push(draft);
  }

  /** For each run the rows of its shots, when any shot of the job asks for another position in its line. */
  function runMembers(shots: Int32Array): Map<string, Set<number>> {
    const members = new Map<string, Set<number>>();
    if (!coded.parsed.some((p) => p?.elements.some((e) => e.cues.some((c) => c.action === "after")))) return members;
    for (const i of shots)
      for (const e of coded.parsed[coded.description[i]!]!.elements) {
        if (!e.entry || (e.entry.kind ?? "point") === "point" || e.cues.some((c) => c.action === "lone")) continue;
        const { key } = e;
        const set = members.get(key);
        if (set) set.add(i);
        else members.set(key, new Set([i]));
      }
    return members;
  }

  function addShot(
    runs: Map<string, Run>,
    i: number,
    element: ParsedElement & { entry: CodeEntry },
    members: Map<string, Set<number>>,
  ): void {
    const { entry, code, cues } = element;
    const has = (action: Action) => cues.some((c) => c.action === action);
    const cueOf = (action: Action) => cues.find((c) => c.action === action);
    const { key } = element;
    let run = runs.get(key);
    // Most shots say nothing more than their line.
    if (run?.open && cues.length === 0) {
      if (run.open.vertices.at(-1)!.index !== i) run.open.vertices.push(vertexOf(i, cues));
      return;
    }
    if (has("lone")) return;
    if (!run)
      runs.set(key, (run = { entry, code, run: element.run, open: undefined, drafts: [], after: [], joins: [] }));

    const after = cueOf("after");
    if (after) {
      const other = pointOf(i, after) ?? -1;
      if (members.get(key)?.has(other) && other !== i)
        return void run.after.push({ shot: i, other, number: after.value! });
      ignore(i, `no shot ${after.value} belongs to this line, so this one keeps its own order`);
    }
    if (has("new")) close(run);
    if (!run.open) {
      if (entry.opens === "cue" && !has("new"))
        return ignore(i, `no ${code} is open here, and one opens only with its cue`);
      run.open = {
        code,
        run: element.run,
        entry,
        intake: t.intake[i]!,
        vertices: [],
        loop: false,
        offsets: [],
        order: opened++,
      };
      run.drafts.push(run.open);
    }
    const draft = run.open;
    const isFirst = draft.vertices.length === 0;
    if (draft.vertices.at(-1)?.index !== i) draft.vertices.push(vertexOf(i, element.cues));
    if (cues.length === 0) return;
    for (const c of element.cues) if (c.action === "off") offset(draft, i, c);
    const named = (action: "from" | "to"): Vertex | undefined => {
      const cue = cueOf(action);
      if (!cue) return undefined;
      const other = pointOf(i, cue);
      if (other === undefined)
        ignore(i, `there is no point ${cue.value} that the line could ${action === "from" ? "come from" : "go on to"}`);
      return other === undefined ? undefined : vertexOf(other, []);
    };
    const from = named("from");
    if (from && isFirst) draft.vertices.unshift(from);
    else if (from) ignore(i, "a line comes from another point only at its first shot");

    if (has("box") && !box(draft, cueOf("box")!.value!))
      ignore(i, "a rectangle needs exactly two shots and a width other than zero");
    else if (has("box")) return close(run);
    if (has("quad") && !quad(draft)) ignore(i, "a parallelogram needs exactly three shots");
    else if (has("quad")) return close(run);
    if (has("loop") && draft.vertices.length < 3)
      ignore(i, "a line of fewer than three shots cannot return to its first");
    else if (has("loop")) {
      draft.loop = true;
      return close(run);
    }
    const to = named("to");
    if (to) draft.vertices.push(to);
    const joined = cueOf("join");
    if (joined) run.joins.push({ draft, other: pointOf(i, joined) ?? -1, number: joined.value!, at: i });
    if (to || joined || has("end")) close(run);
  }

  function close(run: Run): void {
    run.open = undefined;
  }

  function vertexOf(i: number, cues: readonly Cue[]): Vertex {
    const v: Vertex = { index: i, position: [t.e[i]!, t.n[i]!, t.z[i]!] };
    for (const { action } of cues)
      if (action === "via" || action === "swing" || action === "flow" || action === "still") v[action] = true;
    return v;
  }

  function offset(draft: Draft, i: number, cue: Cue): void {
    const [right, up, code, ...more] = (cue.value ?? "").split(",").map((s) => s.trim());
    const numbers = [right, up].map((s) => readLength(s ?? ""));
    if (numbers.some(Number.isNaN) || more.length || numbers[0] === 0)
      return ignore(i, `“off=${cue.value}” is not written as off=RIGHT,UP or off=RIGHT,UP,CODE`);
    draft.offsets.push({ right: numbers[0]!, up: numbers[1]!, ...(code ? { code: code.toUpperCase() } : {}), at: i });
  }

  /**
   * Shots right after others of their line, wherever that line ended; one that follows a shot which itself follows
   * another waits for it.
   */
  function placeAfter(run: Run): void {
    let waiting = run.after;
    while (waiting.length) {
      const left = waiting.filter((a) => !putAfter(run, a.shot, a.other));
      if (left.length === waiting.length) break;
      waiting = left;
    }
    for (const a of waiting) ignore(a.shot, `shot ${a.number} is in no line of this run`);
  }

  function putAfter(run: Run, shot: number, other: number): boolean {
    for (const draft of run.drafts) {
      const at = draft.vertices.findIndex((v) => v.index === other);
      if (at < 0) continue;
      const cues =
        coded.parsed[coded.description[shot]!]!.elements.find((e) => e.code === run.code && e.run === run.run)?.cues ??
        [];
      draft.vertices.splice(at + 1, 0, vertexOf(shot, cues));
      for (const c of cues) if (c.action === "off") offset(draft, shot, c);
      return true;
    }
    return false;
  }

  /**
   * The line goes on with the one that has the point at an end, of the same code if there is one, turned round if need
   * be.
   */
  function join(runs: Map<string, Run>, run: Run, { draft, other: named, number, at }: Run["joins"][number]): void {
    const ends = (d: Draft) =>
      d !== draft &&
      !d.loop &&
      d.vertices.length > 0 &&
      named >= 0 &&
      [d.vertices[0]!, d.vertices.at(-1)!].some((v) => v.index === named);
    const candidates = [...[...runs.values()].filter((r) => r.code === run.code), ...runs.values()].flatMap(
      (r) => r.drafts,
    );
    const other = candidates.find(ends);
    if (!other || draft.vertices.length === 0)
      return ignore(at, `no line has point ${number} as its first or last shot`);
    const first = other.vertices[0]!.index;
    const added = first === named ? other.vertices : turned(other.vertices);
    append(draft.vertices, added[0]!.index === draft.vertices.at(-1)!.index ? added.slice(1) : added);
    append(draft.offsets, other.offsets);
    draft.order = Math.min(draft.order, other.order);
    other.vertices = [];
  }
}

/** Backwards: what steered the piece that ended at a position now steers the one that ends at the position before it. */
function turned(vertices: readonly Vertex[]): Vertex[] {
  const out = vertices.map((v): Vertex => ({ ...v, swing: false, flow: false, still: false })).reverse();
  // A smooth curve runs the other way between the same shots; an arc out of a piece before has no such piece any more.
  let open: number | undefined;
  const last = vertices.length - 1;
  vertices.forEach((v, k) => {
    if (v.still && open !== undefined) {
      out[last - k]!.flow = true;
      out[last - open]!.still = true;
      open = undefined;
    }
    if (v.flow && open === undefined) open = k;
  });
  if (open !== undefined) {
    out[0]!.flow = true;
    out[last - open]!.still = true;
  }
  return out;
}

/** Fourth corner: first + this − second, in plan and level. */
function quad(d: Draft): boolean {
  if (d.vertices.length !== 3) return false;
  const [a, b, c] = d.vertices.map((v) => v.position) as [Position, Position, Position];
  d.vertices.push(made([a[0] + c[0] - b[0], a[1] + c[1] - b[1], a[2] + c[2] - b[2]]));
  d.loop = true;
  return true;
}

/**
 * Two corners to the right of the line from the first shot to the second, each with the level of the shot that it
 * stands beside.
 */
function box(d: Draft, value: string): boolean {
  const width = readLength(value);
  if (d.vertices.length !== 2 || Number.isNaN(width) || width === 0) return false;
  const [a, b] = d.vertices.map((v) => v.position) as [Position, Position];
  const de = b[0] - a[0],
    dn = b[1] - a[1],
    length = Math.hypot(de, dn);
  if (length === 0) return false;
  const re = (dn / length) * width,
    rn = (-de / length) * width;
  d.vertices.push(made([b[0] + re, b[1] + rn, b[2]]), made([a[0] + re, a[1] + rn, a[2]]));
  d.loop = true;
  return true;
}

function made(position: Position): Vertex {
  return { index: -1, position };
}

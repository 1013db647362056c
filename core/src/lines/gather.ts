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
import { isSteering, type Action, type CompiledBook } from "../codes/book";
import { fieldIndex, numberIndex } from "../points/index";
import type { PointFinder } from "../points/refs";
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
  /** Points that a hand line names and the job does not have, by their numbers. */
  missing: { line: string; name?: string; numbers: string[] }[];
}

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
  found: PointFinder,
): Gathered {
  const gathering = new Gathering(t, coded, book);
  for (const shots of shotsOf) gathering.takeShots(shots);
  for (const line of byHand) gathering.drawByHand(line, found);
  return gathering.done();
}

type LineElement = ParsedElement & { entry: CodeEntry };
const cueOf = ({ cues }: LineElement, action: Action) => cues.find((c) => c.action === action);

/** Lines while they are gathered. */
class Gathering {
  private readonly ignored: IgnoredCue[] = [];
  private readonly all: Draft[] = [];
  private readonly missing: Gathered["missing"] = [];
  private opened = 0;
  private fieldRow: ReturnType<typeof fieldIndex> | undefined;

  constructor(
    private readonly t: LineColumns,
    private readonly coded: CodedPoints,
    private readonly book: Pick<CompiledBook, "lookup" | "actionOf">,
  ) {}

  done(): Gathered {
    const { all, ignored, missing } = this;
    return { drafts: all.sort((a, b) => a.order - b.order), ignored, missing };
  }

  /** The lines of one intake: shots one after another, then those that ask for another position, then lines that join. */
  takeShots(shots: Int32Array): void {
    const runs = new Map<string, Run>(),
      members = this.runMembers(shots);
    for (const i of shots)
      for (const element of this.coded.parsed[this.coded.description[i]!]!.elements) {
        if (!element.entry) continue;
        if ((element.entry.kind ?? "point") !== "point") this.addShot(runs, i, element as LineElement, members);
        else {
          const steering = element.cues.find((c) => isSteering(c.action));
          if (steering) this.ignore(i, `${element.code} makes no line that “${steering.action}” could steer`);
        }
      }
    for (const run of runs.values()) run.open = undefined;
    for (const run of runs.values()) this.placeAfter(run);
    for (const run of runs.values()) for (const j of run.joins) this.join(runs, run, j);
    for (const run of runs.values())
      append(
        this.all,
        run.drafts.filter((d) => d.vertices.length > 0),
      );
  }

  /** A hand line has its own order and its own cues; its points may be of any code. */
  drawByHand(line: HandLine, found: PointFinder): void {
    const { entry, code, run } = this.book.lookup(line.code),
      rows = line.points.map((ref) => this.standing(found.rowOf(ref)));
    const lost = line.points.filter((_, k) => rows[k] === undefined).map(found.numberOf);
    if (lost.length) this.missing.push({ line: line.code, name: line.name, numbers: lost });
    const draft: Draft = {
      code,
      run,
      entry: entry ?? { code, kind: "line" },
      intake: -1,
      ...(line.name !== undefined ? { hand: line.name } : {}),
      vertices: [],
      loop: line.closed ?? false,
      offsets: [],
      order: this.opened++,
    };
    for (const [k, ref] of line.points.entries()) {
      const i = rows[k];
      if (i === undefined || draft.vertices.at(-1)?.index === i) continue;
      const cues = (line.cues?.[ref] ?? "")
        .split(/\s+/)
        .filter(Boolean)
        .flatMap((word): Cue[] => {
          const cue = cueOfWord(word, this.book);
          if (cue && BY_HAND.has(cue.action)) return [cue];
          this.ignore(i, `“${word}” steers no line that is drawn by hand`);
          return [];
        });
      draft.vertices.push(this.vertexOf(i, cues));
      for (const c of cues) {
        if (c.action === "off") this.offset(draft, i, c);
        if (c.action === "loop" && draft.vertices.length > 2) draft.loop = true;
        if (c.action === "box" && !box(draft, c.value ?? ""))
          this.ignore(i, "a rectangle needs exactly two shots and a width other than zero");
        if (c.action === "quad" && !quad(draft)) this.ignore(i, "a parallelogram needs exactly three shots");
      }
    }
    if (draft.vertices.length < 3) draft.loop = false;
    if (draft.vertices.length) this.all.push(draft);
  }

  private ignore(at: number, why: string): void {
    this.ignored.push({ at, why });
  }

  private living(number: string): number | undefined {
    return this.standing(numberIndex(this.t).get(number) ?? -1);
  }

  /** A row, where its point has a position; the reduction may not place all that live. */
  private standing(i: number): number | undefined {
    return i < 0 || this.t.deleted[i] ? undefined : i;
  }

  /** The point that a cue at a shot names: the office by the numbers of now, the field by those that points came with. */
  private pointOf(shot: number, { value = "", byOffice }: Cue): number | undefined {
    const { t } = this;
    if (byOffice) return this.living(value);
    return this.standing((this.fieldRow ??= fieldIndex(t))(t.intake[shot]!, value));
  }

  /** For each run the rows of its shots, when any shot of the job asks for another position in its line. */
  private runMembers(shots: Int32Array): Map<string, Set<number>> {
    const members = new Map<string, Set<number>>();
    if (!this.coded.parsed.some((p) => p?.elements.some((e) => e.cues.some((c) => c.action === "after"))))
      return members;
    for (const i of shots)
      for (const e of this.coded.parsed[this.coded.description[i]!]!.elements) {
        if (!e.entry || (e.entry.kind ?? "point") === "point" || e.cues.some((c) => c.action === "lone")) continue;
        const { key } = e;
        const set = members.get(key);
        if (set) set.add(i);
        else members.set(key, new Set([i]));
      }
    return members;
  }

  private addShot(
    runs: Map<string, Run>,
    i: number,
    element: LineElement,
    members: ReadonlyMap<string, ReadonlySet<number>>,
  ): void {
    const { entry, code, cues, key } = element;
    let run = runs.get(key);
    // Most shots say nothing more than their line.
    if (run?.open && cues.length === 0) {
      if (run.open.vertices.at(-1)!.index !== i) run.open.vertices.push(this.vertexOf(i, cues));
      return;
    }
    if (cueOf(element, "lone")) return;
    if (!run)
      runs.set(key, (run = { entry, code, run: element.run, open: undefined, drafts: [], after: [], joins: [] }));
    if (this.comesAfter(run, i, element, members.get(key))) return;
    const draft = this.openFor(run, i, element);
    if (!draft) return;
    const isFirst = draft.vertices.length === 0;
    if (draft.vertices.at(-1)?.index !== i) draft.vertices.push(this.vertexOf(i, cues));
    if (cues.length === 0) return;
    for (const c of cues) if (c.action === "off") this.offset(draft, i, c);
    this.comeFrom(draft, i, element, isFirst);
    if (this.shapes(draft, i, element) || this.goesOn(run, draft, i, element)) run.open = undefined;
  }

  /** Whether a shot waits for its position right after another of its line. */
  private comesAfter(run: Run, i: number, element: LineElement, members: ReadonlySet<number> | undefined): boolean {
    const after = cueOf(element, "after");
    if (!after) return false;
    const other = this.pointOf(i, after) ?? -1;
    if (members?.has(other) && other !== i) {
      run.after.push({ shot: i, other, number: after.value! });
      return true;
    }
    this.ignore(i, `no shot ${after.value} belongs to this line, so this one keeps its own order`);
    return false;
  }

  /** The line to which a shot belongs, opened where none is open; undefined where none may be. */
  private openFor(run: Run, i: number, element: LineElement): Draft | undefined {
    const { entry, code } = element,
      isNew = cueOf(element, "new") !== undefined;
    if (isNew) run.open = undefined;
    if (run.open) return run.open;
    if (entry.opens === "cue" && !isNew) {
      this.ignore(i, `no ${code} is open here, and one opens only with its cue`);
      return undefined;
    }
    run.open = {
      code,
      run: element.run,
      entry,
      intake: this.t.intake[i]!,
      vertices: [],
      loop: false,
      offsets: [],
      order: this.opened++,
    };
    run.drafts.push(run.open);
    return run.open;
  }

  /** The point from which a line comes, or to which it goes on. */
  private named(i: number, element: LineElement, action: "from" | "to"): Vertex | undefined {
    const cue = cueOf(element, action),
      other = cue && this.pointOf(i, cue);
    if (cue && other === undefined)
      this.ignore(
        i,
        `there is no point ${cue.value} that the line could ${action === "from" ? "come from" : "go on to"}`,
      );
    return other === undefined ? undefined : this.vertexOf(other, []);
  }

  private comeFrom(draft: Draft, i: number, element: LineElement, isFirst: boolean): void {
    const from = this.named(i, element, "from");
    if (from && isFirst) draft.vertices.unshift(from);
    else if (from) this.ignore(i, "a line comes from another point only at its first shot");
  }

  /** Whether a cue at a shot makes the line a closed shape, which ends it. */
  private shapes(draft: Draft, i: number, element: LineElement): boolean {
    const rectangle = cueOf(element, "box");
    if (rectangle && box(draft, rectangle.value!)) return true;
    if (rectangle) this.ignore(i, "a rectangle needs exactly two shots and a width other than zero");
    const parallelogram = cueOf(element, "quad");
    if (parallelogram && quad(draft)) return true;
    if (parallelogram) this.ignore(i, "a parallelogram needs exactly three shots");
    if (!cueOf(element, "loop")) return false;
    if (draft.vertices.length < 3) {
      this.ignore(i, "a line of fewer than three shots cannot return to its first");
      return false;
    }
    draft.loop = true;
    return true;
  }

  /** Whether a line ends at a shot, by going on to a point, joining another line, or just so. */
  private goesOn(run: Run, draft: Draft, i: number, element: LineElement): boolean {
    const to = this.named(i, element, "to"),
      joined = cueOf(element, "join");
    if (to) draft.vertices.push(to);
    if (joined) run.joins.push({ draft, other: this.pointOf(i, joined) ?? -1, number: joined.value!, at: i });
    return to !== undefined || joined !== undefined || cueOf(element, "end") !== undefined;
  }

  private vertexOf(i: number, cues: readonly Cue[]): Vertex {
    const v: Vertex = { index: i, position: [this.t.e[i]!, this.t.n[i]!, this.t.z[i]!] };
    for (const { action } of cues)
      if (action === "via" || action === "swing" || action === "flow" || action === "still") v[action] = true;
    return v;
  }

  private offset(draft: Draft, i: number, cue: Cue): void {
    const [right, up, code, ...more] = (cue.value ?? "").split(",").map((s) => s.trim());
    const numbers = [right, up].map((s) => readLength(s ?? ""));
    if (numbers.some(Number.isNaN) || more.length || numbers[0] === 0)
      return this.ignore(i, `“off=${cue.value}” is not written as off=RIGHT,UP or off=RIGHT,UP,CODE`);
    draft.offsets.push({ right: numbers[0]!, up: numbers[1]!, ...(code ? { code: code.toUpperCase() } : {}), at: i });
  }

  /**
   * Shots right after others of their line, wherever that line ended; one that follows a shot which itself follows
   * another waits for it.
   */
  private placeAfter(run: Run): void {
    let waiting = run.after;
    while (waiting.length) {
      const left = waiting.filter((a) => !this.putAfter(run, a.shot, a.other));
      if (left.length === waiting.length) break;
      waiting = left;
    }
    for (const a of waiting) this.ignore(a.shot, `shot ${a.number} is in no line of this run`);
  }

  private putAfter(run: Run, shot: number, other: number): boolean {
    for (const draft of run.drafts) {
      const at = draft.vertices.findIndex((v) => v.index === other);
      if (at < 0) continue;
      const cues =
        this.coded.parsed[this.coded.description[shot]!]!.elements.find((e) => e.code === run.code && e.run === run.run)
          ?.cues ?? [];
      draft.vertices.splice(at + 1, 0, this.vertexOf(shot, cues));
      for (const c of cues) if (c.action === "off") this.offset(draft, shot, c);
      return true;
    }
    return false;
  }

  /**
   * The line goes on with the one that has the point at an end, of the same code if there is one, turned round if need
   * be.
   */
  private join(runs: Map<string, Run>, run: Run, { draft, other: named, number, at }: Run["joins"][number]): void {
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
      return this.ignore(at, `no line has point ${number} as its first or last shot`);
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

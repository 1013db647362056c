/**
 * Office edits of lines (FIELD-CODES.md, "Office edits are cues too"): every one is a change of cues or of a line drawn
 * by hand, so that it is kept in the ledger, undone, and carried out again on corrected data. What cannot be done is
 * told in a sentence.
 */
import type { HandLine } from "../lines/model";
import { compileBook } from "../codes/book";
import { parseDescription } from "../codes/parse";
import { tokenize } from "../codes/tokenize";
import { decodeCueEdits, encodeCueEdits, type CueEdit } from "../points/cue-edits";
import { orderedNumbers, writeNumbers } from "../points/numbers";
import { fieldValue } from "../points/edits";
import type { EditableChange, NamedChange, OneChange, PointsChange } from "./change";
import type { JobState } from "./model";
import { freeLineName } from "./recipe";

/** A line as it is drawn: by a crew's shots (`intake` ≥ 0) or by hand. */
export interface DrawnLine {
  code: string;
  run: string;
  intake: number;
  shots: readonly number[];
  /** What each shot's element says, and what steers each shot. */
  cues: readonly string[];
  steering?: readonly string[];
  closed: boolean;
  hand?: string;
  companion?: unknown;
}

export type LineEdit = { change: EditableChange } | { refused: string };
type One = OneChange;

export interface CueStep {
  row: number;
  add?: string[];
  remove?: string[];
}

/**
 * The change that adds and takes away cues of shots in one line drawn by a crew; several steps at one shot are one edit
 * of it.
 */
export function cueChange(
  job: JobState,
  line: Pick<DrawnLine, "code" | "run">,
  steps: readonly CueStep[],
): PointsChange {
  const t = job.points,
    element = line.code + line.run,
    said = new Map<number, CueEdit[]>();
  for (const { row, add, remove } of steps) {
    const before = said.get(row) ?? decodeCueEdits(t.texts[t.cues[row]!]!);
    said.set(row, [...before, { element, ...(add?.length ? { add } : {}), ...(remove?.length ? { remove } : {}) }]);
  }
  return {
    type: "points",
    edits: [...said].map(([row, cues]) => ({
      id: t.id[row]!,
      field: "cues" as const,
      old: t.texts[t.cues[row]!]!,
      new: encodeCueEdits(cues),
    })),
  };
}

const several = (text: string, ...changes: One[]): LineEdit => ({
  change: changes.length === 1 ? changes[0]! : { type: "several", text, changes },
});
const named = (old: HandLine | null, next: HandLine | null): NamedChange => ({
  type: "named",
  part: "lines",
  name: (old ?? next)!.name!,
  old,
  new: next,
});
const gone = (job: JobState, line: HandLine): NamedChange => ({ ...named(line, null), at: job.lines.indexOf(line) });
const numbersOf = (job: JobState, line: Pick<DrawnLine, "shots">) => line.shots.map((i) => job.points.number[i]!);

function handOf(job: JobState, line: DrawnLine): HandLine | undefined {
  return line.hand === undefined ? undefined : job.lines.find((l) => l.name === line.hand);
}

const NO_PARALLEL = "A parallel follows its line; change that one, or its distance in the code book.";

/** A line drawn by hand: made new, or in the place of the one of its name. */
export function keepHandLine(job: JobState, line: HandLine): LineEdit {
  const old = job.lines.find((l) => l.name === line.name) ?? null;
  return { change: named(old, { ...line, name: line.name ?? freeLineName(new Set(job.lines.map((l) => l.name))) }) };
}

/**
 * Ends the line at its k-th shot; the rest is a line of its own. Both meet at that shot, so that no piece is lost; with
 * `gap` the rest begins at the next shot.
 */
export function splitLine(job: JobState, line: DrawnLine, k: number, gap = false): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  if (line.closed) return { refused: "A closed line has no two ends; open it first." };
  if (k < 1 || k > line.shots.length - (gap ? 3 : 2)) return { refused: "Each part needs two shots at least." };
  const hand = handOf(job, line);
  if (!hand)
    return {
      change: cueChange(job, line, [
        { row: line.shots[k]!, add: ["end"], remove: ["to", "join"] },
        { row: line.shots[k + 1]!, add: gap ? ["new"] : ["new", `from=${job.points.number[line.shots[k]!]}`] },
      ]),
    };
  const numbers = numbersOf(job, line),
    name = freeLineName(new Set(job.lines.map((l) => l.name)));
  return several(
    `${line.code}${line.run} split ${gap ? "after" : "at"} ${numbers[k]}`,
    named(hand, { ...hand, points: writeNumbers(numbers.slice(0, k + 1)) }),
    named(null, { ...hand, name, points: writeNumbers(numbers.slice(gap ? k + 1 : k)) }),
  );
}

/** The first line goes on with the second from its nearer end. Two crews' lines by a cue; else as one line by hand. */
export function joinLines(job: JobState, first: DrawnLine, second: DrawnLine): LineEdit {
  if (first.companion || second.companion) return { refused: NO_PARALLEL };
  if (first.closed || second.closed) return { refused: "A closed line has no end to join; open it first." };
  const t = job.points,
    last = first.shots.at(-1),
    [a, b] = [second.shots[0], second.shots.at(-1)];
  if (last === undefined || a === undefined || b === undefined)
    return { refused: "A line without shots cannot be joined." };
  const far = (i: number) => Math.hypot(t.e[i]! - t.e[last]!, t.n[i]! - t.n[last]!);
  if (!first.hand && !second.hand && first.intake === second.intake) {
    // What was split at a shot is one again without the cues that split it.
    const next = second.shots[1],
      from = `from=${t.number[last]}`;
    if (a === last && next !== undefined && second.cues[1]?.split(" ").includes(from))
      return {
        change: cueChange(job, first, [
          { row: last, remove: ["end", "to"] },
          { row: next, remove: ["new", from] },
        ]),
      };
    return {
      change: cueChange(job, first, [
        { row: last, add: [`join=${t.number[far(a) <= far(b) ? a : b]}`], remove: ["end", "to"] },
      ]),
    };
  }
  const one = asHand(job, first),
    turned = far(a) <= far(b) ? asHand(job, second) : reversedHand(job, second);
  if ("refused" in turned) return turned;
  const before = orderedNumbers(one.hand.points),
    after = orderedNumbers(turned.hand.points);
  // Where both meet at one shot it is there once.
  const list = [...before, ...(before.at(-1) === after[0] ? after.slice(1) : after)];
  // The second is taken away when the first has gone already.
  const row = (c: One[]) => (c[0]?.type === "named" ? (c[0].at ?? -1) : -1),
    earlier = row(one.without);
  const others = turned.without.map((c): One =>
    c.type === "named" && earlier >= 0 && c.at! > earlier ? { ...c, at: c.at! - 1 } : c,
  );
  return several(
    `${first.code}${first.run} and ${second.code}${second.run} joined`,
    ...one.without,
    ...others,
    named(null, {
      ...one.hand,
      name: freeLineName(new Set(job.lines.map((l) => l.name))),
      points: writeNumbers(list),
      cues: { ...turned.hand.cues, ...one.hand.cues },
    }),
  );
}

export function closeLine(job: JobState, line: DrawnLine, closed: boolean): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  if (closed && line.shots.length < 3)
    return { refused: "A line of fewer than three shots cannot return to its first." };
  const hand = handOf(job, line),
    last = line.shots.at(-1)!;
  if (hand) {
    const { closed: _, ...open } = hand;
    return { change: named(hand, closed ? { ...open, closed: true } : withoutCue(open, "loop")) };
  }
  if (!closed && !line.cues.at(-1)?.split(" ").includes("loop"))
    return { refused: "It closes by its code or its corners: give it the code of a line instead." };
  return {
    change: cueChange(job, line, [
      closed
        ? { row: last, add: ["loop"], remove: ["end", "to", "join"] }
        : { row: last, add: ["end"], remove: ["loop"] },
    ]),
  };
}

function withoutCue(line: HandLine, cue: string): HandLine {
  const cues = Object.fromEntries(
    Object.entries(line.cues ?? {})
      .map(([n, words]) => [
        n,
        words
          .split(/\s+/)
          .filter((w) => w !== cue)
          .join(" "),
      ])
      .filter(([, w]) => w),
  );
  const { cues: _, ...rest } = line;
  return Object.keys(cues).length ? { ...rest, cues } : rest;
}

/**
 * The shot stays a point; the line goes past it. What others say of it is said of its neighbour then, so that the line
 * stays one.
 */
export function takeOutShot(job: JobState, line: DrawnLine, k: number): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  const hand = handOf(job, line),
    t = job.points;
  if (hand) {
    const numbers = numbersOf(job, line).filter((_, j) => j !== k);
    return numbers.length < 2
      ? { refused: "A line needs two shots; remove the line instead." }
      : { change: named(hand, { ...hand, points: writeNumbers(numbers) }) };
  }
  // An end that belongs to another line is let go, and stays where it is there.
  const end =
    k === 0 ? cueOfEnd(job, line, "first") : k === line.shots.length - 1 ? cueOfEnd(job, line, "last") : undefined;
  if (end) return { change: cueChange(job, line, [{ row: end.row, remove: [end.cue] }]) };
  const number = t.number[line.shots[k]!]!,
    before = line.shots[k - 1],
    after = line.shots[k + 1];
  const steps: CueStep[] = [{ row: line.shots[k]!, add: ["lone"] }];
  line.shots.forEach((row, j) => {
    if (j === k) return;
    for (const [cue, neighbour] of [
      ["join", after],
      ["after", before],
    ] as const) {
      const said = `${cue}=${number}`;
      if (line.cues[j]!.split(" ").includes(said))
        steps.push({
          row,
          remove: [said],
          ...(neighbour !== undefined && neighbour !== row ? { add: [`${cue}=${t.number[neighbour]}`] } : {}),
        });
    }
  });
  return { change: cueChange(job, line, steps) };
}

/** A point becomes a shot of the line, right after its k-th; −1 for before its first. */
export function insertShot(job: JobState, line: DrawnLine, row: number, k: number): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  const t = job.points,
    number = t.number[row]!,
    hand = handOf(job, line);
  if (line.shots.includes(row)) return { refused: `Point ${number} belongs to this line already.` };
  if (hand) {
    const numbers = numbersOf(job, line);
    numbers.splice(k + 1, 0, number);
    return { change: named(hand, { ...hand, points: writeNumbers(numbers) }) };
  }
  if (t.intake[row] !== line.intake || k < 0) {
    // A crew's line joins shots of its own delivery in its own order: any other point needs a line by hand.
    const one = asHand(job, line),
      numbers = orderedNumbers(one.hand.points);
    numbers.splice(k + 1, 0, number);
    return several(
      `${number} inserted into ${line.code}${line.run}`,
      ...one.without,
      named(null, { ...one.hand, points: writeNumbers(numbers) }),
    );
  }
  const element = line.code + line.run,
    old = String(fieldValue(t, row, "description")),
    says = `${element} after=${t.number[line.shots[k]!]}`;
  if (carries(job, old, line))
    return {
      change: cueChange(job, line, [
        { row, add: [`after=${t.number[line.shots[k]!]}`], remove: ["lone", "new", "end"] },
      ]),
    };
  return {
    change: { type: "points", edits: [{ id: t.id[row]!, field: "description", old, new: withElement(old, says) }] },
  };
}

/** A description with one element more, before its note. */
export function withElement(description: string, element: string): string {
  const [elements, note] = beforeNote(description);
  return `${elements.trim() === "" ? element : `${elements.trimEnd()}/${element}`}${note}`;
}

/** Cuts a description before the `;` of its note, which no quote holds. */
function beforeNote(description: string): [elements: string, note: string] {
  for (let i = 0; i < description.length; i++) {
    if (description[i] !== ";") continue;
    const head = description.slice(0, i);
    if (!tokenize(head).openQuote) return [head, description.slice(i)];
  }
  return [description, ""];
}

/** The shots stay points; the line is drawn no more. */
export function removeLine(job: JobState, line: DrawnLine): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  return several(`Line ${line.code}${line.run} removed`, ...without(job, line));
}

/** What takes a line away: its name, or `lone` at each of its shots that carries the line's element. */
function without(job: JobState, line: DrawnLine): One[] {
  const hand = handOf(job, line);
  if (hand) return [gone(job, hand)];
  // Points that another line brought in have no element of it.
  const own = ownShots(job, line).filter((i) => carries(job, job.points.texts[job.points.description[i]!]!, line));
  return [
    cueChange(
      job,
      line,
      own.map((row) => ({ row, add: ["lone"] })),
    ),
  ];
}

/** The line as one by hand, and what takes the present one away. */
function asHand(job: JobState, line: DrawnLine): { hand: HandLine; without: One[] } {
  const hand = handOf(job, line);
  if (hand) return { hand, without: [gone(job, hand)] };
  const numbers = numbersOf(job, line),
    cues: Record<string, string> = {};
  line.shots.forEach((_, k) => {
    const off =
      line.cues[k]?.split(" ").filter((w) => w.startsWith("off=") || w.startsWith("box=") || w === "quad") ?? [];
    const words = [line.steering?.[k] ?? "", ...off].filter(Boolean).join(" ");
    if (words) cues[numbers[k]!] = words;
  });
  return {
    hand: {
      name: freeLineName(new Set(job.lines.map((l) => l.name))),
      code: line.code + line.run,
      points: writeNumbers(numbers),
      ...(Object.keys(cues).length ? { cues } : {}),
      // An area closes by itself, as its code says; corners that are made close it too.
      ...(line.cues.at(-1)?.split(" ").includes("loop") ? { closed: true } : {}),
    },
    without: without(job, line),
  };
}

/** The same line from its other end; parallels stay on their side. */
export function reverseLine(job: JobState, line: DrawnLine): LineEdit {
  const turned = reversedHand(job, line);
  return "refused" in turned
    ? turned
    : several(
        `${line.code}${line.run} reversed`,
        ...(line.hand ? [named(handOf(job, line)!, turned.hand)] : [...turned.without, named(null, turned.hand)]),
      );
}

function reversedHand(job: JobState, line: DrawnLine): { hand: HandLine; without: One[] } | { refused: string } {
  if (line.companion) return { refused: NO_PARALLEL };
  const { hand, without: away } = asHand(job, line),
    numbers = orderedNumbers(hand.points);
  const says = (n: string) => (hand.cues?.[n] ?? "").split(/\s+/).filter(Boolean);
  if (numbers.some((n) => says(n).some((w) => w === "swing")))
    return {
      refused: "An arc by “swing” takes its direction from the piece before it, which another direction would change.",
    };
  if (numbers.some((n) => says(n).some((w) => w === "quad" || w.startsWith("box="))))
    return { refused: "Its corners were made by its cues, which need this direction." };
  const cues: Record<string, string> = {};
  let flowing: number | undefined;
  const add = (k: number, word: string) =>
    (cues[numbers[k]!] = [...(cues[numbers[k]!] ?? "").split(" ").filter(Boolean), word].join(" "));
  numbers.forEach((n, k) => {
    for (const w of says(n)) {
      if (w === "via") add(k, w);
      else if (w.startsWith("off=")) {
        const [right, ...more] = w.slice(4).split(",");
        add(k, `off=${[-Number(right), ...more].join(",")}`);
      } else if (w === "still" && flowing !== undefined) {
        add(k, "flow");
        if (flowing > 0) add(flowing, "still");
        flowing = undefined;
      } else if (w === "flow" && flowing === undefined) flowing = k;
    }
  });
  if (flowing !== undefined && (line.closed || flowing < numbers.length - 1)) {
    // A curve that was not ended runs on to the line's end; of a closed line to its first shot.
    add(line.closed ? 0 : numbers.length - 1, "flow");
    if (flowing > 0) add(flowing, "still");
  }
  const { cues: _, ...rest } = hand;
  // A closed line keeps its first shot, so that a curve over its closing stays one.
  const turned = line.closed ? [numbers[0]!, ...numbers.slice(1).reverse()] : numbers.slice().reverse();
  return {
    hand: { ...rest, points: writeNumbers(turned), ...(Object.keys(cues).length ? { cues } : {}) },
    without: away,
  };
}

/** Another code and run; of a crew's line the descriptions of its shots are changed. */
export function recodeLine(job: JobState, line: DrawnLine, code: string): LineEdit {
  const wanted = code.trim().toUpperCase();
  if (line.companion) return { refused: NO_PARALLEL };
  if (!/^\p{L}[\p{L}\d_-]*$/u.test(wanted))
    return { refused: `“${code}” is no code: a letter first, then letters, digits, _ or -.` };
  const hand = handOf(job, line),
    t = job.points,
    now = line.code + line.run;
  if (hand) return { change: named(hand, { ...hand, code: wanted }) };
  const edits = ownShots(job, line).flatMap((i) => {
    const old = t.texts[t.description[i]!]!,
      next = recoded(job, i, line, wanted),
      cues = t.texts[t.cues[i]!]!;
    if (next === old) return [];
    const recut = decodeCueEdits(cues).map((c) =>
      c.element.toUpperCase() === now.toUpperCase() ? { ...c, element: wanted } : c,
    );
    return [
      { id: t.id[i]!, field: "description" as const, old, new: next },
      ...(cues && encodeCueEdits(recut) !== cues
        ? [{ id: t.id[i]!, field: "cues" as const, old: cues, new: encodeCueEdits(recut) }]
        : []),
    ];
  });
  return edits.length ? { change: { type: "points", edits } } : { refused: `None of its shots writes ${now} itself.` };
}

/**
 * The description with the line's element under another code: the first word of the element whose code and run are the
 * line's.
 */
function recoded(job: JobState, i: number, line: DrawnLine, code: string): string {
  const text = job.points.texts[job.points.description[i]!]!,
    [elements, note] = beforeNote(text);
  // Elements are parted by "/" outside quotes.
  const parts: string[] = [];
  let part = "";
  for (const piece of elements.split("/")) {
    part = part === "" ? piece : `${part}/${piece}`;
    if (tokenize(part).openQuote) continue;
    parts.push(part);
    part = "";
  }
  if (part) parts.push(part);
  return parts.map((p) => (carries(job, p, line) ? p.replace(/^(\s*)\S+/, `$1${code}`) : p)).join("/") + note;
}

/** The cue, on the shot beside an end of the line, by which it only comes from that end's point or goes on to it. */
function cueOfEnd(job: JobState, line: DrawnLine, end: "first" | "last"): { row: number; cue: string } | undefined {
  const k = end === "first" ? 1 : line.shots.length - 2,
    beside = line.shots[k],
    at = line.shots.at(end === "first" ? 0 : -1);
  if (beside === undefined || at === undefined || line.shots.length < 2) return undefined;
  const cue = `${end === "first" ? "from" : "to"}=${job.points.number[at]}`;
  return line.cues[k]?.split(" ").includes(cue) ? { row: beside, cue } : undefined;
}

/** The shots of the line itself, each once: not an end that it only comes from or goes on to, which is another line's. */
function ownShots(job: JobState, line: DrawnLine): number[] {
  const from = cueOfEnd(job, line, "first") ? 1 : 0,
    to = line.shots.length - (cueOfEnd(job, line, "last") ? 1 : 0);
  return [...new Set(line.shots.slice(from, to))];
}

/** Whether a description, or one element of it, is of the line. */
function carries(job: JobState, text: string, line: Pick<DrawnLine, "code" | "run">): boolean {
  return parseDescription(text, compileBook(job.book)).elements.some((e) => e.code === line.code && e.run === line.run);
}

/** A parallelogram from three corners, or a rectangle of a width to the right from two. */
export function completeLine(job: JobState, line: DrawnLine, width?: number): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  const needs = width === undefined ? 3 : 2;
  const made = line.cues.some((c) => /(^| )(quad|box=)/.test(c));
  // An area returns to its first shot by its code; it is completed all the same.
  if ((line.closed && (made || line.shots.length !== 3)) || line.shots.length !== needs)
    return {
      refused:
        width === undefined
          ? "A parallelogram is completed from exactly three corners."
          : "A rectangle is completed from exactly two corners.",
    };
  if (width !== undefined && !(Number.isFinite(width) && width !== 0))
    return { refused: "The width is a length other than zero; to the left it is negative." };
  const last = line.shots.at(-1)!,
    cue = width === undefined ? "quad" : `box=${width}`,
    hand = handOf(job, line);
  if (!hand) return { change: cueChange(job, line, [{ row: last, add: [cue], remove: ["end", "loop"] }]) };
  const number = job.points.number[last]!,
    { closed: _, ...open } = withoutCue(hand, "loop");
  return {
    change: named(hand, {
      ...open,
      cues: { ...open.cues, [number]: [open.cues?.[number], cue].filter(Boolean).join(" ") },
    }),
  };
}

/** A parallel of the line at a distance to the right (negative: left) and up, drawn as another code if one is given. */
export function addParallel(job: JobState, line: DrawnLine, right: number, up: number, code?: string): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  if (!Number.isFinite(right) || right === 0 || !Number.isFinite(up))
    return { refused: "The distance is a length other than zero; to the left it is negative." };
  const cue = `off=${right},${up}${code ? `,${code.toUpperCase()}` : ""}`,
    first = line.shots[0]!,
    hand = handOf(job, line);
  if (!hand) return { change: cueChange(job, line, [{ row: first, add: [cue] }]) };
  const number = job.points.number[first]!;
  return {
    change: named(hand, {
      ...hand,
      cues: { ...hand.cues, [number]: [hand.cues?.[number], cue].filter(Boolean).join(" ") },
    }),
  };
}

/**
 * Ends the line at a point of the job that lies on its piece after the k-th shot: what comes before it stays, or what
 * comes after.
 */
export function trimLine(
  job: JobState,
  line: DrawnLine,
  k: number,
  number: string,
  keep: "before" | "after",
): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  if (line.closed) return { refused: "A closed line is opened before it is trimmed." };
  if (k < 0 || k > line.shots.length - 2) return { refused: "The line has no piece between two of its shots there." };
  const steered = [k, k + 1].some((j) => line.steering?.[j]);
  if (steered)
    return { refused: "The crossing lies on an arc or a smooth curve, whose shape hangs on the shots beyond it." };
  const hand = handOf(job, line),
    numbers = numbersOf(job, line);
  if (hand)
    return {
      change: named(hand, {
        ...hand,
        points: writeNumbers(
          keep === "before" ? [...numbers.slice(0, k + 1), number] : [number, ...numbers.slice(k + 1)],
        ),
      }),
    };
  const gone = keep === "before" ? line.shots.slice(k + 1) : line.shots.slice(0, k + 1);
  const edge: CueStep =
    keep === "before"
      ? { row: line.shots[k]!, add: [`to=${number}`], remove: ["end", "join"] }
      : { row: line.shots[k + 1]!, add: ["new", `from=${number}`] };
  return { change: cueChange(job, line, [edge, ...gone.map((row) => ({ row, add: ["lone"] }))]) };
}

/** Other steering cues for a shot of the line, as words. */
export function steerShot(job: JobState, line: DrawnLine, k: number, words: string): LineEdit {
  if (line.companion) return { refused: NO_PARALLEL };
  const hand = handOf(job, line),
    number = job.points.number[line.shots[k]!]!;
  const before = line.cues[k]?.split(" ").filter(Boolean) ?? [],
    after = words.split(/\s+/).filter(Boolean);
  if (hand) {
    const { [number]: _, ...others } = hand.cues ?? {},
      cues = after.length ? { ...others, [number]: after.join(" ") } : others;
    const { cues: __, ...rest } = hand;
    return { change: named(hand, Object.keys(cues).length ? { ...rest, cues } : rest) };
  }
  return {
    change: cueChange(job, line, [
      {
        row: line.shots[k]!,
        add: after.filter((w) => !before.includes(w)),
        remove: before.filter((w) => !after.includes(w)),
      },
    ]),
  };
}

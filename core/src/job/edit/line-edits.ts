/**
 * Office edits of lines (FIELD-CODES.md, "Office edits are cues too"): every one is a change of cues or of a line drawn
 * by hand, so that it is kept in the ledger, undone, and carried out again on corrected data. What cannot be done is
 * told in a sentence.
 */
import type { HandLine } from "../../lines/model";
import { tokenize } from "../../codes/tokenize";
import { decodeCueEdits, encodeCueEdits } from "../../points/cue-edits";
import { orderedNumbers, writeNumbers } from "../../points/numbers";
import { fieldValue } from "../../points/edits";
import type { JobState } from "../model/model";
import { freeLineName } from "../recipe/recipe";

import {
  asHand,
  carries,
  cueChange,
  cueOfEnd,
  handOf,
  named,
  NO_PARALLEL,
  numbersOf,
  ownShots,
  reversedHand,
  several,
  without,
  type CueStep,
  type DrawnLine,
  type LineEdit,
} from "./drawn-lines";

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

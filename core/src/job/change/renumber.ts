/**
 * Points get other numbers, and what the office wrote by number follows: conditions of sets, as-built lists, cues. What
 * refers to points by identity has nothing to follow; what the field wrote stays as it is: its cues and backsights mean
 * the numbers that points came with (points/index.ts).
 */
import { append } from "../../math/many";
import { compileBook } from "../../codes/book";
import { refusal } from "../../errors";
import { decodeCueEdits, encodeCueEdits, type CueEdit } from "../../points/cue-edits";
import { numberIndex } from "../../points/index";
import { readNumberList, renamedNumbers, type Numbers } from "../../points/numbers";
import { refByNumber, refOf } from "../../points/refs";
import { rowOf } from "../../points/table";
import { plural } from "../../math/words";
import type { EditableChange, OneChange, PointEdit } from "./change";
import type { JobState } from "../model/model";
import { NAMED_PARTS, nameOf, type NamedPart } from "../model/parts";
import { AS_IT_IS, passed, userWords, type Passing } from "../model/references";

/** A point by its id, and the number that it shall have. */
export interface Renumbering {
  id: number;
  number: string;
}

/** Something that names a renumbered point, before and after; `leaves` where a range names it no more. */
export interface Follower {
  what: string;
  from: string;
  to: string;
  leaves?: true;
}

/** Cues whose value is a point's number. */
const NAMING: ReadonlySet<string> = new Set(["after", "from", "to", "join"]);

/**
 * The change that renumbers points, with all that follows, and a list of it to be looked at before. Refused when a
 * number is taken by a point that keeps it, or is given twice.
 */
export function renumber(
  job: JobState,
  wanted: readonly Renumbering[],
): { change: EditableChange; follows: Follower[] } {
  const { points: t } = job,
    to = new Map<string, string>(),
    given = new Set<string>(),
    moving = new Set<number>(),
    edits: PointEdit[] = [];
  for (const { id, number } of wanted) {
    const i = rowOf(t, id);
    if (i < 0) throw refusal("change-unknown", { what: "A point that you renumber" });
    if (number.trim() === "") throw refusal("request-wrong", { why: `Point ${t.number[i]} needs a number` });
    if (given.has(number)) throw refusal("change-number-taken", { number });
    if (moving.has(id)) throw refusal("request-wrong", { why: `Point ${t.number[i]} is given two numbers` });
    given.add(number);
    moving.add(id);
    if (number === t.number[i]) continue;
    to.set(t.number[i]!, number);
    edits.push({ id, field: "number", old: t.number[i]!, new: number });
  }
  const index = numberIndex(t);
  for (const { new: number } of edits) {
    const holder = index.get(String(number));
    if (holder !== undefined && !moving.has(t.id[holder]!))
      throw refusal("change-number-taken", { number: String(number) });
  }

  const follows: Follower[] = [],
    changes: OneChange[] = [],
    // A backsight by the number that its point came with is still found; by a later one it follows.
    later = new Map([...to].filter(([old]) => t.cameAs?.[t.id[index.get(old)!]!] !== undefined)),
    pinned = new Map([...to.keys()].map((old) => [refByNumber(old), refOf(t, job.intakes, index.get(old)!)])),
    isSet = (name: Numbers) =>
      typeof name === "string" && (name.startsWith("*") || job.sets.some((s) => s.name === name));
  append(edits, cueEdits(job, to, follows));
  for (const part of NAMED_PARTS)
    for (const thing of job[part]) {
      const name = nameOf(part, thing),
        what = whatIs(part, name),
        told: { was: string; is: string }[] = [];
      const passing: Passing = {
        ...AS_IT_IS,
        numbers(list, _, meant) {
          const next = renamedNumbers(list, meant === "came" ? later : to);
          if (meant === "now") tellLeaving(what, list, to, follows);
          told.push({ was: listText(list), is: listText(next) });
          return next;
        },
        selection: (given, path) => (isSet(given) ? given : passing.numbers(given, path, "now")),
        // What is known by its number alone is known for good now.
        point: (ref) => pinned.get(ref) ?? ref,
      };
      const next = passed(part, thing as never, passing) as object;
      if (next === thing) continue;
      changes.push({ type: "named", part, name, old: thing, new: next });
      if (told.some((x) => x.was !== x.is))
        follows.push({ what, from: told.map((x) => x.was).join("; "), to: told.map((x) => x.is).join("; ") });
    }

  const first: OneChange = { type: "points", edits };
  if (changes.length === 0) return { change: first, follows };
  const [[old, number] = []] = to,
    count = follows.filter((f) => !f.leaves).length,
    one = to.size === 1,
    text = one ? `Point ${old} renumbered to ${number}` : `${plural(to.size, "point")} renumbered`;
  return {
    change: {
      type: "several",
      text: count
        ? `${text}; ${plural(count, "thing")} that named ${one ? "it" : "them"} ${count === 1 ? "follows" : "follow"}`
        : text,
      changes: [first, ...changes],
    },
    follows,
  };
}

/** What names points, in words. */
function whatIs(part: NamedPart, name: string): string {
  if (part === "setups") return `Setup ${name}`;
  const words = userWords({ part, user: name, of: "sets" });
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** Cues that the office added speak of points by the numbers of now. */
function cueEdits({ points: t, book }: JobState, to: ReadonlyMap<string, string>, follows: Follower[]): PointEdit[] {
  const compiled = compileBook(book),
    edits: PointEdit[] = [],
    next = new Map<number, string>();
  const rename = (word: string) => {
    const at = word.indexOf("="),
      action = at < 0 ? undefined : compiled.actionOf(word.slice(0, at)),
      renamed = at < 0 ? undefined : to.get(word.slice(at + 1));
    return action && NAMING.has(action) && renamed !== undefined ? `${word.slice(0, at)}=${renamed}` : word;
  };
  for (let i = 0; i < t.count; i++) {
    const kept = t.cues[i]!;
    if (kept === 0) continue;
    if (!next.has(kept)) next.set(kept, encodeCueEdits(renamedCues(decodeCueEdits(t.texts[kept]!), rename)));
    const old = t.texts[kept]!,
      now = next.get(kept)!;
    if (now === old) continue;
    edits.push({ id: t.id[i]!, field: "cues", old, new: now });
    const words = (text: string) => decodeCueEdits(text).flatMap((e) => e.add ?? []);
    follows.push({ what: `Cues of point ${t.number[i]}`, from: words(old).join(" "), to: words(now).join(" ") });
  }
  return edits;
}

/** What is taken away is a word of the field, unless the office had added it before. */
function renamedCues(edits: readonly CueEdit[], rename: (word: string) => string): CueEdit[] {
  const added = new Set<string>();
  return edits.map(({ element, add, remove }) => {
    const gone = remove?.map((word) => (added.has(`${element} ${word}`) ? rename(word) : word));
    for (const word of add ?? []) added.add(`${element} ${word}`);
    return { element, ...(add ? { add: add.map(rename) } : {}), ...(gone ? { remove: gone } : {}) };
  });
}

/** A range does not follow a point: that it is left or entered by a renumbering is said. */
function tellLeaving(what: string, list: Numbers, to: ReadonlyMap<string, string>, follows: Follower[]): void {
  const before = readNumberList(list),
    after = readNumberList(renamedNumbers(list, to));
  for (const [old, number] of to) {
    const was = before?.has(old) ?? false,
      is = after?.has(number) ?? false;
    if (was !== is)
      follows.push({
        what,
        from: was ? `${old} by ${listText(list)}` : "",
        to: is ? `${number} by ${listText(list)}` : "",
        leaves: true,
      });
  }
}

const listText = (list: Numbers) => (typeof list === "string" ? list : list.join(", "));

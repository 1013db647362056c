/** Lines under another code, and descriptions with an element more. */
import { compileBook } from "../../codes/book";
import { parseDescription } from "../../codes/parse";
import { tokenize } from "../../codes/tokenize";
import { decodeCueEdits, encodeCueEdits } from "../../points/cue-edits";
import type { JobState } from "../model/model";
import { nameGoesOn } from "./line-names";
import {
  carries,
  handOf,
  named,
  NO_PARALLEL,
  ownShots,
  refsOf,
  several,
  type DrawnLine,
  type LineEdit,
} from "./drawn-lines";

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
  const [read] = parseDescription(wanted, compileBook(job.book)).elements,
    calledSo = read ? nameGoesOn(job, line, { code: read.code, run: read.run, from: refsOf(job, line)[0]! }) : [];
  return edits.length
    ? several(`${now} is ${wanted} now`, { type: "points", edits }, ...calledSo)
    : { refused: `None of its shots writes ${now} itself.` };
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

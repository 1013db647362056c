/**
 * Points get other numbers, and all that the office wrote of them by number follows. What the field wrote stays as it
 * is: its cues and backsights mean the numbers that points came with (points/index.ts).
 */
import { pointsOf } from "../handover/model";
import { append } from "../math/many";
import { compileBook } from "../codes/book";
import { refusal } from "../errors";
import { withinRule, type SetRule } from "../sets/model";
import { decodeCueEdits, encodeCueEdits, type CueEdit } from "../points/cue-edits";
import { numberIndex } from "../points/index";
import { readNumberList, renamedNumbers, type Numbers } from "../points/numbers";
import type { SurfaceRecipe } from "../surface/model";
import { setupName, type SetupEdit } from "../points/setups";
import { rowOf } from "../points/table";
import { plural } from "../math/words";
import type { EditableChange, NamedChange, OneChange, PointEdit } from "./change";
import type { JobState } from "./model";

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
    changes: OneChange[] = [];
  const named = (
    part: NamedChange["part"],
    name: string,
    what: string,
    old: object,
    next: object,
    from: string,
    into: string,
  ) => {
    changes.push({ type: "named", part, name, old, new: next });
    follows.push({ what, from, to: into });
  };

  append(edits, cueEdits(job, to, follows));
  for (const line of job.lines) {
    const points = renamedNumbers(line.points, to, true),
      cues = line.cues && Object.fromEntries(Object.entries(line.cues).map(([n, c]) => [to.get(n) ?? n, c]));
    if (points === line.points && !Object.keys(line.cues ?? {}).some((n) => to.has(n))) continue;
    const next = { ...line, points, ...(cues ? { cues } : {}) },
      what = `Line ${line.code} by hand`;
    named("lines", line.name!, what, line, next, listText(line.points), listText(points));
  }
  for (const set of job.sets) {
    const rule = renamedRule(set.rule, to, (list) => tellLeaving(`Set “${set.name}”`, list, to, follows));
    if (rule === set.rule) continue;
    const lists = (r: SetRule) => numbersIn(r).map(listText).join("; ");
    named("sets", set.name, `Set “${set.name}”`, set, { ...set, rule }, lists(set.rule), lists(rule));
  }
  for (const s of job.surfaces) {
    const next = renamedCorners(s, to);
    if (next === s) continue;
    const texts = (x: SurfaceRecipe) => cornersOf(x).map((c) => c.join("–"));
    const [was, is] = [texts(s), texts(next)],
      changed = was.flatMap((_, k) => (was[k] === is[k] ? [] : [k]));
    named(
      "surfaces",
      s.name,
      `Surface “${s.name}”`,
      s,
      next,
      changed.map((k) => was[k]).join("; "),
      changed.map((k) => is[k]).join("; "),
    );
  }
  for (const file of job.handover) {
    const points = pointsOf(file);
    if (points === undefined || points.startsWith("*") || job.sets.some((s) => s.name === points)) continue;
    const next = renamedNumbers(points, to),
      what = `File “${file.file}”`;
    tellLeaving(what, points, to, follows);
    if (next !== points) named("handover", file.file, what, file, { ...file, points: next }, points, next);
  }
  for (const d of job.differences) {
    if (typeof d.points === "string" && (d.points.startsWith("*") || job.sets.some((s) => s.name === d.points)))
      continue;
    const next = renamedNumbers(d.points, to),
      what = `As-built check “${d.name}”`;
    tellLeaving(what, d.points, to, follows);
    if (next !== d.points)
      named("differences", d.name, what, d, { ...d, points: next }, listText(d.points), listText(next));
  }
  for (const s of job.setups) {
    // A backsight by the number that its point came with is still found; by a later one it follows.
    const later = new Map([...to].filter(([old]) => t.cameAs?.[t.id[index.get(old)!]!] !== undefined)),
      backsights = s.backsights && renamedNumbers(s.backsights, later),
      known = s.renamed?.map(({ was, is }) => ({ was, is: later.get(is) ?? is })),
      renamed = known?.some(({ is }, k) => is !== s.renamed![k]!.is) ? known : s.renamed;
    if (backsights === s.backsights && renamed === s.renamed) continue;
    const name = setupName(s),
      told = (x: SetupEdit) =>
        [...(x.backsights ?? []), ...(x.renamed ?? []).map(({ was, is }) => `${was} is ${is}`)].join("; ");
    const next: SetupEdit = { ...s, ...(backsights && { backsights: [...backsights] }), ...(renamed && { renamed }) };
    named("setups", name, `Setup ${name}`, s, next, told(s), told(next));
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
      text: `${text}; ${plural(count, "thing")} that named ${one ? "it" : "them"} ${count === 1 ? "follows" : "follow"}`,
      changes: [first, ...changes],
    },
    follows,
  };
}

/** Sides, triangles and pieces that a surface names by the points at their corners. */
function cornersOf({ breaklines, swap = [], drop = [] }: SurfaceRecipe): readonly string[][] {
  return [...(breaklines?.except ?? []).flatMap((x) => ("pieces" in x ? x.pieces : [])), ...swap, ...drop];
}

function renamedCorners(s: SurfaceRecipe, to: ReadonlyMap<string, string>): SurfaceRecipe {
  if (!cornersOf(s).some((c) => c.some((n) => to.has(n)))) return s;
  const renamed = <C extends string[]>(list: C[]) => list.map((c) => c.map((n) => to.get(n) ?? n) as C);
  const except = s.breaklines?.except?.map((x) => ("pieces" in x ? { pieces: renamed(x.pieces) } : x));
  return {
    ...s,
    ...(except ? { breaklines: { ...s.breaklines, except } } : {}),
    ...(s.swap ? { swap: renamed(s.swap) } : {}),
    ...(s.drop ? { drop: renamed(s.drop) } : {}),
  };
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

function renamedRule(rule: SetRule, to: ReadonlyMap<string, string>, see: (list: Numbers) => void): SetRule {
  if ("numbers" in rule) {
    see(rule.numbers);
    const numbers = renamedNumbers(rule.numbers, to);
    return numbers === rule.numbers ? rule : { numbers };
  }
  const within = withinRule(rule),
    next = within.map((r) => renamedRule(r, to, see));
  if (next.every((r, k) => r === within[k])) return rule;
  return "all" in rule ? { all: next } : "any" in rule ? { any: next } : { not: next[0]! };
}

function numbersIn(rule: SetRule): Numbers[] {
  return "numbers" in rule ? [rule.numbers] : withinRule(rule).flatMap(numbersIn);
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

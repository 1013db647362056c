/** Findings that a person settled with a reason: they stay, are marked so, and open again when their facts change. */
import type { Finding, FindingKind } from "../finding";
import { lineName, type Line } from "../lines/model";
import { METRES, type Unit } from "../math/units";
import { readNumberList, writeNumbers, type Numbers } from "../points/numbers";
import { rowOf, type PointTable } from "../points/table";

export interface Accepted {
  /** Tells it from others: made of the finding's key. */
  name: string;
  kind: FindingKind;
  /** Ids of the points that it speaks of. */
  points: readonly number[];
  /** Keys of its lines, or their names where it comes from a recipe. */
  lines: readonly string[];
  /** The names that these lines had then. */
  named?: readonly string[];
  /** What it said when it was accepted; a recipe tells none, and then none are asked for. */
  facts?: readonly Fact[];
  reason: string;
}

type Fact = string | number | boolean | null;

/** Lengths that differ by less are one fact, in metres. */
const SAME = 0.01;
const LONGEST_NAME = 180;

/** What a finding says beside its points and lines, in a set order. */
export function factsOf(f: Pick<Finding, "data">): Fact[] {
  const out: Fact[] = [];
  const add = (value: unknown) => {
    if (Array.isArray(value)) value.forEach(add);
    else if (typeof value === "object" && value !== null)
      for (const key of Object.keys(value).sort()) add((value as Record<string, unknown>)[key]);
    else if (value !== undefined) out.push(value as Fact);
  };
  add(f.data);
  return out;
}

/** The acceptance of a finding. */
export function acceptanceOf(f: Finding, reason: string, lineNamed: (key: string) => string): Accepted {
  return {
    name: nameOfAccepted(f.key),
    kind: f.kind,
    points: f.points,
    lines: f.lines,
    ...(f.lines.length ? { named: f.lines.map(lineNamed) } : {}),
    facts: factsOf(f),
    reason,
  };
}

/** A name no longer than a name may be: of many points the first, and a sum of them all (FNV-1a). */
function nameOfAccepted(key: string): string {
  if (key.length <= LONGEST_NAME) return key;
  let sum = 0x811c9dc5;
  for (let k = 0; k < key.length; k++) sum = Math.imul(sum ^ key.charCodeAt(k), 0x01000193);
  return `${key.slice(0, LONGEST_NAME - 10)} ${(sum >>> 0).toString(16)}`;
}

/** The findings, those that are accepted with their reason. */
export function withAccepted(
  findings: readonly Finding[],
  accepted: readonly Accepted[],
  lines: readonly Pick<Line, "key" | "code" | "run">[],
  unit: Unit,
): Finding[] {
  if (accepted.length === 0) return findings as Finding[];
  const settling = settler(accepted, lines, unit);
  return findings.flatMap((f) => {
    const [one] = settling(f);
    if (one) return { ...f, accepted: one.reason };
    return EACH_ALONE.has(f.kind) && f.points.length > 1 ? parted(f, settling) : f;
  });
}

/** Kinds whose findings of several points say of each the same: some of them may be accepted, and the others stay. */
const EACH_ALONE: ReadonlySet<FindingKind> = new Set<FindingKind>([
  "unknown-code",
  "unread-word",
  "code-by-alias",
  "attribute-missing",
  "attribute-wrong",
  "no-elevation",
  "precision",
  "axes-swapped",
]);

/** A finding some of whose points are accepted: these by the reason that each has, and what stays. */
function parted(f: Finding, settling: (f: Finding) => Accepted[]): Finding[] {
  const by = new Map<Accepted, number[]>(),
    left: number[] = [];
  for (const id of f.points) {
    const [one] = settling({ ...f, points: [id] });
    if (one) by.set(one, [...(by.get(one) ?? []), id]);
    else left.push(id);
  }
  if (by.size === 0) return [f];
  const part = (points: readonly number[], words: string): Finding => ({
    ...f,
    points,
    words: [{ points }, words, ...f.words],
  });
  const pieces = [...by].map(([a, points]) => ({
    ...part(points, points.length > 1 ? " are accepted of this: " : " is accepted of this: "),
    key: `${f.key} by ${a.name}`,
    accepted: a.reason,
  }));
  return left.length ? [part(left, left.length > 1 ? " are left of this: " : " is left of this: "), ...pieces] : pieces;
}

/** The acceptances that settle a finding. */
function settler(accepted: readonly Accepted[], lines: readonly Pick<Line, "key" | "code" | "run">[], unit: Unit) {
  const byKind = new Map<FindingKind, Accepted[]>();
  for (const a of accepted) {
    const same = byKind.get(a.kind);
    if (same) same.push(a);
    else byKind.set(a.kind, [a]);
  }
  const names = new Map(lines.map((l) => [l.key, lineName(l)])),
    near = SAME / METRES[unit];
  return (f: Finding) => (byKind.get(f.kind) ?? []).filter((a) => settles(a, f, names, near));
}

/** What opens a finding again: what settles it is taken away, or where that settles others too, its points alone. */
export function openedAgain(
  f: Finding,
  accepted: readonly Accepted[],
  lines: readonly Pick<Line, "key" | "code" | "run">[],
  unit: Unit,
): { old: Accepted; new: Accepted | null }[] {
  return settler(
    accepted,
    lines,
    unit,
  )(f).map((old) => {
    const others = old.points.filter((id) => !f.points.includes(id));
    return { old, new: others.length ? { ...old, points: others } : null };
  });
}

function settles(a: Accepted, f: Finding, names: ReadonlyMap<string, string>, near: number): boolean {
  // Findings of single points may be accepted many at a time.
  const each = EACH_ALONE.has(f.kind) || (f.points.length === 1 && f.lines.length === 0 && !a.facts);
  if (
    f.points.length === 0 || !each ? !sameMembers(a.points, f.points) : !f.points.every((id) => a.points.includes(id))
  )
    return false;
  const isLine = (key: string) => a.lines.includes(key) || a.lines.includes(names.get(key) ?? "");
  if (a.lines.length !== f.lines.length || !f.lines.every(isLine)) return false;
  if (!a.facts) return true;
  const now = factsOf(f);
  return (
    now.length === a.facts.length &&
    now.every((x, k) => {
      const was = a.facts![k];
      return typeof x === "number" && typeof was === "number" ? Math.abs(x - was) <= near : x === was;
    })
  );
}

function sameMembers(a: readonly number[], b: readonly number[]): boolean {
  if (a.length !== b.length) return false;
  const has = new Set(a);
  return b.every((x) => has.has(x));
}

/** As a recipe says it. */
export interface AcceptedGiven {
  kind: FindingKind;
  points?: Numbers;
  lines?: string[];
  reason: string;
}

/** What a recipe accepts, by the points that bear its numbers after all edits; numbers that nobody has are passed over. */
export function acceptedOfRecipe(given: readonly AcceptedGiven[], t: PointTable): Accepted[] {
  return given.map((a, k) => {
    const list = a.points === undefined ? undefined : readNumberList(a.points),
      points: number[] = [];
    if (list) for (let i = 0; i < t.count; i++) if (!t.deleted[i] && list.has(t.number[i]!)) points.push(t.id[i]!);
    return { name: `accepted ${k + 1}`, kind: a.kind, points, lines: a.lines ?? [], reason: a.reason };
  });
}

/** As a recipe says it, with the numbers that the points have now; those that are gone are left out. */
export function acceptedForRecipe(accepted: readonly Accepted[], t: PointTable): AcceptedGiven[] {
  return accepted.map(({ kind, points, lines, named, reason }) => {
    const numbers = points.map((id) => rowOf(t, id)).filter((i) => i >= 0 && !t.deleted[i]);
    return {
      kind,
      ...(numbers.length ? { points: writeNumbers(numbers.map((i) => t.number[i]!)) } : {}),
      ...(lines.length ? { lines: [...(named ?? lines)] } : {}),
      reason,
    };
  });
}

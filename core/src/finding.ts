/** What the application noticed in a job: shown in the tray, printed by the command, asserted by tests. */
import type { FindingKind } from "./finding-kinds";

export { FINDING_KINDS, type FindingKind } from "./finding-kinds";
export type Severity = "error" | "warning" | "note";

/** A part of a sentence: text, or points and a line whose names are put in where the sentence is read. */
export type Word<P, L> = string | { points: readonly P[]; most?: number } | { line: L };

interface About<P, L> {
  kind: FindingKind;
  severity: Severity;
  /** A sentence: what, to which points, what can be done. */
  words: readonly Word<P, L>[];
  points: readonly P[];
  lines: readonly L[];
  /** East, north of its position, where it has one. */
  at?: readonly [number, number];
  data: Record<string, unknown>;
}

/** As a check makes it: points by their rows in its table, lines by their indices in its list. */
export interface Noticed extends About<number, number> {
  /** What tells this finding from others of its kind, where that is not its points and lines. */
  subject?: string;
}

/** As it leaves the chain: points by their ids, lines by their keys. */
export interface Finding extends About<number, string> {
  /** Stays while the facts stay, and no two findings of a job share it. */
  key: string;
  /** Why a person settled it, where one did. */
  accepted?: string;
}

/** Text with points `{ points: rows }` and lines `{ line: index }` in it. */
export function say(
  strings: TemplateStringsArray,
  ...values: (Word<number, number> | number)[]
): Word<number, number>[] {
  const words: Word<number, number>[] = [];
  strings.forEach((s, k) => {
    if (s) words.push(s);
    const v = values[k];
    if (v !== undefined) words.push(typeof v === "number" ? String(v) : v);
  });
  return words;
}

/** A point, or the first few of several, within `say`. */
export const pts = (rows: readonly number[] | number, most?: number): Word<number, number> => ({
  points: typeof rows === "number" ? [rows] : rows,
  ...(most === undefined ? {} : { most }),
});
/** `point` or `points`, for as many as there are. */
export const pointWord = (rows: readonly unknown[], capital = false) =>
  `${capital ? "P" : "p"}oint${rows.length === 1 ? "" : "s"}`;

export function notice(
  kind: FindingKind,
  severity: Severity,
  words: readonly Word<number, number>[],
  more: Partial<Omit<Noticed, "kind" | "severity" | "words">> = {},
): Noticed {
  return { kind, severity, words, points: [], lines: [], data: {}, ...more };
}

/** How the names of points and lines are told. */
export interface Names<P, L> {
  point(p: P): string;
  line(l: L): string;
}

/** The sentence of a finding, with the names that points and lines have now. */
export function sentenceOf<P, L>(f: { words: readonly Word<P, L>[] }, names: Names<P, L>): string {
  return f.words
    .map((w) => (typeof w === "string" ? w : "line" in w ? names.line(w.line) : someOf(w.points, names.point, w.most)))
    .join("");
}

/** The first few in words: `12, 13, 14 and 5 more`. */
function someOf<P>(points: readonly P[], name: (p: P) => string, most = 4): string {
  if (points.length <= most + 1) return points.map(name).join(", ");
  return `${points.slice(0, most).map(name).join(", ")} and ${points.length - most} more`;
}

/** What was noticed, by identity: ids of points for rows in the table, keys of lines for indices in the list. */
export function byIdentity(noticed: readonly Noticed[], id: ArrayLike<number>, lineKeys: readonly string[]): Finding[] {
  const seen = new Map<string, number>();
  return noticed.map(({ subject, words, ...f }) => {
    const points = f.points.map((i) => id[i]!),
      lines = f.lines.map((k) => lineKeys[k]!);
    const about = `${f.kind}: ${subject ?? [points.join(" "), lines.join(" ")].filter(Boolean).join(", ")}`,
      times = (seen.get(about) ?? 0) + 1;
    seen.set(about, times);
    return {
      ...f,
      key: times > 1 ? `${about} (${times})` : about,
      points,
      lines,
      words: words.map((w) =>
        typeof w === "string"
          ? w
          : "line" in w
            ? { line: lineKeys[w.line]! }
            : { ...w, points: w.points.map((i) => id[i]!) },
      ),
    };
  });
}

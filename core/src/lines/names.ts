/** Names and colours of lines of their own, beside what their codes are called: plots, owners, streets. */
import { notice, say, type Noticed } from "../finding";
import { sameJson } from "../math/json";
import { findPoints, type PointRef, type RefColumns } from "../points/refs";
import { lineName, type HandLine, type Line } from "./model";
import { lineIndex, type LineRef } from "./refs";

/** One line, or all of a code and run, of a delivery where one is said. */
export type LinesNamed = LineRef | { code: string; run: string; intake?: string };

/** A name, a colour, or both, of a line of its own. */
export interface LineName extends OwnName {
  line: LinesNamed;
}

export interface OwnName {
  name?: string;
  /** As `#8a5a2b`. */
  color?: string;
}

/** By the keys of lines. */
export type OwnNames = ReadonlyMap<string, OwnName>;

/** The line that a name is for, in words by which no two names are the same. */
export function lineNamed(line: LinesNamed): string {
  if ("hand" in line) return `by hand: ${line.hand}`;
  const { code, run } = line;
  if ("from" in line) return `${lineName({ code, run })} from ${line.from.replace("\t", " as ")}`;
  return `${lineName({ code, run })}${line.intake === undefined ? "" : ` of ${line.intake}`}`;
}

/** What the line is called: by its own name where it has one. */
export const lineTitle = (line: Pick<Line, "key" | "code" | "run">, own: OwnNames): string =>
  own.get(line.key)?.name ?? lineName(line);

/** The next free name of a hand line: `by hand 1`, `by hand 2`, … */
export function freeLineName(taken: ReadonlySet<string | undefined>): string {
  let k = 1;
  while (taken.has(`${UNNAMED}${k}`)) k++;
  return `${UNNAMED}${k}`;
}
const UNNAMED = "by hand ";
/** Whether nobody gave the hand line this name. */
const isUnnamed = (name: string) =>
  name.startsWith(UNNAMED) && name.length > UNNAMED.length && Number.isInteger(Number(name.slice(UNNAMED.length)));

/** What names and lines by hand say, by the lines' keys, and the names that no line has. */
export function ownNames(
  names: readonly LineName[],
  handLines: readonly HandLine[],
  lines: readonly Line[],
  t: RefColumns,
  intakes: readonly { id: string }[],
): { own: OwnNames; lost: LineName[] } {
  const own = new Map<string, OwnName>(),
    lost: LineName[] = [];
  if (names.length === 0 && handLines.length === 0) return { own, lost };
  const byHand = new Map(handLines.map((l) => [l.name, l]));
  for (const l of lines) {
    if (l.hand === undefined || l.companion) continue;
    const { name = "", color } = byHand.get(l.hand) ?? {};
    if (!isUnnamed(name) || color)
      own.set(l.key, { ...(isUnnamed(name) ? {} : { name }), ...(color ? { color } : {}) });
  }
  if (names.length === 0) return { own, lost };
  const one = lineIndex(lines, findPoints(t, intakes).rowOf),
    called = new Map<string, Line[]>();
  for (const l of lines)
    if (!l.companion && l.hand === undefined)
      (called.get(nameOfRun(l)) ?? called.set(nameOfRun(l), []).get(nameOfRun(l))!).push(l);
  const all = (of: LinesNamed): Line[] => {
    if ("hand" in of || "from" in of) {
      const k = one(of);
      return k < 0 ? [] : [lines[k]!];
    }
    const { intake } = of;
    return (called.get(nameOfRun(of)) ?? []).filter((l) => intake === undefined || intakes[l.intake]?.id === intake);
  };
  // What is said of one line goes before what is said of all of its code.
  const isOfOne = ({ line }: LineName) => Number("hand" in line || "from" in line);
  for (const n of [...names].sort((a, b) => isOfOne(a) - isOfOne(b))) {
    const { line, ...said } = n,
      meant = all(line);
    if (meant.length === 0) lost.push(n);
    for (const l of meant) own.set(l.key, { ...own.get(l.key), ...said });
  }
  return { own, lost };
}

/** Whether the same lines are called the same, so that nothing is drawn again. */
export const sameNames = (a: ReturnType<typeof ownNames>, b: ReturnType<typeof ownNames>): boolean =>
  sameJson([[...a.own], a.lost], [[...b.own], b.lost]);

const nameOfRun = ({ code, run }: { code: string; run: string }) => `${code.toUpperCase()} ${run}`;

/** Names of lines that are not drawn: their code, run or first shot is another now. */
export function lostNames(lost: readonly LineName[], numberOf: (ref: PointRef) => string): Noticed[] {
  return lost.map(({ line, name, color }) => {
    const of =
      "hand" in line
        ? `the line “${line.hand}” drawn by hand`
        : `line ${lineName(line)}${"from" in line ? ` from point ${numberOf(line.from)}` : ""}`;
    return notice(
      "name-lost",
      "warning",
      say`The ${name === undefined ? `colour ${color!}` : `name “${name}”`} is for ${of}, which is not drawn: nothing is called so.`,
      { subject: lineNamed(line) },
    );
  });
}

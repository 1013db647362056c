/**
 * Which lines are breaklines, and the fixed ones as chains of positions whose levels are all known (RECIPE.md,
 * "SURFACE"). East, north and level in the job's unit.
 */
import { append } from "../math/many";
import { refusal } from "../errors";
import { pts, say, type Word } from "../finding";
import type { Line } from "../lines/model";
import { wildcard } from "../math/words";
import { chordsOfLeg, type ReferenceLine } from "../records/reference";
import { addedBy, densified, thinned, type BreakPosition, type Thinned } from "./thin";
import type { LineWanted, Refused, SurfaceRecipe } from "./model";
import type { SurfaceSources } from "./sources";

export interface BreakChain {
  /** Index of the line; from the count of lines on one of `ofFiles`. */
  line: number;
  positions: BreakPosition[];
}

/** The lines that a surface takes as breaklines. */
export interface Breaklines {
  /** By their indices in the list of lines. */
  draped: number[];
  fixed: number[];
  /** Lines of files, with what they are called. */
  ofFiles: { line: ReferenceLine; called: string }[];
  /** Pieces left out, by the table rows of their shots: `3 4`, the smaller first. */
  without: ReadonlySet<string>;
}

const pieceKey = (a: number, b: number) => (a < b ? `${a} ${b}` : `${b} ${a}`);

/** What names one line in a recipe. */
export function lineWanted(
  line: { code: string; run: string; intake: number },
  intakes: readonly { id: string }[],
): LineWanted {
  const intake = intakes[line.intake]?.id;
  return { code: line.code, ...(line.run ? { run: line.run } : {}), ...(intake === undefined ? {} : { intake }) };
}

/** The codes whose lines a recipe takes as breaklines: where it names none, all that the book says. */
export const breaklineCodes = ({ breaklines }: Pick<SurfaceRecipe, "breaklines">): readonly string[] =>
  breaklines?.codes ?? ["*"];

/** The lines that a recipe takes as breaklines; what it names and is not there is refused by name. */
export function breaklinesOf(
  { breaklines = {} }: SurfaceRecipe,
  { lines, intakes = [], fileLines, found }: Pick<SurfaceSources, "lines" | "intakes" | "fileLines" | "found">,
  refused: Refused[] = [],
): Breaklines {
  const codes = breaklineCodes({ breaklines }).map(wildcard),
    out: Breaklines = { draped: [], fixed: [], ofFiles: [], without: new Set() };
  const isOne = (w: LineWanted) => (l: Line) =>
    "code" in w &&
    l.code.toUpperCase() === w.code.toUpperCase() &&
    (w.run === undefined || l.run === w.run) &&
    (w.intake === undefined || intakes[l.intake] === w.intake);
  const also = (breaklines.also ?? []).map(isOne),
    except: ReturnType<typeof isOne>[] = [],
    without = new Set<string>();
  for (const x of breaklines.except ?? [])
    if (!("pieces" in x)) except.push(isOne(x));
    else
      for (const [from, to] of x.pieces) {
        const [a, b] = [found?.rowOf(from) ?? -1, found?.rowOf(to) ?? -1];
        if (a >= 0 && b >= 0) without.add(pieceKey(a, b));
      }
  lines.forEach((line, index) => {
    const kind = line.entry.breakline ?? "none",
      named = kind !== "none" && codes.some((is) => is(line.code));
    if (except.some((is) => is(line)) || !(named || also.some((is) => is(line)))) return;
    out[kind === "draped" ? "draped" : "fixed"].push(index);
  });
  (breaklines.also ?? []).forEach((w, k) => {
    if ("code" in w) {
      if (!lines.some(also[k]!))
        refused.push({ what: [`breakline ${w.code} ${w.run ?? ""}`.trim()], why: ["it is not there"] });
      return;
    }
    const found = (fileLines?.(w.file) ?? []).filter((l) => w.line === undefined || l.name === w.line);
    const called = (l?: ReferenceLine) => `“${l?.name || (w.line ?? "")}” of ${w.file}`;
    if (found.length === 0) refused.push({ what: [`breakline ${called()}`], why: ["it is not there"] });
    for (const line of found) out.ofFiles.push({ line, called: called(line) });
  });
  return { ...out, without };
}

/** Densifying adds no more vertices than this. */
const MOST_ADDED = 1_000_000;

/** The chains of fixed breaklines, and what thinning and densifying did to them. */
export interface FixedChains {
  chains: BreakChain[];
  thinned: Thinned;
  densified: number;
}

/**
 * A position without a usable level keeps its plan position and takes its level linearly by plan length between the
 * usable ones either side; at the ends, where there is none, the piece is refused by name.
 */
export function fixedChains(
  { fixed, ofFiles, without }: Breaklines,
  { lines, chains, tolerance, unit }: Pick<SurfaceSources, "lines" | "chains" | "tolerance" | "unit">,
  { thin = 0, densify = 0 }: NonNullable<SurfaceRecipe["breaklines"]>,
  refused: Refused[],
): FixedChains {
  // Shorter pieces would be linked to one position, the whole line with them.
  if (densify > 0 && densify <= 2 * tolerance.coincident)
    throw refusal("request-wrong", {
      why:
        `Pieces of at most ${densify} ${unit} would count as one position, ` +
        `as all within ${tolerance.coincident} ${unit} does; choose longer ones`,
    });
  const out: FixedChains = { chains: [], thinned: { rows: new Set(), count: 0, most: 0 }, densified: 0 };
  const take = (line: number, name: Word<number, number>[], closed: boolean, positions: BreakPosition[]) => {
    for (const part of levelled(name, closed, positions, refused)) {
      const straight = thin > 0 ? thinned(part, thin, out.thinned) : part,
        added = densify > 0 ? addedBy(straight, densify) : 0;
      out.densified += added;
      if (out.densified > MOST_ADDED)
        throw refusal("request-wrong", {
          why: `Pieces of at most ${densify} would add more than ${MOST_ADDED} vertices to breaklines; choose longer ones`,
        });
      const dense = added > 0 ? densified(straight, densify) : straight;
      out.chains.push({ line, positions: dense });
    }
  };
  const { xyz, shot, starts } = chains;
  for (const line of fixed) {
    const positions: BreakPosition[] = [];
    for (let i = starts[line]!; i < starts[line + 1]!; i++) {
      const z = xyz[3 * i + 2]!;
      positions.push({ e: xyz[3 * i]!, n: xyz[3 * i + 1]!, z, shot: shot[i]!, own: shot[i]! >= 0 && !Number.isNaN(z) });
    }
    const name = say`breakline ${{ line }}`,
      parts = withoutPieces(positions, without);
    for (const part of parts) take(line, name, lines[line]!.closed && parts.length === 1 && part === positions, part);
  }
  ofFiles.forEach(({ line, called }, k) =>
    take(lines.length + k, [`breakline ${called}`], line.closed, positionsOf(line)),
  );
  // What another line still has is a point as before.
  for (const c of out.chains) for (const p of c.positions) out.thinned.rows.delete(p.shot);
  return out;
}

/** A line of a file: its corners with their levels, and on arcs positions whose level follows from those. */
function positionsOf(l: ReferenceLine): BreakPosition[] {
  const corners = l.xyz.length / 3,
    at = ([e, n]: readonly [number, number], z: number): BreakPosition => ({ e, n, z, shot: -1, own: false });
  if (l.sweep.length === 0) return [];
  const positions = [at([l.xyz[0]!, l.xyz[1]!], l.xyz[2]!)];
  for (let k = 0; k < l.sweep.length; k++) {
    const way = chordsOfLeg(l, k),
      level = l.xyz[3 * ((k + 1) % corners) + 2]!;
    for (let i = 1; i < way.length; i++) positions.push(at(way[i]!, i === way.length - 1 ? level : NaN));
  }
  return positions;
}

/** What is left of a chain without some of its pieces between consecutive shots; itself where it has none of them. */
function withoutPieces(positions: BreakPosition[], without: ReadonlySet<string>): BreakPosition[][] {
  if (without.size === 0) return [positions];
  const parts: BreakPosition[][] = [];
  let from = 0,
    last = -1;
  positions.forEach((p, k) => {
    if (p.shot < 0) return;
    if (last >= 0 && without.has(pieceKey(positions[last]!.shot, p.shot))) {
      parts.push(positions.slice(from, last + 1));
      from = k;
    }
    last = k;
  });
  if (from === 0) return [positions];
  parts.push(positions.slice(from));
  return parts.filter((part) => part.length > 1);
}

function levelled(
  name: Word<number, number>[],
  closed: boolean,
  positions: BreakPosition[],
  refused: Refused[],
): BreakPosition[][] {
  if (closed) startAtKnown(positions);
  const known = positions.flatMap((p, k) => (Number.isNaN(p.z) ? [] : [k]));
  if (positions.length < 2) return [];
  if (known.length < 2 && known.length < positions.length) {
    refused.push({
      what: name,
      why: [known.length ? "only one of its shots has a usable level" : "none of its shots has a usable level"],
    });
    return [];
  }
  for (let k = 1; k < known.length; k++) interpolate(positions, known[k - 1]!, known[k]!);
  const first = known[0]!,
    last = known.at(-1)!;
  for (const [cut, end] of [
    [first > 0, positions[0]],
    [last < positions.length - 1, positions.at(-1)],
  ] as const) {
    if (cut)
      refused.push({
        what: name,
        why:
          end!.shot >= 0
            ? say`its end at point ${pts(end!.shot)} has no usable level`
            : ["its end has no usable level"],
      });
  }
  return [positions.slice(first, last + 1)];
}

/** A ring has no ends: it is turned so that it begins, and so ends, at a position whose level is known. */
function startAtKnown(positions: BreakPosition[]): void {
  const first = positions.findIndex((p) => !Number.isNaN(p.z));
  if (first <= 0) return;
  positions.pop();
  append(positions, positions.splice(0, first));
  positions.push({ ...positions[0]! });
}

function interpolate(positions: BreakPosition[], a: number, b: number): void {
  if (b === a + 1) return;
  const along = [0];
  for (let k = a + 1; k <= b; k++)
    along.push(
      along.at(-1)! + Math.hypot(positions[k]!.e - positions[k - 1]!.e, positions[k]!.n - positions[k - 1]!.n),
    );
  const whole = along.at(-1)!;
  for (let k = a + 1; k < b; k++) {
    const t = whole === 0 ? 0 : along[k - a]! / whole;
    positions[k]!.z = positions[a]!.z + t * (positions[b]!.z - positions[a]!.z);
  }
}

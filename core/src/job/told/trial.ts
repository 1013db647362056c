/** What a change would do, before it is made: points, lines, findings and comparisons before and after. */
import { changeDetails, detailNames, type ChangeDetail } from "../change/details";
import { sentenceOf, type FindingKind } from "../../finding";
import { lineName, type Line } from "../../lines/model";
import { codeOf } from "../../codes/read";
import { differingCells, type CellValue } from "../../points/differing";
import { rowOf } from "../../points/table";
import type { Surface, SurfaceReport } from "../../surface/model";
import { outlineOf } from "../../surface/outline";
import { changedContours } from "../../surface/changed-contours";
import { applyChange, type EditableChange } from "../change/change";
import type { Chain } from "../chain/chain";
import { asItStands } from "../chain/standing";
import type { JobState } from "../model/model";
import { namesIn } from "./summary";
import type { Derived } from "../chain/values";

export interface Trial {
  points: ChangeDetail[];
  morePoints: number;
  /** Lines that become others: their lengths in plan, null where there is none. */
  lines: { name: string; was: number | null; now: number | null }[];
  /** Findings that go and that come, in words; those of levels are looked for once it is done. */
  gone: string[];
  come: string[];
  volumes: { name: string; was: Sums | null; now: Sums | null }[];
  /** Surfaces that are built anew; null where there is none. */
  surfaces: { name: string; was: SurfaceReport | null; now: SurfaceReport | null }[];
  /** For the table: what stands in the cells that become others, the first of many. */
  cells: CellValue[];
  /** For the sheet: ways (E, N, E, N …) of lines and contours that become others, and positions of the points. */
  ways: number[][];
  contours: number[][];
  /** Outlines of those surfaces. */
  edges: number[][];
  at: [number, number][];
}
interface Sums {
  cut: number;
  fill: number;
  net: number;
}

const MOST = 200,
  MOST_CELLS = 1000,
  /** Vertices of contours. */
  MOST_VERTICES = 50_000;
const LATER: readonly FindingKind[] = ["spike", "height-run"];

/** Runs a change through a chain and puts that back; throws a Refusal where the change cannot be made. */
export function tryChange(chain: Chain, state: JobState, now: Derived, change: EditableChange): Trial {
  const next = applyChange(state, change),
    after = chain.run(next, true);
  try {
    return effectOf(asItStands(state, now), now, asItStands(next, after), after, change);
  } finally {
    chain.run(state, true);
  }
}

/**
 * What became of a job and of all that follows from it; `change` is what led there. With `levels` those findings are told
 * too that the check of levels makes.
 */
export function effectOf(
  was: JobState,
  before: Derived,
  is: JobState,
  after: Derived,
  change: EditableChange,
  levels = false,
): Trial {
  const { details, more } = changeDetails(change, detailNames(is.points, is.intakes, is.unit), MOST);
  const others = otherLines(before.lines, after.lines);
  const keys = (d: Derived) => new Set(d.findings.map((f) => f.key)),
    [had, has] = [keys(before), keys(after)];
  const told = (s: JobState, d: Derived, besides: ReadonlySet<string>) => {
    const names = namesIn(s.points, d.lines);
    return d.findings
      .filter((f) => !besides.has(f.key) && (levels || !LATER.includes(f.kind)) && f.accepted === undefined)
      .map((f) => sentenceOf(f, names));
  };
  const names = [...new Set([...before.surfaces, ...after.surfaces].map((s) => s.name))],
    named = (list: Derived["surfaces"], name: string) => list.find((s) => s.name === name);
  const changed = names
    .map((name) => ({ name, old: named(before.surfaces, name), now: named(after.surfaces, name) }))
    .filter(({ old, now }) => old !== now);
  const index = new Map(after.lines.map((l, k) => [l.key, k]));
  const points = new Set(details.flatMap((d) => ("point" in d.subject ? [d.subject.point] : [])));
  return {
    points: details,
    morePoints: more,
    lines: others.map(({ old, made }) => ({
      name: lineName((made ?? old)!),
      was: old?.length ?? null,
      now: made?.length ?? null,
    })),
    gone: told(was, before, has),
    come: told(is, after, had),
    volumes: after.volumes.map((v) => ({
      name: v.name,
      was: sumsOf(before.volumes.find((x) => x.name === v.name)),
      now: sumsOf(v),
    })),
    cells: [...differingCells(was.points, is.points, MOST_CELLS), ...codesRead(was, before, is, after)],
    surfaces: changed.map(({ name, old, now }) => ({ name, was: reportOf(old), now: reportOf(now) })),
    edges: changed.flatMap(({ now }) => (now?.ok ? outlineOf(now.value.surface, MOST_VERTICES) : [])),
    contours: changedContours(made(before.contours), made(after.contours), MOST_VERTICES),
    ways: others.slice(0, MOST).flatMap(({ made }) => wayOf(after, made && index.get(made.key))),
    at: [...points].flatMap((id): [number, number][] => {
      const i = rowOf(is.points, id);
      return i < 0 ? [] : [[is.points.e[i]!, is.points.n[i]!]];
    }),
  };
}

interface OtherLine {
  old?: Line;
  made?: Line;
}

/**
 * Lines that are others than they were, by their keys. Where a delivery was read again its shots, and so its lines' keys,
 * are new: then by their names in it.
 */
function otherLines(before: readonly Line[], after: readonly Line[]): OtherLine[] {
  const olds = new Map(before.map((l) => [l.key, l])),
    news = new Map(after.map((l) => [l.key, l])),
    nameOf = (l: Line) => `${l.intake} ${lineName(l)}`,
    came = new Map<string, Line[]>(),
    out: OtherLine[] = [];
  for (const made of after) {
    if (olds.has(made.key)) continue;
    const list = came.get(nameOf(made));
    if (list) list.push(made);
    else came.set(nameOf(made), [made]);
  }
  for (const old of before) {
    const list = came.get(nameOf(old)),
      made = news.get(old.key) ?? list?.shift();
    if (!sameLine(old, made)) out.push({ old, ...(made ? { made } : {}) });
  }
  for (const list of came.values()) for (const made of list) out.push({ made });
  return out;
}

/** Drawn alike, though it may have been worked out anew. */
function sameLine(a: Line | undefined, b: Line | undefined): boolean {
  if (a === b || !a || !b) return a === b;
  // Which rows the shots have is another thing.
  const drawn = ({ code, run, closed, pieces }: Line) =>
    JSON.stringify([code, run, closed, pieces], (key, value: unknown) => (key === "shots" ? undefined : value));
  return drawn(a) === drawn(b);
}

type MadeSurface = Derived["surfaces"][number];

/** The same triangles, though they may have been built anew. */
export function sameSurface(a: MadeSurface | undefined, b: MadeSurface | undefined): boolean {
  if (a === b) return true;
  if (!a?.ok || !b?.ok) return a?.ok === false && b?.ok === false && a.refusal.message === b.refusal.message;
  const [s, t] = [a.value.surface, b.value.surface],
    columns = (m: Surface) => [m.origin, m.x, m.y, m.z, m.tri];
  return columns(s).every((column, k) => sameNumbers(column, columns(t)[k]!));
}

function sameNumbers(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
}

const sumsOf = (v: Derived["volumes"][number] | undefined): Sums | null =>
  v?.ok ? { cut: v.value.cut, fill: v.value.fill, net: v.value.net } : null;

const made = (list: Derived["contours"]) => list.flatMap((c) => (c.ok ? [c.value] : []));

/** Codes that points are read as now and were not before. */
function codesRead(was: JobState, { coded: old }: Derived, is: JobState, { coded }: Derived): CellValue[] {
  const cells: CellValue[] = [];
  if (coded === old) return cells;
  for (let i = 0; i < is.points.count && cells.length < MOST_CELLS; i++) {
    const id = is.points.id[i]!,
      before = was.points.id === is.points.id ? i : rowOf(was.points, id),
      value = codeOf(coded, i);
    if (before >= 0 && codeOf(old, before) !== value) cells.push({ id, field: "code", value });
  }
  return cells;
}

const reportOf = (s: Derived["surfaces"][number] | undefined): SurfaceReport | null => (s?.ok ? s.value.report : null);

function wayOf({ chains }: Derived, line: number | undefined): number[][] {
  if (line === undefined) return [];
  const way: number[] = [];
  for (let v = chains.starts[line]!; v < chains.starts[line + 1]!; v++)
    way.push(chains.xyz[3 * v]!, chains.xyz[3 * v + 1]!);
  return way.length > 2 ? [way] : [];
}

/** What a delivery has in common with what is there already: numbers used twice, and a whole delivery come again. */
import { numberIndex } from "../../points/index";
import { descriptionOf, type PointTable } from "../../points/table";

/** An incoming point whose number is there already, with both positions. Levels are NaN when missing. */
export interface LookedClash {
  number: string;
  row: number;
  e: number;
  n: number;
  z: number;
  there: { from: string; e: number; n: number; z: number };
  /** Position, level and description are those that are there: nothing new is said. */
  same: boolean;
}

/** How a delivery compares with the earlier one that it repeats. */
export interface Repeated {
  /** The earlier delivery's file. */
  file: string;
  fresh: number;
  same: number;
  changed: number;
  /** Numbers of the earlier delivery that this one has not. */
  gone: string[];
}

interface Job {
  points: PointTable;
  intakes: readonly { file: string }[];
}

/** Each number used twice, with both positions: in the job, or earlier in the same file. */
export function clashesOf(job: Job, t: PointTable, clashes: readonly { number: string; row: number }[]): LookedClash[] {
  if (clashes.length === 0) return [];
  const index = numberIndex(job.points),
    mine = new Map(Array.from(t.number, (n, i) => [n, i] as const).reverse()),
    byRow = new Map(Array.from(t.row, (r, i) => [r, i]));
  return clashes.map(({ number, row }) => {
    const i = byRow.get(row)!,
      there = index.get(number);
    const [table, k, from] =
      there !== undefined
        ? ([job.points, there, job.intakes[job.points.intake[there]!]?.file ?? ""] as const)
        : ([t, mine.get(number) ?? i, "this file"] as const);
    return {
      number,
      row,
      e: t.e[i]!,
      n: t.n[i]!,
      z: t.z[i]!,
      there: { from, e: table.e[k]!, n: table.n[k]!, z: table.z[k]! },
      same: k !== i || table !== t ? saysTheSame(t, i, table, k) : false,
    };
  });
}

function saysTheSame(a: PointTable, i: number, b: PointTable, k: number): boolean {
  return (
    a.e[i] === b.e[k] &&
    a.n[i] === b.n[k] &&
    Object.is(a.z[i]! + 0, b.z[k]! + 0) &&
    descriptionOf(a, i) === descriptionOf(b, k)
  );
}

/** The earlier delivery that this one repeats: the one of which it has at least half the numbers; undefined for none. */
export function repeatedDelivery(job: Job, t: PointTable, clashes: readonly LookedClash[]): Repeated | undefined {
  const index = numberIndex(job.points);
  const met = new Map<number, number>();
  for (const { number } of clashes) {
    const there = index.get(number);
    if (there !== undefined) met.set(job.points.intake[there]!, (met.get(job.points.intake[there]!) ?? 0) + 1);
  }
  const [intake, count] = [...met].sort((a, b) => b[1] - a[1])[0] ?? [];
  if (intake === undefined) return undefined;
  const numbers = new Set(t.number),
    gone: string[] = [];
  let living = 0;
  for (let i = 0; i < job.points.count; i++) {
    if (job.points.intake[i] !== intake || job.points.deleted[i]) continue;
    living++;
    if (!numbers.has(job.points.number[i]!)) gone.push(job.points.number[i]!);
  }
  if (count! * 2 < living) return undefined;
  const inJob = clashes.filter((c) => index.has(c.number)),
    same = inJob.filter((c) => c.same).length;
  return {
    file: job.intakes[intake]?.file ?? "",
    fresh: t.count - inJob.length,
    same,
    changed: inJob.length - same,
    gone,
  };
}

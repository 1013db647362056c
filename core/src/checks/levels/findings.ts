/** What the check of levels found, in words, and the levels that neighbours say of points that have none. */
import { notice, pts, say, type Noticed } from "../../finding";
import { lengthText, METRES, type Unit } from "../../math/units";
import { plural } from "../../math/words";
import { shotsByIntake } from "../../points/shots";
import type { PointTable } from "../../points/table";
import type { Line } from "../../lines/model";
import { levelsAlong, type AlongLine } from "./along";
import type { LevelField } from "./field";
import type { LevelsChecked } from "./levels";
import type { Run } from "./verdict";
import type { Spike } from "./spikes";

type Columns = Pick<PointTable, "count" | "e" | "n" | "z" | "targetHeight" | "deleted" | "intake" | "row" | "time">;

/** Spikes and height runs as findings; points of a run are all shots that were taken between its ends. */
export function levelFindings(found: LevelsChecked, t: Columns, lines: readonly Line[], unit: Unit): Noticed[] {
  const { field } = found,
    along = levelsAlong(lines, rowsOf(found.spikes, field), t.e, t.n, believed(found, t, unit));
  return [
    ...found.spikes.map((s) => spikeFinding(s, field.row[s.shot]!, along.get(field.row[s.shot]!), t, unit)),
    ...found.runs.map((run) => runFinding(run, field, t, unit)),
  ];
}

const rowsOf = (spikes: readonly Spike[], field: LevelField) => spikes.map((s) => field.row[s.shot]!);

/** The level of each row with what was found taken off. */
function believed({ field, levels }: LevelsChecked, t: Columns, unit: Unit): (row: number) => number {
  const at = new Int32Array(t.count).fill(-1);
  field.row.forEach((row, shot) => (at[row] = shot));
  return (row) => (at[row]! < 0 ? NaN : field.origin[2] + levels.z[at[row]!]! / METRES[unit]);
}

function spikeFinding(s: Spike, i: number, line: AlongLine | undefined, t: Columns, unit: Unit): Noticed {
  const predicted = line?.level ?? t.z[i]! - s.residual / METRES[unit],
    residual = t.z[i]! - predicted;
  const words = [
    ...say`Point ${pts(i)} stands ${lengthText(Math.abs(residual), unit, 2)} ${residual > 0 ? "above" : "below"} `,
    line ? "the level of its line by " : "the level of the shots round it, ",
    ...(line ? say`points ${pts([...line.by])}, ` : []),
    `${lengthText(predicted, unit, 2)}: give it that level, keep it out of surfaces, or accept it.`,
  ];
  return notice("spike", "warning", words, {
    points: [i],
    at: [t.e[i]!, t.n[i]!],
    data: { residual, predicted, scale: s.scale / METRES[unit] },
  });
}

function runFinding(run: Run, field: LevelField, t: Columns, unit: Unit): Noticed {
  const points = shotsOfRun(run, field, t),
    [first, last] = [points[0]!, points.at(-1)!];
  const clear = !run.unclear,
    shift = run.shift / METRES[unit],
    sigma = run.sigma / METRES[unit];
  const heights = new Set(points.map((i) => t.targetHeight[i]!)),
    written = heights.size === 1 ? [...heights][0]! : NaN,
    targetHeight = Number.isNaN(written) ? null : written,
    suggested = targetHeight === null || !clear ? null : targetHeight + shift;
  const cause =
    suggested === null
      ? "a target height was likely written wrongly"
      : `the target height written as ${lengthText(targetHeight!, unit, 2)} was likely ${lengthText(suggested, unit, 2)}`;
  const words = [
    ...say`${plural(points.length, "shot")} in a row, ${pts(first)} to ${pts(last)}, lie `,
    clear ? `${lengthText(Math.abs(shift), unit, 2)} ± ${lengthText(sigma, unit, 2)} ` : "",
    `too ${shift > 0 ? "high" : "low"} against the shots round them: ${cause}.`,
    clear
      ? ""
      : " By how much, and where that begins and ends, is not clear: ask the crew, or measure two of them again.",
  ].filter((w) => w !== "");
  return notice("height-run", "warning", words, {
    points,
    at: [t.e[first]!, t.n[first]!],
    data: { shift: clear ? shift : null, sigma: clear ? sigma : null, targetHeight, suggested, unclear: run.unclear },
  });
}

/** Rows of all living shots of the crew from the first to the last of a run, whatever their codes. */
function shotsOfRun(run: Run, field: LevelField, t: Columns): number[] {
  const first = field.row[field.order[run.from]!]!,
    last = field.row[field.order[run.to]!]!;
  const shots = shotsByIntake(t).find((s) => s.includes(first))!;
  return Array.from(shots.subarray(shots.indexOf(first), shots.indexOf(last) + 1));
}

/** Of more points without a level none is said: it would be a terrain of its own. */
const MOST_PREDICTED = 20_000;

/**
 * The levels that neighbours say, in the job's unit, of the rows that have none of their own: those of a line where it is
 * a shot of one, else the shots round about.
 */
export function predictedLevels(
  found: LevelsChecked,
  t: Columns,
  lines: readonly Line[],
  rows: readonly number[],
  unit: Unit,
): Map<number, number> {
  const out = new Map<number, number>(),
    { origin } = found.field,
    some = rows.slice(0, MOST_PREDICTED);
  for (const [row, { level }] of levelsAlong(lines, some, t.e, t.n, believed(found, t, unit))) out.set(row, level);
  for (const i of some) {
    if (out.has(i)) continue;
    const m = METRES[unit],
      by = found.predictor.predictor((t.e[i]! - origin[0]) * m, (t.n[i]! - origin[1]) * m);
    if (!by) continue;
    const level = by.shots.reduce((sum, s, k) => sum + by.weights[k]! * found.levels.z[s]!, 0);
    out.set(i, origin[2] + level / m);
  }
  return out;
}

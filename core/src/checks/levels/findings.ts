/** What the check of levels found, in words, and the levels that neighbours say of points that have none. */
import { notice, pts, say, type Noticed } from "../../finding";
import { lengthText, METRES, type Unit } from "../../math/units";
import { plural } from "../../math/words";
import { shotsByIntake } from "../../points/shots";
import type { PointTable } from "../../points/table";
import type { LevelField } from "./field";
import type { LevelsChecked } from "./levels";
import type { Run } from "./runs";

type Columns = Pick<PointTable, "count" | "e" | "n" | "z" | "targetHeight" | "deleted" | "intake" | "row" | "time">;

/** Spikes and height runs as findings; points of a run are all shots that were taken between its ends. */
export function levelFindings(found: LevelsChecked, t: Columns, unit: Unit): Noticed[] {
  const { field } = found;
  return [
    ...found.spikes.map((s) => {
      const i = field.row[s.shot]!,
        residual = s.residual / METRES[unit],
        predicted = t.z[i]! - residual;
      const words = [
        ...say`Point ${pts(i)} stands ${lengthText(Math.abs(residual), unit, 2)} ${residual > 0 ? "above" : "below"} `,
        `the level of the shots round it, ${lengthText(predicted, unit, 2)}: give it that level, keep it out of surfaces, `,
        "or accept it.",
      ];
      return notice("spike", "warning", words, {
        points: [i],
        at: [t.e[i]!, t.n[i]!],
        data: { residual, predicted, scale: s.scale / METRES[unit] },
      });
    }),
    ...found.runs.map((run) => runFinding(run, field, t, unit)),
  ];
}

function runFinding(run: Run, field: LevelField, t: Columns, unit: Unit): Noticed {
  const points = shotsOfRun(run, field, t),
    [first, last] = [points[0]!, points.at(-1)!];
  const shift = run.shift / METRES[unit],
    sigma = run.sigma / METRES[unit];
  const heights = new Set(points.map((i) => t.targetHeight[i]!)),
    written = heights.size === 1 ? [...heights][0]! : NaN,
    targetHeight = Number.isNaN(written) ? null : written,
    suggested = targetHeight === null ? null : targetHeight + shift;
  const cause =
    suggested === null
      ? "a target height was likely written wrongly"
      : `the target height written as ${lengthText(targetHeight!, unit, 2)} was likely ${lengthText(suggested, unit, 2)}`;
  const words = [
    ...say`${plural(points.length, "shot")} in a row, ${pts(first)} to ${pts(last)}, lie `,
    `${lengthText(Math.abs(shift), unit, 2)} ± ${lengthText(sigma, unit, 2)} too ${shift > 0 ? "high" : "low"} `,
    `against the shots round them: ${cause}.`,
    run.unclear ? " How much, and where it begins and ends, is not clear." : "",
  ].filter((w) => w !== "");
  return notice("height-run", "warning", words, {
    points,
    at: [t.e[first]!, t.n[first]!],
    data: { shift, sigma, targetHeight, suggested, unclear: run.unclear },
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

/** The level that the shots round about say, in the job's unit, of the rows that have none of their own. */
export function predictedLevels(found: LevelsChecked, t: Columns, rows: readonly number[], unit: Unit) {
  const out = new Map<number, number>(),
    { origin } = found.field;
  for (const i of rows.slice(0, MOST_PREDICTED)) {
    const m = METRES[unit],
      by = found.predictor.predictor((t.e[i]! - origin[0]) * m, (t.n[i]! - origin[1]) * m);
    if (!by) continue;
    const level = by.shots.reduce((sum, s, k) => sum + by.weights[k]! * found.levels.z[s]!, 0);
    out.set(i, origin[2] + level / m);
  }
  return out;
}

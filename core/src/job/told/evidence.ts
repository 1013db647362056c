/** What a finding about levels rests on, to be drawn: a spike among its neighbours, a height run along its shots. */
import type { LevelField } from "../../checks/levels/field";
import type { LevelsChecked } from "../../checks/levels/levels";
import type { Finding } from "../../finding";
import { METRES } from "../../math/units";
import { rowOf } from "../../points/table";
import type { JobState } from "../model/model";

/** Lengths in the job's unit; points by their rows. */
export type Evidence =
  | {
      what: "section";
      /** Neighbours by their distance from the point down the slope of the ground. */
      shots: { row: number; along: number; level: number }[];
      own: number | undefined;
      predicted: number;
    }
  | {
      what: "run";
      /** In the order of the crew, some before and after: how far each is off what the shots round it say. */
      shots: { row: number; residual: number; inside: boolean }[];
      /** Undefined where it is not clear. */
      shift: number | undefined;
    };

/** Shots before and after a run. */
const BESIDE = 15;

export function evidenceOf(
  f: Finding,
  { points: t, unit }: JobState,
  checked: LevelsChecked | undefined,
): Evidence | undefined {
  const row = rowOf(t, f.points[0] ?? -1);
  if (!checked || row < 0) return undefined;
  const { field } = checked,
    m = METRES[unit];
  if (f.kind === "height-run") {
    const run = checked.runs.find((r) => field.row[field.order[r.from]!] === row);
    if (!run) return undefined;
    const shots = [];
    for (let p = run.from - BESIDE; p <= run.to + BESIDE; p++) {
      const s = field.order[p],
        residual = s === undefined ? undefined : offBy(checked, s);
      if (residual !== undefined)
        shots.push({ row: field.row[s!]!, residual: residual / m, inside: p >= run.from && p <= run.to });
    }
    return { what: "run", shots, shift: run.unclear ? undefined : run.shift / m };
  }
  const isLevel = f.kind === "spike" || f.kind === "zero-elevation" || f.kind === "no-elevation";
  if (!isLevel || typeof f.data.predicted !== "number") return undefined;
  const [x, y] = [(t.e[row]! - field.origin[0]) * m, (t.n[row]! - field.origin[1]) * m],
    round = checked.predictor.predictor(x, y);
  if (!round) return undefined;
  const [ux, uy] = downhill(field, round.shots, checked.levels.z, x, y);
  const shots = round.shots
    .map((s) => ({
      row: field.row[s]!,
      along: ((field.x[s]! - x) * ux + (field.y[s]! - y) * uy) / m,
      level: t.z[field.row[s]!]!,
    }))
    .sort((a, b) => a.along - b.along);
  const own = t.z[row]!;
  return { what: "section", shots, own: f.kind === "spike" ? own : undefined, predicted: f.data.predicted };
}

/** How far a shot's own level is off what the shots round it say, once what was found is taken off them. */
function offBy({ field, levels }: LevelsChecked, s: number): number | undefined {
  const { of } = levels.forms;
  let sum = 0,
    weight = 0;
  for (let f = of[s]!; f < of[s + 1]!; f++) {
    sum += levels.weight[f]! * levels.r[f]!;
    weight += levels.weight[f]!;
  }
  return weight > 0 ? sum / weight + field.z[s]! - levels.z[s]! : undefined;
}

/** The direction in which the plane through some shots falls; east where they are level. */
function downhill(
  { x, y }: LevelField,
  shots: readonly number[],
  z: Float64Array,
  cx: number,
  cy: number,
): [number, number] {
  const mean = shots.reduce((sum, s) => sum + z[s]!, 0) / shots.length;
  let xx = 0,
    xy = 0,
    yy = 0,
    xz = 0,
    yz = 0;
  for (const s of shots) {
    const [dx, dy, dz] = [x[s]! - cx, y[s]! - cy, z[s]! - mean];
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
    xz += dx * dz;
    yz += dy * dz;
  }
  const det = xx * yy - xy * xy,
    gx = (xz * yy - yz * xy) / det,
    gy = (yz * xx - xz * xy) / det,
    steep = Math.hypot(gx, gy);
  return steep > 1e-3 && Number.isFinite(steep) ? [-gx / steep, -gy / steep] : [1, 0];
}

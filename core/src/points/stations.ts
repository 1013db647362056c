/** The setups of all deliveries as the reduction begins: what each stands on, sights and observed, with the office's edits. */
import type { Delivered } from "../records/delivered";
import { fieldIndex } from "./index";
import { pointings, type Pointings } from "./pointings";
import type { SetupReport } from "./setup-report";
import type { SetupEdit } from "./setups";
import type { Station } from "./station";
import { rowIndex, type Position, type PointTable } from "./table";

export interface Stations {
  stations: Station[];
  /** Behind the table's rows stand those that a file states for a station or backsight which is no point of the job. */
  elsewhere: Position[];
  /** What files state of rows whose position is not given. */
  stated: ReadonlyMap<number, Position>;
}

export function stationsOf(
  t: PointTable,
  delivered: readonly Delivered[],
  edits: readonly (SetupEdit & { intakeIndex: number })[],
): Stations {
  const byRow = rowIndex(t),
    // Files name points by the numbers that these came with.
    fieldRow = fieldIndex(t);
  const stated = new Map<number, Position>();

  const elsewhere: Position[] = [];

  const stations = delivered.flatMap(({ survey }, intake): Station[] => {
    if (!survey) return [];
    // A survey speaks of its own points first, by the row that gave them, then of the job's.
    const rowOf = survey.numbers.map((number, k) => {
      const own = survey.numberRow[k] ? byRow(intake, survey.numberRow[k]!) : -1;
      return own >= 0 && !t.deleted[own] ? own : fieldRow(intake, number);
    });
    const named = new Map(survey.numbers.map((number, k) => [number, rowOf[k]!]));
    /** The row of a number; what the file states of it counts where the job has no point of that number. */
    const locate = (number: string, at: Position | undefined): number => {
      const row = named.get(number) ?? fieldRow(intake, number);
      if (!at) return row;
      if (row < 0) {
        const next = t.count + elsewhere.push(at) - 1;
        if (number !== "") named.set(number, next);
        return next;
      }
      if (row < t.count && t.follows[row] !== 0) stated.set(row, at);
      return row;
    };
    const shots = pointings(survey, rowOf, t);
    return survey.setups.map((setup, index): Station => {
      const edit = edits.find((x) => x.intakeIndex === intake && x.setup === setup.id),
        renamed = new Map(edit?.renamed?.map(({ was, is }) => [was, is]));
      for (const [was, is] of renamed) renameShots(shots, index, was, is, locate(is, undefined));
      const height = edit?.instrumentHeight ?? (Number.isNaN(setup.instrumentHeight) ? 0 : setup.instrumentHeight);
      // What the file states of the place of a sight is of the number that it wrote.
      const received = setup.backsights.map((b) =>
        renamed.has(b.number) ? { ...b, number: renamed.get(b.number)!, at: undefined } : b,
      );
      const sights = (
        edit?.backsights?.map(
          (number) => received.find((b) => b.number === number) ?? { number, circle: NaN, azimuth: NaN, at: undefined },
        ) ?? received
      ).map((b) => ({ number: b.number, row: locate(b.number, b.at), circle: b.circle, azimuth: b.azimuth }));
      const row = locate(setup.station, setup.stationAt);
      const from = shots.starts[index]!,
        to = shots.starts[index + 1]!;
      const report: SetupReport = {
        intake,
        id: setup.id,
        station: setup.station,
        instrumentHeight: height,
        receivedHeight: setup.instrumentHeight,
        backsights: [],
        orientation: NaN,
        faces: shots.faces[index]!,
        shots: to - from,
        outlying: [],
        out: edit?.out ?? false,
        sights: setup.backsights.map((b) => b.number),
        likely: [],
      };
      return { setup, report, row, height, sights, shots, from, to };
    });
  });
  return { stations, elsewhere, stated };
}

/** From now on all that a setup observed of one number is of another, which has a row of its own. */
function renameShots(p: Pointings, setup: number, was: string, is: string, row: number): void {
  const from = p.numbers.indexOf(was);
  if (from < 0 || was === is) return;
  let to = p.numbers.indexOf(is);
  if (to < 0) to = p.numbers.push(is) - 1;
  for (let k = p.starts[setup]!; k < p.starts[setup + 1]!; k++)
    if (p.number[k] === from) {
      p.number[k] = to;
      p.row[k] = row;
    }
}

/** The files that leave: each entry of the handover written from the job's state and what was derived. */
import { layOutTexts, layoutSource, TEXT_HEIGHT } from "../drawing/layout";
import type { Derived } from "../job/chain";
import type { HandoverFile, JobState } from "../job/model";
import { METRES } from "../math/units";
import { extentOf, type PointTable } from "../points/table";
import { pointsOfSelection } from "../sets/sets";
import { writeCsv } from "./csv";
import { writeDxf } from "./dxf/write";

/** The text of one file. Throws a Refusal when something it names could not be made. */
export function writeFile(file: HandoverFile, state: JobState, derived: Derived): string {
  const context = { table: state.points, coded: derived.coded, intakes: state.intakes, sets: state.sets };
  const places = pointsOfSelection(file.points ?? "*", context, `handover “${file.file}”`);
  if (file.format === "csv") return writeCsv(file, state.points, derived.coded, state.intakes, places);
  for (const c of derived.contours) if (!c.ok) throw c.refusal;
  const unitsPerMm = (state.drawing?.scale ?? paperScale(state.points, METRES[state.unit])) / 1000 / METRES[state.unit];
  const source = layoutSource(state, derived, { notes: true, points: true, contours: true });
  return writeDxf({
    unit: state.unit, book: state.book, table: state.points, coded: derived.coded, places, lines: derived.lines, chains: derived.chains, symbols: derived.symbols, contours: source.contours,
    layout: layOutTexts(source, unitsPerMm), drawing: source.drawing, textHeight: TEXT_HEIGHT * unitsPerMm, unitsPerMm,
  });
}

const SCALES = [50, 100, 200, 250, 500, 1000, 2000, 2500, 5000, 10_000, 20_000, 25_000, 50_000];

/** The largest usual scale (as its denominator) at which the points fit a sheet of 0.8 m by 0.55 m. */
export function paperScale(t: PointTable, metres: number): number {
  const x = extentOf(t);
  if (!x) return 500;
  const needed = Math.max(((x.maxE - x.minE) * metres) / 0.8, ((x.maxN - x.minN) * metres) / 0.55);
  return SCALES.find((s) => s >= needed) ?? SCALES.at(-1)!;
}

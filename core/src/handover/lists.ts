/** Lists of lines, of areas, and of setups: one row each, lengths and areas in the units asked for. */
import type { BacksightReport, SetupReport } from "../points/setup-report";
import { AREA_DECIMALS, areaUnitShort } from "../math/figures";
import { areaFactor, decimalsOf, misclosureDecimals, unitFactor } from "../math/units";
import { areaOfLine, lineFeatures, type LineFeature } from "./features";
import type { ListFile } from "./files";
import { questionsTable } from "./questions";
import type { HandoverSource } from "./source";
import type { OutColumn, OutTable } from "./table";

type ListOptions = Pick<ListFile, "of" | "unit" | "areaUnit" | "decimals">;

export function listTable(file: ListOptions, s: HandoverSource): OutTable {
  if (file.of === "questions") return questionsTable(s.questions, file.decimals ?? decimalsOf(s.unit));
  return file.of === "setups" ? setupsTable(s, file) : linesTable(file, s);
}

function linesTable({ of, unit: wanted, areaUnit, decimals }: ListOptions, s: HandoverSource): OutTable {
  const unit = wanted ?? s.unit,
    factor = unitFactor(s.unit, unit),
    digits = decimals ?? decimalsOf(unit),
    areas = of === "areas",
    features = lineFeatures(s).filter((f) => !areas || f.closed);
  const length = (title: string, read: (f: LineFeature) => number): OutColumn => ({
    title: `${title} ${unit}`,
    decimals: digits,
    number: (k) => read(features[k]!) * factor,
  });
  const text = (title: string, read: (f: LineFeature) => string): OutColumn => ({
    title,
    text: (k) => read(features[k]!),
  });
  const common = [
    text("code", (f) => f.line.code),
    text("run", (f) => f.line.run),
    text("name", (f) => f.meaning ?? ""),
    text("layer", (f) => f.layer),
  ];
  const numbers = text("points", (f) => f.line.shots.map((row) => s.table.number[row]!).join(" "));
  if (!areas)
    return {
      name: "lines",
      count: features.length,
      columns: [
        ...common,
        text("closed", (f) => (f.closed ? "yes" : "no")),
        length("length", (f) => f.line.length),
        length("slope length", (f) => f.line.slopeLength),
        numbers,
      ],
    };
  const shown = areaUnit ?? s.areaUnit,
    // The square of a length unit asked for by itself; hectares and acres by the job's own unit.
    square = shown === "unit" ? factor * factor : areaFactor(s.unit, shown);
  return {
    name: "areas",
    count: features.length,
    columns: [
      ...common,
      {
        title: `area ${shown === "acre" ? "acre" : areaUnitShort(unit, shown)}`,
        decimals: AREA_DECIMALS[shown],
        number: (k) => areaOfLine(features[k]!.line) * square,
      },
      length("perimeter", (f) => f.line.length),
      numbers,
    ],
  };
}

const DEGREES = 180 / Math.PI,
  SECONDS = 3600 * DEGREES;

/** One row for each backsight of each setup; a setup without any has a row of its own. */
function setupsTable(s: HandoverSource, { unit: wanted, decimals }: ListOptions): OutTable {
  const unit = wanted ?? s.unit,
    factor = unitFactor(s.unit, unit),
    digits = decimals ?? decimalsOf(unit);
  type Row = { setup: SetupReport; sight?: BacksightReport };
  const rows = s.setups.flatMap((setup): Row[] =>
    setup.backsights.length ? setup.backsights.map((sight) => ({ setup, sight })) : [{ setup }],
  );
  const text = (title: string, read: (r: Row) => string): OutColumn => ({ title, text: (k) => read(rows[k]!) });
  const number = (title: string, digits: number, read: (r: Row) => number | undefined): OutColumn => ({
    title,
    decimals: digits,
    number: (k) => read(rows[k]!) ?? NaN,
  });
  const length = (title: string, read: (r: Row) => number | undefined, decimals = digits) =>
    number(`${title} ${unit}`, decimals, (r) => {
      const x = read(r);
      return x === undefined ? NaN : x * factor;
    });
  return {
    name: "setups",
    count: rows.length,
    columns: [
      text("intake", (r) => s.intakes[r.setup.intake]!.id),
      text("setup", (r) => r.setup.id),
      text("station", (r) => r.setup.station),
      length("instrument height", (r) => r.setup.instrumentHeight),
      length("instrument height received", (r) => r.setup.receivedHeight),
      number("orientation °", 5, (r) => r.setup.orientation * DEGREES),
      text("backsight", (r) => r.sight?.number ?? ""),
      number('direction off "', 1, (r) => r.sight && r.sight.direction * SECONDS),
      length("distance off", (r) => r.sight?.distance, decimals ?? misclosureDecimals(unit)),
      length("level off", (r) => r.sight?.level, decimals ?? misclosureDecimals(unit)),
      number("pairs of faces", 0, (r) => r.setup.faces.length),
      number('largest collimation "', 1, (r) => largest(r.setup.faces.map((f) => f.circle)) * SECONDS),
      number('largest index error "', 1, (r) => largest(r.setup.faces.map((f) => f.zenith)) * SECONDS),
      number("shots", 0, (r) => r.setup.shots),
      number("outside tolerance", 0, (r) => r.setup.outlying.length),
      text("used", (r) => (r.setup.out ? "taken out" : (r.setup.problem ?? "yes"))),
    ],
  };
}

/** The one of largest size, halved: both faces hold it once; NaN of none. */
const largest = (doubled: readonly number[]) =>
  doubled.reduce((most, x) => (Math.abs(x / 2) > Math.abs(most) || Number.isNaN(most) ? x / 2 : most), NaN);

/** A job in feet finds, says and holds what the same ground in metres does: no limit is taken for another unit's. */
import { oddValues } from "../../src/checks/incoming";
import { acceptanceOf, withAccepted } from "../../src/checks/accepted";
import type { Finding } from "../../src/finding";
import { projectionOf } from "../../src/intake/position";
import { tolerancesIn } from "../../src/math/tolerances";
import { readTypedLength } from "../../src/math/typed";
import { METRES, UNITS, type Unit } from "../../src/math/units";
import { emptyTable } from "../../src/points/table";
import { levelPrecisionOf } from "../../src/volumes/precision";
import { derive, found, stateOfText } from "../job";

const FEET = UNITS.filter((u) => u !== "m");

test.each(UNITS)("levels far from the rest and target heights beyond a person's reach, in %s", (unit) => {
  const size = METRES[unit],
    // A plain at 50 m, one shot 9.5 m above it, one 10.5 m; rods of 9.9 m and 10.1 m.
    metres = [...Array.from({ length: 30 }, () => [50, 2]), [59.5, 2], [60.5, 2], [50, 9.9], [50, 10.1], [50, -0.1]],
    text = metres.map(([z, rod], k) => `${k + 1},${k},0,${z! / size},SPOT,${rod! / size}`).join("\n");
  const { points } = stateOfText(text, {
    unit,
    intakes: [
      {
        id: "day1",
        file: "day1.csv",
        layout: {
          delimiter: ",",
          columns: ["number", "easting", "northing", "elevation", "description", "targetHeight"],
        },
      },
    ],
  });
  const odd = oddValues(points, emptyTable(), { unit, tolerance: tolerancesIn(unit) });
  expect(odd.map((o) => `${o.number} ${o.what}`)).toEqual(["32 elevation", "34 target height", "35 target height"]);
  const high = odd[0]!.text;
  expect(high).toContain(`${(60.5 / size).toFixed(unit === "m" ? 3 : 2)} ${unit}`);
  expect(odd[1]!.text).toContain(`${Math.round(10 / size)} ${unit}`);
});

test.each(UNITS)("an elevation of 0 is told with where the job lies, in %s", (unit) => {
  const { derived } = derive(
    Array.from({ length: 12 }, (_, k) => ({
      number: k + 1,
      e: (k % 4) * 30,
      n: Math.floor(k / 4) * 30,
      z: k === 5 ? 0 : (80 + 0.01 * k) / METRES[unit],
      code: "SPOT",
    })),
    { unit },
  );
  const [zero] = found(derived, "zero-elevation");
  expect(zero!.points).toEqual(["6"]);
  const said = /lies about (\d+\.\d) (\w+):/.exec(zero!.message)!;
  expect(said[2]).toBe(unit);
  expect(Math.abs(Number(said[1]) * METRES[unit] - 80)).toBeLessThan(0.2);
});

test.each(UNITS)("what was accepted stays so while its figures move by less than a centimetre, in %s", (unit) => {
  const size = METRES[unit],
    finding = (residual: number): Finding => ({
      key: "spike 7",
      kind: "spike",
      severity: "warning",
      words: ["a spike"],
      points: [7],
      lines: [],
      at: [0, 0],
      data: { residual: residual / size },
    });
  const accepted = [acceptanceOf(finding(0.5), "a wall", () => "")],
    isAccepted = (f: Finding) => withAccepted([f], accepted, [], unit)[0]!.accepted;
  expect([0.5, 0.509, 0.491, 0.511, 0.489].map((r) => isAccepted(finding(r)))).toEqual([
    "a wall",
    "a wall",
    "a wall",
    undefined,
    undefined,
  ]);
});

test.each(FEET)("where a job in %s says nothing of its levels' precision, they hold what a metric job's do", (unit) => {
  const [metric, own] = [levelPrecisionOf(undefined, "m"), levelPrecisionOf(undefined, unit)];
  for (const k of ["shot", "common"] as const) {
    // Round figures of the unit: within a tenth of the metric ones.
    expect(Math.abs((own[k] * METRES[unit]) / metric[k] - 1)).toBeLessThan(0.1);
    expect(levelPrecisionOf({ [k]: 0.5 }, unit)).toEqual({ ...own, [k]: 0.5 });
  }
});

test("the two feet are apart by two millionths: a metre in half a million", () => {
  const two = (text: string, unit: Unit) => {
    const read = readTypedLength(text, unit);
    return "value" in read ? read.value : NaN;
  };
  expect(two("500000 ftUS", "m")).toBeCloseTo((500_000 * 1200) / 3937, 6);
  expect(two("500000 ftUS", "ft") - 500_000).toBeCloseTo(1 + 1 / 499_999, 6);
  for (const unit of FEET) expect([two("500000'", unit), two("500000", unit)]).toEqual([500_000, 500_000]);
  expect(two("500000 ft", "ftUS")).toBeCloseTo(499_999, 3);
  // A state's grid in survey feet, where proj4 itself gives these; a job in either foot, and in metres.
  const at = [-73.9, 40.7],
    [us, foot, metre] = (["ftUS", "ft", "m"] as const).map((u) => projectionOf("EPSG:2263", u).forward(at)[0]!) as [
      number,
      number,
      number,
    ];
  expect(us).toBeGreaterThan(900_000);
  expect(metre).toBeCloseTo(us * METRES.ftUS, 6);
  expect(foot).toBeCloseTo((us * METRES.ftUS) / METRES.ft, 6);
  const back = projectionOf("EPSG:2263", "ft").inverse([foot, projectionOf("EPSG:2263", "ft").forward(at)[1]!]);
  expect(back[0]).toBeCloseTo(at[0]!, 9);
});

/** Columns of the points table, and figures as people read them. */
import { isMeasured } from "@bramble/core/records/measured";
import { columnsOf } from "../bench/table/columns";
import { rowsOf } from "../lib/rows";
import { area, decimalsOf, volume } from "../lib/units-shown";
import { EMPTY_VIEW } from "../lib/view";
import { stateOf, stateOfText } from "../../core/test/job";

describe("cells of the points table", () => {
  const job = stateOf([
    { number: 1, e: 100, n: 200, z: 50, code: "SPOT" },
    { number: 2, e: 1, n: 2 },
  ]);

  test("columns in the job's order, with the unit in their titles", () => {
    expect(
      columnsOf("m", "NE", [])
        .slice(0, 4)
        .map((c) => c.title),
    ).toEqual(["Number", "Northing m", "Easting m", "Elevation m"]);
    expect(
      columnsOf("ft", "EN", [])
        .slice(1, 3)
        .map((c) => c.title),
    ).toEqual(["Easting ft", "Northing ft"]);
    const elevation = columnsOf("m", "NE", [])[3]!,
      data = { job, view: EMPTY_VIEW };
    expect(elevation.text(data, 0)).toBe("50.000");
    expect(elevation.text(data, 1)).toBe("");
  });

  test("what was measured of some points has columns, read-only, sorted with those that have none first", () => {
    const text = "1,0,0,5,0.0125,9,12.5,fixed\n2,9,0,5,,,,\n3,9,9,5,0.5,11,-0.25,float",
      job = stateOfText(text, {
        intakes: [
          {
            id: "rover",
            file: "day1.csv",
            layout: {
              delimiter: ",",
              columns: ["number", "easting", "northing", "elevation", "precisionPlan", "satellites", "tilt", "fix"],
            },
          },
        ],
      });
    const own = columnsOf("m", "EN", [], ["precisionPlan", "satellites", "tilt", "fix"]).filter((c) => !c.field),
      of = { job, view: EMPTY_VIEW },
      shown = own.filter((c) => isMeasured(c.key)).map((c) => [c.title, ...[0, 1, 2].map((i) => c.text(of, i))]);
    expect(shown).toEqual([
      ["Plan precision m", "0.013", "", "0.500"],
      ["Satellites", "9", "", "11"],
      ["Tilt °", "12.5", "", "-0.25"],
      ["Fix", "fixed", "", "float"],
    ]);
    expect([0, 1, 2].map((i) => own.find((c) => c.key === "tilt")!.sort(of, i))).toEqual([12.5, -Infinity, -0.25]);
  });

  test("ids to places, deleted ones left out", () => {
    expect(rowsOf(job.points, [2, 1, 99])).toEqual([1, 0]);
    expect(rowsOf({ ...job.points, deleted: Uint8Array.of(0, 1) }, [2, 1])).toEqual([0]);
  });
});

test("figures for people: units, groups, a true minus", () => {
  expect(volume(-1234567.89, "m")).toBe("−1\u202f234\u202f567.9 m³");
  expect(area(12.345, "ftUS")).toBe("12.3 ftUS²");
  expect([decimalsOf("m"), decimalsOf("ft")]).toEqual([3, 2]);
});

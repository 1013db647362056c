/** Constructed points as a window and its cells have them: where they stand, what may be changed, what may be followed. */
import { asItStands, Refusal } from "../../src";
import { standingRows, withStanding } from "../../src/construct/rows";
import { followersOf, programOf } from "../../src/construct/program";
import { Chain } from "../../src/job/chain/chain";
import { changeOfCells } from "../../src/job/edit/cells";
import { tryConstruction } from "../../src/job/told/construction";
import { refOf } from "../../src/points/refs";
import { derive, type Row } from "../job";

const ROWS: Row[] = [
  { number: "1", e: 0, n: 0, z: 10, code: "SPOT" },
  { number: "2", e: 40, n: 0, z: 14, code: "SPOT" },
];
const { state, derived } = derive(ROWS, {
  computed: [
    { number: "9", description: "ROD", by: { between: ["1", "2"], ratio: 0.25 }, elevation: { along: true } },
    { number: "10", description: "ROD", by: { from: "9", azimuth: 0, distance: 5 }, elevation: 7 },
    { number: "11", description: "ROD", by: { at: [3, 4] }, elevation: { of: "10" } },
  ],
});
const stood = asItStands(state, derived),
  row = (number: string) => stood.points.number.indexOf(number),
  ref = (number: string) => refOf(state.points, state.intakes, row(number));

test("a window puts constructed points where the worker says, by their ids, into the table that it has", () => {
  const rows = standingRows(new Chain().run(state)),
    // Another row has come before them meanwhile.
    off = { ...state.points, e: state.points.e.map((e, i) => (state.points.intake[i]! < 0 ? -1 : e)) },
    shown = withStanding(off, rows);
  expect(Array.from(shown.e)).toEqual(Array.from(stood.points.e));
  expect(Array.from(shown.z)).toEqual([10, 14, 11, 7, 7]);
  expect(Array.from(shown.follows)).toEqual([0, 0, 7, 3, 4]);
  expect(withStanding(state.points, { ...rows, id: rows.id.map(() => 999) }).e).toEqual(state.points.e);
});

test("a coordinate that follows is changed in no cell; what is the point's own is", () => {
  const put = (number: string, field: "easting" | "elevation", value: number) =>
    changeOfCells({ job: stood, view: { codes: [], code: new Uint16Array(9), said: new Map() } as never }, [
      { row: row(number), field, value },
    ]).change;
  expect(() => put("9", "easting", 5)).toThrow(Refusal);
  expect(() => put("9", "elevation", 5)).toThrow("Point 9 follows what it was constructed from.");
  expect(() => put("10", "easting", 5)).toThrow(Refusal);
  expect(put("10", "elevation", 5)).toMatchObject({ edits: [{ old: 7, new: 5 }] });
  expect(put("11", "easting", 5)).toMatchObject({ edits: [{ old: 3, new: 5 }] });
  expect(() => put("11", "elevation", 5)).toThrow(Refusal);
});

test("who would be lost with a point: what follows it, and what follows that; not what takes its level alone", () => {
  const program = programOf(state.computed, state.points, state.intakes),
    lost = (number: string) => followersOf(program, [row(number)]).map((i) => state.points.number[i]);
  expect([lost("1"), lost("9"), lost("10"), lost("11")]).toEqual([["9", "10"], ["10"], [], []]);
});

test("nothing may follow itself, through others neither; what does not is tried with its positions and their ways", () => {
  const own = state.points.id[row("9")]!,
    tried = (by: Parameters<typeof tryConstruction>[0]["by"]) => tryConstruction({ by }, stood, derived, own);
  expect(tried({ from: ref("10"), azimuth: 0, distance: 1 }).problem).toBe(
    "Point 10 follows this point, which therefore cannot follow it.",
  );
  expect(tried({ from: ref("9"), azimuth: 0, distance: 1 }).problem).toBe("A point cannot follow itself.");
  expect(tried({ meet: [{ from: ref("1"), distance: 25 }, { from: ref("2"), distance: 25 }] })).toMatchObject({ at: [[20, 15, NaN], [20, -15, NaN]] }); // prettier-ignore
  expect(
    tried({
      meet: [
        { from: ref("1"), distance: 5 },
        { from: ref("2"), distance: 5 },
      ],
    }),
  ).toMatchObject({ at: [], problem: "There is no such position: its circles are apart." });
  expect(tried({ fourth: [ref("1"), ref("2"), ref("1")] })).toMatchObject({ at: [[-40, 0, NaN]], ways: [[0, 0, 40, 0, 0, 0, -40, 0, 0, 0]] }); // prettier-ignore
});

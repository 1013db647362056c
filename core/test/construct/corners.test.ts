/** Corners that cues made, numbered: the constructions give the positions that the line has. */
import { tryConstruction } from "../../src/job/told/construction";
import { madeCorners } from "../../src/job/told/corners";
import { derive, type Row } from "../job";

const corners = (rows: Row[]) => {
  const { state, derived } = derive(rows),
    found = madeCorners(derived.lines[0]!, state);
  return found.map(({ at, by, elevation }) => {
    const made = tryConstruction({ by, ...(elevation === undefined ? {} : { elevation }) }, state, derived);
    expect(made.at).toEqual([at.map((x) => (Number.isNaN(x) ? NaN : expect.closeTo(x, 9)))]);
    return { at, by };
  });
};

test("the fourth corner of a building, and both of a rectangle to either side", () => {
  const three: Row[] = [
    { number: "1", e: 612_300, n: 5_700_000, z: 10, code: "BED1" },
    { number: "2", e: 612_310, n: 5_700_003, z: 11, code: "BED1" },
    { number: "3", e: 612_308, n: 5_700_009, z: 13, code: "BED1 quad" },
  ];
  expect(corners(three)).toMatchObject([{ at: [612_298, 5_700_006, 12] }]);
  const two = (width: number): Row[] => [
    { number: "1", e: 100, n: 200, z: 10, code: "BED1" },
    { number: "2", e: 103, n: 204, z: 11, code: `BED1 box=${width}` },
  ];
  expect(corners(two(5))).toMatchObject([{ at: [107, 201, 11] }, { at: [104, 197, 10] }]);
  expect(corners(two(-5))).toMatchObject([{ at: [99, 207, 11] }, { at: [96, 203, 10] }]);
});

test("of a line all of whose corners were shot there is none to number", () => {
  const shot = (code: string) => (k: number): Row => ({ number: k, e: k % 2 ? 10 : 0, n: k > 2 ? 10 : 0, z: 1, code }); // prettier-ignore
  expect(corners([1, 2, 4, 3].map(shot("BED1")).map((r, k) => (k === 3 ? { ...r, code: "BED1 loop" } : r)))).toEqual(
    [],
  );
  expect(corners([1, 2, 4].map(shot("HEDGE1")))).toEqual([]);
});

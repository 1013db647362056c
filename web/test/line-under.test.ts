import { EMPTY_VIEW } from "../lib/view";
import { lineUnder } from "../sheet/line-under";

/** Two lines: one that rises by 5 % to the east and then falls by 10 % to the north; one without a level at an end. */
const view = {
  ...EMPTY_VIEW,
  chains: {
    xyz: Float64Array.from([0, 0, 10, 20, 0, 11, 20, 10, 10, 0, 50, 5, 10, 50, NaN]),
    shot: Int32Array.from([0, 1, 2, 3, 4]),
    starts: Uint32Array.from([0, 3, 5]),
  },
};

test("level and gradient are those of the piece beside the cursor, in the direction of the line", () => {
  expect(lineUnder(view, 0, 8, 1)).toEqual({ level: expect.closeTo(10.4, 9), gradient: expect.closeTo(0.05, 9) });
  expect(lineUnder(view, 0, 21, 5)).toEqual({ level: expect.closeTo(10.5, 9), gradient: expect.closeTo(-0.1, 9) });
  // Beyond its end it is what it is at the end.
  expect(lineUnder(view, 0, -9, 0).level).toBe(10);
  expect(lineUnder(view, 1, 5, 50)).toEqual({ level: NaN, gradient: NaN });
});

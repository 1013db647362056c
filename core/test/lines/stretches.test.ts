/** A number list over several stretches: one line for each. */
import { applyChange, keepStretches } from "../../src";
import { stretchesOf } from "../../src/lines/order";
import { givenLine, runOf, stateOf } from "../job";

test("a way that jumps is parted into stretches, each a line of its own with its cues", () => {
  const e = [0, 1, 2, 3, 60, 61, 62, 63, 200, 201],
    n = e.map(() => 0);
  expect(stretchesOf(e, n)).toEqual([
    [0, 4],
    [4, 8],
    [8, 10],
  ]);
  // A single point beyond a jump is no stretch; an even way has none.
  expect(stretchesOf([0, 1, 2, 60], [0, 0, 0, 0])).toEqual([[0, 4]]);
  expect(stretchesOf([0, 2, 4, 6], [0, 0, 0, 0])).toEqual([[0, 4]]);
  expect([stretchesOf([], []), stretchesOf([3], [3]), stretchesOf([3, 3, 3], [1, 1, 1])]).toEqual([
    [[0, 0]],
    [[0, 1]],
    [[0, 3]],
  ]);
  const s = stateOf(e.map((x, k) => ({ number: k + 1, e: x, n: k === 5 ? 1 : 0, code: "SPOT" })));
  const hand = givenLine(s, { name: "x", code: "TOP", points: "1-10", cues: { "6": "via" } }),
    edit = keepStretches(s, hand, stretchesOf(e, n));
  if ("refused" in edit) throw new Error(edit.refused);
  const after = applyChange(s, edit.change),
    { lines } = runOf(after);
  expect(lines.map((l) => [l.hand, l.shots.length, l.pieces.map((p) => p.type).includes("arc")])).toEqual([
    ["x", 4, false],
    ["by hand 1", 4, true],
    ["by hand 2", 2, false],
  ]);
});

/** What holds where a recipe says nothing, and what comes of what it names that is not there. */
import { applyChange } from "../../src";
import { handoverSource } from "../../src/job/leave/handover-source";
import { summarize } from "../../src/job/told/summary";
import { derive, runOf, stateOf, type Row } from "../job";

const ROWS: Row[] = [
  { number: 1, e: 0, n: 0, z: 1, code: "SPOT" },
  { number: 2, e: 10, n: 0, z: 1, code: "SPOT" },
  { number: 3, e: 10, n: 10, z: 1, code: "SPOT" },
  { number: 4, e: 0, n: 10, z: 1, code: "SPOT" },
  { number: 5, e: 2, n: 3, z: 3, code: "TOP1" },
  { number: 6, e: 8, n: 7, z: 3, code: "TOP1" },
];
const breaklinesOf = (breaklines?: object) =>
  summarize(...taken(derive(ROWS, { surfaces: [{ name: "s", ...(breaklines ? { breaklines } : {}) }] } as never)), [])
    .surfaces[0]!.breaklines;
const taken = ({ state, derived }: ReturnType<typeof derive>) => [state, derived] as const;

test.each([
  [undefined, 1],
  [{}, 1],
  [{ thin: 0.1 }, 1],
  [{ codes: ["*"] }, 1],
  [{ codes: [] }, 0],
])("a surface whose breaklines are %j takes %d: where no codes are said, all that the book says", (said, count) =>
  expect(breaklinesOf(said)).toBe(count),
);

test("levels of a storage are the decimals that they are meant to be", () => {
  const { state, derived } = derive(ROWS, {
    surfaces: [{ name: "s" }],
    volumes: [{ name: "v", storage: "s", from: 1, to: 2.2, step: 0.1 }],
  } as never);
  const levels = summarize(state, derived, []).volumes[0]!.storage!.map((r) => r.level);
  expect(levels).toEqual([1, 1.1, 1.2, 1.3, 1.4, 1.5, 1.6, 1.7, 1.8, 1.9, 2, 2.1, 2.2]);
});

test("a file whose points name nothing is refused by a sentence; all points of a job without any are none", () => {
  const { state, derived } = derive(ROWS),
    file = (points?: string) => ({ file: "p.csv", format: "csv" as const, ...(points ? { points } : {}) });
  expect(() => handoverSource(file("900-950"), state, derived)).toThrow(
    "“p.csv” would hold no points: “900-950” names none that is there.",
  );
  expect(handoverSource(file("4-900"), state, derived).rows).toHaveLength(3);
  const none = stateOf([], { intakes: [] });
  expect(handoverSource(file("*"), none, runOf(none)).rows).toHaveLength(0);
});

test("a target height that is cleared leaves the level as it is, in a recipe as on the page; another one moves it", () => {
  const measured = stateOf(ROWS),
    high = applyChange(measured, { type: "points", edits: [{ id: 1, field: "targetHeight", old: null, new: 1.6 }] });
  expect(high.points.z[0]).toBe(1);
  const levelAfter = (targetHeight: number | null) =>
    derive(ROWS, {
      edits: [
        { points: "1", set: { targetHeight: 1.6 } },
        { points: "1", set: { targetHeight } },
      ],
    } as never).state.points.z[0];
  expect(levelAfter(null)).toBe(1);
  expect(levelAfter(2.1)).toBeCloseTo(0.5, 12);
});

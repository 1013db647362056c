/** Two lines joined at any of their ends: what lies nearest first, each way what it says, and taken back whole. */
import fc from "fast-check";
import {
  applyChange,
  inverse,
  joinLines,
  jointsOf,
  openRecipe,
  runChain,
  type EditableChange,
  type JobState,
} from "../../src";
import { shown } from "../job";

const LAYOUT = { columns: ["number", "easting", "northing", "elevation", "description"] };

/** Two open lines, of shots 1 to 3 and 4 to 6, each of a code, by a crew or by hand. */
function job(at: readonly (readonly [number, number])[], codes: readonly [string, string], byHand: boolean): JobState {
  const rows = at.map(([e, n], k) => `${k + 1},${e},${n},10,${byHand ? "SPOT" : codes[k < 3 ? 0 : 1]}`);
  const lines = byHand
    ? [
        { name: "one", code: codes[0], points: "1-3" },
        { name: "two", code: codes[1], points: "4-6" },
      ]
    : [];
  return openRecipe(
    {
      recipe: 1,
      codeBook: {
        codes: ["WALL", "FENCE"].map((code) => ({ code, kind: "line" })).concat([{ code: "SPOT" } as never]),
      },
      intakes: [{ id: "d", file: "d.csv", layout: LAYOUT }],
      lines,
    } as never,
    () => new TextEncoder().encode(rows.join("\n")),
  ).state;
}
const linesOf = (s: JobState) =>
  runChain(s)
    .lines.map((l) => ({ code: l.code, shots: l.shots.map((i) => Number(s.points.number[i])) }))
    .sort((a, b) => a.shots[0]! - b.shots[0]!);
const line = (s: JobState, code: string) =>
  shown(
    s,
    runChain(s).lines.findIndex((l) => l.code + l.run === code),
  );

const place = fc.tuple(fc.integer({ min: 0, max: 50 }), fc.integer({ min: 0, max: 50 }));
const places = fc.uniqueArray(place, { minLength: 6, maxLength: 6, selector: ([e, n]) => `${e} ${n}` });
const codes = fc.constantFrom(["WALL1", "WALL2"] as const, ["WALL1", "FENCE1"] as const, ["FENCE2", "WALL1"] as const);

test("at each of four joints the lines are one, of the first's code, with these two ends side by side", () => {
  fc.assert(
    fc.property(places, codes, fc.boolean(), fc.nat(3), (at, [a, b], byHand, k) => {
      const s = job(at, [a, b], byHand),
        one = line(s, a),
        two = line(s, b),
        joints = jointsOf(s, one, two);
      expect(joints.map((j) => j.apart)).toEqual(joints.map((j) => j.apart).sort((x, y) => x - y));
      const joint = joints[k]!,
        edit = joinLines(s, one, two, joint);
      if (!("change" in edit)) throw new Error(edit.refused);
      const next = applyChange(s, edit.change),
        [made, ...more] = linesOf(next).filter((l) => l.shots.length > 1);
      expect(more).toEqual([]);
      expect(made!.code).toBe(a.slice(0, -1));
      expect([...made!.shots].sort()).toEqual([1, 2, 3, 4, 5, 6]);
      const [p, q] = joint.rows.map((i) => made!.shots.indexOf(Number(s.points.number[i]))) as [number, number];
      expect(Math.abs(p - q)).toBe(1);
      // The nearest is what is taken where nothing is said.
      if (k === 0) expect(joinLines(s, one, two)).toEqual(edit);
      expect(linesOf(applyChange(next, inverse(edit.change) as EditableChange))).toEqual(linesOf(s));
    }),
    { numRuns: 150 },
  );
});

/** Two walls that begin beside one another. */
const fork = () =>
  job(
    [
      [0, 0],
      [10, 0],
      [20, 0],
      [0, 1],
      [0, 11],
      [0, 21],
    ],
    ["WALL1", "WALL2"],
    false,
  );

test("the ends that lie nearest are joined, also where both lines begin there", () => {
  const s = fork(),
    [one, two] = [line(s, "WALL1"), line(s, "WALL2")],
    [nearest] = jointsOf(s, one, two);
  expect(nearest).toMatchObject({ of: "first", to: "first", apart: 1 });
  const edit = joinLines(s, one, two);
  if (!("change" in edit)) throw new Error(edit.refused);
  expect(linesOf(applyChange(s, edit.change)).filter((l) => l.shots.length > 1)).toEqual([
    { code: "WALL", shots: [6, 5, 4, 1, 2, 3] },
  ]);
});

test("closed lines and parallels are refused with a sentence", () => {
  const s = fork(),
    [one, two] = [line(s, "WALL1"), line(s, "WALL2")];
  expect(joinLines(s, { ...one, closed: true }, two)).toEqual({ refused: expect.stringMatching(/no end to join/) });
  expect(joinLines(s, { ...one, companion: {} }, two)).toEqual({ refused: expect.stringMatching(/parallel/) });
  expect(joinLines(s, { ...one, shots: [] }, two)).toEqual({ refused: expect.stringMatching(/without shots/) });
  expect(jointsOf(s, { ...one, closed: true }, two)).toEqual([]);
});

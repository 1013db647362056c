/** What lies beyond all reach is refused row by row in every format, and hangs nothing. */
import { openRecipe, parseRecipe, type JobState, type Recipe } from "../../src";
import { mergeCoincident } from "../../src/surface/merge";
import { surveyXml, type TrueSetup } from "../survey";
import { runOf } from "../job";

const utf8 = (text: string) => new TextEncoder().encode(text);
function taken(text: string, more: Partial<Recipe> = {}): JobState {
  const recipe: Recipe = { recipe: 1, intakes: [{ id: "in", file: "in" }], surfaces: [{ name: "s" }], ...more };
  return openRecipe(recipe, () => utf8(text)).state;
}
const sound = Array.from(
  { length: 12 },
  (_, k) => `${k + 1},${7000 + 10 * (k % 4)},${3000 + 10 * Math.floor(k / 4)},9.5,SPOT`,
);

test("rows of text beyond reach are refused with their value; the others and what follows of them are as ever", () => {
  const state = taken(
    [...sound, "90,1e15,3000,1,SPOT", "91,7000,-1e155,1,SPOT", "92,7000,3001,2e9,SPOT", "93,1e9,3000,1,FAR"].join("\n"),
  );
  expect(state.points.number.slice(0, state.points.count)).toEqual([...sound.map((_, k) => String(k + 1)), "93"]);
  const { refused } = state.intakes[0]!;
  expect(refused.map((r) => r.row)).toEqual([13, 14, 15]);
  [
    /^the northing 1000000000000000 lies beyond ±1.000.000.000 m$/,
    /^the easting -1e\+155 lies beyond/,
    /^the elevation 2000000000 lies beyond/,
  ].forEach((says, k) => expect(refused[k]!.reason).toMatch(says));
  const surface = runOf(state).surfaces[0]!;
  expect(surface.ok).toBe(true);
});

test("a number of more than 200 letters is a text that slipped in: its row is refused, the others come", () => {
  const long = "x".repeat(2800),
    // Letters of several bytes: 150 letters are no more than 150.
    wide = "水".repeat(150),
    state = taken(
      [...sound, `${long},7001,3001,1,SPOT`, `"${long}",7001,3001,1,SPOT`, `${wide},7002,3001,1,SPOT`].join("\n"),
    );
  expect(state.points.number).toEqual([...sound.map((_, k) => String(k + 1)), wide]);
  expect(state.intakes[0]!.refused).toEqual(
    [13, 14].map((row) => ({ row, reason: "the number has 2800 letters, and may have 200" })),
  );
});

test("lines and surfaces of a drawing beyond reach are left out and told", () => {
  const dxf = ["0", "SECTION", "2", "ENTITIES", "0", "LINE", "8", "A", "10", "1e12", "20", "1", "11", "5", "21", "6"]
      .concat([
        "0",
        "LINE",
        "8",
        "A",
        "10",
        "1",
        "20",
        "1",
        "11",
        "5",
        "21",
        "6",
        "0",
        "POINT",
        "10",
        "7",
        "20",
        "1e300",
      ])
      .concat(["0", "ENDSEC", "0", "EOF"])
      .join("\n"),
    state = taken(dxf, { surfaces: [] });
  expect(state.delivered[0]!.reference!.lines).toHaveLength(1);
  expect(state.intakes[0]!.notes.join()).toMatch(/1 line or surface has corners beyond/);
  expect(state.points.count).toBe(0);
  expect(state.intakes[0]!.refused).toHaveLength(1);
});

test("raw measurements beyond reach count as not taken: no point is put there by them", () => {
  const control = [
      { number: "C1", e: 3000, n: 7000, z: 100 },
      { number: "C2", e: 3100, n: 7000, z: 101 },
    ],
    setup: TrueSetup = {
      id: "S1",
      at: control[0]!,
      height: 1.6,
      zero: 0,
      backsight: control[1]!,
      targets: [{ number: "1", e: 3050, n: 7050, z: 99, height: 1.4, faces: 1 }],
    };
  const xml = surveyXml(control, [setup]),
    far = xml.replace(/(targetHeight="1.4".*?slopeDistance=")[^"]*/, "$11e300");
  expect(far).not.toBe(xml);
  const placed = (s: JobState) => Array.from(s.points.number).filter((_, i) => !s.points.deleted[i]);
  expect(placed(taken(xml, { surfaces: [] }))).toContain("1");
  const state = taken(far, { surfaces: [] });
  expect(state.intakes[0]!.notes.join()).toContain("1 measurement has a length beyond");
  expect(placed(state)).not.toContain("1");
  expect(runOf(state).lines).toEqual([]);
});

test.each([
  ["edits", [{ points: "1", set: { northing: 1e15 } }]],
  ["edits", [{ points: "1", set: { elevation: -2e9 } }]],
  ["computed", [{ number: "900", by: { at: [3000, 1e155] } }]],
  [
    "surfaces",
    [
      {
        name: "s",
        edge: {
          ring: [
            [0, 0],
            [1e10, 0],
            [0, 5],
          ],
        },
      },
    ],
  ],
  [
    "surfaces",
    [
      {
        name: "s",
        triangles: {
          points: [
            [0, 0, 0],
            [1, 0, 0],
            [0, 1e12, 0],
          ],
          faces: [[0, 1, 2]],
        },
      },
    ],
  ],
  ["control", [{ number: "C1", northing: 1e15, easting: 0 }]],
])("a recipe's %s beyond reach are refused with their path", (part, value) => {
  const recipe = { recipe: 1, intakes: [{ id: "in", file: "in" }], [part]: value };
  expect(() => parseRecipe(JSON.stringify(recipe), "r.json")).toThrow(new RegExp(part));
});

test("positions too far for whole cells are no neighbours of one another, and are not looked for for ever", () => {
  const x = Float64Array.of(1e300, 1e300, 1, 1, 1e16),
    y = Float64Array.of(1, 1, 2, 2, -1e16),
    { groups } = mergeCoincident(x, y, new Float64Array(5), 0.001);
  expect(groups).toEqual([[2, 3]]);
});

/** Levels of shots on lines come from the line's own neighbours; a run whose size is not clear is told without a number. */
import { parseRecipe, repairsOf, runChain, type FindingKind, type JobState } from "../../src/index";
import { openRecipe } from "../../src/job/recipe/recipe";
import { Draw } from "./terrain";

const LAYOUT = {
  delimiter: ",",
  columns: ["number", "easting", "northing", "elevation", "description", "targetHeight"],
};

function job(rows: string[]): JobState {
  const recipe = {
    recipe: 1,
    codeBook: { codes: [{ code: "SPOT" }, { code: "KERB", kind: "line", breakline: "fixed" }] },
    intakes: [{ id: "d", file: "d.csv", layout: LAYOUT }],
  };
  return openRecipe(parseRecipe(JSON.stringify(recipe), "r.json"), () => new TextEncoder().encode(rows.join("\n")))
    .state;
}

/** A lawn above a kerb that falls by 1 % and runs through its middle; some of the kerb's levels are others. */
function withKerb(other: Record<number, string>, above = 0.15): JobState {
  const draw = new Draw(2),
    rows: string[] = [];
  for (let k = 0; k < 20; k++)
    rows.push(`${k + 1},${5 * k},52,${other[k + 1] ?? (102 - 0.05 * k).toFixed(3)},KERB1,1.5`);
  for (let i = 0; i < 400; i++) {
    const [r, c] = [Math.floor(i / 20), i % 20];
    rows.push(`${100 + i},${5 * c},${5 * r},${(102 + above - 0.05 * c + draw.normal(0.008)).toFixed(3)},SPOT,1.5`);
  }
  return job(rows);
}
const one = (s: JobState, kind: FindingKind) => {
  const found = runChain(s).findings.filter((f) => f.kind === kind);
  expect(found).toHaveLength(1);
  return { f: found[0]!, repairs: repairsOf(found[0]!, { state: s, line: () => undefined }) };
};
const said = (words: readonly unknown[]) => words.filter((w) => typeof w === "string").join("");

test.each<[FindingKind, string]>([
  ["no-elevation", ""],
  ["zero-elevation", "0"],
  ["spike", "103.150"],
])("%s on a kerb: the first level offered comes from the kerb, not from the lawn beside it", (kind, level) => {
  const { f, repairs } = one(withKerb({ 11: level }), kind);
  // Between 101.550 and 101.450, 5 m from either.
  expect(f.data.predicted).toBeCloseTo(101.5, 9);
  expect(repairs[0]!.name).toBe("Give it the level of its neighbours, 101.500 m");
  if (kind === "spike") {
    expect(f.data.residual).toBeCloseTo(1.65, 9);
    expect(said(f.words)).toContain("the level of its line by points");
  }
});

test("a kerb that lies lower than the lawn is no run, all of it or what a blunder parts it into", () => {
  const blunders: Record<number, string>[] = [{}, { 11: "103.150" }, { 7: "100.100", 14: "103.600" }];
  for (const blunder of blunders)
    expect(runChain(withKerb(blunder, 0.7)).findings.filter((f) => f.kind === "height-run")).toEqual([]);
  // A part of it that is off along the kerb too is one.
  const low = Object.fromEntries(Array.from({ length: 9 }, (_, k) => [k + 6, (101.4 - 0.05 * (k + 5)).toFixed(3)]));
  const { f } = one(withKerb(low), "height-run");
  expect(f.points).toHaveLength(9);
  expect(f.data.shift).toBeNull();
});

test("at the end of a line its straight prolongation says the level; a neighbour without a level is passed over", () => {
  expect(one(withKerb({ 20: "" }), "no-elevation").f.data.predicted).toBeCloseTo(102 - 0.05 * 19, 9);
  const s = withKerb({ 7: "", 8: "" }),
    levels = runChain(s).findings.filter((f) => f.kind === "no-elevation");
  // Of both the nearest shots with a level are 6 and 9.
  expect(levels.flatMap((f) => f.data.predicted)).toEqual([expect.closeTo(101.7, 9), expect.closeTo(101.65, 9)]);
});

test("a run that begins with the ground is told without a number, and has no repair by one key", () => {
  const draw = new Draw(4),
    rows = Array.from({ length: 400 }, (_, i) => {
      const [r, c] = [Math.floor(i / 20), i % 20],
        level = 50 + 0.02 * r + draw.normal(0.008) + (i >= 200 && i <= 211 ? 0.35 : 0);
      return `${i + 1},${5 * (r % 2 ? 19 - c : c)},${5 * r},${level.toFixed(3)},SPOT,1.5`;
    });
  const { f, repairs } = one(job(rows), "height-run");
  expect(f.data).toEqual({ shift: null, sigma: null, targetHeight: 1.5, suggested: null, unclear: true });
  expect(said(f.words)).toMatch(/too high against the shots round them: .* is not clear: ask the crew/);
  expect(said(f.words)).not.toMatch(/±|0\.3/);
  expect(repairs).toEqual([]);
});

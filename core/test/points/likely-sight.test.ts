/** A backsight whose number was mistyped: what it likely was follows from what was observed, and it is mended at the setup. */
import fc from "fast-check";
import {
  applyChange,
  inverse,
  openRecipe,
  parseRecipe,
  repairsOf,
  runChain,
  writeRecipe,
  type JobState,
} from "../../src";
import { renumber } from "../../src/job/change/renumber";
import { numberIndex } from "../../src/points/index";
import { withSight } from "../../src/points/setups";
import { observe, surveyXml, type TruePosition, type TrueSetup } from "../survey";

const open = (xml: string, more: object = {}): JobState =>
  openRecipe({ recipe: 1, intakes: [{ id: "day1", file: "day1.xml" }], ...more } as never, () =>
    new TextEncoder().encode(xml),
  ).state;
const at = (s: JobState, number: string) => {
  const i = numberIndex(s.points).get(number)!;
  return [s.points.e[i]!, s.points.n[i]!, s.points.z[i]!];
};
const away = (s: JobState, p: TruePosition) => {
  const [e, n, z] = at(s, p.number);
  return Math.hypot(e! - p.e, n! - p.n, z! - p.z);
};

const K1 = { number: "K1", e: 5000, n: 8000, z: 120 },
  K33 = { number: "33", e: 5080, n: 8110, z: 124 },
  FAR = { number: "40", e: 5310, n: 7960, z: 118 },
  SPOT = { number: "501", e: 5020, n: 7950, z: 119, height: 1.5, faces: 1 };
const setup = (more: Partial<TrueSetup> = {}): TrueSetup => ({
  id: "one",
  at: K1,
  height: 1.55,
  zero: 0.7,
  backsight: K33,
  targets: [SPOT],
  ...more,
});
/** The survey in which the crew wrote another number for its backsight. */
const mistyped = (control: TruePosition[], written: string, more: Partial<TrueSetup> = {}) =>
  surveyXml(control, [setup(more)]).replaceAll(
    /(<BacksightPoint pntRef="|<TargetPoint name=")33"/g,
    (_, head: string) => `${head}${written}"`,
  );
const setupOf = (s: JobState) => runChain(s).setupReports[0]!;

test("33 written as 3: the setup says so, the likely number is offered, and taking it mends all", () => {
  const s = open(mistyped([K1, K33, FAR], "3")),
    report = setupOf(s);
  expect(report.problem).toMatch(/Backsight 3 has no coordinates/);
  expect(report.likely).toEqual([{ was: "3", is: "33", distance: expect.closeTo(0, 3), level: expect.closeTo(0, 3) }]);
  const f = runChain(s).findings.find((x) => x.kind === "unread-row" && x.data.setup === "one")!;
  expect(f.words.join("")).toContain("Backsight 3 was likely point 33: it lies 0.0000 m in distance");
  const [repair] = repairsOf(f, { state: s, line: () => undefined });
  expect(repair!.name).toBe("Take 3 at setup one as point 33");
  const next = applyChange(s, repair!.change);
  expect(away(next, SPOT)).toBeLessThan(1e-4);
  expect(setupOf(next)).toMatchObject({ likely: [], backsights: [{ number: "33", distance: expect.closeTo(0, 4) }] });
  expect(setupOf(next).problem).toBeUndefined();
  // Taken back, it is as it was.
  expect(setupOf(applyChange(next, inverse(repair!.change) as never))).toEqual(report);
});

test("where the number that was written is another known point, what was observed tells it too", () => {
  const three = { number: "3", e: 4900, n: 8030, z: 121 },
    s = open(mistyped([K1, K33, FAR, three], "3"));
  expect(away(s, SPOT)).toBeGreaterThan(1);
  const { likely } = setupOf(s);
  expect(likely.map((l) => [l.was, l.is])).toEqual([["3", "33"]]);
  const f = runChain(s).findings.find((x) => x.kind === "control-differs")!,
    [repair] = repairsOf(f, { state: s, line: () => undefined }),
    next = applyChange(s, repair!.change);
  expect(away(next, SPOT)).toBeLessThan(1e-4);
  // The other point is where it was.
  expect(away(next, three)).toBe(0);
});

test("a sound setup is offered nothing, and nothing is offered by a distance alone", () => {
  expect(setupOf(open(surveyXml([K1, K33, FAR], [setup()]))).likely).toEqual([]);
  // As far away as what was observed, of a number nothing like it: no control, no slip, nothing else seen.
  const twin = { ...K33, number: "977", e: 5000 + (K33.n - 8000), n: 8000 - (K33.e - 5000) },
    xml = mistyped([K1, FAR], "3"),
    text = `977,${twin.n},${twin.e},${twin.z},SPOT\n`,
    layout = { columns: ["number", "northing", "easting", "elevation", "description"] };
  const s = openRecipe(
    {
      recipe: 1,
      intakes: [
        { id: "t", file: "t.csv", layout },
        { id: "day1", file: "day1.xml" },
      ],
    } as never,
    (name) => new TextEncoder().encode(name === "t.csv" ? text : xml),
  ).state;
  expect(setupOf(s).likely).toEqual([]);
});

test("the one that fits best and looks like what was written comes first; what lies elsewhere is not offered", () => {
  // As far away as 33 within two centimetres, and one that is a slip away too but at another distance.
  const [de, dn] = [K33.n - K1.n, -(K33.e - K1.e)],
    size = Math.hypot(de, dn),
    twin = {
      number: "K9",
      e: K1.e + (de / size) * (size + 0.02),
      n: K1.n + (dn / size) * (size + 0.02),
      z: K33.z + 0.03,
    },
    near = { number: "31", e: K1.e + 30, n: K1.n + 40, z: K33.z },
    { likely } = setupOf(open(mistyped([K1, K33, twin, near], "3")));
  expect(likely.map((l) => l.is)).toEqual(["33", "K9"]);
  expect(likely[1]).toMatchObject({ distance: expect.closeTo(-0.02, 3), level: expect.closeTo(-0.03, 3) });
});

test("of many control points the sighted one comes first, whatever was written", () => {
  const places = fc.uniqueArray(fc.tuple(fc.integer({ min: -200, max: 200 }), fc.integer({ min: -200, max: 200 })), {
    minLength: 4,
    maxLength: 25,
    selector: ([e, n]) => Math.round(Math.hypot(e, n) * 2),
  });
  fc.assert(
    fc.property(places, fc.nat(), fc.constantFrom("7", "1000", "x"), (all, pick, written) => {
      const control = all
        .filter(([e, n]) => Math.hypot(e, n) > 5)
        .map(([e, n], k) => ({ number: String(100 + k), e: 5000 + e, n: 8000 + n, z: 120 + (k % 7) }));
      fc.pre(control.length > 2);
      const truth = control[pick % control.length]!,
        check = control[(pick + 1) % control.length]!,
        one = setup({ backsight: truth, targets: [{ ...check, height: 1.6, faces: 1 }, SPOT] }),
        xml = surveyXml([K1, ...control], [one])
          .replaceAll(`pntRef="${truth.number}"`, `pntRef="${written}"`)
          .replaceAll(`TargetPoint name="${truth.number}"`, `TargetPoint name="${written}"`);
      expect(setupOf(open(xml)).likely[0]?.is).toBe(truth.number);
      expect(observe(one, { ...truth, height: 1.5, faces: 1 }).slope).toBeGreaterThan(4);
    }),
    { numRuns: 40 },
  );
});

test("it is in the recipe, follows a renumbered point, and the number itself takes it back", () => {
  const xml = mistyped([K1, K33, FAR], "3"),
    renamed = [{ was: "3", is: "33" }],
    s = open(xml, { setups: [{ intake: "day1", setup: "one", renamed }] });
  expect(away(s, SPOT)).toBeLessThan(1e-4);
  const text = JSON.stringify(writeRecipe(s, s.points, () => "day1.xml")),
    again = openRecipe(parseRecipe(text, "r.json"), () => new TextEncoder().encode(xml)).state;
  expect(again.setups).toEqual(s.setups);
  expect(at(again, "501")).toEqual(at(s, "501"));
  expect(withSight(s.setups[0]!, "3", "3")).toEqual({ intake: "day1", setup: "one" });
  expect(withSight(s.setups[0]!, "4", "40").renamed).toEqual([...renamed, { was: "4", is: "40" }]);
  const i = numberIndex(s.points).get("33")!,
    { change } = renumber(s, [{ id: s.points.id[i]!, number: "933" }]);
  const next = applyChange(s, change);
  expect(next.points.number[i]).toBe("933");
  expect(away(next, SPOT)).toBeLessThan(1e-4);
});

test("a sight that is no point, or names the setup's own station, is refused or says what is wrong", () => {
  const s = open(mistyped([K1, K33, FAR], "3"), {
    setups: [{ intake: "day1", setup: "one", renamed: [{ was: "3", is: "99" }] }],
  });
  expect(setupOf(s).problem).toMatch(/Backsight 99 has no coordinates/);
  expect(setupOf(s).likely.map((l) => l.is)).toEqual(["33"]);
});

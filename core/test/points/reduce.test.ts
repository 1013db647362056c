/**
 * Raw observations: a forward model computes what an instrument would read; the reduction must find the places again.
 */
import fc from "fast-check";
import {
  applyChange,
  openRecipe,
  parseRecipe,
  withPositions,
  writeRecipe,
  type JobState,
  type Recipe,
} from "../../src";
import { fieldValue } from "../../src/points/edits";
import { unplacedRows } from "../../src/job/told/summary";
import { numberIndex } from "../../src/points/index";
import { GONE_UNPLACED } from "../../src/points/table";
import { found, runOf, told } from "../job";
import { reduceShot } from "../../src/points/pointings";
import { observe, surveyXml, type TrueSetup } from "../survey";
import { Chain } from "../../src/job/chain/chain";

const R = 6_371_000,
  K = 0.13;

function open(xml: string, more: Partial<Recipe> = {}): JobState {
  return openRecipe({ recipe: 1, intakes: [{ id: "day1", file: "day1.xml" }], ...more }, () =>
    new TextEncoder().encode(xml),
  ).state;
}
const at = (s: JobState, number: string) => {
  const i = numberIndex(s.points).get(number)!;
  return [s.points.e[i]!, s.points.n[i]!, s.points.z[i]!] as const;
};
const within = (a: readonly number[], b: readonly number[]) => Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!);

const K1 = { number: "K1", e: 5000, n: 8000, z: 120 },
  K2 = { number: "K2", e: 5080, n: 8110, z: 124 };
const circle = fc.double({ min: 0, max: 2 * Math.PI, noNaN: true });

test("one setup: every target comes back to a tenth of a millimetre, near, far, steep, in both faces", () => {
  fc.assert(
    fc.property(
      circle,
      fc.array(
        fc.record({
          e: fc.double({ min: -900, max: 900, noNaN: true }),
          n: fc.double({ min: -900, max: 900, noNaN: true }),
          z: fc.double({ min: -200, max: 200, noNaN: true }),
          h: fc.double({ min: 0, max: 5, noNaN: true }),
          two: fc.boolean(),
        }),
        { minLength: 1, maxLength: 12 },
      ),
      (zero, targets) => {
        const list = targets
          .filter((t) => Math.hypot(t.e, t.n) > 1)
          .map((t, k) => ({
            number: String(100 + k),
            e: 5000 + t.e,
            n: 8000 + t.n,
            z: 120 + t.z,
            height: t.h,
            faces: t.two ? 2 : 1,
          }));
        const setup: TrueSetup = { id: "one", at: K1, height: 1.563, zero, backsight: K2, targets: list };
        const s = open(surveyXml([K1, K2], [setup]));
        for (const t of list) expect(within(at(s, t.number), [t.e, t.n, t.z])).toBeLessThan(1e-4);
      },
    ),
    { numRuns: 60 },
  );
});

test("a traverse through setups that see each other comes out the same in any order of the file", () => {
  const T1 = { number: "T1", e: 5120, n: 8260, z: 130 },
    T2 = { number: "T2", e: 5260, n: 8300, z: 128 };
  const spot = { number: "501", e: 5300, n: 8310, z: 126, height: 1.8, faces: 1 };
  const stand = (p: typeof T1) => ({ ...p, height: 1.7, faces: 2 });
  const setups: TrueSetup[] = [
    { id: "a", at: K1, height: 1.5, zero: 0.4, backsight: K2, targets: [stand(T1)] },
    { id: "b", at: T1, height: 1.6, zero: 2.9, backsight: K1, targets: [stand(T2), stand(K2)] },
    { id: "c", at: T2, height: 1.55, zero: 5.1, backsight: T1, targets: [spot, stand(T1)] },
  ];
  const results = [
    [0, 1, 2],
    [2, 1, 0],
    [1, 2, 0],
  ].map((order) =>
    open(
      surveyXml(
        [K1, K2],
        order.map((k) => setups[k]!),
      ),
    ),
  );
  for (const s of results) {
    expect(within(at(s, "501"), [spot.e, spot.n, spot.z])).toBeLessThan(1e-4);
    expect(at(s, "501")).toEqual(at(results[0]!, "501"));
  }
});

test("curvature, refraction and scale are each switchable", () => {
  const shot = [1000, Math.PI / 2, 0, 0] as const;
  const options = { unit: "m" as const, tolerance: {} as never, scaleFactor: 1 };
  expect(reduceShot(...shot, { ...options, curvature: { k: K, radius: R } }).rise).toBeCloseTo(
    (0.87 * 1e6) / (2 * R),
    12,
  );
  expect(reduceShot(...shot, { ...options, curvature: { k: 0, radius: R } }).rise).toBeCloseTo(1e6 / (2 * R), 12);
  expect(reduceShot(...shot, { ...options, curvature: false }).rise).toBeCloseTo(0, 9);
  expect(reduceShot(...shot, { ...options, curvature: false, scaleFactor: 0.9996 }).distance).toBeCloseTo(999.6, 9);
  // Levels are not scaled; and the radius is in metres, whatever the job's unit.
  expect(reduceShot(1000, Math.PI / 3, 1.5, 1.5, { ...options, curvature: false, scaleFactor: 0.5 }).rise).toBeCloseTo(
    500,
    9,
  );
  const curvature = { k: K, radius: R },
    inMetres = reduceShot(1000, Math.PI / 2, 0, 0, { ...options, curvature });
  const inFeet = reduceShot(1000 / 0.3048, Math.PI / 2, 0, 0, { ...options, curvature, unit: "ft" });
  expect(inFeet.rise * 0.3048).toBeCloseTo(inMetres.rise, 12);
  expect(inMetres.rise).toBeCloseTo(((1 - K) * 1000 ** 2) / (2 * R), 12);
});

describe("what the office corrects is reduced again", () => {
  const target = { number: "7", e: 5040, n: 8020, z: 118, height: 1.65, faces: 1 };
  const start = open(
    surveyXml([K1, K2], [{ id: "one", at: K1, height: 1.563, zero: 1, backsight: K2, targets: [target] }]),
  );
  const place = numberIndex(start.points).get("7")!,
    id = start.points.id[place]!;

  test("a target height moves the level by old − new and stays undoable to the last digit", () => {
    const next = applyChange(start, { type: "points", edits: [{ id, field: "targetHeight", old: 1.65, new: 2.15 }] });
    expect(at(next, "7")[2]).toBeCloseTo(at(start, "7")[2] - 0.5, 12);
    expect(
      at(applyChange(next, { type: "points", edits: [{ id, field: "targetHeight", old: 2.15, new: 1.65 }] }), "7"),
    ).toEqual(at(start, "7"));
  });

  test("an instrument height, a control level, a station", () => {
    const raised = applyChange(start, {
      type: "named",
      part: "setups",
      name: "day1 / one",
      old: null,
      new: { intake: "day1", setup: "one", instrumentHeight: 1.663 },
    });
    expect(at(raised, "7")[2]).toBeCloseTo(at(start, "7")[2] + 0.1, 12);
    const station = start.points.id[numberIndex(start.points).get("K1")!]!;
    const moved = applyChange(start, {
      type: "points",
      edits: [{ id: station, field: "elevation", old: 120, new: 121 }],
    });
    expect(at(moved, "7")[2]).toBeCloseTo(at(start, "7")[2] + 1, 12);
    const out = applyChange(start, {
      type: "named",
      part: "setups",
      name: "day1 / one",
      old: null,
      new: { intake: "day1", setup: "one", out: true },
    });
    // Nothing gives the point a place any more: it is there no longer, until the setup is let in again.
    expect([at(out, "7"), out.points.deleted[out.points.number.indexOf("7")]]).toEqual([
      [NaN, NaN, NaN],
      GONE_UNPLACED,
    ]);
    const back = applyChange(out, {
      type: "named",
      part: "setups",
      name: "day1 / one",
      old: { intake: "day1", setup: "one", out: true },
      new: null,
    });
    expect([at(back, "7"), Array.from(back.points.deleted)]).toEqual([
      at(start, "7"),
      Array.from(start.points.deleted),
    ]);
  });

  test("a coordinate that the office holds stays while the rest follows, and can be let go", () => {
    expect(fieldValue(start.points, place, "elevation")).toBe("observed");
    const held = applyChange(start, { type: "points", edits: [{ id, field: "elevation", old: "observed", new: 100 }] });
    const raised = applyChange(held, {
      type: "named",
      part: "setups",
      name: "day1 / one",
      old: null,
      new: { intake: "day1", setup: "one", instrumentHeight: 2 },
    });
    expect(at(raised, "7")[2]).toBe(100);
    const free = applyChange(held, { type: "points", edits: [{ id, field: "elevation", old: 100, new: "observed" }] });
    expect(at(free, "7")).toEqual(at(start, "7"));
  });

  test("the recipe of a corrected target height runs to the same level (wrote the word “observed” as an elevation)", () => {
    const xml = surveyXml([K1, K2], [{ id: "one", at: K1, height: 1.563, zero: 1, backsight: K2, targets: [target] }]);
    const next = applyChange(start, { type: "points", edits: [{ id, field: "targetHeight", old: 1.65, new: 2.15 }] });
    const recipe = writeRecipe(next, start.points, () => "day1.xml");
    expect(recipe.edits).toEqual([{ points: "7", intake: "day1", set: { targetHeight: 2.15 } }]);
    expect(
      at(openRecipe(parseRecipe(JSON.stringify(recipe), "r.json"), () => new TextEncoder().encode(xml)).state, "7"),
    ).toEqual(at(next, "7"));
  });

  test("reducing what is reduced changes nothing", () => expect(withPositions(start).points.e).toEqual(start.points.e));
});

describe("checks and reports", () => {
  test("control observed wrong by 0.07 is told, and makes no second point", () => {
    const wrong = { ...K2, e: K2.e + 0.05, n: K2.n + 0.049, height: 1.5, faces: 1 };
    const third = { number: "K3", e: 5090, n: 7950, z: 119 };
    const s = open(
      surveyXml([K1, K2, third], [{ id: "one", at: K1, height: 1.5, zero: 0, backsight: third, targets: [wrong] }]),
    );
    expect(s.points.number.filter((x) => x === "K2")).toHaveLength(1);
    const [finding] = found(runOf(s), "control-differs");
    expect(finding!.points).toEqual(["K2"]);
    expect(finding!.data.plan as number).toBeCloseTo(0.07, 2);
  });

  test("repeated shots are one point, their mean; a spread beyond the tolerance is told", () => {
    const a = { number: "9", e: 5030, n: 8010, z: 119, height: 1.5, faces: 1 },
      b = { ...a, z: 119.05 };
    const s = open(surveyXml([K1, K2], [{ id: "one", at: K1, height: 1.5, zero: 0, backsight: K2, targets: [a, b] }]));
    expect(at(s, "9")[2]).toBeCloseTo(119.025, 6);
    expect(s.intakes[0]).toMatchObject({ rows: 3, points: 3, setups: 1 });
    const [finding] = new Chain().run(s).findings.filter((f) => f.kind === "repeat-differs");
    expect(finding!.data.level as number).toBeCloseTo(0.05, 6);
  });

  test("face differences are twice the collimation over sin z, and twice the index error", () => {
    const s = open(
      surveyXml(
        [K1, K2],
        [{ id: "one", at: K1, height: 1.5, zero: 0, backsight: K2, targets: [], collimation: 20e-6, index: 30e-6 }],
      ),
    );
    const report = new Chain().run(s).setupReports[0]!;
    const [face] = report.faces;
    const zenith = observe(
      { id: "", at: K1, height: 1.5, zero: 0, backsight: K2, targets: [] },
      { ...K2, height: 1.5, faces: 1 },
    ).zenith;
    expect(face!.circle).toBeCloseTo(40e-6 / Math.sin(zenith), 9);
    expect(face!.zenith).toBeCloseTo(60e-6, 9);
    expect(Math.abs(report.backsights[0]!.distance)).toBeLessThan(1e-4);
    expect(Math.abs(report.backsights[0]!.level)).toBeLessThan(1e-4);
  });

  test("a setup without a known backsight gives refused rows that say so", () => {
    const s = open(
      surveyXml(
        [K1],
        [
          {
            id: "one",
            at: K1,
            height: 1.5,
            zero: 0,
            backsight: { ...K2, number: "GONE" },
            targets: [{ number: "3", e: 5010, n: 8010, z: 120, height: 1.5, faces: 1 }],
          },
        ],
      ),
    );
    expect(
      unplacedRows(s.points, 0)
        .map((r) => r.reason)
        .join(),
    ).toContain("not known");
    expect(s.points.number.filter((_, i) => !s.points.deleted[i])).toEqual(["K1"]);
    const findings = told(runOf(s));
    expect(findings.some((f) => f.message.includes("Backsight GONE has no coordinates"))).toBe(true);
    expect(findings.filter((f) => f.kind === "unread-row" && f.points[0] === "3")).toHaveLength(1);
  });

  test("a setup taken out or given a backsight that is not there: its points and line are gone, each is told", () => {
    const ring = (from: number, code: string) =>
      Array.from({ length: 8 }, (_, k) => ({
        number: String(from + k),
        e: 5010 + 3 * k,
        n: 8000 + k * k + from,
        z: 120,
        height: 1.5,
        faces: 1,
        code,
      }));
    const K3 = { number: "K3", e: 5200, n: 8000, z: 121 };
    const s = open(
      surveyXml(
        [K1, K2, K3],
        [
          { id: "one", at: K1, height: 1.5, zero: 0, backsight: K2, targets: ring(1, "HEDGE1") },
          { id: "two", at: K3, height: 1.5, zero: 1, backsight: K2, targets: ring(21, "HEDGE2") },
        ],
      ),
      { codeBook: { codes: [{ code: "HEDGE", kind: "line" }] } },
    );
    const shown = (x: JobState) => [
      x.points.deleted.filter((d) => d === 0).length,
      runOf(x).lines.length,
      found(runOf(x), "unread-row").filter((f) => f.points.length).length,
    ];
    expect(shown(s)).toEqual([19, 2, 0]);
    for (const edit of [{ out: true }, { backsights: ["nobody"] }]) {
      const changed = applyChange(s, {
        type: "named",
        part: "setups",
        name: "day1 / two",
        old: null,
        new: { intake: "day1", setup: "two", ...edit },
      });
      expect(shown(changed)).toEqual([11, 1, 8]);
    }
  });
});

describe("what a file says in its own way", () => {
  const targets = [{ number: "7", e: 5040, n: 8020, z: 118, height: 1.65, faces: 1 }],
    setup = { id: "one", at: K1, height: 1.563, zero: 1, backsight: K2, targets };
  const asText = (p: typeof K1) => `>${p.n} ${p.e} ${p.z}</`;

  test("station and backsight stated as coordinates beside them are known, though they are no points of the job", () => {
    const xml = surveyXml([], [setup])
      .replace('<InstrumentPoint pntRef="K1"/>', `<InstrumentPoint pntRef="K1"${asText(K1)}InstrumentPoint>`)
      .replace('<BacksightPoint pntRef="K2"/>', `<BacksightPoint name="far away"${asText(K2)}BacksightPoint>`)
      .replace('TargetPoint name="K2"', 'TargetPoint name="far away"');
    const s = open(xml);
    expect(within(at(s, "7"), [5040, 8020, 118])).toBeLessThan(1e-4);
    expect(s.points.number.includes("K1")).toBe(false);
    expect(runOf(s).setupReports[0]).toMatchObject({ station: "K1", backsights: [{ number: "far away" }] });
    expect(runOf(s).setupReports[0]!.problem).toBeUndefined();
    // The job's own coordinates of a number come first.
    const shifted = open(
      surveyXml([K1, K2], [setup]).replace(
        '<InstrumentPoint pntRef="K1"/>',
        `<InstrumentPoint pntRef="K1"${asText({ ...K1, z: 500 })}InstrumentPoint>`,
      ),
    );
    expect(within(at(shifted, "7"), [5040, 8020, 118])).toBeLessThan(1e-4);
  });

  test("a known point observed for the purpose of a backsight is one, by its group or by itself, and once", () => {
    const plain = surveyXml([K1, K2], [setup]).replace(/<Backsight id.*<\/Backsight>/, "");
    expect(runOf(open(plain)).setupReports[0]!.problem).toContain("No backsight is given");
    const faces = plain.replace(/(<RawObservation[^>]*)(>\s*<TargetPoint name="K2")/g, '$1 purpose="backsight"$2');
    const group = plain
      .replace('setupID="one">', 'setupID="one" purpose="backsight">')
      .replace(/(<RawObservation[^>]*)(>\s*<TargetPoint name="7")/g, '$1 purpose="sideshot"$2');
    for (const xml of [faces, group]) {
      const s = open(xml);
      expect(within(at(s, "7"), [5040, 8020, 118])).toBeLessThan(1e-4);
      expect(runOf(s).setupReports[0]!.backsights.map((b) => b.number)).toEqual(["K2"]);
    }
  });

  test("several backsights weigh by their distance: two that disagree turn the circle by the weighted mean", () => {
    const near = { number: "N", e: 5000, n: 8010, z: 120 },
      far = { number: "F", e: 5000, n: 8030, z: 120 };
    const xml = (error: number) =>
      surveyXml([K1, near, far], [{ ...setup, zero: 0, backsight: near, targets: [{ ...far, height: 1.5, faces: 1 }] }])
        .replace(
          "</InstrumentSetup>",
          '<Backsight id="x" setupID="one"><BacksightPoint pntRef="F"/></Backsight></InstrumentSetup>',
        )
        // The far one is read too large by the error.
        .replace(
          /horizAngle="([^"]*)"([^>]*><TargetPoint name="F")/g,
          (_, angle: string, rest: string) => `horizAngle="${Number(angle) + error}"${rest}`,
        );
    const turned = runOf(open(xml(0.4))).setupReports[0]!.orientation;
    // 10 m and 30 m: three quarters of −0.4°.
    expect((turned * 180) / Math.PI - 360).toBeCloseTo(-0.3, 9);
  });
});

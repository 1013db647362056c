// @long: left out of npm run test:quick.
/** Spikes and height runs on generated ground whose blunders are known: found, missed, and sound shots accused. */
import fc from "fast-check";
import type { LevelField } from "../../src/checks/levels/field";
import { atOnce } from "../../src/math/steps";
import { FormMaker, NEAR, type LevelForms } from "../../src/checks/levels/forms";
import { checkLevels, LevelCheck, type LevelLimits, type LevelsChecked } from "../../src/checks/levels/levels";
import { formsByShot, Residuals } from "../../src/checks/levels/residuals";
import { endOf, misfits } from "../../src/checks/levels/ends";
import { findSpikes } from "../../src/checks/levels/spikes";
import { Draw, terrain, type Fold, type Terrain, type TerrainWish } from "./terrain";

const LIMITS: LevelLimits = { spike: { limit: 6, least: 0.3 }, run: { least: 0.12, shots: 5 } };
const PLACES = { face: true, heap: true, strings: true };

/** What a check made of a terrain: shares found, sound shots accused, and how far shifts are off in their own sigmas. */
function score(t: Terrain) {
  const got = checkLevels(t.field, LIMITS),
    { order } = t.field;
  const wrong = new Set(t.spikes.keys()),
    inRuns = new Set(t.runs.flatMap((r) => Array.from(order.subarray(r.from, r.to + 1))));
  const accusedOfRuns = got.runs.flatMap((r) => Array.from(order.subarray(r.from, r.to + 1)));
  const matched = t.runs.map((r) =>
    got.runs.find((g) => g.from <= r.to && g.to >= r.from && Math.sign(g.shift) === Math.sign(r.shift)),
  );
  return {
    spikes: got.spikes.filter((s) => wrong.has(s.shot)).length,
    residuals: got.spikes.map((s) => Math.abs(s.residual - (t.spikes.get(s.shot) ?? 0))),
    runs: matched.filter(Boolean).length,
    false:
      got.spikes.filter((s) => !wrong.has(s.shot) && !inRuns.has(s.shot)).length +
      accusedOfRuns.filter((s) => !inRuns.has(s) && !wrong.has(s)).length,
    offBy: matched.flatMap((g, k) => (g ? [Math.abs(g.shift - t.runs[k]!.shift)] : [])),
    sigmas: matched.flatMap((g, k) => (g && !g.unclear ? [Math.abs(g.shift - t.runs[k]!.shift) / g.sigma] : [])),
  };
}

const sum = (list: readonly number[]) => list.reduce((a, b) => a + b, 0);

test.each<[string, Omit<TerrainWish, "seed">]>([
  ["a lattice of 6 m on ground that curves by 0.1 m", { spacing: 6, shots: 700, curve: 0.1 }],
  ["a lattice of 8 m with a face, a heap and strings", { spacing: 8, shots: 700, curve: 0.04, ...PLACES }],
  ["a lattice of 4 m with the same", { spacing: 4, shots: 900, curve: 0.05, ...PLACES }],
  [
    "a lattice of 10 m on ground that curves by 0.1 m, with a face",
    { spacing: 10, shots: 700, curve: 0.1, face: true },
  ],
])("%s: spikes of 0.9 m and runs of 10 to 26 shots are found, sound shots are not accused", (_, wish) => {
  const draw = new Draw(11);
  const terrains = Array.from({ length: 10 }, (_, seed) =>
    terrain({
      ...wish,
      seed: seed + 1,
      spikes: 5,
      runs: [1, -1].map((sign) => ({ length: 10 + draw.whole(17), shift: sign * draw.between(0.25, 0.45) })),
    }),
  );
  const scores = terrains.map(score),
    total = <K extends "spikes" | "runs" | "false">(key: K) => sum(scores.map((s) => s[key]));
  expect(total("spikes") / sum(terrains.map((t) => t.spikes.size))).toBeGreaterThanOrEqual(0.95);
  expect(total("runs") / sum(terrains.map((t) => t.runs.length))).toBeGreaterThanOrEqual(0.95);
  scores.forEach((s, k) => expect(s.false).toBeLessThanOrEqual(0.005 * terrains[k]!.field.count));
  const offBy = scores.flatMap((s) => s.offBy).sort((a, b) => a - b);
  expect(offBy[Math.floor(0.9 * (offBy.length - 1))]).toBeLessThan(0.04);
  const sigmas = scores.flatMap((s) => s.sigmas);
  expect(sigmas.filter((x) => x > 3).length).toBeLessThanOrEqual(0.05 * sigmas.length);
  const residuals = scores.flatMap((s) => s.residuals).sort((a, b) => a - b);
  expect(residuals[residuals.length >> 1]).toBeLessThan(0.05);
});

test("sound ground is accused of nothing, whatever its shape", () => {
  for (let seed = 1; seed <= 10; seed++) {
    const { field } = terrain({ seed, spacing: 6, shots: 700, curve: 0.1, ...PLACES }),
      { spikes, runs } = checkLevels(field, LIMITS);
    expect([spikes, runs]).toEqual([[], []]);
  }
});

describe("folds of the ground that no line joins are no runs", () => {
  const draws = (n: number, fold: (d: Draw) => Fold) =>
    Array.from({ length: n }, (_, k) => {
      const d = new Draw(77 * k + 5);
      return terrain({ seed: k + 1, spacing: d.between(4, 10), shots: 900, curve: d.between(0, 0.1), fold: fold(d) });
    });
  const fold = (d: Draw): Fold => ({
    high: (d.unit() < 0.5 ? -1 : 1) * d.between(0.2, 0.5),
    top: d.between(0, 3),
    side: d.between(0.02, 0.6),
    turn: 0,
    at: d.between(0.3, 0.7),
  });

  test("a ridge two rows wide, from one end of the ground to the other", () => {
    for (const t of draws(12, () => ({ high: 0.3, top: 2, side: 0.05, turn: 0, at: 10.5 / 30 })))
      expect(checkLevels(t.field, LIMITS).runs).toEqual([]);
  });

  test.each<[string, (d: Draw) => Fold]>([
    ["ridges and ditches along the rows", fold],
    ["across the rows at any angle", (d) => ({ ...fold(d), turn: d.between(-1.57, 1.57) })],
    ["terraces along the rows", (d) => ({ ...fold(d), terrace: true })],
  ])("%s: next to none is accused, and of none of more than one is it clear by how much", (_, of) => {
    const all = draws(16, of).map((t) => checkLevels(t.field, LIMITS).runs);
    expect(all.filter((runs) => runs.length).length).toBeLessThanOrEqual(3);
    expect(all.flat().filter((r) => !r.unclear).length).toBeLessThanOrEqual(1);
  });

  test("ridges that run along the rows nearly: what is told has no number but once in a while", () => {
    const all = draws(16, (d) => ({ ...fold(d), turn: d.between(-0.1, 0.1) })).map(
      (t) => checkLevels(t.field, LIMITS).runs,
    );
    expect(all.flat().filter((r) => !r.unclear).length).toBeLessThanOrEqual(2);
  });
});

test("a stretch of a longer fold has no ends, and of a wider one has misfits; a stretch of the sequence has both ends and none", () => {
  // Rows of 30: two of them raised wholly, or shots of one of them.
  const looked = (raised: (i: number) => boolean, from: number, to: number) => {
    const t = terrain({ seed: 6, spacing: 6, shots: 900, curve: 0.02 }),
      field = { ...t.field, z: t.field.z.map((level, i) => (raised(i) ? level + 0.3 : level)) },
      maker = new FormMaker(field);
    const { forms } = maker.make(0, field.count),
      r = atOnce(Residuals.of(field, forms, formsByShot(forms))),
      shots = field.order.subarray(from, to + 1),
      has = (shot: number) => shot >= from && shot <= to;
    for (const i of shots) r.lower(i, 0.3);
    r.rescale();
    const stretch = { shots, has, shift: 0.3 };
    return [
      endOf(r, stretch, shots, field.order.slice(from - 4, from).reverse()),
      endOf(r, stretch, shots.slice().reverse(), field.order.subarray(to + 1, to + 5)),
      misfits(
        r,
        stretch,
        () => undefined,
        () => false,
      ),
    ];
  };
  const rows = (i: number) => i >= 300 && i < 360;
  expect(looked((i) => i >= 306 && i <= 320, 306, 320)).toEqual(["jump", "jump", 0]);
  // The fold goes on along its row before the stretch, and lies in the row beside it too.
  const [before, , unfit] = looked(rows, 306, 320);
  expect(before).toBe("none");
  expect(unfit).toBeGreaterThanOrEqual(6);
  // All of one row: nothing is known beyond its ends.
  expect(looked((i) => i >= 300 && i < 330, 300, 329)).toEqual(["untold", "untold", 0]);
  // Too long by some shots of sound ground, these do not fit.
  expect(looked((i) => i >= 306 && i <= 320, 302, 320)[2]).toBeGreaterThanOrEqual(2);
});

test("where a run begins and ends with the ground itself it is not told; where with one of them, without a number", () => {
  const of = (from: number, to: number) => {
    const t = terrain({ seed: 3, spacing: 6, shots: 900, curve: 0.03 }),
      z = t.field.z.map((level, i) => (i >= from && i <= to ? level + 0.35 : level));
    return checkLevels({ ...t.field, z }, LIMITS).runs.map((r) => [r.from, r.to, r.unclear]);
  };
  // Rows of 30: all of one, from its first shot into its middle, and between two places in rows.
  expect(of(300, 329)).toEqual([]);
  expect(of(300, 316)).toEqual([[300, 316, true]]);
  expect(of(306, 322)).toEqual([[306, 322, false]]);
});

test("the bank of a pond whose edge was measured is real, beside the pond as on its edge", () => {
  const t = terrain({ seed: 12, spacing: 5, shots: 900, curve: 0.01 }),
    { x, y, z } = t.field,
    centre = [75, 75] as const,
    radius = 22;
  const keep = Array.from(x.keys()).filter((i) => Math.hypot(x[i]! - centre[0], y[i]! - centre[1]) > radius + 1),
    ring = Array.from({ length: 24 }, (_, k) => (2 * Math.PI * k) / 24);
  const e = [...ring.map((a) => centre[0] + radius * Math.cos(a)), ...keep.map((i) => x[i]!)],
    n = [...ring.map((a) => centre[1] + radius * Math.sin(a)), ...keep.map((i) => y[i]!)],
    // Its water lies half a metre below the lowest ground beside it.
    water = Math.min(...keep.map((i) => z[i]!)) - 0.5,
    levels = [...ring.map((_, k) => water + 0.004 * (k % 3)), ...keep.map((i) => z[i]!)],
    edge = Int32Array.from(ring, (_, k) => k),
    order = Int32Array.from(e, (_, k) => k);
  const field: LevelField = {
    ...t.field,
    count: e.length,
    x: Float64Array.from(e),
    y: Float64Array.from(n),
    z: Float64Array.from(levels),
    row: order,
    order,
    starts: Int32Array.from([0, e.length]),
    strings: [{ shots: edge, closed: true, divides: true }],
    walls: Float64Array.from(ring.flatMap((_, k) => [k, (k + 1) % 24].flatMap((j) => [e[j]!, n[j]!]))),
  };
  const near = order.filter((i) => i >= 24 && Math.hypot(e[i]! - centre[0], n[i]! - centre[1]) < radius + 4);
  expect(near.length).toBeGreaterThan(15);
  expect(found(checkLevels(field, LIMITS))).toEqual({ spikes: [], runs: [] });
  // A blunder there is told nevertheless.
  const wrong = near[4]!,
    { spikes } = checkLevels({ ...field, z: field.z.map((level, i) => (i === wrong ? level + 2 : level)) }, LIMITS);
  expect(spikes.map((s) => s.shot)).toEqual([wrong]);
});

test("a run over several rows of the lattice, longer than any short stretch that is tried, is found", () => {
  const t = terrain({ seed: 5, spacing: 6, shots: 1600, curve: 0.05, runs: [{ length: 230, shift: 0.3 }] }),
    { runs } = checkLevels(t.field, LIMITS);
  expect(runs).toHaveLength(1);
  expect(Math.abs(runs[0]!.from - t.runs[0]!.from) + Math.abs(runs[0]!.to - t.runs[0]!.to)).toBeLessThanOrEqual(3);
  expect(runs[0]!.shift).toBeCloseTo(0.3, 1);
});

test("a run of shots so high that some look like spikes is found from its first shot to its last", () => {
  const ends = Array.from({ length: 12 }, (_, k) => {
    const t = terrain({
      seed: k + 1,
      spacing: 8,
      shots: 500,
      curve: 0.05,
      spikes: 2,
      runs: [{ length: 14, shift: 0.5 }],
    });
    return checkLevels(t.field, LIMITS).runs.map((r) => [r.from - t.runs[0]!.from, r.to - t.runs[0]!.to].join());
  });
  expect(ends.filter((e) => e.join(" ") === "0,0").length).toBeGreaterThanOrEqual(11);
});

test("limits: what is smaller is not told, what is not looked for is not found", () => {
  const t = terrain({ seed: 3, spacing: 6, shots: 700, curve: 0.05, spikes: 4, runs: [{ length: 15, shift: 0.3 }] });
  const of = (limits: LevelLimits) => checkLevels(t.field, limits);
  expect(of({ ...LIMITS, spike: { limit: 6, least: 1.1 } }).spikes).toEqual([]);
  expect(of({ ...LIMITS, run: { least: 0.4, shots: 5 } }).runs).toEqual([]);
  expect(of({ ...LIMITS, run: { least: 0.12, shots: 16 } }).runs).toEqual([]);
  expect(of({ ...LIMITS, run: undefined }).runs).toEqual([]);
  expect(of({ ...LIMITS, spike: undefined }).spikes).toEqual([]);
  expect(of(LIMITS).spikes.map((s) => s.shot)).toEqual([...t.spikes.keys()].sort((a, b) => a - b));
});

test("a whole line shot too high is not accused: nobody knows whether it is a kerb", () => {
  const t = terrain({ seed: 4, spacing: 6, shots: 700, curve: 0.05, strings: true }),
    z = t.field.z.slice(),
    open = t.field.strings.find((s) => !s.divides)!;
  for (const i of open.shots) z[i]! += 0.4;
  expect(checkLevels({ ...t.field, z }, LIMITS).runs).toEqual([]);
});

/** A field's shots along one profile with a level for each, as the only line of it. */
function profile(levels: readonly number[], step = 10): LevelField {
  const order = Int32Array.from(levels, (_, i) => i);
  return {
    count: levels.length,
    origin: [0, 0, 0],
    x: Float64Array.from(levels, (_, i) => i * step),
    y: new Float64Array(levels.length),
    z: Float64Array.from(levels),
    row: order,
    order,
    starts: Int32Array.from([0, levels.length]),
    strings: [{ shots: order, closed: false, divides: true }],
    walls: new Float64Array(0),
  };
}

test("a shot of a line is judged along it; where the grade changes at a shot none is accused", () => {
  const grade = (i: number) => (i < 8 ? i : 8);
  const sound = Array.from({ length: 16 }, (_, i) => grade(i) + 0.002 * (i % 3));
  expect(checkLevels(profile(sound), LIMITS).spikes).toEqual([]);
  const { spikes } = checkLevels(profile(sound.map((z, i) => (i === 5 ? z + 0.8 : z))), LIMITS);
  expect(spikes.map((s) => s.shot)).toEqual([5]);
  expect(spikes[0]!.residual).toBeCloseTo(0.8, 1);
});

test("of the forms of a shot all must say one direction", () => {
  // Shot 0 has two forms, by shots 1 and 2; those from 3 on are level and make the scale small.
  const count = 40,
    quiet = Array.from({ length: count - 3 }, (_, k) => [k + 3, k + 3 === count - 1 ? 3 : k + 4]),
    pairs = [[0, 1], [0, 2], ...quiet],
    of = Int32Array.from({ length: count + 1 }, (_, i) => (i === 0 ? 0 : i <= 3 ? 2 : i - 1));
  const forms: LevelForms = {
    count: pairs.length,
    starts: Int32Array.from({ length: pairs.length + 1 }, (_, f) => 2 * f),
    shots: Int32Array.from(pairs.flat()),
    coefs: Float32Array.from(pairs.flatMap(() => [1, -1])),
    spread: new Float64Array(pairs.length).fill(Math.SQRT2),
    of,
    inner: new Uint8Array(pairs.length).fill(1),
    along: new Uint8Array(pairs.length),
    pairs: new Int32Array(0),
    pairShares: new Float64Array(0),
    pairsOf: new Int32Array(count + 1),
    near: Int32Array.from({ length: NEAR * count }, (_, k) => 3 + (k % NEAR)),
  };
  const accused = (one: number, two: number) => {
    const field = profile(Array.from({ length: count }, (_, i) => [0, one, two][i] ?? 0));
    return findSpikes(atOnce(Residuals.of(field, forms, formsByShot(forms))), () => undefined, LIMITS.spike!).map(
      (s) => s.shot,
    );
  };
  expect(accused(-0.5, -1.5)).toEqual([0]);
  expect(accused(0.5, 1.5)).toEqual([0]);
  expect(accused(-0.5, 1.5)).toEqual([]);
  expect(accused(-0.2, -1.5)).toEqual([]);
});

test("forms hold for every plane, and for nothing behind a dividing line", () => {
  const t = terrain({ seed: 9, spacing: 6, shots: 500, curve: 0, ...PLACES }),
    { field } = t,
    maker = new FormMaker(field);
  const { forms } = maker.make(0, field.count);
  expect(forms.count).toBeGreaterThan(field.count);
  const at = (f: number, level: (i: number) => number) => {
    let r = 0;
    for (let c = forms.starts[f]!; c < forms.starts[f + 1]!; c++) r += forms.coefs[c]! * level(forms.shots[c]!);
    return r;
  };
  const face = field.strings.slice(0, 2),
    above = (i: number) => {
      const [foot, top] = face.map((s) => Array.from(s.shots));
      const nearest = (list: number[]) =>
        list.reduce((a, b) => (Math.abs(field.x[b]! - field.x[i]!) < Math.abs(field.x[a]! - field.x[i]!) ? b : a));
      return foot!.includes(i) || top!.includes(i) ? 0 : Math.sign(field.y[i]! - field.y[nearest(top!)]! + 1.5);
    };
  for (let f = 0; f < forms.count; f++) {
    expect(at(f, () => 1)).toBeCloseTo(0, 5);
    // Those with a constant tail, which lean too far otherwise, hold for planes only roughly.
    if (forms.spread[f]! ** 2 - 1 <= 1.2 && !forms.along[f])
      expect(Math.abs(at(f, (i) => 0.02 * field.x[i]! - 0.03 * field.y[i]!))).toBeLessThan(1);
    const sides = new Set(
      Array.from(forms.shots.subarray(forms.starts[f]!, forms.starts[f + 1]!), above).filter((s) => s !== 0),
    );
    expect(sides.size).toBeLessThanOrEqual(1);
  }
});

const found = ({ spikes, runs }: LevelsChecked) => ({ spikes, runs });

test("after any changes of levels the same is found, to the last digit, as by a fresh check", () => {
  const t = terrain({
    seed: 2,
    spacing: 7,
    shots: 300,
    curve: 0.05,
    ...PLACES,
    spikes: 2,
    runs: [{ length: 9, shift: 0.3 }],
  });
  fc.assert(
    fc.property(
      fc.array(
        fc.array(fc.tuple(fc.nat(t.field.count - 1), fc.constantFrom(0.01, -0.5, 1.2, 0.3)), {
          minLength: 1,
          maxLength: 12,
        }),
        { minLength: 1, maxLength: 4 },
      ),
      fc.array(fc.nat(40), { minLength: 5, maxLength: 5 }),
      (changes, pauses) => {
        const kept = new LevelCheck(),
          /** A check that is left half done harms nothing. */
          leave = (field: LevelField, steps: number) => {
            const begun = kept.check(field, LIMITS);
            for (let k = 0; k < steps; k++) begun.next();
          };
        let { field } = t;
        leave(field, pauses[4]!);
        atOnce(kept.check(field, LIMITS));
        for (const [k, change] of changes.entries()) {
          const z = field.z.slice();
          for (const [i, by] of change) z[i]! += by;
          field = { ...field, z };
          leave({ ...field, z: field.z.map((x) => x + 1) }, pauses[k]!);
          expect(found(atOnce(kept.check(field, LIMITS)))).toEqual(found(checkLevels(field, LIMITS)));
        }
      },
    ),
    { numRuns: 6 },
  );
});

test("a run along a line is found after a change of levels as by a fresh check", () => {
  const t = terrain({ seed: 4, spacing: 6, shots: 700, curve: 0.02, strings: true }),
    { shots } = t.field.strings[0]!,
    kept = new LevelCheck();
  atOnce(kept.check(t.field, LIMITS));
  const raised = new Set(shots.subarray(8, 20)),
    field = { ...t.field, z: t.field.z.map((level, i) => (raised.has(i) ? level + 0.4 : level)) },
    fresh = found(checkLevels(field, LIMITS));
  expect(fresh.runs.map((r) => [r.from, r.to])).toEqual([[8, 19]]);
  expect(found(atOnce(kept.check(field, LIMITS)))).toEqual(fresh);
});

test("shots that all stand in one position, in one line, or are few are no reason to stumble", () => {
  for (const levels of [[], [1], [1, 2], [1, 2, 3, 4, 5, 6, 7, 8]]) {
    const flat = profile(levels);
    expect(found(checkLevels({ ...flat, strings: [] }, LIMITS))).toEqual({ spikes: [], runs: [] });
    expect(found(checkLevels({ ...flat, x: flat.x.map(() => 5) }, LIMITS))).toEqual({ spikes: [], runs: [] });
  }
});

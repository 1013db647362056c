// @long: left out of npm run test:quick.
import { summarizeFindings } from "@bramble/core/job/told/summary";
import fs from "node:fs";
import path from "node:path";
import { openRecipe, parseRecipe, runChain, type JobState } from "@bramble/core";
import { boxesMeet, type TextBox } from "@bramble/core/drawing/crowd";
import { layOutTexts, type DrawnText } from "@bramble/core/drawing/layout";
import { layoutSource } from "@bramble/core/job/leave/drawn";
import { halfSize } from "@bramble/core/drawing/stand";
import { SurfaceReader } from "@bramble/core/surface/locate";
import { compare } from "@bramble/core/volumes/compare";
import { demoFiles } from "../src/files";
import { observe, SEED } from "../src/crews";
import { FLOOR_LEVEL, level, outsideFloor, STEPS, VOLUMES } from "../src/truth";

const kept = path.join(__dirname, "../gorsefold");
const files = demoFiles();
const bytesOf = (name: string) =>
  typeof files[name] === "string" ? new TextEncoder().encode(files[name]) : files[name]!;
const open = (more: object[] = []): JobState => {
  const recipe = JSON.parse(files["recipe.json"] as string);
  return openRecipe(
    parseRecipe(JSON.stringify({ ...recipe, edits: [...recipe.edits, ...more] }), "recipe.json"),
    bytesOf,
  ).state;
};

test("the kept files are what the program makes", () => {
  expect(fs.readdirSync(kept).sort()).toEqual(Object.keys(files).sort());
  for (const name of Object.keys(files))
    expect(Buffer.compare(fs.readFileSync(path.join(kept, name)), bytesOf(name))).toBe(0);
});

test("every blunder that this version looks for is found, at its points", () => {
  const { blunders } = observe();
  const state = open(),
    derived = runChain(state),
    findings = summarizeFindings(derived.findings, state.points, derived.lines);
  for (const kind of [
    "zero-elevation",
    "number-clash",
    "precision",
    "single-point-line",
    "attribute-missing",
    "breaklines-cross",
    "unknown-code",
    "control-differs",
    "height-run",
  ]) {
    const planted = blunders.filter((b) => b.kind === kind),
      seen = findings.filter((f) => f.kind === kind);
    expect(seen.length).toBeGreaterThanOrEqual(planted.length);
    if (kind !== "breaklines-cross")
      for (const b of planted) expect(seen.some((f) => b.points.some((p) => f.points.includes(p)))).toBe(true);
  }
});

test("on ten seeds the run and the mark on its rod are found, and at most one sound point in two hundred is accused", () => {
  for (let seed = SEED; seed < SEED + 10; seed++) {
    const { blunders } = observe(undefined, seed),
      made = demoFiles(undefined, seed);
    const { state } = openRecipe(parseRecipe(made["recipe.json"] as string, "recipe.json"), (name) =>
      typeof made[name] === "string" ? new TextEncoder().encode(made[name]) : made[name]!,
    );
    const derived = runChain(state),
      of = (kind: string) =>
        summarizeFindings(derived.findings, state.points, derived.lines).filter((f) => f.kind === kind);
    const planted = (kind: string) => blunders.filter((b) => b.kind === kind).flatMap((b) => b.points),
      rod = planted("rod-top"),
      run = planted("height-run");
    const runs = of("height-run"),
      accused = runs.flatMap((f) => f.points);
    expect(runs).toHaveLength(1);
    expect(run.filter((n) => accused.includes(n)).length).toBeGreaterThanOrEqual(0.95 * run.length);
    expect(runs[0]!.data.shift).toBeCloseTo(0.4, 1);
    expect(runs[0]!.data.targetHeight).toBe(1.65);
    expect(runs[0]!.data.suggested).toBeCloseTo(2.05, 1);
    const spikes = of("spike").flatMap((f) => f.points);
    expect(spikes).toEqual(expect.arrayContaining(rod));
    const wrong = new Set(blunders.flatMap((b) => b.points)),
      sound = [...spikes, ...accused].filter((n) => !wrong.has(n));
    expect(sound.length).toBeLessThanOrEqual(0.005 * state.points.count);
    if (seed === SEED) expect(sound).toEqual([]);
  }
});

test("with the blunders repaired the terrain matches the truth to 0.03 m RMS away from edges", () => {
  const { blunders } = observe();
  const repairs = blunders.flatMap((b): object[] =>
    b.kind === "height-run"
      ? b.points.map((p) => ({ points: p, intake: "crew-a", set: { targetHeight: 2.05 } }))
      : b.kind === "rod-top" || b.kind === "breaklines-cross"
        ? b.points.map((p) => ({ points: p, intake: "crew-b", set: { deleted: true } }))
        : [],
  );
  const made = runChain(open(repairs)).surfaces[0]!;
  if (!made.ok) throw made.refusal;
  const reader = new SurfaceReader(made.value.surface);
  let sum = 0,
    n = 0;
  for (let e = 3010; e < 3365; e += 3.7) {
    for (let nn = 7010; nn < 7280; nn += 3.3) {
      const s = outsideFloor(e, nn);
      const nearFace =
        Object.values(STEPS).some((step) => Math.abs(s - step) < 6) ||
        (s > 0 && s < 31 && [1.5, 16.5, 29.5].some((m) => Math.abs(s - m) < 6));
      if (nearFace || (s < 0 && level(e, nn) !== FLOOR_LEVEL) || Math.hypot(e - 3352, nn - 7240) < 30) continue;
      const under = reader.at(e, nn);
      if (!under) continue;
      sum += (under.level - level(e, nn)) ** 2;
      n++;
    }
  }
  expect(n).toBeGreaterThan(3000);
  expect(Math.sqrt(sum / n)).toBeLessThan(0.03);
});

test("crew A's observations give every shot back to half a millimetre, whatever the instrument's errors", () => {
  const { a } = observe(),
    t = open().points,
    at = new Map(t.number.map((n, i) => [n, i]));
  for (const s of a.slice(0, -1)) {
    const i = at.get(s.number)!;
    expect(Math.hypot(t.e[i]! - s.e, t.n[i]! - s.n, t.z[i]! - s.z)).toBeLessThan(0.0005);
  }
});

test("what the office has added stands where it says, and nothing of it is lost", () => {
  const state = open(),
    derived = runChain(state),
    source = layoutSource(state, derived, { notes: true, points: true, contours: true }),
    { texts, collisions } = layOutTexts(source, 0.5);
  expect(source.added).toMatchObject({ lost: [] });
  expect(collisions).toEqual([]);
  const said = texts.map((t) => t.lines.join(" "));
  // The wall's first piece goes 28 m east and 12 m south; the ramp is 8 m wide.
  expect(said).toContain("113°11′55″  30.463");
  expect(said).toContain("8.000 m");
  expect(said).toContain("Weighbridge, to be kept");
  expect(state.added).toHaveLength(8);
});

test("heap and sump come out within 1 % of their formulas", () => {
  // Each object alone, by the rings shot around it, against the level of the floor.
  const of = (codes: string[]) => {
    const all = open();
    // The stack's hips are TOP lines; the other TOP lines are left out with their points.
    const texts = all.points.texts.map((t) => (codes.some((c) => t.startsWith(c)) ? t : "SPOT"));
    const state = {
      ...all,
      points: { ...all.points, texts },
      sets: [{ name: "object", rule: { codes } }],
      surfaces: [{ name: "object", points: "object", breaklines: { codes: [...codes, "TOP"] } }],
      contours: [],
      volumes: [],
      handover: [],
    };
    const made = runChain(state).surfaces[0]!;
    if (!made.ok) throw made.refusal;
    return compare({ from: made.value.surface, to: FLOOR_LEVEL }).whole;
  };
  expect(of(["HEAPTOE", "HEAPTOP"]).cut / VOLUMES.heap).toBeCloseTo(1, 2);
  expect(of(["SUMPRIM", "SUMPBED"]).fill / VOLUMES.sump).toBeCloseTo(1, 2);
  expect(of(["STACKTOE", "STACKTOP"]).cut / VOLUMES.stack).toBeCloseTo(1, 2);
});

test("the same program makes larger jobs", () => {
  const { a, b } = observe(20_000);
  expect(a.length + b.length).toBeGreaterThan(15_000);
  // One number is used by both crews, as planted.
  expect(new Set([...a, ...b].map((s) => s.number)).size).toBe(a.length + b.length - 1);
});

test.each([200, 1000])(
  "at 1:%i at least 95 of 100 notes have a place, no two texts overlap, and the rest is listed",
  (scale) => {
    const state = open(),
      derived = runChain(state),
      u = scale / 1000;
    const layout = layOutTexts(layoutSource(state, derived, { notes: true, points: true, contours: true }), u);
    const isNote = (t: DrawnText) => t.is === "note" || (t.is === "added" && t.line >= 0),
      placed = layout.texts.filter(isNote).length;
    expect(layout.notes).toBeGreaterThan(30);
    expect(placed / layout.notes).toBeGreaterThanOrEqual(0.95);
    expect(placed + layout.unplaced.filter((x) => x.is === "note").length).toBe(layout.notes);
    expect(layout.texts.filter((t) => t.is === "point").length / layout.labels).toBeGreaterThan(0.95);
    const boxes = layout.texts
      .map((t): TextBox => {
        const [halfWidth, halfHeight] = halfSize(t);
        return { x: t.e / u, y: t.n / u, halfWidth, halfHeight, angle: t.angle };
      })
      .sort((a, b) => a.x - b.x);
    // By their west ends: a text is compared with those that begin within its reach.
    let met = 0;
    boxes.forEach((a, k) => {
      for (let j = k + 1; j < boxes.length && boxes[j]!.x - a.x < 40; j++) if (boxesMeet(a, boxes[j]!, 0)) met++;
    });
    expect(met).toBe(0);
  },
);

// @long: left out of npm run test:quick.
/** Findings settled: accepted with a reason while their facts stay, repaired as offered; limits that a job sets. */
import fc from "fast-check";
import type { EditField } from "../../src/records/fields";
import { atOnce } from "../../src/math/steps";
import {
  acceptanceOf,
  applyChange,
  Chain,
  inverse,
  limitsOf,
  openedAgain,
  parseRecipe,
  repairsOf,
  withPoint,
  runChain,
  tryChange,
  writeRecipe,
  type Finding,
  type FindingKind,
  type JobState,
} from "../../src";
import { openRecipe } from "../../src/job/recipe/recipe";
import type { EditValue } from "../../src/points/edits";
import { fieldValue } from "../../src/points/edits";
import { changedContours } from "../../src/surface/changed-contours";
import { SurfaceReader } from "../../src/surface/locate";
import { summarizeFindings } from "../../src/job/told/summary";
import { Draw } from "./terrain";

/** A lattice of one crew on a slope, in the unit: a spike at 45, a run from 64 to 75, a zero, one without a level. */
function text(unit = 1): string {
  const draw = new Draw(3);
  return Array.from({ length: 120 }, (_, k) => {
    const [row, col] = [Math.floor(k / 12), k % 12],
      e = row % 2 ? 11 - col : col;
    let z = 50 + 0.1 * row + 0.05 * e + draw.normal(0.01);
    if (k + 1 === 45) z += 0.8;
    if (k + 1 >= 64 && k + 1 <= 75) z += 0.3;
    const level = k + 1 === 30 ? "0" : k + 1 === 32 ? "" : (z / unit).toFixed(4);
    const [north, east] = [7000 + 8 * row, 3000 + 8 * e].map((x) => (x / unit).toFixed(4));
    return [k + 1, north, east, level, k + 1 === 20 ? "SOPT" : "SPOT", 1.6].join(",");
  }).join("\n");
}

const RECIPE = {
  recipe: 1,
  codeBook: { codes: [{ code: "SPOT" }, { code: "TOP", kind: "line", breakline: "fixed" }] },
  intakes: [
    {
      id: "d",
      file: "d.csv",
      layout: {
        delimiter: ",",
        columns: ["number", "northing", "easting", "elevation", "description", "targetHeight"],
      },
    },
  ],
  surfaces: [{ name: "s" }],
  volumes: [{ name: "v", surface: "s", level: 50 }],
};
const open = (more: object = {}, content = text()): JobState =>
  openRecipe(parseRecipe(JSON.stringify({ ...RECIPE, ...more }), "r.json"), () => new TextEncoder().encode(content))
    .state;
const state = open();
const of = (s: JobState, kind: FindingKind) => runChain(s).findings.filter((f) => f.kind === kind);
const one = (s: JobState, kind: FindingKind): Finding => {
  const found = of(s, kind);
  expect(found).toHaveLength(1);
  return found[0]!;
};
const row = (s: JobState, number: string) => s.points.number.indexOf(number);
const edited = (s: JobState, number: string, field: EditField, value: EditValue): JobState => {
  const i = row(s, number);
  return applyChange(s, {
    type: "points",
    edits: [{ id: s.points.id[i]!, field, old: fieldValue(s.points, i, field), new: value }],
  });
};
const accepted = (s: JobState, f: Finding, reason = "seen"): JobState => {
  const a = acceptanceOf(f, reason, (key) => key),
    old = s.accepted.find((x) => x.name === a.name) ?? null;
  return applyChange(s, { type: "named", part: "accepted", name: a.name, old, new: a });
};
const repaired = (s: JobState, f: Finding, k = 0): JobState => {
  const repairs = repairsOf(f, { state: s, line: () => undefined });
  return applyChange(s, repairs[k]!.change);
};

test("what is there is found, with the data that the contract names", () => {
  const derived = runChain(state),
    told = summarizeFindings(derived.findings, state.points, derived.lines),
    data = (kind: string) => told.filter((f) => f.kind === kind).map((f) => [f.points.join(), f.data]);
  expect(data("spike")).toEqual([
    ["45", { residual: expect.closeTo(0.8, 1), predicted: expect.closeTo(50.45, 1), scale: expect.any(Number) }],
  ]);
  const [[points, run]] = data("height-run") as [[string, Record<string, unknown>]];
  expect(points).toBe("64,65,66,67,68,69,70,71,72,73,74,75");
  expect(run).toEqual({
    shift: expect.closeTo(0.3, 1),
    sigma: expect.any(Number),
    targetHeight: 1.6,
    suggested: expect.closeTo(1.9, 1),
    unclear: false,
  });
  expect(data("zero-elevation")).toEqual([["30", { predicted: expect.closeTo(50.45, 1) }]]);
  expect(data("no-elevation")).toEqual([["32", { predicted: expect.closeTo(50.55, 1) }]]);
});

test("each repair that is offered first makes its finding go, and can be undone", () => {
  for (const kind of ["spike", "height-run", "zero-elevation", "no-elevation", "unknown-code"] as const) {
    const f = one(state, kind),
      [repair] = repairsOf(f, { state, line: () => undefined }),
      next = applyChange(state, repair!.change);
    expect(of(next, kind)).toEqual([]);
    const back = applyChange(next, inverse(repair!.change) as never);
    expect(runChain(back).findings).toEqual(runChain(state).findings);
  }
});

test("a run's target heights are set and its levels follow; a level in a point's own words is offered first", () => {
  const next = repaired(state, one(state, "height-run")),
    at = (s: JobState, n: string) => s.points.z[row(s, n)]!;
  expect(next.points.targetHeight[row(next, "64")]).toBeCloseTo(1.9, 2);
  expect(at(state, "64") - at(next, "64")).toBeCloseTo(0.3, 2);
  expect(at(next, "60")).toBe(at(state, "60"));
  const said = edited(state, "45", "note", "50.43 on the sketch"),
    [first] = repairsOf(one(said, "spike"), { state: said, line: () => undefined });
  expect(first!.name).toContain("50.430 m");
  expect(at(applyChange(said, first!.change), "45")).toBe(50.43);
});

test("an accepted finding stays settled while its facts stay, and opens when they change", () => {
  let s = accepted(state, one(state, "spike"));
  expect(one(s, "spike").accepted).toBe("seen");
  // Elsewhere, and a little near by: the facts are the same.
  s = edited(edited(s, "1", "elevation", 50.001), "44", "note", "x");
  expect(one(s, "spike").accepted).toBe("seen");
  // Another level of the point itself.
  expect(one(edited(s, "45", "elevation", 51.6), "spike").accepted).toBeUndefined();
  // The point is renumbered: it is the same.
  expect(one(edited(s, "45", "number", "A45"), "spike").accepted).toBe("seen");
  // Sets do not count what is settled.
  const set = { name: "f", rule: { finding: ["spike"] } },
    rows = (x: JobState) => runChain({ ...x, sets: [set as never] }).madeSets[0]!;
  expect(rows(state)).toMatchObject({ ok: true, value: Int32Array.of(row(state, "45")) });
  expect(rows(s)).toMatchObject({ ok: true, value: new Int32Array(0) });
  // One acceptance of several points that differ by one point more is none.
  const missing = accepted(state, one(state, "no-elevation"));
  expect(one(missing, "no-elevation").accepted).toBe("seen");
  expect(one(edited(missing, "50", "elevation", null), "no-elevation").accepted).toBeUndefined();
});

test("a recipe says what is accepted by numbers, many single ones at once, and is written the same", () => {
  const s = open({ accepted: [{ kind: "zero-elevation", points: "1-40", reason: "datum" }] });
  expect(one(s, "zero-elevation").accepted).toBe("datum");
  expect(one(s, "spike").accepted).toBeUndefined();
  // Of other points, or of more of them, nothing is accepted.
  for (const points of ["1-44", "46-60"])
    expect(one(open({ accepted: [{ kind: "spike", points, reason: "x" }] }), "spike").accepted).toBeUndefined();
  const run = open({ accepted: [{ kind: "height-run", points: "64-76", reason: "x" }] });
  expect(one(run, "height-run").accepted).toBeUndefined();
  const t = accepted(accepted(state, one(state, "spike"), "boulder"), one(state, "height-run"), "kerb"),
    written = writeRecipe(t, state.points, () => "d.csv");
  expect(written.accepted).toEqual([
    { kind: "spike", points: "45", reason: "boulder" },
    { kind: "height-run", points: "64-75", reason: "kerb" },
  ]);
  const again = open(written, text());
  const told = (x: JobState) => {
    const d = runChain(x);
    return summarizeFindings(d.findings, x.points, d.lines).map((f) => [f.kind, f.points, f.accepted ?? ""]);
  };
  expect(told(again)).toEqual(told(t));
  expect(() => open({ accepted: [{ kind: "nothing", points: "1", reason: "x" }] })).toThrow(/accepted\[0\]\.kind/);
});

test("limits are the job's, in its unit; what is false is not looked for", () => {
  const with_ = (checks: object, unit: "m" | "ft" = "m") => open({ checks, unit }, text(unit === "ft" ? 0.3048 : 1));
  expect(of(with_({ spike: { least: 0.9 } }), "spike")).toEqual([]);
  expect(of(with_({ spike: { limit: 500 } }), "spike")).toEqual([]);
  expect(of(with_({ spike: { least: 2.7 } }, "ft"), "spike")).toEqual([]);
  expect(limitsOf("spike", undefined, "ft")).toEqual({ limit: 6, least: expect.closeTo(0.984, 3) });
  expect(limitsOf("height-run", { "height-run": { shots: 8 } }, "m")).toEqual({ least: 0.12, shots: 8 });
  expect(one(with_({ spike: { least: 2.3 } }, "ft"), "spike").data.residual).toBeCloseTo(0.8 / 0.3048, 0);
  expect(of(with_({ "height-run": { least: 0.4 } }), "height-run")).toEqual([]);
  expect(of(with_({ "height-run": { shots: 13 } }), "height-run")).toEqual([]);
  expect(of(with_({ "height-run": false }), "height-run")).toEqual([]);
  expect(of(with_({ "unknown-code": false }), "unknown-code")).toEqual([]);
  expect(() => with_({ spike: { leest: 1 } })).toThrow(/checks\.spike\.leest/);
  expect(() => with_({ precision: { limit: 1 } })).toThrow(/checks\.precision/);
});

test("a change is tried without being made: what would become another is told, and the chain is as before", () => {
  const state = open({ contours: [{ surface: "s", interval: 0.1 }] }),
    chain = new Chain(),
    now = chain.run(state),
    zero = one(state, "zero-elevation"),
    [repair] = repairsOf(zero, { state, line: () => undefined }),
    trial = tryChange(chain, state, now, repair!.change);
  expect(trial.points).toMatchObject([{ what: "Point 30, elevation", from: "0 m" }]);
  expect(trial.gone).toEqual([expect.stringContaining("Point 30 has the elevation 0")]);
  expect(trial.come).toEqual([]);
  const after = runChain(applyChange(state, repair!.change)).volumes[0]!;
  expect(trial.volumes[0]!.now!.net).toBe(after.ok && after.value.net);
  expect(trial.volumes[0]!.was!.net).not.toBe(trial.volumes[0]!.now!.net);
  expect(trial.cells).toEqual([{ id: zero.points[0], field: "elevation", value: expect.any(Number) }]);
  // Only contours that are not there now, each one of the contours that would be.
  const waysOf = (s: JobState) =>
    new Set(
      runChain(s)
        .contours.flatMap((c) => (c.ok ? changedContours([], [c.value], Infinity) : []))
        .map(String),
    );
  const [are, will] = [waysOf(state), waysOf(applyChange(state, repair!.change))];
  expect(new Set(trial.contours.map(String))).toEqual(new Set([...will].filter((way) => !are.has(way))));
  expect(trial.contours.length).toBeGreaterThan(0);
  expect(chain.run(state)).toEqual(now);
});

test("a code read another way is among the cells that a trial shows", () => {
  const chain = new Chain(),
    now = chain.run(state),
    unknown = one(state, "unknown-code"),
    alias = repairsOf(unknown, { state, line: () => undefined }).find((r) => r.change.type === "setting"),
    trial = tryChange(chain, state, now, alias!.change);
  expect(trial.cells).toEqual([{ id: unknown.points[0], field: "code", value: "SPOT" }]);
});

test("levels put off are those of before until they are caught up with, whatever comes between", () =>
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 1, max: 120 }), fc.constantFrom(50.2, 51.9, null)), {
        minLength: 1,
        maxLength: 4,
      }),
      fc.array(fc.nat(3), { maxLength: 4 }),
      (changes, pauses) => {
        const chain = new Chain();
        let s = state,
          steps = chain.catchUp();
        chain.run(s);
        changes.forEach(([n, z], k) => {
          s = edited(s, String(n), "elevation", z);
          chain.run(s, true);
          steps = chain.catchUp();
          for (let p = 0; p < (pauses[k] ?? 0); p++) steps.next();
        });
        atOnce(steps);
        const last = chain.run(s, true);
        expect(last.levelsToCome).toBe(false);
        expect(last.findings).toEqual(runChain(s).findings);
      },
    ),
    { numRuns: 25 },
  ));

test("opened again is the one finding that is meant, whatever else was accepted for the same reason", () => {
  const finding = (lines: string[], points: number[], kind: FindingKind): Finding => ({
    kind,
    severity: "warning",
    words: [],
    points,
    lines,
    data: {},
    key: `${kind}: ${[...points, ...lines].join(" ")}`,
  });
  const lines = ["a", "b", "c"].map((key) => ({ key, code: key.toUpperCase(), run: "" })),
    [one, two] = [finding(["a", "b"], [], "breaklines-cross"), finding(["a", "c"], [], "breaklines-cross")],
    both = [one!, two!].map((f) => acceptanceOf(f, "seen", (key) => key));
  expect(openedAgain(one!, both, lines, "m")).toEqual([{ old: both[0], new: null }]);
  // One acceptance of many points goes on without the one that is opened.
  const many = { name: "n", kind: "spike" as const, points: [4, 5, 6], lines: [], reason: "walls" };
  expect(openedAgain(finding([], [5], "spike"), [many], lines, "m")).toEqual([
    { old: many, new: { ...many, points: [4, 6] } },
  ]);
  expect(openedAgain(finding([], [7], "spike"), [many], lines, "m")).toEqual([]);
});

/** A job of rows “number, easting, northing, elevation, description”, all its lines breaklines. */
const jobOf = (rows: readonly string[]): JobState =>
  openRecipe(
    parseRecipe(
      JSON.stringify({
        ...RECIPE,
        intakes: [
          {
            id: "d",
            file: "d.csv",
            layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
          },
        ],
        surfaces: [{ name: "s", breaklines: { codes: ["*"] } }],
      }),
      "r.json",
    ),
    () => new TextEncoder().encode(rows.join("\n")),
  ).state;
const drawn = (lines: ReturnType<typeof runChain>["lines"]) => (key: string) => {
  const l = lines.find((x) => x.key === key)!;
  return { ...l, cues: l.shots.map(() => "") };
};

test("a line that crosses two others is brought to both by one repair", () => {
  const rows = [
    "1,0,10,10,TOP1",
    "2,100,10,10.5,TOP1",
    "3,0,30,11,TOP2",
    "4,100,30,12,TOP2",
    "5,50,0,13,TOP3",
    "6,50,20,13.4,TOP3",
    "7,50,40,13.1,TOP3",
  ];
  const s = jobOf(rows);
  const { lines, findings } = runChain(s),
    crossings = findings.filter((f) => f.kind === "breaklines-cross");
  expect(crossings).toHaveLength(2);
  const line = drawn(lines);
  const names = (all: ReturnType<typeof repairsOf>) => all.map((r) => r.name);
  const offered = repairsOf(crossings[0]!, { state: s, findings, line });
  expect(names(offered)[0]).toBe("Bring TOP 3 to the levels of the 2 lines that it crosses, at its 3 shots");
  expect(of(applyChange(s, offered[0]!.change), "breaklines-cross")).toEqual([]);
  expect(names(offered).slice(1, 3)).toEqual([
    expect.stringMatching(/^Raise TOP [12] by [\d.]+ m at its 2 shots$/),
    expect.stringMatching(/^Lower TOP 3 by [\d.]+ m at its 3 shots$/),
  ]);
  expect(names(repairsOf(crossings[0]!, { state: s, line }))[0]).toMatch(/^Raise/);
});

test("where breaklines cross each way out is offered, and does what it says", () => {
  // A drain, twelve metres long, under a kerb: 10.00 where the kerb is at 11.20.
  const rows = [
    "1,0,0,9.9,TOP2",
    "2,10,0,10,TOP2",
    "3,20,0,10,TOP2",
    "4,30,0,10.1,TOP2",
    "5,15,-10,11.2,TOP1",
    "6,15,10,11.2,TOP1",
    "7,15,30,11.3,TOP1",
    "8,-5,25,10.5,SPOT",
    "9,35,-10,10.5,SPOT",
  ];
  const s = jobOf(rows),
    { lines, findings } = runChain(s),
    crossing = findings.find((f) => f.kind === "breaklines-cross")!,
    offered = repairsOf(crossing, { state: s, findings, line: drawn(lines) }),
    names = offered.map((r) => r.name);
  const after = (begin: string | RegExp) => {
    const repair = offered.find((r) => (typeof begin === "string" ? r.name.startsWith(begin) : begin.test(r.name)));
    if (!repair) throw new Error(`not offered: ${begin}; but ${names.join(" | ")}`);
    const state = applyChange(s, repair.change),
      derived = runChain(state),
      surface = derived.surfaces[0]!;
    if (!surface.ok) throw surface.refusal;
    const reader = new SurfaceReader(surface.value.surface);
    return {
      derived,
      open: derived.findings.filter((f) => f.kind === "breaklines-cross" && f.accepted === undefined).length,
      level: (e: number, n: number) => reader.at(e, n)!.level,
    };
  };
  // Drawn as before, no breakline there; the other one has its own level.
  const below = after("TOP 2 runs below between 2 and 3: drawn there, no breakline");
  expect([below.open, below.derived.lines.length, below.level(15, 0)]).toEqual([0, 2, expect.closeTo(11.2, 9)]);
  expect(below.level(25, 0)).toBeCloseTo(10.05, 9);
  const above = after("TOP 1 runs above between 5 and 6: drawn there, no breakline");
  expect([above.open, above.level(15, 0)]).toEqual([0, expect.closeTo(10, 9)]);
  const without = after("Leave TOP 2 out of “s”");
  expect([without.open, without.level(15, 0), without.derived.lines.length]).toEqual([0, expect.closeTo(11.2, 9), 2]);
  expect(after("Leave TOP 1 out of “s”").level(15, 0)).toBeCloseTo(10, 9);
  // One level for both, and the finding is settled with it.
  const mean = after("Accept the mean level there, 10.600 m");
  expect([mean.open, mean.level(15, 0)]).toEqual([0, expect.closeTo(10.6, 9)]);
  expect(mean.derived.findings.find((f) => f.kind === "breaklines-cross")!.accepted).toBe(
    "the mean of both levels is taken",
  );
  expect(after("Take the higher level, 11.200 m there").level(15, 0)).toBeCloseTo(11.2, 9);
  const lower = after("Take the lower level, 10.000 m there");
  expect([lower.open, lower.level(15, 0)]).toEqual([0, expect.closeTo(10, 9)]);
  // Joined: one shot more in either line, where they have one level, and no rule of the surface changed.
  for (const [rule, level] of [
    ["mean", 10.6],
    ["higher", 11.2],
    ["lower", 10],
  ] as const) {
    const joined = after(`Join both there by a point at ${level.toFixed(3)} m, the ${rule} level`);
    expect([joined.open, joined.level(15, 0)]).toEqual([0, expect.closeTo(level, 9)]);
    expect(joined.derived.lines.map((l) => [l.code + l.run, l.shots.length]).sort()).toEqual([
      ["TOP1", 4],
      ["TOP2", 5],
    ]);
    expect(joined.level(12.5, 0)).toBeCloseTo((10 + level) / 2, 9);
  }
  // The id is nobody's until somebody takes the repair.
  const join = offered.find((r) => r.makes)!,
    points = {
      id: [4711],
      number: [join.makes!.number],
      easting: [15],
      northing: [0],
      elevation: [10.6],
      description: [""],
    },
    taken = withPoint(join.change, points);
  expect(s.points.id).not.toContain(
    join.change.type === "several" && (join.change.changes[0] as { points: { id: number[] } }).points.id[0],
  );
  expect(applyChange(s, taken).points.id.at(-1)).toBe(4711);
  // A piece that is steered is no straight way: no shot is put into it.
  const steered = (key: string) => ({ ...drawn(lines)(key), steering: s.points.number.slice(0, 9).map(() => "curve") });
  expect(repairsOf(crossing, { state: s, findings, line: steered }).some((r) => r.makes)).toBe(false);
  // Split: the piece is neither drawn nor a breakline.
  const split = after("Split TOP 2 between 2 and 3");
  expect([split.open, split.derived.lines.length, split.level(15, 0)]).toEqual([0, 3, expect.closeTo(11.2, 9)]);
  expect(after("Lower TOP 1 by 1.200 m").open).toBe(0);
});

test("a shot that stands alone is joined to the nearer end of a line of its code", () => {
  const rows = ["1,0,10,10,TOP1", "2,50,10,10,TOP1", "3,90,10,11,TOP2", "4,0,40,11,TOE3", "5,50,40,12,TOE3"];
  const joined = () => {
    const s = jobOf(rows),
      { lines, findings } = runChain(s),
      alone = findings.find((f) => f.kind === "single-point-line")!,
      join = repairsOf(alone, { state: s, lines, line: drawn(lines) }).find((r) => r.name.startsWith("Join"))!,
      next = runChain(applyChange(s, join.change));
    expect(next.findings.filter((f) => f.kind === "single-point-line")).toEqual([]);
    return { name: join.name, lines: next.lines.map((l) => l.shots.map((i) => s.points.number[i])) };
  };
  expect(joined()).toEqual({
    name: "Join it to TOP 1 at 2, 40.000 m away",
    lines: expect.arrayContaining([["1", "2", "3"]]),
  });
  rows[2] = "3,-4,10,11,TOP2";
  const { name, lines } = joined();
  expect(name).toBe("Join it to TOP 1 at 1, 4.000 m away");
  expect(lines).toContainEqual(["3", "1", "2"]);
});

test("of a finding of several points some may be accepted: these are, the others stay to look at", () => {
  const rows = [1, 2, 3, 4, 5].map((k) => `${k},${10 * k},${7 * k},${100 + k},${k < 4 ? "OAK" : "SPOT"}`),
    base = jobOf(rows),
    id = (n: string) => base.points.id[row(base, n)]!,
    told = (s: JobState) =>
      of(s, "unknown-code").map((f) => [f.points.map((p) => s.points.number[row(s, String(p))]!).join(), f.accepted]),
    accept = (numbers: string[], reason: string, k: number) => ({
      name: `accepted ${k}`,
      kind: "unknown-code" as const,
      points: numbers.map(id),
      lines: [],
      reason,
    });
  expect(told(base)).toEqual([["1,2,3", undefined]]);
  const some = { ...base, accepted: [accept(["1", "3"], "trees", 1)] };
  expect(told(some)).toEqual([
    ["2", undefined],
    ["1,3", "trees"],
  ]);
  const [rest, done] = of(some, "unknown-code");
  expect(new Set([rest!.key, done!.key]).size).toBe(2);
  expect(done!.words.slice(0, 2)).toEqual([{ points: [id("1"), id("3")] }, " are accepted of this: "]);
  // What is accepted is opened again by itself; a point more in an acceptance harms nothing.
  expect(openedAgain(done!, some.accepted, [], "m")).toEqual([{ old: some.accepted[0], new: null }]);
  expect(told({ ...base, accepted: [accept(["1", "3", "5"], "trees", 1)] })).toEqual(told(some));
  // Accepted for two reasons, and all.
  expect(told({ ...base, accepted: [accept(["1"], "a", 1), accept(["2", "3"], "b", 2)] })).toEqual([
    ["1", "a"],
    ["2,3", "b"],
  ]);
  expect(told({ ...base, accepted: [accept(["1", "2", "3"], "all", 1)] })).toEqual([["1,2,3", "all"]]);
});

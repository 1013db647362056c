// @long: left out of npm run test:quick.
/**
 * One result on every way: after any changes of any field, setting or part the chain that followed step by step, one
 * that starts from the state, and one that starts from the job written down as a recipe give the same points, lines,
 * findings and figures.
 */
import fc from "fast-check";
import type { HandLineGiven } from "../../src/lines/model";
import { AS_IT_IS, passed } from "../../src/job/model/references";
import { refsOfNumbers } from "../../src/points/refs";
import { conditionsChanged, type PointSet } from "../../src/sets/model";
import type { LineName } from "../../src/lines/names";
import type { Move } from "../../src/points/moves";
import type { SurfaceRecipe } from "../../src/surface/model";
import { EDIT_FIELDS, type EditField } from "../../src/records/fields";
import {
  applyChange,
  asItStands,
  Chain,
  inverse,
  openRecipe,
  parseRecipe,
  Refusal,
  SETTINGS,
  summarize,
  writeRecipe,
  type Change,
  type Derived,
  type EditableChange,
  type JobState,
  type NamedPart,
  type SettingField,
} from "../../src";
import { nameOf } from "../../src/job/model/parts";
import { cellValue } from "../../src/points/differing";
import { fieldValue, OBSERVED, type EditValue } from "../../src/points/edits";
import { FOLLOWS_E } from "../../src/records/kinds";
import { CODES, csvOf, givenLine, type Row } from "../job";
import { circularPoints } from "../../src/construct/program";
import type { Construction } from "../../src/construct/model";
import { surveyXml, type TruePosition } from "../survey";

const K1: TruePosition = { number: "K1", e: 0, n: 0, z: 100 },
  K2: TruePosition = { number: "K2", e: 60, n: 80, z: 101 },
  K3: TruePosition = { number: "K3", e: 90, n: -20, z: 99 };
const target = (number: string, e: number, n: number, code: string) => ({
  number,
  e,
  n,
  z: 100 + e / 50,
  height: 1.6,
  faces: 2,
  code,
});
const survey = surveyXml(
  [K1, K2, K3],
  [
    {
      id: "S1",
      at: K1,
      height: 1.5,
      zero: 0.3,
      backsight: K2,
      targets: [
        target("101", 10, 10, "HEDGE1"),
        target("102", 20, 12, "HEDGE1 via"),
        target("103", 30, 9, "HEDGE1"),
        target("104", 25, 30, "SPOT"),
      ],
    },
    {
      id: "S2",
      at: K2,
      height: 1.6,
      zero: 2,
      backsight: K1,
      targets: [
        target("201", 55, 60, "TOP1"),
        target("202", 45, 50, "TOP1"),
        target("104", 25, 30, "SPOT"),
        target("203", 40, 70, "TREE SPREAD 4 past=1"),
      ],
    },
  ],
);
const rows: Row[] = [
  ...[
    "SPOT",
    "HEDGE2",
    "HEDGE2 flow",
    "HEDGE2",
    "BED1",
    "BED1",
    "BED1 loop",
    "TOE1",
    "TOE1 off=1,0.2,TOP",
    "SPOT; a note",
  ].map((code, k): Row => ({ number: k + 1, e: 7 * k, n: (k * 37) % 50, z: 95 + (k % 4), code })),
  { number: "12-15", e: 33, n: 44, z: 96, code: "SPOT" },
  { number: "*", e: 35, n: 41, z: 96, code: "HEDGE3" },
  { number: 'q"1', e: 36, n: 48, z: 96, code: "HEDGE3" },
];
/** Notes that say what a point is called and how high it lies. */
const LABELLED = CODES.map((c) => (c.code === "SPOT" ? { ...c, label: "{number}: {elevation:2} {note}" } : c));
const FILES: Record<string, string> = { "day1.csv": csvOf(rows), "day2.xml": survey };
const open = (name: string) => new TextEncoder().encode(FILES[name]!);
const start = openRecipe(
  parseRecipe(
    JSON.stringify({
      recipe: 1,
      name: "Plot",
      codeBook: { codes: LABELLED },
      surfaces: [{ name: "s" }],
      contours: [{ surface: "s", interval: 0.5 }],
      volumes: [{ name: "v", surface: "s", level: 96 }],
      intakes: [
        {
          id: "d1",
          file: "day1.csv",
          layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
        },
        { id: "d2", file: "day2.xml", format: "landxml" },
      ],
    }),
    "recipe.json",
  ),
  open,
).state;

const figure = fc.integer({ min: -400, max: 1200 }).map((x) => x / 8);
const VALUES: Record<EditField, fc.Arbitrary<EditValue>> = {
  number: fc.constantFrom("7", "9", "500", "12-15", "1-1", "*", "a,b", 'q"2', "K9"),
  northing: fc.oneof(figure, fc.constant(OBSERVED)),
  easting: fc.oneof(figure, fc.constant(OBSERVED)),
  elevation: fc.oneof(figure, fc.constantFrom(null, 0, OBSERVED)),
  description: fc.constantFrom(
    "SPOT",
    "HEDGE1",
    "HEDGE2 loop",
    "TOP1",
    "BED2",
    "TREE",
    "nothing known",
    "SPOT; x",
    "HEDGE1 past=2",
  ),
  note: fc.constantFrom("", "gate", "two\nlines"),
  attributes: fc.constantFrom("", '{"height":"7"}', '{"height":"x","kind":"oak"}', '{"__proto__":"y"}'),
  targetHeight: fc.constantFrom(1.3, 1.8, 0),
  precision: fc.constantFrom(null, 0.01, 0.2),
  kind: fc.constantFrom("measured", "control", "computed"),
  surface: fc.constantFrom("auto", "in", "out"),
  deleted: fc.boolean(),
  cues: fc.constantFrom("", '[{"element":"HEDGE1","add":["end"]}]', '[{"element":"SPOT","add":["lone"]}]'),
};
/** One or two values of every setting; a new setting does not compile until it has some here. */
const SETTING_VALUES: Record<Exclude<SettingField, "geoid" | "system">, readonly unknown[]> = {
  name: ["Another"],
  date: ["2031-04-17", null],
  client: ["Trust", null],
  crew: ["A"],
  note: ["n"],
  order: ["EN", "NE"],
  angle: ["bearing-dms"],
  areaUnit: ["ha"],
  volumeUnit: ["yd", "acft"],
  stations: ["plus", null],
  levelPrecision: [{ shot: 0.05 }, null],
  tolerance: [
    { ...start.tolerance, repeat: 0.0001 },
    { ...start.tolerance, coincident: 20 },
    { ...start.tolerance, arc: 0.0001, chord: 0.5 },
  ],
  curvature: [false, { k: 0.5 }, null],
  scaleFactor: [0.9996, null],
  crews: [[{ crew: "A", from: 1, to: 5 }], null],
  nextNumber: ["77"],
  nextNumbers: [[{ kind: "design", next: "D1" }], null],
  presets: [[{ name: "pegs", description: "ROD", level: { surface: "s", up: 0.1 }, setOut: true }], null],
  drawing: [{ scale: 500 }],
  hiddenLayers: ["out", null],
  checks: [{ spike: false }, { spike: { least: 0.01, limit: 1 }, "height-run": { shots: 2 } }, null],
  book: [
    { codes: CODES.filter((c) => c.code !== "TREE") },
    { codes: CODES, aliases: [{ from: "TREE", to: "SPOT" }] },
    { codes: CODES.map((c) => ({ ...c, kind: "line" as const })) },
  ],
};
const THINGS: Record<Exclude<NamedPart, "computed">, readonly object[]> = {
  moves: [
    { name: "m1", points: { intakes: ["d1"] }, transform: { move: [10, -4.5, 0.25] } },
    { name: "m1", points: { chosen: ["1", "2", "12-15", "900", "101"] }, transform: { rotate: 30, about: [20, 20] } },
    {
      name: "m2",
      points: { intakes: ["d2"] },
      transform: { rotate: -12.5, scale: 1.01, about: [0, 0], move: [1, 2, 3] },
    },
    { name: "m2", points: { chosen: ["K1", "103", "104"] }, transform: { move: [0, 0, -1] } },
    {
      name: "m3",
      points: { intakes: ["d1"] },
      fit: {
        scale: "free",
        levels: "shift",
        pairs: [
          { from: "1", to: "K1" },
          { from: "4", to: "K2" },
          { from: "7", to: "K3" },
          { from: "9", to: "900", out: true },
        ],
      },
    },
    {
      name: "m3",
      points: { intakes: ["d2"] },
      fit: {
        levels: "plane",
        pairs: [
          { from: "101", to: "2" },
          { from: "103", to: "900" },
          { from: "104", to: "9" },
        ],
      },
    },
  ],
  setups: [
    { intake: "d2", setup: "S1", out: true },
    { intake: "d2", setup: "S1", instrumentHeight: 1.7 },
    { intake: "d2", setup: "S2", backsights: ["nobody"] },
    { intake: "d2", setup: "S2", backsights: ["K3"] },
    { intake: "d2", setup: "S2", out: true },
  ],
  lines: [
    { name: "l1", code: "HEDGE", points: "1-4" },
    { name: "l1", code: "TOP", points: '"12-15", "*", 5', cues: { "*": "via" } },
    { name: "l2", code: "BED", points: ["101", "102", "900"], closed: true },
  ],
  names: [
    { line: { code: "HEDGE", run: "2", from: "2" }, name: "North hedge", color: "#8a5a2b" },
    { line: { code: "HEDGE", run: "1" }, name: "Every hedge" },
    { line: { code: "BED", run: "2", intake: "d1" }, name: "Plot 14" },
    { line: { hand: "l1" }, color: "#123456" },
  ],
  sets: [
    { name: "low", rule: { codes: ["SPOT"] } },
    { name: "some", rule: { numbers: '1-8, "12-15"' } },
    { name: "some", rule: { any: [{ numbers: ["1", "5", "900", "*", "101"] }, { codes: ["BED"] }] } },
  ],
  surfaces: [
    { name: "t", breaklines: { crossing: "higher" } },
    { name: "s", breaklines: { codes: ["TOP"] } },
    {
      name: "s",
      breaklines: { except: [{ pieces: [["2", "3"]] }] },
      swap: [["1", "7"]],
      drop: [
        ["5", "6", "7"],
        ["1", "900", "101"],
      ],
    },
  ],
  contours: [{ surface: "s", interval: 1 }],
  volumes: [
    { name: "v", surface: "s", level: 97, deadband: 0.1 },
    { name: "w", from: "s", to: "s", within: { code: "BED" }, bulking: { cut: 1.2 } },
    { name: "st", storage: "s", from: 95, to: 97, step: 0.5 },
  ],
  differences: [
    { name: "b", points: "some", surface: "s", tolerance: 0.02 },
    { name: "c", points: '1-8, "12-15"', line: { code: "HEDGE" }, tolerance: 0.02 },
  ],
  handover: [{ file: "a.csv", format: "csv" }],
  added: [
    { name: "a1", measures: { code: "HEDGE", run: "2", from: "d1:2" }, show: ["bearing", "distance"] },
    { name: "a2", words: "to be felled", to: { point: "d1:1" }, by: [1, 2], leader: true },
    { name: "a3", text: { label: "d1:3" }, by: [1, -1], turn: 20 },
    { name: "a4", symbol: "d1:1", size: [2, 1], toward: { point: "d1:2" } },
  ],
  states: [{ name: "as received", seq: 1 }],
  accepted: [
    { name: "no-elevation: all", kind: "no-elevation", points: [3], lines: [], reason: "positions only" },
    { name: "a", kind: "spike", points: [1, 2, 5], lines: [], reason: "walls", facts: [0.5, 97, 0.01] },
  ],
};

/** What points that the office makes may follow, by numbers. */
const FOLLOWED: readonly Omit<Construction, "point">[] = [
  { by: { from: "1", azimuth: 47.5, distance: 12.25 } },
  { by: { between: ["900", "103"], ratio: 0.25 }, elevation: { along: true, up: 0.1 } },
  { by: { from: "101", to: "901", beyond: 3, right: -1 }, elevation: { surface: "s", up: 0.5 } },
  {
    by: {
      meet: [
        { from: "2", distance: 30 },
        { line: ["4", "12-15"], right: 1 },
      ],
      near: [10, 10],
    },
  },
  { by: { line: { code: "HEDGE", run: "2" }, station: 5, offset: 2 }, elevation: { along: true } },
  { by: { tangents: { code: "HEDGE", run: "1" }, piece: "102" } },
  { by: { centre: ["1", "2", "3"] }, elevation: { of: "900", up: 1 } },
  { elevation: { surface: "s" } },
];

type Step =
  | { what: "follow"; point: number; follows: Omit<Construction, "point"> | undefined }
  | { what: "edit"; point: number; field: EditField; value: EditValue }
  | { what: "set"; field: SettingField; value: unknown }
  | { what: "thing"; part: NamedPart; thing: object; gone: boolean }
  | { what: "add"; numbers: string[]; e: number; n: number }
  | { what: "back" };
const step: fc.Arbitrary<Step> = fc.oneof(
  {
    weight: 5,
    arbitrary: fc
      .constantFrom(...EDIT_FIELDS)
      .chain((field) =>
        VALUES[field].chain((value) => fc.nat(40).map((point): Step => ({ what: "edit", point, field, value }))),
      ),
  },
  {
    weight: 2,
    arbitrary: fc
      .constantFrom(...(Object.keys(SETTING_VALUES) as (keyof typeof SETTING_VALUES)[]))
      .chain((field) =>
        fc.constantFrom(...SETTING_VALUES[field]).map((value): Step => ({ what: "set", field, value })),
      ),
  },
  {
    weight: 3,
    arbitrary: fc
      .constantFrom(...(Object.keys(THINGS) as (keyof typeof THINGS)[]))
      .chain((part) =>
        fc
          .tuple(fc.constantFrom(...THINGS[part]), fc.boolean())
          .map(([thing, gone]): Step => ({ what: "thing", part, thing, gone })),
      ),
  },
  {
    weight: 1,
    arbitrary: fc.record({
      what: fc.constant("add" as const),
      numbers: fc.constantFrom<string[]>(["900"], ["900", "901"], ["12-16"], ["7"]),
      e: figure,
      n: figure,
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      what: fc.constant("follow" as const),
      point: fc.nat(5),
      follows: fc.option(fc.constantFrom(...FOLLOWED), { nil: undefined }),
    }),
  },
  { weight: 1, arbitrary: fc.constant<Step>({ what: "back" }) },
);

/** A thing said as a recipe says it, as the application keeps it: points by identity, chosen ones of sets too. */
function keptThing(s: JobState, part: NamedPart, thing: object): object {
  const ofNumber = refsOfNumbers(s.points, s.intakes);
  if (part === "lines") return givenLine(s, thing as HandLineGiven);
  if (part === "moves") return passed("moves", thing as Move, { ...AS_IT_IS, point: ofNumber });
  if (part === "names") return passed("names", thing as LineName, { ...AS_IT_IS, point: ofNumber });
  if (part === "surfaces") return passed("surfaces", thing as SurfaceRecipe, { ...AS_IT_IS, point: ofNumber });
  if (part !== "sets") return thing;
  const { name, rule } = thing as PointSet;
  return {
    name,
    rule: conditionsChanged(rule, (c) =>
      "numbers" in c && typeof c.numbers !== "string" ? { points: c.numbers.map(ofNumber) } : c,
    ),
  };
}

let ids = 1_000_000;
/** The change that a step asks for in a job as it is; undefined where it asks for nothing. */
function changeOf(s: JobState, x: Step, done: readonly Change[]): EditableChange | undefined {
  switch (x.what) {
    case "edit": {
      const t = s.points,
        i = x.point % t.count;
      // Only what was observed can follow again.
      if (x.value === OBSERVED && !(start.points.follows[start.points.id.indexOf(t.id[i]!)]! & FOLLOWS_E))
        return undefined;
      const old = fieldValue(t, i, x.field);
      return Object.is(old, x.value)
        ? undefined
        : { type: "points", edits: [{ id: t.id[i]!, field: x.field, old, new: x.value }] };
    }
    case "set":
      return { type: "setting", field: x.field, old: s[x.field] ?? null, new: x.value } as EditableChange;
    case "thing": {
      const name = nameOf(x.part, x.thing),
        old = (s[x.part] as object[]).find((y) => nameOf(x.part, y) === name) ?? null,
        next = x.gone ? null : keptThing(s, x.part, x.thing);
      // Contours and volumes need their surface: a recipe without it is refused, as it should be.
      if (name === "s" && next === null && x.part === "surfaces") return undefined;
      return old === next ? undefined : ({ type: "named", part: x.part, name, old, new: next } as EditableChange);
    }
    case "follow": {
      const made = [...s.points.id.keys()].filter((i) => s.points.intake[i]! < 0),
        i = made[x.point % made.length];
      if (i === undefined) return undefined;
      const name = String(s.points.id[i]),
        old = s.computed.find((c) => String(c.point) === name) ?? null,
        next = x.follows
          ? passed(
              "computed",
              { point: s.points.id[i]!, ...x.follows },
              { ...AS_IT_IS, point: refsOfNumbers(s.points, s.intakes) },
            )
          : null;
      // What would follow itself is refused where it is asked for.
      if (next && circularPoints([...s.computed.filter((c) => c !== old), next]).length) return undefined;
      return old === next ? undefined : { type: "named", part: "computed", name, old, new: next };
    }
    case "add":
      return {
        type: "add",
        points: {
          id: x.numbers.map(() => ids++),
          number: x.numbers,
          easting: x.numbers.map((_, k) => x.e + k),
          northing: x.numbers.map((_, k) => x.n - k),
          elevation: x.numbers.map((_, k) => (k ? null : 97)),
          description: x.numbers.map(() => "SPOT"),
        },
      };
    case "back":
      return done.length ? (inverse(done.at(-1)!) as EditableChange) : undefined;
  }
}

/** All that a run gives, as the command writes it. */
const result = (s: JobState, d: Derived) => JSON.parse(JSON.stringify(summarize(asItStands(s, d), d, [])));
const nearly = (x: EditValue) => (typeof x === "number" ? Math.round(x * 1e9) / 1e9 + 0 : x);
const points = (s: JobState) => {
  const t = new Chain().run(s, true).points,
    shown = [...t.id.keys()].filter((i) => !t.deleted[i]);
  return shown.map((i) =>
    EDIT_FIELDS.filter((f) => f !== "cues").map((f) =>
      // A fit to points that the office made is told by its angle and scale: the last bit may be another.
      f === "easting" || f === "northing" || f === "elevation" ? nearly(cellValue(t, i, f)) : fieldValue(t, i, f),
    ),
  );
};

function walk(steps: readonly Step[], each: (state: JobState) => void = () => undefined): JobState {
  let state = start;
  const done: Change[] = [];
  for (const x of steps) {
    const change = changeOf(state, x, done);
    if (!change) continue;
    try {
      state = applyChange(state, change);
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      continue;
    }
    if (x.what === "back") done.pop();
    else done.push(change);
    each(state);
  }
  return state;
}

test("a chain that follows step by step gives what a fresh one gives, and findings keep their keys while their facts stay", () =>
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 9 }), (steps) => {
      const chain = new Chain();
      let last = chain.run(start);
      walk(steps, (state) => {
        const now = chain.run(state),
          fresh = new Chain().run(state);
        expect(result(state, now)).toEqual(result(state, fresh));
        expect([now.notes, now.symbols]).toEqual([fresh.notes, fresh.symbols]);
        expect(now.findings.map((f) => f.key)).toEqual(fresh.findings.map((f) => f.key));
        expect(new Set(now.findings.map((f) => f.key)).size).toBe(now.findings.length);
        expect(new Set(now.lines.map((l) => l.key)).size).toBe(now.lines.length);
        last = now;
      });
      expect(last.findings.every((f) => f.key !== "")).toBe(true);
    }),
    { numRuns: 150 },
  ));

const asRecipe = (state: JobState): JobState => {
  const written = writeRecipe(state, start.points, (k) => ["day1.csv", "day2.xml"][k]!);
  return openRecipe(parseRecipe(JSON.stringify(written), "recipe.json"), open).state;
};

test("a job after any changes, written down as a recipe and run by the command's way, gives the same", () =>
  fc.assert(
    fc.property(fc.array(step, { minLength: 1, maxLength: 9 }), (steps) => {
      const state = walk(steps),
        again = asRecipe(state);
      expect(points(again)).toEqual(points(state));
      // Of a move that is not carried out a recipe has no edit, and nothing to tell.
      const { findings, ...rest } = result(state, new Chain().run(state));
      expect(result(again, new Chain().run(again))).toEqual({
        ...rest,
        findings: findings.filter((f: { kind: string }) => f.kind !== "move-lost"),
      });
    }),
    { numRuns: 150 },
  ));

test("cues and attributes that the office gave to a point of its own are in the recipe", () => {
  const edit = (field: EditField, value: EditValue): Step => ({
    what: "edit",
    point: start.points.count,
    field,
    value,
  });
  const state = walk([
    { what: "add", numbers: ["900"], e: 0, n: 0 },
    edit("attributes", '{"__proto__":"y","height":"7"}'),
    edit("cues", '[{"element":"SPOT","add":["lone"]}]'),
    edit("surface", "out"),
  ]);
  expect(points(state).at(-1)).toEqual(expect.arrayContaining(["900", "out", '{"__proto__":"y","height":"7"}']));
  const again = asRecipe(state);
  expect(points(again)).toEqual(points(state));
  expect(fieldValue(again.points, again.points.count - 1, "cues")).toBe('[{"element":"SPOT","add":["lone"]}]');
});

test("all settings that a run reads are among those tried", () =>
  expect(
    Object.keys(SETTINGS)
      .filter((f) => !(f in SETTING_VALUES))
      .sort(),
  ).toEqual(["geoid", "system"]));

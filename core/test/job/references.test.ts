/** Whatever names a thing of a job is found, follows its new name, and is in the way when it is taken away. */
import fc from "fast-check";
import {
  applyChange,
  inverse,
  parseRecipe,
  Refusal,
  renameSet,
  standingInTheWay,
  thingRemoved,
  usersOf,
  withIndices,
  type Change,
  type EditableChange,
  type JobState,
  type Recipe,
} from "../../src";
import { handoverSource } from "../../src/job/leave/handover-source";
import { namesIn, passed, AS_IT_IS, REFERRED, type Referred } from "../../src/job/model/references";
import { thingRenamed } from "../../src/job/change/rename";
import { nameOf } from "../../src/job/model/parts";
import { runOf, stateOf, type Row } from "../job";

const ROWS: Row[] = Array.from({ length: 20 }, (_, k) => ({
  number: k + 1,
  e: 10 * (k % 5) + (k % 3),
  n: 10 * Math.floor(k / 5) + (k % 2),
  z: 100 + ((k * 7) % 5) / 4,
  code: k % 4 === 0 ? "TREE 3" : "SPOT",
}));
/** Every kind of reference by name once or more. */
const PARTS: Partial<Recipe> = {
  sets: [
    { name: "spots", rule: { codes: ["SPOT"] } },
    { name: "some", rule: { any: [{ set: "spots" }, { not: { all: [{ set: "spots" }, { numbers: "1-5" }] } }] } },
    { name: "12", rule: { numbers: "2, 4" } },
  ],
  surfaces: [
    { name: "ground", points: "some" },
    { name: "low", points: "spots" },
  ],
  contours: [{ surface: "ground", interval: 0.5 }],
  volumes: [
    { name: "pad", surface: "ground", level: 100 },
    { name: "two", from: "low", to: "ground" },
    { name: "store", storage: "low", from: 100, to: 101, step: 0.5 },
    {
      name: "heap",
      heap: "ground",
      toe: [
        [2, 2],
        [30, 2],
        [30, 25],
        [2, 25],
      ],
    },
  ],
  differences: [
    { name: "held", points: "spots", surface: "ground", tolerance: 0.01 },
    { name: "by number", points: "12", surface: "low", tolerance: 0.01 },
  ],
  drawing: {
    points: [
      { set: "spots", number: true },
      { set: "*", elevation: true },
    ],
    surfaces: [{ surface: "ground", weight: 0.3 }],
  },
  handover: [
    { file: "spots.csv", format: "csv", points: "spots" },
    { file: "two.csv", format: "csv", points: "2, 4" },
    { file: "report.pdf", format: "report", as: "pdf", comparisons: ["pad", "two"] },
    { file: "all.zip", format: "package", files: ["spots.csv", "report.pdf"] },
  ],
};
const start = stateOf(ROWS, PARTS);

/** What a job says, whatever its things are called. */
function meaning(s: JobState) {
  const d = runOf(s),
    made = <T>(list: readonly ({ ok: true; value: T } | { ok: false })[], of: (value: T) => unknown) =>
      list.map((m) => m.ok && of(m.value));
  return {
    sets: made(d.madeSets, (rows) => [...rows]),
    surfaces: made(d.surfaces, (x) => [x.report.area, x.report.triangles]),
    contours: d.contours.map((c) => c.ok),
    volumes: made(d.volumes, (v) => ({ ...v, name: "" })),
    differences: made(d.differences, (x) => x.figures),
    rows: s.handover.flatMap((h) => (h.format === "csv" ? [[...handoverSource(h, s, d).rows]] : [])),
  };
}
const NAMES = (Object.keys(REFERRED) as Referred[]).flatMap((of) =>
  (start[of] as unknown[]).map((thing) => [of, nameOf(of, thing)] as const),
);
const isSet = (name: string) => start.sets.some((s) => s.name === name);
const referencesTo = (s: JobState, of: Referred, name: string) =>
  [...namesIn(s, (x) => s.sets.some((y) => y.name === x))].filter((r) => r.of === of && r.name === name);

test.each(NAMES)("%s “%s” under another name means the same everywhere, and back again", (of, name) => {
  const change = thingRenamed(start, of, name, "another name"),
    next = applyChange(start, change);
  expect(meaning(next)).toEqual(meaning(start));
  expect(referencesTo(next, of, name)).toEqual([]);
  expect(referencesTo(next, of, "another name").map((r) => [r.part, r.at, r.path])).toEqual(
    referencesTo(start, of, name).map((r) => [r.part, r.at, r.path]),
  );
  expect(applyChange(next, inverse(change) as EditableChange)).toEqual(start);
  expect(() => thingRenamed(start, of, name, NAMES.find(([o, n]) => o === of && n !== name)![1])).toThrow("already");
});

test.each(NAMES)("%s “%s” is taken away only where nothing that stays names it", (of, name) => {
  const users = usersOf(start, of, name);
  const whole: Change = { type: "named", part: of, name, old: find(of, name), new: null };
  // What goes with it is in the way of it alone, but not of it with them.
  expect(standingInTheWay(start, whole).length > 0).toBe(
    referencesTo(start, of, name).some((r) => r.part !== "drawing" || of === "sets"),
  );
  if (users.length) {
    expect(() => thingRemoved(start, of, name)).toThrow(`is used by ${users.join(", ")}`);
    return;
  }
  const change = withIndices(start, thingRemoved(start, of, name)),
    next = applyChange(start, change);
  expect(standingInTheWay(start, change)).toEqual([]);
  expect(referencesTo(next, of, name)).toEqual([]);
  expect(applyChange(next, inverse(change) as EditableChange)).toEqual(start);
});
const find = (of: Referred, name: string) => (start[of] as unknown[]).find((x) => nameOf(of, x) === name);

test("every reference by name is told, each by where it stands", () => {
  const all = [...namesIn(start, isSet)].map((r) => `${r.part}[${r.at}].${r.path} ${REFERRED[r.of]} ${r.name}`);
  expect(all).toEqual([
    "sets[1].rule.any[0].set set spots",
    "sets[1].rule.any[1].not.all[0].set set spots",
    "surfaces[0].points set some",
    "surfaces[1].points set spots",
    "contours[0].surface surface ground",
    "volumes[0].surface surface ground",
    "volumes[1].from surface low",
    "volumes[1].to surface ground",
    "volumes[2].storage surface low",
    "volumes[3].heap surface ground",
    "differences[0].surface surface ground",
    "differences[0].points set spots",
    "differences[1].surface surface low",
    "differences[1].points set 12",
    "handover[0].points set spots",
    "handover[2].comparisons[0] comparison pad",
    "handover[2].comparisons[1] comparison two",
    "handover[3].files[0] file spots.csv",
    "handover[3].files[1] file report.pdf",
    "drawing[0].points[0].set set spots",
    "drawing[0].surfaces[0].surface surface ground",
  ]);
});

test("a comparison that is called as a set is takes no selection along; a look alone keeps no surface", () => {
  const called = applyChange(start, thingRenamed(start, "volumes", "pad", "spots")),
    next = applyChange(called, thingRenamed(called, "volumes", "spots", "pad"));
  expect(next.handover).toEqual(start.handover);
  expect(next.differences).toEqual(start.differences);
  const lonely = { ...start, contours: [], volumes: [], differences: [], handover: [] },
    [ground] = lonely.surfaces;
  expect(standingInTheWay(lonely, { type: "named", part: "surfaces", name: "ground", old: ground, new: null })).toEqual(
    [],
  );
});

test("a surface that nothing uses goes with its contours and its look", () => {
  const without = applyChange(start, {
    type: "several",
    text: "x",
    changes: [
      ...start.volumes.map((v) => ({
        type: "named" as const,
        part: "volumes" as const,
        name: v.name,
        old: v,
        new: null,
      })),
      ...start.differences.map((v) => ({
        type: "named" as const,
        part: "differences" as const,
        name: v.name,
        old: v,
        new: null,
      })),
    ],
  });
  const next = applyChange(without, thingRemoved(without, "surfaces", "ground"));
  expect([next.surfaces.map((s) => s.name), next.contours, next.drawing?.surfaces]).toEqual([["low"], [], undefined]);
});

test("an as-built check of a set follows its new name: it was left behind", () => {
  const next = applyChange(start, renameSet(start, "spots", "shots"));
  expect(next.differences.map((d) => d.points)).toEqual(["shots", "12"]);
  // A number list is none, though a set of that name comes and goes.
  expect(applyChange(start, renameSet(start, "12", "few")).differences.map((d) => d.points)).toEqual(["spots", "few"]);
});

test("a recipe that names what is not there is refused, with the way to the very name", () =>
  fc.assert(
    fc.property(fc.nat(), (n) => {
      const all = [...namesIn(start, isSet)].filter(
          (r) => r.part !== "drawing" && (r.path !== "points" || r.part === "surfaces"),
        ),
        wanted = all[n % all.length]!,
        part = wanted.part as Referred,
        things = [...(start[part] as object[])];
      let seen = -1;
      things[wanted.at] = passed(part, things[wanted.at] as never, {
        ...AS_IT_IS,
        name: (_, name, path) => (path === wanted.path && ++seen === 0 ? "nowhere" : name),
      });
      const recipe = { recipe: 1, intakes: [], ...PARTS, [part]: things } as unknown as Recipe;
      let refused: unknown;
      try {
        parseRecipe(JSON.stringify(recipe), "recipe.json");
      } catch (e) {
        refused = e;
      }
      expect(refused).toBeInstanceOf(Refusal);
      const { path } = (refused as Refusal).data as { path: string };
      const at = path
        .split(/[.[\]]+/)
        .filter(Boolean)
        .reduce<unknown>((x, key) => (x as Record<string, unknown>)[key], recipe);
      expect([(refused as Refusal).code, at]).toEqual(["reference-missing", "nowhere"]);
    }),
    { numRuns: 60 },
  ));

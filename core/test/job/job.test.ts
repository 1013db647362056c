// @long: left out of npm run test:quick.
import { COLUMNS } from "../../src/intake/columns";
import { tolerancesIn } from "../../src/math/tolerances";
import type { EditField } from "../../src/records/fields";
import fc from "fast-check";
import { sameJson } from "../../src/math/json";
import { refusalCodes } from "../../src/errors";
import { applyChange, describeChange, inverse, type EditableChange } from "../../src/job/change/change";
import { Chain, runChain } from "../../src/job/chain/chain";
import { openRecipe, parseRecipe } from "../../src/job/recipe/recipe";
import { recipeSchema } from "../../src/job/model/schema";
import { writeRecipe } from "../../src/job/recipe/write";
import { summarize } from "../../src/job/told/summary";
import { encodeCueEdits } from "../../src/points/cue-edits";
import type { EditValue } from "../../src/points/edits";
import { csvOf, derive, stateOf, type Row } from "../job";

const rows: Row[] = Array.from({ length: 60 }, (_, k) => ({
  number: k + 1,
  e: (k % 8) * 5,
  n: Math.floor(k / 8) * 5,
  z: 10 + Math.sin(k),
  code: k % 9 === 0 ? "TOP" : "SPOT",
}));
const parts = {
  surfaces: [{ name: "ground", breaklines: { codes: ["*"] } }],
  contours: [{ surface: "ground", interval: 0.25 }],
  volumes: [{ name: "v", surface: "ground", level: 10 }],
};

describe("changes", () => {
  const state = stateOf(rows, parts);
  const edit = fc
    .record({
      place: fc.integer({ min: 0, max: rows.length - 1 }),
      field: fc.constantFrom("elevation" as const, "northing" as const, "description" as const, "surface" as const),
    })
    .chain((e) =>
      fc
        .constantFrom(
          ...(e.field === "surface" ? ["in", "out"] : e.field === "description" ? ["TOE", "x; y"] : [11.5, -3]),
        )
        .map((value) => ({ ...e, value })),
    );

  test("a change and its inverse give the state back, and the chain follows both", () => {
    const chain = new Chain();
    const before = chain.run(state);
    fc.assert(
      fc.property(
        fc.uniqueArray(edit, { minLength: 1, maxLength: 6, selector: (e) => `${e.place} ${e.field}` }),
        (edits) => {
          const old = (e: (typeof edits)[number]) =>
            ({
              elevation: state.points.z[e.place]!,
              northing: state.points.n[e.place]!,
              description: state.points.texts[state.points.description[e.place]!]!,
              surface: "auto",
            })[e.field];
          const change: EditableChange = {
            type: "points",
            edits: edits.map((e) => ({ id: state.points.id[e.place]!, field: e.field, old: old(e), new: e.value })),
          };
          const after = applyChange(state, change);
          // Incremental equals from nothing.
          const incremental = chain.run(after),
            fresh = runChain(after);
          expect(incremental.findings).toEqual(fresh.findings);
          expect(incremental.volumes).toEqual(fresh.volumes);
          expect(incremental.lines).toEqual(fresh.lines);
          expect(incremental.contours).toEqual(fresh.contours);
          const back = applyChange(after, inverse(change) as EditableChange);
          expect(Array.from(back.points.z)).toEqual(Array.from(state.points.z));
          expect(chain.run(back).volumes).toEqual(before.volumes);
        },
      ),
      { numRuns: 40 },
    );
  });

  test("several changes of one value are taken back from the last to the first, and a level of −0 is one of 0", () => {
    const id = state.points.id[7]!,
      [a, b, c] = [state.points.z[7]!, 3, -0],
      one = (old: number, next: number) => ({ id, field: "elevation" as const, old, new: next });
    const both: EditableChange[] = [
      { type: "points", edits: [one(a, b), one(b, c)] },
      {
        type: "several",
        text: "two",
        changes: [
          { type: "points", edits: [one(a, b)] },
          { type: "points", edits: [one(b, c)] },
        ],
      },
    ];
    for (const change of both) {
      const after = applyChange(state, change);
      expect(Object.is(after.points.z[7], -0)).toBe(true);
      // A change that went over the network says 0 of it.
      const sent = JSON.parse(JSON.stringify(inverse(change))) as EditableChange;
      expect(JSON.stringify(sent)).not.toContain("-0");
      expect(applyChange(after, sent).points.z[7]).toBe(a);
    }
  });

  test("a point that the office made is taken back only as it was made, whatever has become of it", () => {
    const add: EditableChange = {
        type: "add",
        points: {
          id: [900, 901],
          number: ["900", "901"],
          easting: [1, 2],
          northing: [3, 4],
          elevation: [5, null],
          description: ["SPOT", "SPOT"],
        },
      },
      made = applyChange(state, add),
      back = inverse(add) as EditableChange;
    expect(applyChange(made, back).points.number).toEqual(state.points.number);
    const edits: [EditField, EditValue, EditValue][] = [
      ["number", "901", "902"],
      ["easting", 2, 2.5],
      ["northing", 4, 4.5],
      ["elevation", null, 0],
      ["description", "SPOT", "TOP"],
      ["note", "", "gate"],
      ["kind", "computed", "control"],
      ["precision", null, 0.1],
      ["targetHeight", null, 1.6],
      ["surface", "auto", "out"],
      ["cues", "", encodeCueEdits([{ code: "SPOT", run: "", add: ["end"] } as never])],
      ["attributes", "", '{"kind":"oak"}'],
      ["deleted", false, true],
    ];
    for (const [field, old, value] of edits) {
      const edited = applyChange(made, { type: "points", edits: [{ id: 901, field, old, new: value }] });
      expect(() => applyChange(edited, back)).toThrow(/901|902/);
      const again = applyChange(edited, { type: "points", edits: [{ id: 901, field, old: value, new: old }] });
      expect(applyChange(again, back).points.number).toEqual(state.points.number);
    }
  });

  test("a note leaves the surface as it is; an elevation builds it again", () => {
    const chain = new Chain();
    const first = chain.run(state).surfaces[0]!;
    const set = (field: "note" | "elevation", old: string | number, value: string | number) =>
      chain.run(applyChange(state, { type: "points", edits: [{ id: 5, field, old, new: value }] })).surfaces[0]!;
    const noted = set("note", "", "seen");
    expect(first.ok && noted.ok && noted.value === first.value).toBe(true);
    const moved = set("elevation", state.points.z[4]!, 3);
    expect(first.ok && moved.ok && moved.value === first.value).toBe(false);
  });

  test("old data, a taken number and a point that is gone are refused", () => {
    const points = (
      id: number,
      field: "elevation" | "number",
      old: string | number,
      value: string | number,
    ): EditableChange => ({ type: "points", edits: [{ id, field, old, new: value }] });
    expect(() => applyChange(state, points(1, "elevation", 99, 5))).toThrow(
      "The elevation of point 1 was changed meanwhile",
    );
    expect(() => applyChange(state, points(1, "number", "1", "2"))).toThrow("Point 2 is there already");
    expect(() => applyChange(state, points(999, "elevation", 1, 2))).toThrow("not in this job any more");
    expect(() =>
      applyChange(state, {
        type: "named",
        part: "volumes",
        name: "v",
        old: { name: "v", surface: "ground", level: 9 },
        new: null,
      }),
    ).toThrow("“v” was changed meanwhile");
  });

  test("named things are made, changed and taken away", () => {
    const made = applyChange(state, {
      type: "named",
      part: "volumes",
      name: "w",
      old: null,
      new: { name: "w", surface: "ground", level: 1 },
    });
    expect(made.volumes.map((v) => v.name)).toEqual(["v", "w"]);
    const gone = applyChange(made, { type: "named", part: "volumes", name: "v", old: state.volumes[0], new: null });
    expect(gone.volumes.map((v) => v.name)).toEqual(["w"]);
    expect(describeChange({ type: "named", part: "volumes", name: "w", old: null, new: {} })).toBe(
      "Comparison “w” made",
    );
    expect(sameJson({ a: 1, b: undefined }, { a: 1 })).toBe(true);
  });
});

describe("a surface that cannot be made", () => {
  test("is told where it stands, with all that needs it, and the rest goes on", () => {
    const { derived } = derive(rows, {
      ...parts,
      sets: [{ name: "none", rule: { codes: ["NOTHING"] } }],
      surfaces: [{ name: "ground" }, { name: "empty", points: "none" }],
      volumes: [...parts.volumes, { name: "w", surface: "empty", level: 1 }],
    });
    expect(derived.surfaces.map((s) => s.ok)).toEqual([true, false]);
    expect(derived.volumes).toMatchObject([{ ok: true }, { ok: false, refusal: { code: "source-failed" } }]);
  });
});

describe("recipes", () => {
  const recipe = (more: object) => () => parseRecipe(JSON.stringify({ recipe: 1, ...more }), "r.json");
  test("limits are what their kinds describe: 0 where it is one, whole numbers for counts", () => {
    const checks = (given: object) => recipe({ checks: given });
    for (const given of [
      { "shots-far-apart": { apart: 0 } },
      { spike: { least: 0, limit: 4 } },
      { "height-run": false },
    ])
      expect(checks(given)).not.toThrow();
    for (const [given, path] of [
      [{ "shots-far-apart": { apart: -1 } }, "checks.shots-far-apart.apart"],
      [{ "no-ground-near": { within: 0 } }, "checks.no-ground-near.within"],
      [{ spike: { limit: 0 } }, "checks.spike.limit"],
      [{ "height-run": { shots: 2.5 } }, "checks.height-run.shots"],
      [{ "area-unclosed": { least: 1 } }, "checks.area-unclosed"],
    ] as const)
      expect(checks(given)).toThrow(path);
  });
  test.each([
    [{ volums: [] }, "volums: there is no such field. Did you mean “volumes”?"],
    [
      { volumes: [{ name: "a", surface: "s", levl: 1 }] },
      "volumes[0].levl: there is no such field. Did you mean “level”?",
    ],
    [
      { edits: [{ points: "1", set: { color: 1 } }] },
      "edits[0].set.color: there is no such field; there are number, northing, easting, elevation, description, " +
        "surface, note, kind, targetHeight, precision, deleted, numbersFrom, attributes.",
    ],
    [
      { surfaces: [{ name: "a", edge: "round" }] },
      'surfaces[0].edge: "round" is not "hull", a fit such as { "fit": 30 }, or a ring.',
    ],
    [
      { lines: [{ name: "l", code: "A", points: 5 }] },
      'lines[0].points: 5 is not numbers such as "1-5, K7", or a list of them.',
    ],
    [
      { sets: [{ name: "x", rule: { elevation: ["low", 1] } }] },
      'sets[0].rule.elevation[0]: "low" is not one of these: a number; null.',
    ],
    [{ system: "WGS84" }, 'system: "WGS84" is not a system such as EPSG:25832.'],
    [{ volumes: [{ name: "a", surface: "s" }] }, "volumes[0].level: this field is missing."],
    [{ volumes: [{ name: "a", surface: "s", level: "x" }] }, 'volumes[0].level: "x" is not a number.'],
    [{ volumes: [{ name: "a", surface: "s", level: 1 }] }, "volumes[0].surface: there is no surface “s”."],
    [{ surfaces: [{ name: "a" }, { name: "a" }] }, "surfaces[1]: “a” is there twice."],
    [{ volumes: [{ name: "a", storage: "s" }] }, "volumes[0].from: this field is missing."],
    [{ volumes: [{ name: "a", from: "s", to: 12 }] }, "volumes[0].to: 12 is not a string."],
    [
      { volumes: [{ name: "a", from: "s", to: "t", toe: [] }] },
      "volumes[0].toe: there is no such field. Did you mean “to”?",
    ],
    [
      { volumes: [{ name: "a", surface: "s", level: 1, within: [{ name: "x" }] }] },
      "volumes[0].within[0].code: this field is missing.",
    ],
    [
      { differences: [{ name: "a", points: "1", surface: "s", tolerance: 0.02 }] },
      "differences[0].surface: there is no surface “s”.",
    ],
    [{ differences: [{ name: "a", points: "1", tolerance: 0.02 }] }, "differences[0].surface: this field is missing."],
    [{ surfaces: [{ name: "a", edge: { fit: -25 } }] }, "surfaces[0].edge.fit: -25 must be > 0."],
    [
      { surfaces: [{ name: "a", edge: { fit: 25, code: "TOP" } }] },
      "surfaces[0].edge: it says one thing: “ring” or “code” or “fit”.",
    ],
    [
      { intakes: [{ id: "a", file: "f", layout: { columns: ["number", "nothing"] } }] },
      `intakes[0].layout.columns[1]: "nothing" is not one of ${COLUMNS.join(", ")}, attr:NAME.`,
    ],
    [{ unit: "mm" }, 'unit: "mm" is not one of "m", "ft", "ftUS".'],
    [
      { codeBook: { codes: [{ code: "A", kind: "lines" }] } },
      'codeBook.codes[0].kind: "lines" is not one of "point", "line", "area". Did you mean “line”?',
    ],
    [
      { handover: [{ file: "a.pdf", format: "picture" }] },
      'handover[0].format: "picture" is not one of "csv", "xlsx", "pdf", "dxf"',
    ],
  ])("%j is refused with its path", (more, message) => expect(recipe(more)).toThrow(message as string));

  test("not JSON, sets in a circle, aliases to nowhere", () => {
    expect(() => parseRecipe("{", "r.json")).toThrow("“r.json” is not JSON");
    const circle = derive(rows, {
      sets: [
        { name: "a", rule: { set: "b" } },
        { name: "b", rule: { not: { set: "a" } } },
      ],
    }).derived;
    expect(circle.madeSets[0]).toMatchObject({ ok: false, refusal: { message: expect.stringContaining("a → b → a") } });
    expect(() =>
      openRecipe(
        parseRecipe(JSON.stringify({ recipe: 1, codeBook: { aliases: [{ from: "A", to: "B" }] } }), "r"),
        () => new Uint8Array(),
      ),
    ).toThrow("codeBook.aliases[0].to: there is no code “B”");
  });

  test("sets: every rule, and always current", () => {
    const rule = (r: object) => {
      const { derived, state } = derive(
        [
          { number: 1, e: 0, n: 0, z: 5, code: "SPOT" },
          { number: 2, e: 5, n: 5, z: 9, code: "TOP" },
          { number: 30, e: 9, n: 9, code: "TREE 3" },
        ],
        {
          sets: [
            { name: "s", rule: r as never },
            { name: "tops", rule: { codes: ["TOP"] } },
          ],
        },
      );
      const [s] = derived.madeSets;
      return s!.ok ? Array.from(s!.value, (i) => state.points.number[i]) : s!.refusal.message;
    };
    expect(rule({ codes: ["T*"] })).toEqual(["2", "30"]);
    expect(rule({ numbers: "1-2" })).toEqual(["1", "2"]);
    expect(rule({ kind: ["control"] })).toEqual([]);
    expect(rule({ intake: ["day1"] })).toEqual(["1", "2", "30"]);
    expect(rule({ elevation: [6, 10] })).toEqual(["2"]);
    expect(
      rule({
        inside: [
          [0, 0],
          [5, 0],
          [5, 5],
          [0, 5],
        ],
      }),
    ).toEqual(["1", "2"]);
    expect(rule({ any: [{ set: "tops" }, { numbers: "1" }] })).toEqual(["1", "2"]);
    expect(rule({ all: [{ not: { set: "tops" } }, { not: { numbers: "30" } }] })).toEqual(["1"]);
    expect(rule({ intake: ["x"] })).toContain("there is no intake “x”");
  });

  test("a job written down and run again gives the same state and summary", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ min: 0, max: 59 }),
            fc.constantFrom("elevation" as const, "number" as const, "deleted" as const, "description" as const),
          ),
          { maxLength: 8 },
        ),
        (choices) => {
          const start = stateOf(rows, parts);
          let state = start;
          for (const [place, field] of choices) {
            if (state.points.deleted[place]) continue;
            const value = {
              elevation: 42.125,
              number: `N${(place * 7) % 60}`,
              deleted: true,
              description: 'TOP 4; "x"',
            }[field];
            const now = {
              elevation: state.points.z[place]!,
              number: state.points.number[place]!,
              deleted: false,
              description: state.points.texts[state.points.description[place]!]!,
            }[field];
            if (field === "number" && state.points.number.some((x, i) => x === value && i !== place)) continue;
            state = applyChange(state, { type: "points", edits: [{ id: place + 1, field, old: now, new: value }] });
          }
          const written = writeRecipe(state, start.points, () => "day1.csv");
          const again = openRecipe(parseRecipe(JSON.stringify(written), "r.json"), () =>
            new TextEncoder().encode(csvOf(rows)),
          ).state;
          expect(again.points.number.filter((_, i) => !again.points.deleted[i])).toEqual(
            state.points.number.filter((_, i) => !state.points.deleted[i]),
          );
          const summary = (s: typeof state) => JSON.parse(JSON.stringify(summarize(s, runChain(s), [])));
          expect(summary(again)).toEqual(summary(state));
        },
      ),
      { numRuns: 40 },
    );
  });

  test("default tolerances are metres, converted", () =>
    expect(tolerancesIn("ft").coincident).toBeCloseTo(0.001 / 0.3048, 15));
});

test("whatever a recipe must be written like says so in words", () => {
  const silent: string[] = [];
  const walk = (schema: unknown, path: string) => {
    if (typeof schema !== "object" || schema === null) return;
    if ("pattern" in schema && typeof schema.pattern === "string" && !("written" in schema)) silent.push(path);
    for (const [key, inner] of Object.entries(schema)) walk(inner, `${path}/${key}`);
  };
  walk(recipeSchema, "");
  expect(silent).toEqual([]);
});

test("every refusal has a name of its own and no machine word in its sentence", () => {
  expect(new Set(refusalCodes).size).toBe(refusalCodes.length);
  expect(refusalCodes).toEqual(expect.arrayContaining(["file-empty", "change-outdated", "surface-too-few"]));
});

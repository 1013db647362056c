// @long: left out of npm run test:quick.
/** Checks of lines, objects ahead of their shots, and building again only what changed. */
import fc from "fast-check";
import {
  applyChange,
  Chain,
  inverse,
  openRecipe,
  runChain,
  writeRecipe,
  type EditableChange,
  type JobState,
} from "../../src";
import { selfCrossings } from "../../src/checks/lines";
import { asShot } from "../../src/points/shots";
import { derive, found, stateOf, type Row } from "../job";

const line = (places: readonly (readonly [number, number])[], code = "HEDGE"): Row[] =>
  places.map(([e, n], k) => ({ number: k + 1, e, n, z: k, code }));

test("a segment longer than its code allows is told with its shots; a parallel is not told again", () => {
  const book = {
    codes: [
      { code: "KERB", kind: "line" as const, maxSegment: 10, companions: [{ right: 1, up: 0 }] },
      { code: "HEDGE", kind: "line" as const },
    ],
  };
  const job = derive(
    [
      ...line(
        [
          [0, 0],
          [9, 0],
          [9, 11],
        ],
        "KERB",
      ),
      { number: "8", e: 0, n: 50, code: "HEDGE" },
      { number: "9", e: 99, n: 50, code: "HEDGE" },
    ],
    { codeBook: book },
  );
  expect(found(job.derived, "long-segment")).toMatchObject([
    { points: ["2", "3"], lines: [0], data: { length: 11, longest: 10 }, severity: "warning" },
  ]);
  const arc = derive(
    line(
      [
        [0, 0],
        [4, 4],
        [8, 0],
      ],
      "KERB",
    ).map((r, k) => (k === 1 ? { ...r, code: "KERB via" } : r)),
    { codeBook: book },
  );
  expect(found(arc.derived, "long-segment")[0]!.data.length).toBeCloseTo(4 * Math.PI, 9);
});

test("a line that crosses itself is told once, at the first crossing; touching and closing are none", () => {
  const eight = derive(
    line([
      [0, 0],
      [10, 10],
      [10, 0],
      [0, 10],
      [0, 20],
      [-5, 5],
      [20, 5],
    ]),
  );
  expect(found(eight.derived, "line-crosses-itself")).toMatchObject([
    { at: [5, 5], lines: [0], data: { crossings: 4 } },
  ]);
  expect(
    found(
      derive(
        line([
          [0, 0],
          [10, 0],
          [10, 10],
          [0, 10],
        ]).map((r, k) => (k === 3 ? { ...r, code: "HEDGE loop" } : r)),
      ).derived,
      "line-crosses-itself",
    ),
  ).toEqual([]);
  expect(
    found(
      derive(
        line([
          [0, 0],
          [10, 0],
          [10, 10],
          [5, 0],
          [5, -5],
        ]),
      ).derived,
      "line-crosses-itself",
    ),
  ).toEqual([]);
});

test("self crossings are those that a comparison of all pairs finds", () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.integer({ min: 0, max: 9 }), fc.integer({ min: 0, max: 9 })), {
        minLength: 2,
        maxLength: 14,
      }),
      fc.boolean(),
      (places, closed) => {
        const ring = closed ? [...places, places[0]!] : places,
          xyz = Float64Array.from(ring.flatMap(([e, n]) => [e, n, 0]));
        const turn = (a: readonly number[], b: readonly number[], c: readonly number[]) =>
          Math.sign((b[0]! - a[0]!) * (c[1]! - a[1]!) - (b[1]! - a[1]!) * (c[0]! - a[0]!));
        let count = 0;
        for (let i = 0; i + 1 < ring.length; i++)
          for (let j = i + 2; j + 1 < ring.length; j++) {
            if (closed && i === 0 && j === ring.length - 2) continue;
            const [a, b, c, d] = [ring[i]!, ring[i + 1]!, ring[j]!, ring[j + 1]!];
            if (turn(a, b, c) * turn(a, b, d) < 0 && turn(c, d, a) * turn(c, d, b) < 0) count++;
          }
        expect(selfCrossings(xyz, closed)).toHaveLength(count);
      },
    ),
  );
});

describe("past: the object stands ahead of its shot", () => {
  const rows: Row[] = [
    { number: "1", e: 0, n: 0, z: 10, code: "SPOT" },
    { number: "2", e: 30, n: 40, z: 12, code: "HEDGE past=10" },
    { number: "3", e: 60, n: 80, z: 14, code: "HEDGE past=0,5,-1 end" },
  ];

  test("on from the previous shot as it was shot, to the right, and up; the shot is kept", () => {
    const { state, derived } = derive(rows),
      t = state.points;
    const at = (k: number) => [t.e[k], t.n[k], t.z[k]];
    expect(at(1)).toEqual([expect.closeTo(36, 9), expect.closeTo(48, 9), 12]);
    // To the right of a way that runs by (3, 4): (4, −3) fifths.
    expect(at(2)).toEqual([expect.closeTo(64, 9), expect.closeTo(77, 9), 13]);
    expect([...t.shotAt!.values()]).toEqual([
      [30, 40, 12],
      [60, 80, 14],
    ]);
    expect(asShot(t).e).toEqual(Float64Array.of(0, 30, 60));
    expect(derived.lines[0]!.length).toBeCloseTo(Math.hypot(28, 29), 9);
    expect(found(derived, "cue-ignored")).toEqual([]);
  });

  test.each([
    ["the crew's first shot", [{ number: "1", e: 0, n: 0, z: 1, code: "SPOT past=3" }], "first shot"],
    ["no number", [rows[0]!, { number: "2", e: 1, n: 1, z: 1, code: "SPOT past=far" }], "not written as"],
    ["two numbers", [rows[0]!, { number: "2", e: 1, n: 1, z: 1, code: "SPOT past=1,2" }], "not written as"],
    [
      "a shot at the same position",
      [rows[0]!, { number: "2", e: 0, n: 0, z: 1, code: "SPOT past=1" }],
      "same position",
    ],
  ] as [string, Row[], string][])("with %s it does nothing and says so", (_, list, why) => {
    const { state, derived } = derive(list);
    expect(state.points.shotAt).toBeUndefined();
    expect(found(derived, "cue-ignored")).toMatchObject([{ message: expect.stringContaining(why) }]);
  });

  test("the description changed, the previous shot moved, and undone: always as if opened anew", () => {
    const text = rows
      .map((r) => `${r.number},${r.e},${r.n},${r.z},${/,/.test(r.code!) ? `"${r.code}"` : r.code}`)
      .join("\n");
    let s: JobState = stateOf(rows);
    const places = (x: JobState) => Array.from(x.points.e).concat(Array.from(x.points.n), Array.from(x.points.z));
    const changes: EditableChange[] = [
      { type: "points", edits: [{ id: 1, field: "easting", old: 0, new: 30 }] },
      { type: "points", edits: [{ id: 2, field: "description", old: "HEDGE past=10", new: "HEDGE past=20" }] },
      { type: "points", edits: [{ id: 3, field: "elevation", old: 14, new: 20 }] },
      {
        type: "points",
        edits: [{ id: 3, field: "cues", old: "", new: JSON.stringify([{ element: "HEDGE", remove: ["past"] }]) }],
      },
    ];
    const received = s.points;
    for (const c of changes) {
      const next = applyChange(s, c);
      const recipe = writeRecipe(next, received, () => "day1.csv");
      expect(places(openRecipe(recipe, () => new TextEncoder().encode(text)).state)).toEqual(places(next));
      expect(places(applyChange(next, inverse(c) as EditableChange))).toEqual(places(s));
      s = next;
    }
    expect([s.points.e[2], s.points.n[2], s.points.z[2]]).toEqual([60, 80, 20]);
    expect(s.points.n[1]).toBe(60);
  });

  test("another spelling of the book moves points, and its own word no longer does", () => {
    const job = derive(rows, {
      codeBook: { cues: { past: ["beyond"] }, codes: [{ code: "HEDGE", kind: "line" }, { code: "SPOT" }] },
    });
    expect(job.state.points.shotAt).toBeUndefined();
    expect(
      stateOf([rows[0]!, { ...rows[1]!, code: "HEDGE beyond=10" }], {
        codeBook: { cues: { past: ["beyond"] }, codes: [{ code: "HEDGE", kind: "line" }] },
      }).points.shotAt?.size,
    ).toBe(1);
  });
});

test("a shot changed rebuilds its own line; the others are the very same objects, and all is as if built anew", () => {
  const chain = new Chain();
  let state = stateOf(
    Array.from({ length: 40 }, (_, k) => ({
      number: k + 1,
      e: 10 * (k % 8) + k / 9,
      n: 20 * Math.floor(k / 8),
      z: k,
      code: `HEDGE${1 + Math.floor(k / 8)}${["", " via", "", " flow"][k % 4]}`,
    })),
  );
  let last = chain.run(state).lines;
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 39 }),
      fc.constantFrom("easting", "elevation", "deleted"),
      fc.integer({ min: 0, max: 90 }),
      (i, field, value) => {
        const old =
            field === "easting"
              ? state.points.e[i]!
              : field === "elevation"
                ? state.points.z[i]!
                : state.points.deleted[i] === 1,
          next = field === "deleted" ? !old : value;
        state = applyChange(state, {
          type: "points",
          edits: [{ id: i + 1, field: field as "easting", old, new: next }],
        });
        const now = chain.run(state).lines,
          run = String(1 + Math.floor(i / 8));
        for (const l of now) if (l.run !== run) expect(last).toContain(l);
        expect(now).toEqual(runChain(state).lines);
        last = now;
      },
    ),
    { numRuns: 60 },
  );
});

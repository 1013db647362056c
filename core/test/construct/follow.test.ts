/** Constructed points in a job: their levels, lines and surfaces that they follow and are part of, and what is lost. */
import { refusalOfLost } from "../../src";
import { Refusal } from "../../src/errors";
import { applyChange, type EditableChange } from "../../src/job/change/change";
import { Chain } from "../../src/job/chain/chain";
import type { JobState } from "../../src/job/model/model";
import { refOf } from "../../src/points/refs";
import { derive, found, stateOf, type Row } from "../job";
import { stand } from "./made";

/** A plane of levels 100 + E/10 + N/20, without points of its middle. */
const z = (e: number, n: number) => 100 + e / 10 + n / 20;
const PLANE: Row[] = [
  [0, 0],
  [40, 0],
  [40, 40],
  [0, 40],
].map(([e, n], k) => ({ number: k + 1, e: e!, n: n!, z: z(e!, n!), code: "SPOT" }));
const GROUND = { surfaces: [{ name: "ground" }] };

describe("levels", () => {
  const of = (elevation: NonNullable<Parameters<typeof stand>[1]>[number]["elevation"], more = GROUND) =>
    stand(
      PLANE,
      [{ number: "9", description: "ROD", by: { from: "1", to: "2", forward: 10, right: -5 }, elevation }],
      more,
    ).at["9"]![2];

  test("typed, of a point, on the slope between the two points of the way, from a surface, or missing", () => {
    expect(of(7.25)).toBe(7.25);
    expect(of({ of: "3", up: 0.5 })).toBe(z(40, 40) + 0.5);
    expect(of({ along: true, up: -1 })).toBeCloseTo(100, 12);
    expect(of({ surface: "ground", up: 2 })).toBeCloseTo(z(10, 5) + 2, 12);
    expect(of(undefined)).toBeNaN();
  });

  test("off its surface, and where a source has no level, the point stays and its level is missing", () => {
    const beside = { from: "1", to: "2", beyond: 3 };
    expect(stand(PLANE, [{ number: "9", by: beside, elevation: { surface: "ground" } }], GROUND)).toMatchObject({
      at: { 9: [43, 0, NaN] },
      lost: [],
    });
    const rows = PLANE.map((r) => (r.number === 2 ? { ...r, z: undefined } : r));
    expect(stand(rows, [{ number: "9", by: beside, elevation: { along: true } }]).at["9"]![2]).toBeNaN();
    expect(stand(rows, [{ number: "9", by: beside, elevation: { of: "77" } }])).toMatchObject({ lost: [] });
  });

  test("a slope goes on beyond and before its points, by plan distance along it", () => {
    const on = (forward: number) =>
      stand(PLANE, [{ number: "9", by: { from: "1", to: "3", forward, right: 7 }, elevation: { along: true } }]).at[
        "9"
      ]![2];
    // From 100 to 106 over √2 · 40.
    for (const d of [-10, 0, 20, 100]) expect(on(d)).toBeCloseTo(100 + (6 * d) / (40 * Math.SQRT2), 10);
  });
});

describe("surfaces", () => {
  const middle = { number: "9", description: "SPOT", by: { at: [20, 20] as [number, number] } };

  test("a surface is never made of a level that it gives, itself or by another point; other surfaces are", () => {
    const more = { surfaces: [{ name: "ground" }, { name: "raised", points: "pegs" }], sets: [{ name: "pegs", rule: { codes: ["SPOT"] } }] }; // prettier-ignore
    const { derived } = derive(PLANE, {
      ...more,
      computed: [
        { ...middle, elevation: { surface: "ground", up: 3 } },
        { number: "10", description: "SPOT", by: { from: "9", azimuth: 90, distance: 4 }, elevation: { of: "9" } },
      ],
    });
    const count = (k: number) => {
      const made = derived.surfaces[k]!;
      return made.ok && made.value.report.points;
    };
    expect([count(0), count(1)]).toEqual([4, 6]);
    expect(Array.from(derived.points.z.slice(-2))).toEqual([z(20, 20) + 3, z(20, 20) + 3]);
  });

  test("levels go from surface to surface through constructed points", () => {
    const pegs = [
      [5, 5],
      [35, 5],
      [20, 35],
    ].map(([e, n], k) => ({
      number: `P${k}`,
      description: "ROD",
      by: { at: [e, n] as [number, number] },
      elevation: { surface: "ground", up: 1 },
    }));
    const sets = [{ name: "pegs", rule: { codes: ["ROD"] } }],
      top = {
        number: "T",
        description: "TREE",
        by: { at: [20, 15] as [number, number] },
        elevation: { surface: "above", up: 0.25 },
      };
    // Written before what it hangs on.
    const { at } = stand(PLANE, [top, ...pegs], { sets, surfaces: [{ name: "above", points: "pegs" }, { name: "ground" }] }); // prettier-ignore
    expect(at.T![2]).toBeCloseTo(z(20, 15) + 1.25, 10);
  });

  test("surfaces that are made of one another's levels give none", () => {
    const on = (surface: string, e: number, code: string) => ({
      number: code,
      description: code,
      by: { at: [e, 20] as [number, number] },
      elevation: { surface, up: 1 },
    });
    const { derived } = derive(PLANE, {
      sets: [{ name: "pegs", rule: { codes: ["ROD", "SPOT"] } }],
      surfaces: [{ name: "ground" }, { name: "above", points: "pegs" }],
      computed: [on("above", 10, "SPOT"), on("ground", 30, "ROD")],
    });
    expect(Array.from(derived.points.z.slice(-2))).toEqual([NaN, NaN]);
    expect(found(derived, "computed-lost").map((f) => f.message)).toContain(
      "Point ROD has no level: its sources follow it in a circle.",
    );
    expect(refusalOfLost(derived)?.message).toContain("its sources follow it in a circle");
  });

  test("a breakline through such a point keeps its own slope there in that surface", () => {
    const rows: Row[] = [...PLANE, { number: 5, e: 0, n: 20, z: 90, code: "TOP1" }];
    const lines = [{ name: "l", code: "TOP", points: "5, 9, 6" }];
    const { derived } = derive([...rows, { number: 6, e: 40, n: 20, z: 94, code: "SPOT" }], {
      ...GROUND,
      lines,
      computed: [{ ...middle, description: "", elevation: { surface: "ground", up: 50 } }],
    });
    // Halfway from 90 to 94, and not what hangs on the surface itself.
    expect(derived.points.z.at(-1)).toBeCloseTo(142, 10);
  });
});

describe("lines", () => {
  const KERB: Row[] = [
    { number: 1, e: 0, n: 0, z: 10, code: "TOP1" },
    { number: 2, e: 30, n: 0, z: 13, code: "TOP1" },
    { number: 3, e: 30, n: 40, z: 17, code: "TOP1" },
  ];
  const kerb = { code: "TOP", run: "1" };

  test("station and offset of a line of the job, with its level; beyond an end it goes on straight", () => {
    const on = (station: number, offset: number) =>
      stand(KERB, [{ number: "9", by: { line: kerb, station, offset }, elevation: { along: true } }]).at["9"];
    expect(on(12, 2)).toEqual([12, -2, 11.2]);
    expect(on(50, -1.5)).toEqual([28.5, 20, 15]);
    expect(on(30, 1)).toEqual([31, 0, 13]);
    expect(on(75, 0)).toEqual([30, 45, NaN]);
    expect(on(-5, 1)).toEqual([-5, -1, NaN]);
  });

  test("of a line drawn by its corners, from its own first station", () => {
    const line = { points: [[0, 0], [10, 0], [10, 10]] as [number, number][], start: 100 }; // prettier-ignore
    expect(stand(KERB, [{ number: "9", by: { line, station: 113, offset: -1 } }]).at["9"]).toEqual([9, 3, NaN]);
  });

  test("the tangents of an arc meet as far from both its ends; an arc by its middle or by its end", () => {
    const rows: Row[] = [
      { number: 1, e: 0, n: 0, code: "HEDGE1" },
      { number: 2, e: 10 * Math.SQRT1_2, n: 10 - 10 * Math.SQRT1_2, code: "HEDGE1 via" },
      { number: 3, e: 10, n: 10, code: "HEDGE1" },
    ];
    for (const piece of ["2", "3"]) {
      const [e, n] = stand(rows, [{ number: "9", by: { tangents: { code: "HEDGE", run: "1" }, piece } }]).at["9"]!;
      expect(e).toBeCloseTo(10, 9);
      expect(n).toBeCloseTo(0, 9);
    }
    expect(stand(rows, [{ number: "9", by: { tangents: { code: "HEDGE", run: "1" }, piece: "1" } }]).lost).toEqual([
      "Point 9 is not there: no arc of its line has that point in its middle or at its end.",
    ]);
  });

  test("half a turn has parallel tangents", () => {
    const rows: Row[] = [
      { number: 1, e: 0, n: 0, code: "HEDGE1" },
      { number: 2, e: 10, n: 10, code: "HEDGE1 via" },
      { number: 3, e: 20, n: 0, code: "HEDGE1" },
    ];
    expect(stand(rows, [{ number: "9", by: { tangents: { code: "HEDGE", run: "1" }, piece: "2" } }]).lost).toEqual([
      "Point 9 is not there: the tangents of its arc are parallel.",
    ]);
  });

  test("lines go through constructed points, and points follow such lines", () => {
    const { at } = stand(
      [...KERB, { number: 4, e: 0, n: 100, code: "HEDGE" }],
      [
        { number: "11", by: { line: { hand: "wall" }, station: 50, offset: 10 } },
        { number: "10", by: { line: kerb, station: 30, offset: -30 } },
      ],
      { lines: [{ name: "wall", code: "HEDGE", points: "10, 4" }] },
    );
    expect(at["10"]!.slice(0, 2)).toEqual([0, 0]);
    expect(at["11"]!.slice(0, 2)).toEqual([10, 50]);
  });

  test("a line that goes through the point that it gives has none: the point is lost and said to follow itself", () => {
    const { state, derived } = derive([...KERB, { number: 4, e: 0, n: 100, code: "HEDGE" }], {
      lines: [{ name: "wall", code: "HEDGE", points: "9, 4" }],
      computed: [{ number: "9", by: { line: { hand: "wall" }, station: 5, offset: 1 } }],
    });
    expect(derived.lostPoints.size).toBe(1);
    expect(state.computed).toHaveLength(1);
  });
});

describe("what is lost", () => {
  const computed = [
    { number: "9", by: { from: "1", to: "2", forward: 10 } },
    { number: "10", by: { between: ["9", "3"] as [string, string], ratio: 0.5 } },
  ];
  const edit = (
    s: JobState,
    number: string,
    field: "deleted" | "number" | "easting",
    next: boolean | string | number,
  ) => {
    const i = s.points.number.indexOf(number),
      old = field === "deleted" ? s.points.deleted[i] !== 0 : field === "number" ? number : s.points.e[i]!;
    return applyChange(s, { type: "points", edits: [{ id: s.points.id[i]!, field, old, new: next }] });
  };

  test("a deleted source takes with it what follows it, and brings it back; a renumbered one is followed", () => {
    const state = stateOf(PLANE, { computed }),
      chain = new Chain(),
      there = (s: JobState) => {
        const { points: t } = chain.run(s);
        return t.number.filter((_, i) => !t.deleted[i]);
      };
    expect(there(state)).toEqual(["1", "2", "3", "4", "9", "10"]);
    const without = edit(state, "2", "deleted", true);
    expect(there(without)).toEqual(["1", "3", "4"]);
    expect(chain.run(without).findings.filter((f) => f.kind === "computed-lost")).toHaveLength(2);
    expect(there(edit(without, "2", "deleted", false))).toEqual(there(state));
    // Of one that the office took out itself nothing is told.
    const both = edit(without, "9", "deleted", true);
    expect(chain.run(both).findings.filter((f) => f.kind === "computed-lost")).toHaveLength(1);
    const moved = edit(edit(state, "2", "number", "A2"), "A2", "easting", 0.5);
    expect(chain.run(moved).lostPoints.size).toBe(0);
    expect(chain.run(moved).points.e[4]).toBe(10);
  });

  test("a recipe in which points follow one another in a circle, or fit two positions, says so", () => {
    const run = (given: Parameters<typeof stand>[1]) => {
      try {
        return refusalOfLost(derive(PLANE, { computed: given }).derived)?.message;
      } catch (e) {
        if (e instanceof Refusal) return e.message;
        throw e;
      }
    };
    expect(
      run([
        { number: "9", by: { from: "10", azimuth: 0, distance: 1 } },
        { number: "10", by: { from: "9", azimuth: 0, distance: 1 } },
      ]),
    ).toBe("computed[0].by: point 9 follows itself: its sources follow it in a circle.");
    const meet: [{ from: string; distance: number }, { from: string; distance: number }] = [
      { from: "1", distance: 25 },
      { from: "2", distance: 25 },
    ];
    expect(run([{ number: "9", by: { meet } }])).toBe(
      "computed point 9: two positions fit, E 20.000 N 15.000 and E 20.000 N -15.000: say which by near.",
    );
    expect(run([{ number: "9", by: { meet, near: [0, -1] } }])).toBeUndefined();
    expect(run([{ number: "9", by: { centre: ["1", "2", "3"] }, elevation: { along: true } }])).toBe(
      "computed[0].elevation: its way names no two points, and no line, along which a level could run.",
    );
    expect(run([{ number: "9", by: { meet, near: "3", ratio: 1 } as never }])).toContain("computed[0].by");
  });

  test("what a point follows is a named thing: made, changed and taken away like any other, and undone", () => {
    const state = stateOf(PLANE, { computed: [{ number: "9", by: { at: [7, 8] } }] }),
      ref = (number: string) => refOf(state.points, state.intakes, state.points.number.indexOf(number)),
      point = state.points.id[4]!,
      follow: EditableChange = {
        type: "named",
        part: "computed",
        name: String(point),
        old: null,
        new: { point, by: { between: [ref("1"), ref("3")], ratio: 0.25 } },
      };
    const at = (s: JobState) => Array.from([...new Chain().run(s).points.e].slice(-1));
    expect(at(state)).toEqual([7]);
    const following = applyChange(state, follow);
    expect(at(following)).toEqual([10]);
    expect(at(applyChange(following, { ...follow, old: follow.new, new: null }))).toEqual([7]);
  });
});

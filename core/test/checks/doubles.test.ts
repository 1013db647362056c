/** Lines drawn twice, lines that nearly close, areas over one another, marks without ground beside them. */
import fc from "fast-check";
import { applyChange } from "../../src";
import type { HandLine } from "../../src/lines/model";
import { derive, found, runOf, type Row } from "../job";

const at = (code: string, ...places: [number, number][]): Row[] =>
  places.map(([e, n], k) => ({ number: `${code}${k}`, e, n, z: 1, code }));
const box = (code: string, e: number, n: number, side: number): Row[] => {
  const rows = at(code, [e, n], [e + side, n], [e + side, n + side], [e, n + side]);
  rows[3]!.code = `${code} loop`;
  return rows;
};

describe("two lines over the same shots", () => {
  const rows = at("HEDGE", [0, 0], [10, 1], [20, 0], [30, 5]);
  const byHand = (points: string, more: Partial<HandLine> = {}) =>
    derive(rows, { lines: [{ name: "again", code: "HEDGE", points, ...more }] });
  test.each([
    ["the same way", "HEDGE0, HEDGE1, HEDGE2, HEDGE3", {}, 1],
    ["the other way", "HEDGE3, HEDGE2, HEDGE1, HEDGE0", {}, 1],
    ["in another order", "HEDGE0, HEDGE2, HEDGE1, HEDGE3", {}, 0],
    ["only a part of them", "HEDGE0, HEDGE1, HEDGE2", {}, 0],
    ["of another code", "HEDGE0, HEDGE1, HEDGE2, HEDGE3", { code: "PATH" }, 0],
    ["closed, where the other is open", "HEDGE0, HEDGE1, HEDGE2, HEDGE3", { closed: true }, 0],
  ] as const)("%s", (_, points, more, count) => {
    const doubled = found(byHand(points, more).derived, "line-doubled");
    expect(doubled).toHaveLength(count);
    if (count) expect(doubled[0]).toMatchObject({ severity: "warning", lines: [0, 1] });
  });

  test("a ring drawn twice is one, wherever it begins and whichever way it runs", () => {
    const ring = box("BED", 0, 0, 10),
      numbers = ring.map((r) => String(r.number));
    fc.assert(
      fc.property(fc.nat(3), fc.boolean(), (turn, back) => {
        const turned = [...numbers.slice(turn), ...numbers.slice(0, turn)],
          points = back ? turned.reverse() : turned;
        const { derived } = derive(ring, { lines: [{ name: "b", code: "BED", points, closed: true }] });
        expect(found(derived, "line-doubled")).toHaveLength(1);
      }),
    );
  });
});

describe("a line that ends at its start", () => {
  const round = (e: number, n: number, last = "HEDGE") => {
    const rows = at("HEDGE", [0, 0], [10, 0], [10, 10], [e, n]);
    rows[3]!.code = last;
    return found(derive(rows).derived, "line-nearly-closed");
  };
  test.each([
    [0.012, 0.016, 1],
    [0.015, 0.016, 0],
    [0, 5, 0],
  ])("by %d, %d", (e, n, count) => expect(round(e, n)).toHaveLength(count));

  test("a line that goes back to its very first shot has come round", () => {
    const rows = at("HEDGE", [0, 0], [10, 0], [10, 10]);
    rows[2]!.code = "HEDGE to=HEDGE0";
    expect(found(derive(rows).derived, "line-nearly-closed")).toEqual([]);
  });

  test("closed by its cue it is closed; two shots are no round", () => {
    expect(round(0.01, 0, "HEDGE loop")).toEqual([]);
    expect(found(derive(at("HEDGE", [0, 0], [0.01, 0])).derived, "line-nearly-closed")).toEqual([]);
  });

  test("says its gap, its two points and where", () =>
    expect(round(0.01, 0)).toMatchObject([
      { points: ["HEDGE0", "HEDGE3"], lines: [0], at: [0.01, 0], data: { gap: 0.01 } },
    ]));
});

describe("areas of one code", () => {
  const over = (...rings: Row[][]) => found(derive(rings.flat()).derived, "areas-overlap");
  const renamed = (rows: Row[], run: string) =>
    rows.map((r) => ({ ...r, number: `${r.number}${run}`, code: r.code!.replace("BED", `BED${run}`) }));
  const beds = (...squares: [number, number, number][]) =>
    over(...squares.map(([e, n, side], k) => renamed(box("BED", e, n, side), String(k + 1))));

  test.each<[string, [number, number, number][], number]>([
    [
      "that cross",
      [
        [0, 0, 10],
        [5, 5, 10],
      ],
      1,
    ],
    [
      "one within the other",
      [
        [0, 0, 10],
        [2, 2, 3],
      ],
      1,
    ],
    [
      "one round the other",
      [
        [2, 2, 3],
        [0, 0, 10],
      ],
      1,
    ],
    [
      "the very same ground",
      [
        [0, 0, 10],
        [0, 0, 10],
      ],
      1,
    ],
    [
      "side by side along one side",
      [
        [0, 0, 10],
        [10, 0, 10],
      ],
      0,
    ],
    [
      "corner to corner",
      [
        [0, 0, 10],
        [10, 10, 10],
      ],
      0,
    ],
    [
      "apart",
      [
        [0, 0, 10],
        [30, 0, 10],
      ],
      0,
    ],
    [
      "three in a row that overlap in pairs",
      [
        [0, 0, 10],
        [8, 0, 10],
        [16, 0, 10],
      ],
      2,
    ],
  ])("%s", (_, squares, count) => expect(beds(...squares)).toHaveLength(count));

  test("squares overlap just when their insides do (by intervals)", () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(8), fc.nat(8), fc.integer({ min: 1, max: 5 })), { minLength: 2, maxLength: 4 }),
        (squares) => {
          let pairs = 0;
          squares.forEach(([e, n, s], i) =>
            squares.slice(i + 1).forEach(([f, m, r]) => {
              if (e < f + r && f < e + s && n < m + r && m < n + s) pairs++;
            }),
          );
          expect(beds(...squares)).toHaveLength(pairs);
        },
      ),
    ));

  test("of another code may lie where they like", () => {
    const lawn = box("BED", 0, 0, 10),
      other = box("HEDGE", 2, 2, 3);
    expect(over(lawn, other)).toEqual([]);
  });
});

describe("a mark kept out of surfaces", () => {
  const near = (distance: number, more: Partial<Row> = {}, unit: "m" | "ft" = "m") => {
    const { state } = derive(
      [
        { number: "M", e: 0, n: 0, z: 2, code: "SPOT" },
        { number: "G", e: distance, n: 0, z: 1, code: "SPOT", ...more },
      ],
      { unit },
    );
    const out = applyChange(state, { type: "points", edits: [{ id: 1, field: "surface", old: "auto", new: "out" }] });
    return found(runOf(out), "no-ground-near").map((f) => f.points);
  };
  test.each([
    ["ground at the edge of 3 m", near(3), []],
    ["just beyond", near(3.001), [["M"]]],
    ["no ground by its code", near(1, { code: "ROD" }), [["M"]]],
    ["without a level", near(1, { z: undefined }), [["M"]]],
    ["in feet as far", near(9.8, {}, "ft"), []],
    ["in feet beyond", near(9.9, {}, "ft"), [["M"]]],
  ])("%s", (_, told, points) => expect(told).toEqual(points));
});

/** Points that are not where they were measured: far from all others, or with their axes exchanged. */
import fc from "fast-check";
import { applyChange, lookAt, type Layout } from "../../src";
import { explained, farAway } from "../../src/checks/far-away";
import { exchangedRows, sortedPositions } from "../../src/checks/axes";
import { repairsOf } from "../../src/job/edit/repairs";
import { drawer } from "../drawer";
import { csvOf, derive, found, type Row } from "../job";

type P = [e: number, n: number];
const columns = (at: readonly P[]) => ({ e: at.map((p) => p[0]), n: at.map((p) => p[1]) });

/** COMPUTATION.md to the letter, where few are one: those that alone are farther from all others than these spread. */
function alone(at: readonly P[]): number[] {
  return at.flatMap((p, i) => {
    const others = at.filter((_, k) => k !== i),
      sides = [0, 1].map((k) => {
        const sorted = others.map((x) => x[k]!).sort((a, b) => a - b),
          last = sorted.length - 1;
        return sorted[Math.ceil(0.99 * last)]! - sorted[Math.floor(0.01 * last)]!;
      });
    return others.every(([e, n]) => Math.hypot(p[0] - e, p[1] - n) > Math.max(...sides)) ? [i] : [];
  });
}

describe("far away", () => {
  test("as COMPUTATION.md says, in any cloud of less than a hundred with one point anywhere", () => {
    let told = 0;
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1e6 }),
        fc.integer({ min: 20, max: 90 }),
        fc.array(fc.tuple(fc.integer({ min: -9, max: 9 }), fc.integer({ min: -9, max: 9 })), { maxLength: 1 }),
        (seed, count, off) => {
          const r = drawer(seed + 1),
            at: P[] = Array.from({ length: count }, () => [100 * r(), 60 * r()]);
          for (const [e, n] of off) at.push([50 + 60 * e, 30 + 60 * n]);
          const wanted = alone(at);
          expect(farAway(columns(at))?.far ?? []).toEqual(wanted);
          told += wanted.length;
        },
      ),
      { numRuns: 300 },
    );
    expect(told).toBeGreaterThan(50);
  });

  test("few are at most one of a hundred and twenty in all; a second site is not few", () => {
    const r = drawer(5),
      site = (count: number, e: number): P[] => Array.from({ length: count }, () => [e + 100 * r(), 100 * r()]);
    expect(farAway(columns([...site(200, 0), ...site(2, 5000)]))?.far).toEqual([200, 201]);
    expect(farAway(columns([...site(200, 0), ...site(4, 5000)]))).toBeUndefined();
    expect(farAway(columns([...site(4000, 0), ...site(20, 5000)]))?.far).toHaveLength(20);
    expect(farAway(columns([...site(4000, 0), ...site(21, 5000)]))).toBeUndefined();
    expect(farAway(columns([...site(10, 0), [9e5, 0]]))).toBeUndefined();
  });

  const box = { minE: 4000, maxE: 4150, minN: 8000, maxN: 8130 };
  test.each<[P, string[]]>([
    [[4099.761, 13_129.967], ["northing may have a wrong digit 4099.761 8129.967"]],
    [[409.9761, 8100], ["easting may have its decimal point shifted 4099.761 8100"]],
    [[-4100, 8100], ["easting may have the wrong sign 4100 8100"]],
    [[8100, 4100], ["northing and easting may be exchanged 4100 8100"]],
    [
      [13_451.443_57, 26_574.803_15],
      ["coordinates may be in ft 4100 8100", "coordinates may be in ftUS 4100.008 8100.016"],
    ],
    [[90_000, 70_000], []],
  ])("%j is explained by %j", ([e, n], words) => {
    expect(
      explained(e, n, box, "m").map((x) => `${x.words} ${Number(x.e.toFixed(3))} ${Number(x.n.toFixed(3))}`),
    ).toEqual(words);
  });

  const rows: Row[] = Array.from({ length: 120 }, (_, k) => ({
    number: k + 1,
    e: 4000 + 10 * (k % 12) + 0.123,
    n: 8000 + 10 * Math.floor(k / 12),
    z: 5,
    code: "SPOT",
  }));
  const far = { ...rows[50]!, number: 999, n: rows[50]!.n + 5000.5 };

  test("it is told before any surface is made, and corrected by what explains it", () => {
    const { state, derived } = derive([...rows, far]),
      [f] = found(derived, "far-away");
    expect([f!.points, f!.severity, f!.data.row]).toEqual([["999"], "error", 121]);
    const finding = derived.findings.find((x) => x.kind === "far-away")!,
      [first] = repairsOf(finding, { state, line: () => undefined });
    expect(first!.name).toBe("Correct it to northing 8040.500 m");
    const mended = applyChange(state, first!.change);
    expect(mended.points.n[120]).toBe(8040.5);
    expect(f!.message).toBe(
      "Point 999 (day1.csv, row 121) lies 4951 m from all others, farther than they spread. Its northing may have a " +
        "wrong digit: N 8040.500 for 13040.500. Correct it, or accept it where it was measured there.",
    );
  });

  test("the look at a file tells it, also of one point beside the job's", () => {
    const { state } = derive(rows),
      layout: Layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
      look = (of: readonly Row[]) =>
        lookAt(
          state,
          new TextEncoder().encode(csvOf(of)),
          { id: "day2", file: "day2.csv", layout },
          { firstId: 500 },
        ).values.filter((v) => v.what === "position");
    expect(look([far])).toEqual([
      {
        row: 1,
        number: "999",
        what: "position",
        text:
          "lies 4951 m from all others. Its northing may have a wrong digit: N 8040.500 for 13040.500. " +
          "Correct it, or accept it where it was measured there.",
      },
    ]);
    expect(look([{ ...far, n: 8000 }])).toEqual([]);
  });
});

describe("exchanged axes", () => {
  const grid = (count: number, e: number, n: number): P[] =>
    Array.from({ length: count }, (_, k) => [e + 10 * (k % 20), n + 10 * Math.floor(k / 20)]);
  const swapped = (own: readonly P[], others: readonly P[]) => {
    const t = {
      count: own.length,
      ...of(own),
      deleted: new Uint8Array(own.length),
      intake: new Int32Array(own.length),
    };
    return exchangedRows(
      t,
      Int32Array.from(own.keys()),
      sortedPositions(t),
      sortedPositions({
        count: others.length,
        ...of(others),
        deleted: new Uint8Array(others.length),
        intake: new Int32Array(others.length),
      }),
    );
  };
  const of = (at: readonly P[]) => ({ e: Float64Array.from(at, (p) => p[0]), n: Float64Array.from(at, (p) => p[1]) });
  const back = ([e, n]: P): P => [n, e];

  test("rows at the far rim of a delivery beside another are found", () => {
    const others = grid(400, 4000, 8000),
      // Five times as long as the others are, away from them.
      own = Array.from({ length: 400 }, (_, k): P => [4200 + 3 * k, 8000 + (k % 40)]);
    const rim = own.map((p, k) => (k === 398 ? back(p) : p));
    expect(swapped(rim, others)).toEqual([398]);
    expect(swapped(own, others)).toEqual([]);
  });

  test("a whole delivery does not hide itself, nor a few rows of one alone", () => {
    const others = grid(400, 4000, 8000),
      own = grid(200, 4100, 8100);
    expect(swapped(own.map(back), others)).toHaveLength(200);
    expect(
      swapped(
        own.map((p, k) => (k % 50 === 7 ? back(p) : p)),
        [],
      ),
    ).toEqual([7, 57, 107, 157]);
    expect(swapped(own.map(back), [])).toEqual([]);
  });
});

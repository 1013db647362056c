/** Breaklines that are interrupted, ground between shots too far apart, points outside the edge. */
import { applyChange, repairsOf, runChain, type FindingKind, type SurfaceRecipe } from "../../src";
import { derive, type Row } from "../job";

const found = (rows: Row[], kind: FindingKind, more: Parameters<typeof derive>[1] = {}) => {
  const { state, derived } = derive(rows, more);
  return { state, derived, list: derived.findings.filter((f) => f.kind === kind) };
};
/** A breakline through positions, numbered from `from`. */
const line = (code: string, from: number, ...at: [number, number][]): Row[] =>
  at.map(([e, n], k) => ({ number: from + k, e, n, z: 10, code }));

describe("a breakline that another of its code goes on with", () => {
  const one = line("TOP1", 1, [0, 0], [10, 0], [20, 0]),
    on = line("TOP2", 11, [32, 1], [42, 1], [52, 0]);

  test("is told with both points and the gap, and joined by its repair", () => {
    const { state, derived, list } = found([...one, ...on], "line-interrupted");
    expect(list).toHaveLength(1);
    const [f] = list;
    expect(f).toMatchObject({ severity: "note", at: [26, 0.5], data: { gap: expect.closeTo(Math.hypot(12, 1), 9) } });
    expect(f!.points.map((id) => state.points.number[state.points.id.indexOf(id)])).toEqual(["3", "11"]);
    const drawn = (key: string) => {
      const l = derived.lines.find((x) => x.key === key)!;
      return { ...l, cues: l.shots.map(() => "") };
    };
    const [join] = repairsOf(f!, { state, findings: derived.findings, lines: derived.lines, line: drawn });
    const after = runChain(applyChange(state, join!.change));
    expect(after.lines).toHaveLength(1);
    expect(after.lines[0]!.shots.map((i) => state.points.number[i])).toEqual(["1", "2", "3", "11", "12", "13"]);
    expect(after.findings.filter((x) => x.kind === "line-interrupted")).toEqual([]);
  });

  test.each([
    ["the gap is wide", line("TOP2", 11, [38, 1], [48, 1])],
    ["the way turns before the gap", line("TOP2", 11, [22, 11], [22, 21])],
    ["the way turns after the gap", line("TOP2", 11, [31, 0], [31, 10])],
    ["it is of another code", line("BED2", 11, [32, 1], [42, 1])],
    ["it meets the first already", line("TOP2", 11, [20, 0], [30, 0])],
  ])("is not told where %s", (_, other) => {
    expect(found([...one, ...other], "line-interrupted").list).toEqual([]);
  });

  test("of two that might go on the nearer is meant, and it is told once", () => {
    const { list, derived } = found(
      [...one, ...line("TOP2", 11, [34, 4], [44, 4]), ...line("TOP3", 21, [27, -1], [37, -1])],
      "line-interrupted",
    );
    expect(list).toHaveLength(1);
    expect(list[0]!.lines.map((key) => derived.lines.find((l) => l.key === key)!.run).sort()).toEqual(["1", "3"]);
  });
});

const lattice = (columns: number, more: Row[] = []): Row[] => [
  ...Array.from({ length: columns * 5 }, (_, k) => ({
    number: k,
    e: 10 * (k % columns),
    n: 10 * Math.floor(k / columns),
    z: 10,
  })),
  ...more,
];
const surfaces = (recipe: Partial<SurfaceRecipe> = {}) => [{ name: "s", ...recipe }];

describe("ground between shots too far apart", () => {
  // A lattice of 40 m by 40 m, and a strip 30 m wide beyond it.
  const rows = lattice(5, [
    { number: 100, e: 70, n: 0, z: 10 },
    { number: 101, e: 70, n: 40, z: 10 },
  ]);
  const settings = (apart: number) => ({ surfaces: surfaces(), checks: { "shots-far-apart": { apart } } });

  test("is told with its area, its share and its longest side; nothing where nobody asked", () => {
    const { list } = found(rows, "shots-far-apart", settings(15));
    expect(list).toHaveLength(1);
    expect(list[0]!.data).toMatchObject({ surface: "s", area: expect.closeTo(1200, 9), apart: 15 });
    expect(list[0]!.data.longest).toBeGreaterThanOrEqual(40);
    expect(list[0]!.words.join("")).toMatch(/1\s200 m², 43 % of it/);
    expect(list[0]!.at![0]).toBeGreaterThan(40);
    expect(found(rows, "shots-far-apart", { surfaces: surfaces() }).list).toEqual([]);
    expect(found(rows, "shots-far-apart", settings(60)).list).toEqual([]);
    // The diagonal of the lattice is 14.14 m.
    expect(found(lattice(5), "shots-far-apart", settings(14.1)).list).toHaveLength(1);
    expect(found(lattice(5), "shots-far-apart", settings(14.2)).list).toEqual([]);
  });
});

describe("points outside the edge", () => {
  const rows = lattice(5, [{ number: 100, e: 90, n: 20, z: 10 }]);

  test("are named where the edge was fitted or sides kept short, not where it was drawn", () => {
    const { list, state } = found(rows, "outside-edge", { surfaces: surfaces({ edge: { fit: 15 } }) });
    expect(list).toHaveLength(1);
    expect(list[0]).toMatchObject({ at: [90, 20], data: { surface: "s", count: 1 } });
    expect(list[0]!.points).toEqual([state.points.id[state.points.number.indexOf("100")]]);
    expect(found(rows, "outside-edge", { surfaces: surfaces({ longestSide: 15 }) }).list).toHaveLength(1);
    expect(found(rows, "outside-edge", { surfaces: surfaces() }).list).toEqual([]);
    const ring: [number, number][] = [
      [-1, -1],
      [41, -1],
      [41, 41],
      [-1, 41],
    ];
    expect(found(rows, "outside-edge", { surfaces: surfaces({ edge: { ring } }) }).list).toEqual([]);
  });
});

import fc from "fast-check";
import { arcPieces, positionOnArc } from "../../src/lines/arc";
import { circleThrough, fitArc, fitCircle } from "../../src/lines/circle";
import { chordsOfCurve, curvePieces, positionOnCurve } from "../../src/lines/curve";
import { flattenLines } from "../../src/lines/flatten";
import type { CurvePiece, Piece, Position } from "../../src/lines/model";
import { planLength } from "../../src/lines/measure";
import { runChain } from "../../src/job/chain/chain";
import { derive, found, stateOfText, type Row } from "../job";

const numbers = (d: ReturnType<typeof derive>) =>
  d.derived.lines.map(
    (l) => [l.code, l.run, l.shots.map((s) => d.state.points.number[s]!).join(" "), l.closed] as const,
  );
const rows = (codes: string[]): Row[] =>
  codes.map((code, i) => ({ number: i + 1, e: i * 10, n: (i * i) % 7, z: 100 + i, code }));

describe("shots become lines", () => {
  test("runs, new, end, lone, areas that close themselves", () => {
    expect(
      numbers(
        derive(
          rows([
            "HEDGE",
            "HEDGE2",
            "HEDGE",
            "HEDGE2 end",
            "HEDGE lone",
            "SPOT",
            "HEDGE new",
            "HEDGE",
            "BED",
            "BED",
            "BED",
          ]),
        ),
      ),
    ).toEqual([
      ["HEDGE", "", "1 3", false],
      ["HEDGE", "2", "2 4", false],
      ["HEDGE", "", "7 8", false],
      ["BED", "", "9 10 11", true],
    ]);
  });

  test("one shot in two lines, and a run that goes on after its end", () => {
    expect(numbers(derive(rows(["HEDGE", "HEDGE end/TOP", "TOP end/HEDGE", "HEDGE"])))).toEqual([
      ["HEDGE", "", "1 2", false],
      ["TOP", "", "2 3", false],
      ["HEDGE", "", "3 4", false],
    ]);
  });

  test("findings: single shot, unclosed area, cues without effect", () => {
    const { derived } = derive(rows(["HEDGE7", "BED", "BED", "BED end", "TOP", "TOP loop", "SPOT new"]));
    expect(found(derived, "single-point-line")).toMatchObject([{ points: ["1"], lines: [0] }]);
    expect(found(derived, "area-unclosed")).toMatchObject([{ lines: [1] }]);
    expect(found(derived, "cue-ignored").map((f) => f.points)).toEqual([["7"], ["6"]].reverse());
  });

  test("opens by cue: an uncued shot while none is open is a plain point", () => {
    const d = derive(rows(["GATE", "GATE new", "GATE", "GATE end", "GATE"]), {
      codeBook: { codes: [{ code: "GATE", kind: "line", opens: "cue" }] },
    });
    expect(numbers(d)).toEqual([["GATE", "", "2 3 4", false]]);
    expect(found(d.derived, "cue-ignored").map((f) => f.points)).toEqual([["1"], ["5"]]);
  });

  test("order is by time when every row has one, else by row", () => {
    const layout = {
      delimiter: ",",
      columns: ["number", "easting", "northing", "elevation", "description", "time"] as const,
    };
    const text = "1,0,0,1,HEDGE,10:00:02\n2,1,0,1,HEDGE,10:00:01\n3,2,0,1,HEDGE,10:00:03";
    const run = (t: string) => {
      const state = stateOfText(t, {
        intakes: [{ id: "day1", file: "f", layout: { ...layout, columns: [...layout.columns] } }],
      });
      return runChain(state).lines[0]!.shots.map((s) => state.points.number[s]);
    };
    expect(run(text)).toEqual(["2", "1", "3"]);
    expect(run(text.replace("10:00:03", ""))).toEqual(["1", "2", "3"]);
  });

  test("building twice gives the same, and the order of the intakes' points by row alone decides", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.constantFrom("HEDGE", "HEDGE2", "TOP new", "TOP", "BED", "HEDGE end", "BED loop", "SPOT", "TOP via"),
          { minLength: 1, maxLength: 30 },
        ),
        (codes) => {
          const a = derive(rows(codes)),
            b = derive(rows(codes));
          expect(a.derived.lines).toEqual(b.derived.lines);
          // Each shot of a line code is in exactly one line of it.
          const inLines = a.derived.lines.flatMap((l) => l.shots);
          expect(new Set(inLines).size).toBe(inLines.length);
          expect(inLines.length).toBe(codes.filter((c) => c !== "SPOT").length);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe("arcs", () => {
  const limits = { flat: 0.0001, largestRadius: 100_000 };
  const shot = (e: number, n: number, index: number, z = 0) => ({ position: [e, n, z] as const, index });
  const on = (c: [number, number], r: number, t: number, index: number) =>
    shot(c[0] + r * Math.cos(t), c[1] + r * Math.sin(t), index);

  test("one via: through three shots, its side and sweep", () => {
    const { pieces } = arcPieces(shot(-1, 0, 0), [shot(0, 1, 1)], shot(1, 0, 2), limits);
    expect(pieces).toMatchObject([{ type: "arc", radius: 1 }]);
    const arc = pieces[0] as Extract<(typeof pieces)[number], { type: "arc" }>;
    expect(arc.sweep).toBeCloseTo(Math.PI, 12); // + is to the right
    expect(arc.center[0]).toBeCloseTo(0, 12);
  });

  test("several via on one circle give that circle back, whatever its size and side", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 500, noNaN: true }),
        fc.double({ min: 0.3, max: 6, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.boolean(),
        fc.integer({ min: 2, max: 6 }),
        (r, size, from, left, count) => {
          const sweep = left ? size : -size,
            c: [number, number] = [4300, 2400];
          const vias = Array.from({ length: count }, (_, k) => on(c, r, from + (sweep * (k + 1)) / (count + 1), k + 1));
          const { pieces, misfit } = arcPieces(on(c, r, from, 0), vias, on(c, r, from + sweep, count + 1), limits);
          const arc = pieces[0] as Extract<(typeof pieces)[number], { type: "arc" }>;
          // Flat arcs are decided by their height, which rounding of the shots limits.
          if (r * (1 - Math.cos(size / 2)) < 0.02) return;
          expect(arc.type).toBe("arc");
          expect(Math.abs(arc.radius / r - 1)).toBeLessThan(1e-5);
          expect(Math.abs(arc.sweep + sweep)).toBeLessThan(1e-5);
          expect(misfit).toBeLessThan(1e-6);
        },
      ),
      { numRuns: 200 },
    );
  });

  test("the fit with several via is the least of its neighbours", () => {
    const places: [number, number][] = [
      [2, 1.02],
      [4, 1.55],
      [6, 1.48],
      [8, 1.03],
    ];
    const fit = fitArc(0, 0, 10, 0, places)!;
    const cost = (t: number) => places.reduce((s, [x, y]) => s + (Math.hypot(x - 5, y - t) - Math.hypot(5, t)) ** 2, 0);
    for (const d of [1e-3, -1e-3]) expect(cost(fit.circle.n)).toBeLessThan(cost(fit.circle.n + d));
    expect(fit.right).toBe(true);
  });

  test("a closed line of via shots is a full circle, exact through three and least squares for more", () => {
    const through = circleThrough(0, 0, 2, 0, 0, 2)!;
    expect(through).toMatchObject({ e: 1, n: 1 });
    const noisy: [number, number][] = Array.from({ length: 9 }, (_, k) => [
      5 + (3 + 0.01 * ((k % 3) - 1)) * Math.cos(k * 0.7),
      -2 + (3 + 0.01 * ((k % 3) - 1)) * Math.sin(k * 0.7),
    ]);
    const fit = fitCircle(noisy)!;
    const cost = (e: number, n: number, r: number) =>
      noisy.reduce((s, [x, y]) => s + (Math.hypot(x - e, y - n) - r) ** 2, 0);
    const least = cost(fit.e, fit.n, fit.radius);
    for (const [a, b, c] of [
      [1e-4, 0, 0],
      [-1e-4, 0, 0],
      [0, 1e-4, 0],
      [0, -1e-4, 0],
      [0, 0, 1e-4],
      [0, 0, -1e-4],
    ] as const)
      expect(cost(fit.e + a, fit.n + b, fit.radius + c)).toBeGreaterThan(least);
  });

  test("a circle through its anchor is the least of those that pass it: no step of its centre is better", () =>
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 50, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.array(fc.double({ min: -0.02, max: 0.02, noNaN: true }), { minLength: 3, maxLength: 8 }),
        (r, turn, errors) => {
          const way = (k: number) => turn + (2 * Math.PI * (k + 1)) / (errors.length + 1),
            places = errors.map((x, k): [number, number] => [
              r * (1 + x) * Math.cos(way(k)) - r * Math.cos(turn),
              r * (1 + x) * Math.sin(way(k)) - r * Math.sin(turn),
            ]),
            fit = fitCircle(places, [0, 0])!,
            cost = (e: number, n: number) =>
              places.reduce((s, [x, y]) => s + (Math.hypot(x - e, y - n) - Math.hypot(e, n)) ** 2, 0),
            // The slope of the cost at the fit, beside its slope a thousandth of the radius away.
            h = 1e-6 * r,
            slope = (e: number, n: number) =>
              Math.hypot(cost(e + h, n) - cost(e - h, n), cost(e, n + h) - cost(e, n - h)) / (2 * h);
          expect(fit.radius).toBeCloseTo(Math.hypot(fit.e, fit.n), 9);
          expect(slope(fit.e, fit.n)).toBeLessThan(1e-3 * slope(fit.e + 1e-3 * r, fit.n + 1e-3 * r));
        },
      ),
    ));

  test("levels of via shots hold in the order of the arc; one that stands behind another is passed over", () => {
    const d = derive([
      { number: 1, e: 5, n: 0, z: 10, code: "TOP" },
      { number: 2, e: 0, n: 5, z: 14, code: "TOP via" },
      { number: 3, e: 5 * Math.cos(Math.PI / 4), n: 5 * Math.sin(Math.PI / 4), z: 40, code: "TOP via" },
      { number: 4, e: 5 * Math.cos(0.75 * Math.PI), n: 5 * Math.sin(0.75 * Math.PI), z: 13, code: "TOP via" },
      { number: 5, e: -5, n: 0, z: 12, code: "TOP" },
    ]);
    const arc = d.derived.lines[0]!.pieces[0]! as Extract<Piece, { type: "arc" }>;
    expect(arc.levels.map((l) => l.level)).toEqual([10, 14, 13, 12]);
    const shares = arc.levels.map((l) => l.share);
    expect(shares).toEqual([0, expect.closeTo(0.5, 6), expect.closeTo(0.75, 6), 1]);
    // Between the anchors and the first level known it rises evenly: half of it at a quarter of the way.
    expect(positionOnArc(arc, 0.25)[2]).toBeCloseTo(12, 6);
  });

  test("a smooth curve has not many more chords than it needs", () => {
    const shots = [
        [0, 0],
        [10, 10],
        [20, 0],
      ].map(([e, n], index) => ({ position: [e!, n!, 0] as const, index })),
      [p] = curvePieces(shots, false) as [CurvePiece, CurvePiece],
      parts = chordsOfCurve(p, 0.01),
      fewer = Math.floor(parts / 2);
    let worst = 0;
    for (let j = 0; j < fewer; j++) {
      const [a, q, b] = [0, 0.5, 1].map((u) => positionOnCurve(p, (j + u) / fewer)) as [Position, Position, Position];
      worst = Math.max(
        worst,
        Math.abs((b[0] - a[0]) * (q[1] - a[1]) - (b[1] - a[1]) * (q[0] - a[0])) / Math.hypot(b[0] - a[0], b[1] - a[1]),
      );
    }
    expect(worst).toBeGreaterThan(0.01);
  });

  test("no place of a smooth curve is farther from its chords than asked, and four times as coarse asks for half as many", () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 400 })), {
          minLength: 3,
          maxLength: 6,
        }),
        fc.constantFrom(0.5, 0.05, 0.005),
        (places, chord) => {
          const shots = places.map(([e, n], index) => ({ position: [e / 4, n / 4 + 200 * index, 0] as const, index }));
          for (const p of curvePieces(shots, false)) {
            const parts = chordsOfCurve(p, chord);
            let worst = 0;
            for (let j = 0; j < parts; j++) {
              const [a, b] = [positionOnCurve(p, j / parts), positionOnCurve(p, (j + 1) / parts)],
                long = Math.hypot(b[0] - a[0], b[1] - a[1]);
              for (const u of [0.25, 0.5, 0.75]) {
                const q = positionOnCurve(p, (j + u) / parts);
                worst = Math.max(worst, Math.abs((b[0] - a[0]) * (q[1] - a[1]) - (b[1] - a[1]) * (q[0] - a[0])) / long);
              }
            }
            expect(worst).toBeLessThanOrEqual(chord * (1 + 1e-9));
            const coarse = chordsOfCurve(p, 4 * chord);
            expect(Math.abs(coarse - parts / 2)).toBeLessThanOrEqual(1);
          }
        },
      ),
    ));

  test("in a line: length, area and chords of a circle of three shots", () => {
    const d = derive([
      { number: 1, e: 3, n: 0, z: 5, code: "BED via" },
      { number: 2, e: 0, n: 3, z: 5, code: "BED via" },
      { number: 3, e: -3, n: 0, z: 5, code: "BED via loop" },
    ]);
    const [line] = d.derived.lines as [(typeof d.derived.lines)[number]];
    expect(line.length).toBeCloseTo(6 * Math.PI, 10);
    expect(line.area).toBeCloseTo(9 * Math.PI, 10);
    const chains = flattenLines([line], 0.001);
    for (let i = 0; i < chains.shot.length; i++)
      expect(Math.hypot(chains.xyz[3 * i]!, chains.xyz[3 * i + 1]!)).toBeCloseTo(3, 12);
    // The largest distance from chord to arc is within the tolerance, and not needlessly small.
    const sagitta = 3 - Math.hypot((chains.xyz[0]! + chains.xyz[3]!) / 2, (chains.xyz[1]! + chains.xyz[4]!) / 2);
    expect(sagitta).toBeLessThanOrEqual(0.001);
    expect(sagitta).toBeGreaterThan(0.0003);
  });

  test("a circle through one anchor and shots nearly on a straight is too flat, and drawn with few vertices (was out of memory)", () => {
    const { derived } = derive(
      [
        [0, 5, " via"],
        [146.37, 97, ""],
        [389.74, 230, " via"],
        [72.11, 157, " via"],
      ].map(([e, n, cue], k) => ({ number: k + 1, e: e as number, n: n as number, z: k, code: `BED2${cue}` })),
    );
    expect(derived.chains.xyz.length).toBeLessThan(100_000);
    // Half a millimetre off straight over 30 m is no arc: its radius would be 225 km, or 900 km past a single shot in
    // 60 m.
    const bent = (places: [number, number][]) => {
      const { derived: d } = derive(
        places.map(([e, n], k) => ({
          number: k + 1,
          e,
          n,
          z: k,
          code: k === 0 || k === places.length - 1 ? "HEDGE" : "HEDGE via",
        })),
      );
      return [d.lines[0]!.pieces[0]!.type, found(d, "arc-flat").length];
    };
    expect([
      bent([
        [0, 0],
        [10, 0.0005],
        [20, 0.0005],
        [30, 0],
      ]),
      bent([
        [0, 0],
        [10, 0.005],
        [20, 0.005],
        [30, 0],
      ]),
    ]).toEqual([
      ["straight", 1],
      ["arc", 0],
    ]);
    expect([
      bent([
        [0, 0],
        [30, 0.0005],
        [60, 0],
      ]),
      bent([
        [0, 0],
        [30, 0.005],
        [60, 0],
      ]),
    ]).toEqual([
      ["straight", 1],
      ["arc", 0],
    ]);
    const far = derive(
      [
        [0, 0, ""],
        [5, 5, " via"],
        [10, 0, " off=1e15,0"],
      ].map(([e, n, cue], k) => ({ number: k + 1, e: e as number, n: n as number, z: k, code: `HEDGE${cue}` })),
    );
    expect(far.derived.chains.shot.length).toBeLessThan(250_000);
  });

  test("two lines from one shot have keys of their own, which stay when another comes between", () => {
    const box = [
        [0, 0],
        [5, 0],
        [5, 5],
      ].map(([e, n], k) => ({ number: k + 1, e: e!, n: n!, z: 1, code: "SPOT" })),
      lines = ["1, 2", "1, 3"].map((points, k) => ({ name: `l${k}`, code: "WALL", points })),
      twice = derive(
        ["TOP", "TOP from=1 new", "TOP from=1 new"].map((code, k) => ({
          number: k + 1,
          e: k * 3,
          n: k * k,
          z: 1,
          code,
        })),
      ).derived.lines;
    const keys = [...derive(box, { lines }).derived.lines, ...twice].map((l) => l.key);
    expect(new Set(keys).size).toBe(keys.length);
    expect(twice.map((l) => l.key.replace(/\d+( \(\d\))?$/, "N$1"))).toEqual([
      "TOP from N",
      "TOP from N (2)",
      "TOP from N (3)",
    ]);
  });

  test("flat, misfit and impossible arcs are told and stay drawable", () => {
    const flat = derive([
      { number: 1, e: 0, n: 0, code: "TOP" },
      { number: 2, e: 5, n: 0.00005, code: "TOP via" },
      { number: 3, e: 10, n: 0, code: "TOP" },
    ]);
    expect(found(flat.derived, "arc-flat")).toMatchObject([{ points: ["2"], lines: [0], at: [5, 0.00005] }]);
    expect(flat.derived.lines[0]!.pieces.map((p) => p.type)).toEqual(["straight", "straight"]);
    const misfit = derive(
      [
        [0, 0],
        [2, 2],
        [5, 2],
        [8, 2.4],
        [10, 0],
      ].map(([e, n], i) => ({ number: i + 1, e: e!, n: n!, code: i > 0 && i < 4 ? "TOP via" : "TOP" })),
    );
    expect(found(misfit.derived, "arc-misfit")[0]!.data.misfit).toBeGreaterThan(0.02);
    const ends = derive([
      { number: 1, e: 0, n: 0, code: "TOP via" },
      { number: 2, e: 5, n: 1, code: "TOP" },
    ]);
    expect(found(ends.derived, "cue-ignored")).toMatchObject([{ points: ["1"] }]);
    expect(planLength(ends.derived.lines[0]!.pieces[0]!)).toBeCloseTo(Math.hypot(5, 1), 12);
  });

  test("levels run linearly in arc length, and a via shot's level holds at its place", () => {
    const d = derive([
      { number: 1, e: 5, n: 0, z: 10, code: "TOP" },
      { number: 2, e: 0, n: 5, z: 14, code: "TOP via" },
      { number: 3, e: -5, n: 0, z: 12, code: "TOP" },
    ]);
    const [line] = d.derived.lines as [(typeof d.derived.lines)[number]];
    const quarter = (5 * Math.PI) / 2;
    expect(line.slopeLength).toBeCloseTo(Math.hypot(quarter, 4) + Math.hypot(quarter, 2), 10);
  });
});

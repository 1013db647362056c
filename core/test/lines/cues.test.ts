// @long: left out of npm run test:quick.
/** The cues of FIELD-CODES.md against closed formulas and invariants. */
import fc from "fast-check";
import { curvePieces, positionOnCurve } from "../../src/lines/curve";
import { flattenLines } from "../../src/lines/flatten";
import type { ArcPiece, Line, Piece } from "../../src/lines/model";
import { endDirection, startDirection } from "../../src/lines/pieces";
import { selfCrossings } from "../../src/checks/lines";
import { derive, found, type Row } from "../job";

type Shot = [code: string, e: number, n: number, z?: number];
const job = (shots: Shot[], codes: object[] = []) =>
  derive(
    shots.map(([code, e, n, z = 10], i): Row => ({ number: i + 1, e, n, z, code })),
    {
      codeBook: {
        codes: [{ code: "HEDGE", kind: "line" }, { code: "BED", kind: "area" }, { code: "SPOT" }, ...codes] as never,
      },
    },
  );
const names = (d: ReturnType<typeof job>) =>
  d.derived.lines.map((l) =>
    [l.code + l.run, l.shots.map((s) => d.state.points.number[s]).join(" "), l.closed ? "closed" : "open"].join(" "),
  );
const ignored = (d: ReturnType<typeof job>) => found(d.derived, "cue-ignored").map((f) => f.points.join());
const corners = (l: Line) => l.pieces.map((p) => [p.from[0], p.from[1], p.from[2]]);
const unit = ([e, n]: [number, number]) => [e / Math.hypot(e, n), n / Math.hypot(e, n)];

const coordinate = fc.integer({ min: -50_000, max: 50_000 }).map((x) => x / 100);
const place = fc.tuple(coordinate, coordinate);
const distinct = (ps: [number, number][]) =>
  ps.every((p, i) => ps.every((q, j) => i === j || Math.hypot(p[0] - q[0], p[1] - q[1]) > 1));

describe("corners that no shot made", () => {
  test("box: to the right, to the left, each new corner at the level beside it", () => {
    const d = job([
      ["HEDGE1", 0, 0, 1],
      ["HEDGE1 box=2", 10, 0, 3],
      ["HEDGE2", 0, 0, 1],
      ["HEDGE2 box=-2", 10, 0, 3],
    ]);
    expect(corners(d.derived.lines[0]!)).toEqual([
      [0, 0, 1],
      [10, 0, 3],
      [10, -2, 3],
      [0, -2, 1],
    ]);
    expect(corners(d.derived.lines[1]!)).toEqual([
      [0, 0, 1],
      [10, 0, 3],
      [10, 2, 3],
      [0, 2, 1],
    ]);
    expect(names(d)).toEqual(["HEDGE1 1 2 closed", "HEDGE2 3 4 closed"]);
  });
  test("quad: first + this − second; both want their exact count of shots and say so otherwise", () => {
    const d = job([
      ["HEDGE1", 0, 0, 1],
      ["HEDGE1", 10, 1, 2],
      ["HEDGE1 quad", 12, 6, 5],
      ["HEDGE2", 0, 0],
      ["HEDGE2 quad", 1, 1],
      ["HEDGE2 box=2", 2, 0],
      ["HEDGE3 box=x", 0, 9],
      ["HEDGE3 box=0", 1, 9],
      ["HEDGE4", 0, 9],
      ["HEDGE4 box=1e15", 1, 9],
    ]);
    expect(corners(d.derived.lines[0]!)[3]).toEqual([2, 5, 4]);
    // Its sides are (10, 1) and (2, 5).
    expect(d.derived.lines[0]!.area).toBeCloseTo(48, 9);
    expect(ignored(d).sort()).toEqual(["10", "5", "6", "7", "8"]);
  });
  test("a rectangle's area is base × width for any base", () =>
    fc.assert(
      fc.property(place, place, fc.double({ min: 0.1, max: 50, noNaN: true }), (a, b, w) => {
        fc.pre(distinct([a, b]));
        const { derived } = job([
          ["HEDGE", ...a],
          [`HEDGE box=${w}`, ...b],
        ]);
        expect(derived.lines[0]!.area! / (Math.hypot(b[0] - a[0], b[1] - a[1]) * w)).toBeCloseTo(1, 8);
      }),
      { numRuns: 50 },
    ));
});

describe("other points and other orders", () => {
  test("from, to, and numbers that do not exist", () => {
    const d = job([
      ["SPOT", 0, 0],
      ["HEDGE1 from=1", 5, 0],
      ["HEDGE1 to=1", 5, 5],
      ["HEDGE1", 9, 9],
      ["HEDGE1 to=77", 8, 8],
      ["HEDGE1 from=1", 7, 7],
    ]);
    expect(names(d)).toEqual(["HEDGE1 1 2 3 1 open", "HEDGE1 4 5 6 open"]);
    expect(ignored(d)).toEqual(["5", "6"]);
  });
  test("after: right after that shot, even where the line has ended; else its own order", () => {
    const d = job([
      ["HEDGE", 0, 0],
      ["HEDGE end", 10, 0],
      ["SPOT", 1, 1],
      ["HEDGE after=1", 5, 1],
      ["HEDGE2 after=1", 7, 7],
    ]);
    expect(names(d)).toEqual(["HEDGE 1 4 2 open", "HEDGE2 5 open"]);
    expect(ignored(d)).toEqual(["5"]);
  });
  test("join: with the line that has the point at an end, turned round if need be", () => {
    const shots: Shot[] = [
      ["HEDGE1", 0, 0],
      ["HEDGE1 join=4", 1, 0],
      ["HEDGE2", 3, 0],
      ["HEDGE2 end", 2, 0],
    ];
    expect(names(job(shots))).toEqual(["HEDGE1 1 2 4 3 open"]);
    expect(names(job([shots[0]!, ["HEDGE1 join=3", 1, 0], shots[2]!, shots[3]!]))).toEqual(["HEDGE1 1 2 3 4 open"]);
    expect(ignored(job([shots[0]!, ["HEDGE1 join=9", 1, 0]]))).toEqual(["2"]);
  });
});

describe("swing", () => {
  test("leaves the piece before without a corner, after a straight and after an arc; every place at one distance from its centre", () =>
    fc.assert(
      fc.property(place, place, place, place, (a, b, c, d) => {
        fc.pre(distinct([a, b, c, d]));
        const { derived } = job([
          ["HEDGE", ...a],
          ["HEDGE", ...b],
          ["HEDGE swing", ...c],
          ["HEDGE swing", ...d],
        ]);
        const { pieces } = derived.lines[0]!;
        for (let k = 1; k < pieces.length; k++) {
          const p = pieces[k]!;
          if (p.type !== "arc") continue;
          const [x, y] = [unit(endDirection(pieces[k - 1]!)), unit(startDirection(p))];
          expect(x[0]! * y[0]! + x[1]! * y[1]!).toBeCloseTo(1, 6);
          for (const end of [p.from, p.to])
            expect(Math.hypot(end[0] - p.center[0], end[1] - p.center[1]) / p.radius).toBeCloseTo(1, 9);
        }
      }),
      { numRuns: 100 },
    ));
  test("straight ahead is straight, straight back and nothing before it do nothing", () => {
    const d = job([
      ["HEDGE1", 0, 0],
      ["HEDGE1", 10, 0],
      ["HEDGE1 swing", 20, 0],
      ["HEDGE2", 0, 5],
      ["HEDGE2", 10, 5],
      ["HEDGE2 swing", 4, 5],
      ["HEDGE3 swing", 0, 9],
      ["HEDGE3", 5, 9],
    ]);
    expect(d.derived.lines.every((l) => l.pieces.every((p) => p.type === "straight"))).toBe(true);
    expect(ignored(d).sort()).toEqual(["6", "7"]);
  });
});

describe("flow", () => {
  const wave = Array.from({ length: 7 }, (_, i): [number, number] => [i * 10, Math.sin(i) * 8]);
  test("passes through its shots, bends without a corner, and ends at still", () => {
    const d = job(wave.map(([e, n], i): Shot => [`HEDGE${i === 1 ? " flow" : i === 5 ? " still" : ""}`, e, n, i]));
    const { pieces } = d.derived.lines[0]!;
    expect(pieces.map((p) => p.type)).toEqual(["straight", "curve", "curve", "curve", "curve", "straight"]);
    pieces.slice(1).forEach((p, k) => expect(p.from).toEqual(pieces[k]!.to));
    for (let k = 2; k < 5; k++) {
      const [x, y] = [unit(endDirection(pieces[k - 1]!)), unit(startDirection(pieces[k]!))];
      expect(x[0]! * y[0]! + x[1]! * y[1]!).toBeCloseTo(1, 12);
    }
  });
  test("a loop that flows from its first shot closes without a corner; its area is that of its fine chords", () => {
    const ring = Array.from({ length: 8 }, (_, i): Shot => [
      `HEDGE${i === 0 ? " flow" : i === 7 ? " loop" : ""}`,
      40 * Math.cos((i * Math.PI) / 4),
      25 * Math.sin((i * Math.PI) / 4),
    ]);
    const { derived } = job(ring),
      line = derived.lines[0]!;
    expect(line.pieces).toHaveLength(8);
    const [x, y] = [unit(endDirection(line.pieces[7]!)), unit(startDirection(line.pieces[0]!))];
    expect(x[0]! * y[0]! + x[1]! * y[1]!).toBeCloseTo(1, 12);
    const { xyz } = flattenLines([line], 1e-7);
    let twice = 0,
      length = 0;
    for (let k = 0; k + 5 < xyz.length; k += 3) {
      twice += xyz[k]! * xyz[k + 4]! - xyz[k + 1]! * xyz[k + 3]!;
      length += Math.hypot(xyz[k + 3]! - xyz[k]!, xyz[k + 4]! - xyz[k + 1]!);
    }
    expect(line.area! / (Math.abs(twice) / 2)).toBeCloseTo(1, 6);
    expect(line.length / length).toBeCloseTo(1, 6);
  });
  test("evenly spaced shots on a straight give the straight, with levels as the spline", () => {
    const { derived } = job([
      ["HEDGE flow", 0, 0, 1],
      ["HEDGE", 10, 0, 2],
      ["HEDGE", 20, 0, 3],
    ]);
    expect(derived.lines[0]!.length).toBeCloseTo(20, 12);
    expect(derived.lines[0]!.slopeLength).toBeCloseTo(Math.hypot(20, 2), 12);
  });
  test("the curve is the centripetal one: by Barry and Goldman's own pyramid", () =>
    fc.assert(
      fc.property(place, place, place, place, fc.double({ min: 0, max: 1, noNaN: true }), (a, b, c, d, u) => {
        fc.pre(distinct([a, b, c, d]));
        const shots = [a, b, c, d].map(([e, n], index) => ({ index, position: [e, n, 0] as const }));
        const mid = curvePieces(shots, false)[1]!,
          got = positionOnCurve(mid, u);
        const t = [0];
        for (let k = 1; k < 4; k++)
          t.push(
            t[k - 1]! +
              Math.sqrt(
                Math.hypot(
                  shots[k]!.position[0] - shots[k - 1]!.position[0],
                  shots[k]!.position[1] - shots[k - 1]!.position[1],
                ),
              ),
          );
        const x = t[1]! + u * (t[2]! - t[1]!);
        const lerp = (p: readonly number[], q: readonly number[], i: number, j: number) =>
          [0, 1].map((k) => (p[k]! * (t[j]! - x) + q[k]! * (x - t[i]!)) / (t[j]! - t[i]!));
        const [A, B, C] = [lerp(a, b, 0, 1), lerp(b, c, 1, 2), lerp(c, d, 2, 3)];
        const want = lerp(lerp(A!, B!, 0, 2), lerp(B!, C!, 1, 3), 1, 2);
        expect(Math.hypot(got[0] - want[0]!, got[1] - want[1]!)).toBeLessThan(1e-8);
      }),
      { numRuns: 100 },
    ));
  test("via and swing inside do nothing; shots at one place count once", () => {
    const d = job([
      ["HEDGE flow", 0, 0],
      ["HEDGE via", 10, 3],
      ["HEDGE swing", 20, 0],
      ["HEDGE", 20, 0],
      ["HEDGE", 30, 5],
    ]);
    expect(ignored(d).sort()).toEqual(["2", "3"]);
    expect(d.derived.lines[0]!.pieces.map((p) => p.type)).toEqual(["curve", "curve", "curve"]);
  });
});

describe("parallels", () => {
  const kerb = { code: "KERB", kind: "line", companions: [{ right: 0.5, up: 0.1, code: "TOPK" }] },
    top = { code: "TOPK", kind: "line", breakline: "fixed" };
  const beside = (shots: Shot[]) => {
    const d = job(shots, [kerb, top]);
    return { d, base: d.derived.lines[0]!, line: d.derived.lines.find((l) => l.companion)! };
  };

  test("a right angle is mitred outside and cut inside: lengths grow and shrink by the distance", () => {
    const left = beside([
        ["KERB", 0, 0],
        ["KERB", 10, 0],
        ["KERB", 10, 10],
      ]),
      right = beside([
        ["KERB", 0, 0],
        ["KERB", 10, 0],
        ["KERB", 10, -10],
      ]);
    expect(left.line).toMatchObject({ code: "TOPK", length: 21, shots: [] });
    expect(right.line.length).toBeCloseTo(19, 12);
    expect(left.line.pieces[0]!.to).toEqual([10.5, -0.5, 10.1]);
  });
  test("a sharp corner is bevelled once its mitre is longer than four times the distance", () => {
    // Turning left by twice the half angle α: the mitre is right / cos α.
    const turn = (degrees: number) =>
      beside([
        ["KERB", 0, 0],
        ["KERB", 10, 0],
        ["KERB", 10 + 10 * Math.cos((degrees * Math.PI) / 180), 10 * Math.sin((degrees * Math.PI) / 180)],
      ]).line.pieces.length;
    expect([turn(150), turn(152)]).toEqual([2, 3]);
  });
  test("a full circle: radius and length change by the distance; too tight an arc vanishes and is told", () => {
    const circle = (r: number) =>
      [0, 1, 2].map((k): Shot => [
        `KERB via${k === 2 ? " loop" : ""}`,
        r * Math.cos((2 * k * Math.PI) / 3),
        r * Math.sin((2 * k * Math.PI) / 3),
      ]);
    const { line, base } = beside(circle(10));
    expect((base.pieces[0] as ArcPiece).sweep).toBeLessThan(0);
    expect((line.pieces[0] as ArcPiece).radius).toBeCloseTo(10.5, 9);
    expect(line.area).toBeCloseTo(Math.PI * 10.5 ** 2, 6);
    const tight = beside([
      ["KERB", 0, 0],
      ["KERB via", 0.2, 0.2],
      ["KERB", 0.4, 0],
    ]);
    expect(ignored(tight.d)).toEqual(["1"]);
  });
  test("every place of a parallel without corners lies at its distance from the line, on its side, and higher", () =>
    fc.assert(
      fc.property(
        place,
        place,
        place,
        fc.double({ min: 0.2, max: 3, noNaN: true }),
        fc.boolean(),
        (a, b, c, right, left) => {
          fc.pre(distinct([a, b, c]));
          const sign = left ? -1 : 1;
          const d = job([
            [`HEDGE off=${sign * right},0.25,KERB`, ...a],
            ["HEDGE via", ...b],
            ["HEDGE", ...c],
          ]);
          const [base, line] = [d.derived.lines[0]!, d.derived.lines[1]];
          const [p] = base.pieces;
          if (!line || base.pieces.length !== 1 || p?.type !== "arc") return;
          const q = line.pieces[0] as ArcPiece;
          expect(q.center).toEqual(p.center);
          expect(Math.abs(q.radius - p.radius)).toBeCloseTo(right, 9);
          expect(Math.hypot(q.from[0] - p.from[0], q.from[1] - p.from[1])).toBeCloseTo(right, 9);
          const [te, tn] = unit(startDirection(p)) as [number, number];
          expect((q.from[0] - p.from[0]) * tn - (q.from[1] - p.from[1]) * te).toBeCloseTo(sign * right, 9);
          expect(q.from[2]).toBe(10.25);
        },
      ),
      { numRuns: 100 },
    ));
  test("the parallel of a closed line is closed; off says what is not written rightly", () => {
    const d = job([
      ["HEDGE off=1,0", 0, 0],
      ["HEDGE", 0, 10],
      ["HEDGE", 10, 10],
      ["HEDGE loop", 10, 0],
      ["HEDGE2 off=one", 50, 0],
      ["HEDGE2 off=1e9,2e9", 60, 0],
      ["HEDGE2 off=0x10,0", 70, 0],
      ["HEDGE2", 80, 0],
    ]);
    expect(d.derived.lines[1]).toMatchObject({ closed: true, area: 64, companion: { right: 1 } });
    expect(ignored(d)).toEqual(["5", "6", "7"]);
  });
});

describe("a line that bends more sharply than its parallel has room for", () => {
  /** A way of `turns` in radians and `lengths` from the origin. */
  const way = (steps: { length: number; turn: number }[]): [number, number][] => {
    let e = 0,
      n = 0,
      heading = 0;
    return [
      [0, 0],
      ...steps.map(({ length, turn }): [number, number] => {
        heading += turn;
        return [(e += length * Math.sin(heading)), (n += length * Math.cos(heading))];
      }),
    ];
  };
  const step = fc.record({
    length: fc.double({ min: 0.2, max: 2.2, noNaN: true }),
    turn: fc.double({ min: -2, max: 2, noNaN: true }),
  });

  test("no piece of a parallel runs backwards, and one that crosses itself is told", () =>
    fc.assert(
      fc.property(fc.array(step, { minLength: 2, maxLength: 12 }), (steps) => {
        const d = job(way(steps).map(([e, n], k): Shot => [k ? "HEDGE" : "HEDGE off=0.5,0", e, n]));
        const [base, beside] = d.derived.lines as [Line, Line];
        for (const p of beside.pieces)
          for (const b of base.pieces) {
            const [ue, un] = unit([b.to[0] - b.from[0], b.to[1] - b.from[1]]) as [number, number];
            const off = (x: Piece["from"]) => (x[0] - b.from[0]) * un - (x[1] - b.from[1]) * ue;
            // Of those on the very line that lies beside this piece.
            if (Math.abs(off(p.from) - 0.5) > 1e-9 || Math.abs(off(p.to) - 0.5) > 1e-9) continue;
            expect((p.to[0] - p.from[0]) * ue + (p.to[1] - p.from[1]) * un).toBeGreaterThan(-1e-9);
          }
        beside.pieces
          .slice(1)
          .forEach((p, k) => p.from.forEach((x, a) => expect(x).toBeCloseTo(beside.pieces[k]!.to[a]!, 9)));
        const chain = flattenLines([beside], 1).xyz;
        const crosses = selfCrossings(chain, false).length > 0;
        expect(found(d.derived, "line-crosses-itself").some((f) => f.lines.includes(1))).toBe(crosses);
      }),
      { numRuns: 500 },
    ));
  test("a short piece inside a bend is cut away and its neighbours meet; a ring too narrow has no parallel and says so", () => {
    // Between two right-angled turns of 0.2 m the inner parallel at 0.5 m has no room: its neighbours, side by side,
    // are joined by a bevel.
    const u = job([
      ["HEDGE off=0.5,0", 0, 0],
      ["HEDGE", 0, 10],
      ["HEDGE", 0.2, 10],
      ["HEDGE", 5, 5],
    ]);
    const [, line] = u.derived.lines as [Line, Line];
    expect(line.pieces).toHaveLength(2);
    // x = 0.5 meets the parallel of the slanting piece, half a metre to its right.
    const tip = line.pieces[0]!.to;
    expect(tip[0]).toBeCloseTo(0.5, 12);
    expect(((tip[0] - 0.2) * -5 - (tip[1] - 10) * 4.8) / Math.hypot(5, 4.8)).toBeCloseTo(0.5, 12);
    const ring = job([
      ["HEDGE off=1.5,0", 0, 0],
      ["HEDGE", 0, 2],
      ["HEDGE", 2, 2],
      ["HEDGE loop", 2, 0],
    ]);
    expect(ring.derived.lines).toHaveLength(1);
    expect(found(ring.derived, "cue-ignored")[0]!.message).toContain("HEDGE is too narrow for a parallel at 1.500 m");
  });
});

test("a parallel whose piece is cut to nothing at one corner still meets the next (was not a number)", () => {
  const d = job([
    ["BED after=4", 1, 1],
    ["HEDGE", 0, 0],
    ["HEDGE", 0, 0],
    ["BED via", 0, 3],
    ["BED off=1,0", 1, 0],
    ["BED", 0, 0],
    ["HEDGE", 0, 0],
  ]);
  for (const l of d.derived.lines)
    for (const p of l.pieces) expect([...p.from, ...p.to].every(Number.isFinite)).toBe(true);
});

test("whatever the cues, lines are built without a crash, twice the same, with joined pieces and no lost shot", () => {
  const cue = fc.constantFrom(
    "",
    "new",
    "end",
    "loop",
    "via",
    "swing",
    "flow",
    "still",
    "quad",
    "box=2",
    "from=1",
    "to=3",
    "join=2",
    "after=4",
    "off=1,0",
    "off=-0.5,0.1,SPOT",
    "lone",
    "new flow",
    "via loop",
    "end swing",
  );
  const code = fc.constantFrom("HEDGE", "HEDGE2", "BED", "SPOT");
  return fc.assert(
    fc.property(
      fc.array(fc.record({ code, cue, e: fc.integer({ min: 0, max: 6 }), n: fc.integer({ min: 0, max: 6 }) }), {
        minLength: 1,
        maxLength: 14,
      }),
      (shots) => {
        const make = () => job(shots.map((s): Shot => [`${s.code} ${s.cue}`.trim(), s.e, s.n]));
        const d = make(),
          again = make();
        expect(JSON.stringify(again.derived.lines.map((l) => [l.code, l.run, l.shots, l.pieces, l.length]))).toBe(
          JSON.stringify(d.derived.lines.map((l) => [l.code, l.run, l.shots, l.pieces, l.length])),
        );
        for (const l of d.derived.lines) {
          const join = (a: Piece, b: Piece) => Math.hypot(a.to[0] - b.from[0], a.to[1] - b.from[1]);
          l.pieces.slice(1).forEach((p, k) => expect(join(l.pieces[k]!, p)).toBeLessThan(1e-6));
          if (l.closed && l.pieces.length) expect(join(l.pieces.at(-1)!, l.pieces[0]!)).toBeLessThan(1e-6);
          expect(l.length).toBeGreaterThanOrEqual(0);
          expect(l.pieces.every((p) => [...p.from, ...p.to].every(Number.isFinite))).toBe(true);
        }
        const drawn = new Set(d.derived.lines.flatMap((l) => l.shots));
        shots.forEach((s, i) => {
          if (s.code !== "SPOT" && s.cue !== "lone") expect(drawn.has(i)).toBe(true);
        });
      },
    ),
    { numRuns: 600 },
  );
});

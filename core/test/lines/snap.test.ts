// @long: left out of npm run test:quick.
/**
 * Places that the eye means, why pieces are there, the order of a walk: against closed forms and searches of their own.
 */
import fc from "fast-check";
import { runChain } from "../../src";
import { positionOnArc } from "../../src/lines/arc";
import { positionOnCurve } from "../../src/lines/curve";
import { explainLine } from "../../src/lines/explain";
import { nearestPath, pathLength } from "../../src/lines/order";
import {
  crossings,
  lineCrossings,
  middleOf,
  nearestOn,
  rightOf,
  snapIndex,
  snapsAt,
  type SnapKind,
} from "../../src/lines/snap";
import { constructionOfSnap } from "../../src/construct/model";
import type { Piece } from "../../src/lines/model";
import { derive, type Row } from "../job";

const rows: Row[] = [
  { number: "1", e: 0, n: 0, z: 10, code: "HEDGE" },
  { number: "2", e: 40, n: 0, z: 14, code: "HEDGE end" },
  { number: "3", e: 20, n: -20, z: 1, code: "TOP" },
  { number: "4", e: 20, n: 30, z: 6, code: "TOP end" },
  { number: "5", e: 60, n: 0, z: 2, code: "PATH" },
  { number: "6", e: 70, n: 10, z: 3, code: "PATH via" },
  { number: "7", e: 80, n: 0, z: 4, code: "PATH end" },
];
const { state, derived } = derive(rows);
const index = snapIndex(derived.lines);
const snap = (e: number, n: number, more: { from?: [number, number]; kinds?: SnapKind[]; close?: number } = {}) =>
  snapsAt(state.points, derived.lines, index, e, n, {
    reach: 1,
    close: more.close ?? 0,
    chord: 0.01,
    from: more.from,
    ...(more.kinds ? { kinds: new Set(more.kinds) } : {}),
  })[0];

test("each kind of place is found, the stronger before the weaker, with the level of its line", () => {
  expect(snap(0.3, 0.2)).toMatchObject({ kind: "point", point: 0, z: 10 });
  expect(snap(0.3, 0.2, { kinds: ["end", "nearest"] })).toMatchObject({ kind: "end", e: 0, n: 0, z: 10, lines: [0] });
  expect(snap(20.4, 0.3)).toMatchObject({ kind: "crossing", e: 20, n: 0, z: 12, lines: [0, 1] });
  expect(snap(19.8, 0.3, { kinds: ["middle"] })).toMatchObject({ kind: "middle", e: 20, n: 0, z: 12 });
  expect(snap(19.8, 4.9)).toMatchObject({ kind: "middle", e: 20, n: 5, z: 3.5, lines: [1] });
  expect(snap(70.2, -0.3)).toMatchObject({ kind: "centre", e: expect.closeTo(70, 9), n: expect.closeTo(0, 9) });
  expect(snap(30.4, 0.3, { from: [30, 55] })).toMatchObject({ kind: "perpendicular", e: 30, n: 0, z: 13 });
  expect(snap(33, 0.4)).toMatchObject({ kind: "nearest", e: 33, n: 0, z: expect.closeTo(13.3, 9) });
  expect(snap(30, 40)).toBeUndefined();
});

test("within a few pixels what is nearest goes before what is of a higher rank; a place merely on a line never does", () => {
  const close = 0.5;
  // A shot 0.9 off, and a crossing 0.1 off: the crossing is meant, by whatever shot is near.
  const { state: s, derived: d } = derive([...rows, { number: "8", e: 20.8, n: 0.4, z: 1, code: "SPOT" }]),
    at = (e: number, n: number, by: number) =>
      snapsAt(s.points, d.lines, snapIndex(d.lines), e, n, { reach: 1, close: by, chord: 0.01 }).map((x) => x.kind);
  expect(at(20.05, 0.05, close)[0]).toBe("crossing");
  expect(at(20.05, 0.05, 0)[0]).toBe("point");
  expect(at(20.05, 0.05, close)).toEqual(expect.arrayContaining(["crossing", "middle", "point", "nearest"]));
  // On the line and 0.4 from its end the end is meant; farther off the line itself.
  expect(snap(0.4, 0.01, { close, kinds: ["end", "nearest"] })?.kind).toBe("end");
  expect(snap(0.7, 0.01, { close, kinds: ["end", "nearest"] })?.kind).toBe("nearest");
});

test("what is snapped to is told by its shots, of which a point can be constructed", () => {
  const by = (e: number, n: number, kinds: SnapKind[]) =>
    constructionOfSnap(snap(e, n, { kinds })!, state.points, (row) => state.points.number[row]!);
  expect(by(20.4, 0.3, ["crossing"])).toEqual({ meet: [{ line: ["1", "2"] }, { line: ["3", "4"] }] });
  expect(by(19.8, 4.9, ["middle"])).toEqual({ between: ["3", "4"], ratio: 0.5 });
  expect(by(70.2, -0.3, ["centre"])).toEqual({ centre: ["5", "6", "7"] });
  expect(by(33, 0.4, ["nearest"])).toEqual({ between: ["1", "2"], distance: 33 });
  expect(by(63, 7.6, ["nearest"])).toBeUndefined();
});

test("a perpendicular to an arc goes through its centre; its nearest place stands on the circle", () => {
  const foot = snap(70 + 10 * Math.cos(1), 10 * Math.sin(1), {
    from: [70 + 50 * Math.cos(1), 50 * Math.sin(1)],
    kinds: ["perpendicular"],
  })!;
  expect([foot.e, foot.n]).toEqual([expect.closeTo(70 + 10 * Math.cos(1), 9), expect.closeTo(10 * Math.sin(1), 9)]);
  expect(
    Math.hypot(snap(63, 7.6, { kinds: ["nearest"] })!.e - 70, snap(63, 7.6, { kinds: ["nearest"] })!.n),
  ).toBeCloseTo(10, 9);
});

/** One piece through made-up shots. */
function pieceOf(kind: string, p: readonly [number, number][]): Piece | undefined {
  const cue = (k: number) => (kind === "arc" && k === 1 ? " via" : kind === "curve" ? (k === 0 ? " flow" : "") : "");
  const places = kind === "straight" ? p.slice(0, 2) : p;
  return derive(places.map(([e, n], k) => ({ number: k + 1, e, n, z: k, code: `HEDGE${cue(k)}` }))).derived.lines[0]
    ?.pieces[0];
}
// To the millimetre, as devices give them: pieces of a vanishing length have no direction.
const place = fc
  .tuple(fc.integer({ min: -50_000, max: 50_000 }), fc.integer({ min: -50_000, max: 50_000 }))
  .map(([e, n]): [number, number] => [e / 1000, n / 1000]);
const at = (p: Piece, u: number) =>
  p.type === "arc"
    ? positionOnArc(p, u)
    : p.type === "curve"
      ? positionOnCurve(p, u)
      : ([0, 1, 2].map((k) => p.from[k]! + u * (p.to[k]! - p.from[k]!)) as unknown as readonly [
          number,
          number,
          number,
        ]);

test("the nearest place of a piece is no farther than any of a thousand on it", () => {
  fc.assert(
    fc.property(
      fc.constantFrom("straight", "arc", "curve"),
      fc.array(place, { minLength: 3, maxLength: 3 }),
      place,
      (kind, places, [e, n]) => {
        const p = pieceOf(kind, places);
        if (!p) return;
        const best = nearestOn(p, e, n, 0.01).position,
          d = Math.hypot(best[0] - e, best[1] - n);
        let least = Infinity;
        for (let k = 0; k <= 1000; k++) {
          const q = at(p, k / 1000);
          least = Math.min(least, Math.hypot(q[0] - e, q[1] - n));
        }
        expect(d).toBeLessThan(least + 1e-6);
      },
    ),
    { numRuns: 150 },
  );
});

test("the middle of a piece halves its length, and crossings stand on both pieces", () => {
  const length = (p: Piece, from: number, to: number) => {
    let sum = 0,
      last = at(p, from);
    for (let k = 1; k <= 2000; k++) {
      const q = at(p, from + ((to - from) * k) / 2000);
      sum += Math.hypot(q[0] - last[0], q[1] - last[1]);
      last = q;
    }
    return sum;
  };
  fc.assert(
    fc.property(
      fc.constantFrom("straight", "arc", "curve"),
      fc.constantFrom("straight", "arc", "curve"),
      fc.array(place, { minLength: 6, maxLength: 6 }),
      (a, b, places) => {
        const p = pieceOf(a, places.slice(0, 3)),
          q = pieceOf(b, places.slice(3));
        if (!p || !q) return;
        const [me, mn] = middleOf(p),
          share = nearestOn(p, me, mn, 0.001).share;
        // A curve may come by its middle twice.
        if (p.type !== "curve") expect(length(p, 0, share)).toBeCloseTo(length(p, share, 1), 3);
        for (const [e, n] of crossings(p, q, 0.001))
          for (const x of [p, q]) {
            const [ne, nn] = nearestOn(x, e, n, 0.001).position;
            expect(Math.hypot(ne - e, nn - n)).toBeLessThan(x.type === "curve" ? 0.002 : 1e-5);
          }
      },
    ),
    { numRuns: 150 },
  );
});

test("where a line crosses another, in order, after which shot and at which level", () => {
  const zig: Row[] = [
    [0, 0],
    [10, 10],
    [20, -10],
    [30, 10],
  ].map(([e, n], k) => ({ number: k + 1, e: e!, n: n!, z: 10 * k, code: `HEDGE${k === 3 ? " end" : ""}` }));
  const { derived: d } = derive([
    ...zig,
    { number: "8", e: -5, n: 5, z: 0, code: "TOP" },
    { number: "9", e: 50, n: 5, z: 0, code: "TOP" },
  ]);
  expect(lineCrossings(d.lines[0]!, d.lines[1]!, 0.01)).toEqual(
    [
      [5, 5, 5, 0],
      [12.5, 5, 12.5, 1],
      [27.5, 5, 27.5, 2],
    ].map(([e, n, z, after]) => ({
      e: expect.closeTo(e!, 9),
      n,
      z: expect.closeTo(z!, 9),
      after,
      shots: [
        [after, after! + 1],
        [4, 5],
      ],
    })),
  );
  expect(lineCrossings(d.lines[1]!, d.lines[0]!, 0.01).map((c) => [c.e, c.after])).toEqual(
    [
      [5, 0],
      [12.5, 0],
      [27.5, 0],
    ].map(([e, a]) => [expect.closeTo(e!, 9), a]),
  );
});

test("how far right of a line a place lies, on straights and arcs", () => {
  const [hedge, , arc] = derived.lines;
  expect(rightOf(hedge!, 10, -3, 0.01)).toBeCloseTo(3, 6);
  expect(rightOf(hedge!, 10, 4, 0.01)).toBeCloseTo(-4, 6);
  expect(rightOf(arc!, 70, 8, 0.01)).toBeCloseTo(2, 6);
  expect(rightOf(arc!, 70, 13, 0.01)).toBeCloseTo(-3, 6);
});

test("every piece says why it is there", () => {
  const scene: Row[] = [
    { number: "1", e: 0, n: 0, z: 0, code: "HEDGE2" },
    { number: "2", e: 10, n: 0, z: 1, code: "HEDGE2" },
    { number: "3", e: 20, n: 5, z: 1, code: "HEDGE2 via" },
    { number: "4", e: 25, n: 15, z: 1, code: "HEDGE2" },
    { number: "5", e: 20, n: 30, z: 1, code: "HEDGE2 swing" },
    { number: "6", e: 5, n: 30, z: 1, code: "HEDGE2 flow" },
    { number: "7", e: 0, n: 20, z: 1, code: "HEDGE2" },
    { number: "8", e: -5, n: 10, z: 1, code: "HEDGE2 still" },
    { number: "9", e: -8, n: 2, z: 1, code: "HEDGE2 loop" },
    { number: "11", e: 100, n: 0, z: 0, code: "TOP" },
    { number: "12", e: 110, n: 0, z: 0, code: "TOP to=1" },
    { number: "13", e: 120, n: 0, z: 0, code: "TOE from=2" },
    { number: "14", e: 130, n: 0, z: 0, code: "TOE box=4" },
    { number: "15", e: 115, n: 3, z: 0, code: "TOE2" },
    { number: "16", e: 116, n: 4, z: 0, code: "TOE2" },
    { number: "17", e: 115.5, n: 9, z: 0, code: "TOE2 after=15" },
  ];
  const job = derive(scene, { lines: [{ name: "by hand 1", code: "PATH", points: "11, 13", closed: false }] });
  const why = (k: number) => {
    const l = job.derived.lines[k]!,
      own = (i: number) =>
        job.derived.coded.parsed[job.derived.coded.description[i]!]!.elements.find(
          (e) => e.code === l.code && e.run === l.run,
        )
          ?.cues.map((c) => (c.value === undefined ? c.action : `${c.action}=${c.value}`))
          .join(" ") ?? "";
    return explainLine(l, l.shots.map(own), (i) => job.state.points.number[i]!).map((p) => p.why);
  };
  const codes = job.derived.lines.map((l) => l.code + l.run);
  expect(why(codes.indexOf("HEDGE2"))).toEqual([
    "next shot of HEDGE2",
    "arc through 3 (via)",
    "arc without a corner (swing at 5)",
    "next shot of HEDGE2",
    "smooth curve: flow at 6",
    "smooth curve: flow at 6",
    "next shot of HEDGE2",
    "returns to its first shot (loop at 9)",
  ]);
  expect(why(codes.indexOf("TOP"))).toEqual(["next shot of TOP", "goes on to 1 (to=1)"]);
  expect(why(codes.indexOf("TOE2"))).toEqual(["17 comes after 15 (after=15)", "next shot of TOE2"]);
  expect(why(codes.indexOf("PATH"))).toEqual(["next in its list"]);
  const boxed = derive([
    { number: "1", e: 0, n: 0, z: 0, code: "TOE" },
    { number: "2", e: 10, n: 0, z: 0, code: "TOE box=4" },
  ]).derived.lines[0]!;
  expect(explainLine(boxed, ["", "box=4"], (i) => String(i + 1)).map((p) => p.why)).toEqual([
    "next shot of TOE",
    "corner made by box at 2",
    "corner made by box at 2",
    "corner made by box at 2",
  ]);
});

test("the facts of pieces add up to those of the line", () => {
  const line = derived.lines[2]!,
    [p] = explainLine(line, ["", "via", "end"], String);
  expect(p).toMatchObject({
    type: "arc",
    radius: expect.closeTo(10, 9),
    length: expect.closeTo(line.length, 9),
    slopeLength: expect.closeTo(line.slopeLength, 9),
    rise: 2,
    azimuth: expect.closeTo(Math.PI / 2, 9),
  });
});

test("the nearest order is a permutation, never longer, and takes crossings out of a shuffled row", () => {
  fc.assert(
    fc.property(fc.array(place, { minLength: 1, maxLength: 25 }), (list) => {
      const e = list.map((p) => p[0]),
        n = list.map((p) => p[1]),
        order = nearestPath(e, n);
      expect(order.slice().sort((a, b) => a - b)).toEqual(list.map((_, k) => k));
      expect(pathLength(e, n, order)).toBeLessThanOrEqual(
        pathLength(
          e,
          n,
          list.map((_, k) => k),
        ) + 1e-9,
      );
    }),
  );
  const e = [0, 50, 10, 40, 20, 30],
    n = e.map((x) => x / 10);
  expect(nearestPath(e, n).map((k) => e[k])).toEqual([0, 10, 20, 30, 40, 50]);
});

test("lines that the last run drew are the same objects while their shots stay", () => {
  const again = runChain(state);
  expect(again.lines).toEqual(derived.lines);
});

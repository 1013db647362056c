/** Line work by geometry against closed formulas, and after its sources have moved. */
import fc from "fast-check";
import type { PointEdit } from "../../src/job/change/change";
import { applyChange, inverse } from "../../src/job/change/change";
import {
  extendTo,
  filletCorner,
  lineBeside,
  mirrorLine,
  pieceMet,
  pointsAlong,
  type GeometryEdit,
} from "../../src/job/edit/geometry";
import type { JobState } from "../../src/job/model/model";
import type { ArcPiece, Line } from "../../src/lines/model";
import { alongLine } from "../../src/volumes/station-table";
import { found, runOf, shown, stateOf, type Row } from "../job";

const ways = (...codes: [code: string, ...at: [number, number, number?][]][]): Row[] => {
  let number = 0;
  return codes.flatMap(([code, ...at]) => at.map(([e, n, z = 5]) => ({ number: ++number, e, n, z, code })));
};
let ids = 900;
const done = (s: JobState, edit: (ids?: readonly number[]) => GeometryEdit): JobState => {
  const tried = edit();
  if ("refused" in tried) throw new Error(tried.refused);
  const made = edit(Array.from({ length: tried.count }, () => ids++));
  if ("refused" in made) throw new Error(made.refused);
  const after = applyChange(s, made.change);
  // One deed, which is taken back as one.
  const back = applyChange(after, inverse(made.change) as never);
  expect([back.points.number, back.lines, back.computed]).toEqual([s.points.number, s.lines, s.computed]);
  return after;
};
const why = (edit: GeometryEdit) => ("refused" in edit ? edit.refused : "done");
const moved = (s: JobState, number: string, e: number, n: number): JobState => {
  const i = s.points.number.indexOf(number),
    id = s.points.id[i]!;
  const edits: PointEdit[] = [
    { id, field: "easting", old: s.points.e[i]!, new: e },
    { id, field: "northing", old: s.points.n[i]!, new: n },
  ];
  return applyChange(s, { type: "points", edits });
};
const lines = (s: JobState, code: string): Line[] => runOf(s).lines.filter((l) => l.code === code);
const ends = (l: Line) => [l.pieces[0]!.from, l.pieces.at(-1)!.to].map(([e, n]) => [e, n]);
const near = (x: number, digits = 7) => expect.closeTo(x, digits);

describe("a fillet", () => {
  /** An arc that touches both sides: its ends square to them. */
  const touches = ({ pieces }: Line, radius: number) => {
    const k = pieces.findIndex((p) => p.type === "arc"),
      arc = pieces[k] as ArcPiece,
      [before, after] = [pieces[k - 1]!, pieces[k + 1]!];
    expect(arc.radius).toBeCloseTo(radius, 6);
    for (const [p, at] of [
      [before, arc.from],
      [after, arc.to],
    ] as const) {
      const along = [p.to[0] - p.from[0], p.to[1] - p.from[1]],
        out = [at[0] - arc.center[0], at[1] - arc.center[1]];
      expect((along[0]! * out[0]! + along[1]! * out[1]!) / Math.hypot(...along) / radius).toBeCloseTo(0, 6);
    }
    return arc;
  };

  test("of a right angle: a quarter, shortened by what the arc cuts off, in a line by hand that follows", () => {
    const s = stateOf(ways(["KERB1", [0, 0], [0, 20], [30, 20]], ["SPOT", [5, 5]])),
      drawn = stateOf(ways(["HEDGE1", [0, 0, 4], [0, 20, 6], [30, 20, 9]])),
      after = done(drawn, (ids) => filletCorner(drawn, shown(drawn), 1, 5, ids)),
      [line] = lines(after, "HEDGE");
    expect(line!.pieces.map((p) => p.type)).toEqual(["straight", "arc", "straight"]);
    expect(line!.length).toBeCloseTo(15 + 2.5 * Math.PI + 25, 9);
    expect(touches(line!, 5).center).toEqual([near(5), near(15)]);
    // Levels run along both sides.
    expect([line!.pieces[0]!.to[2], line!.pieces[2]!.from[2]]).toEqual([near(5.5), near(6.5)]);
    const later = moved(after, "3", 30, 40),
      [again] = lines(later, "HEDGE");
    touches(again!, 5);
    expect(found(runOf(later), "computed-lost")).toEqual([]);
    expect(s.lines).toEqual([]);
  });

  test("of any corner of a line, open or closed, touches both sides, and does so when its corner moves", () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 15, max: 165 }),
        fc.boolean(),
        fc.integer({ min: 0, max: 359 }),
        fc.constantFrom<[number, number]>([0, 0], [512_000, 5_640_000]),
        fc.boolean(),
        (turn, right, way, [oe, on], closed) => {
          const at = (a: number, d: number): [number, number] => [
              oe + d * Math.sin((a * Math.PI) / 180),
              on + d * Math.cos((a * Math.PI) / 180),
            ],
            next = way + (right ? turn : -turn),
            s = stateOf(ways([closed ? "BED1" : "HEDGE1", at(way + 180, 50), [oe, on], at(next, 50)])),
            most = 50 / Math.tan((turn * Math.PI) / 360),
            radius = Math.min(12, most / 2);
          const after = done(s, (ids) => filletCorner(s, shown(s), 1, radius, ids));
          touches(lines(after, closed ? "BED" : "HEDGE")[0]!, radius);
          touches(lines(moved(after, "2", oe + 1, on - 2), closed ? "BED" : "HEDGE")[0]!, radius);
        },
      ),
      { numRuns: 60 },
    ));

  test("keeps the line's cues, name and end, and is refused with a sentence", () => {
    const s = stateOf(
      ways(["HEDGE1", [0, 0], [0, 20], [30, 20], [30, 40]], ["TOP2 via", [0, 60]], ["TOP2", [1, 61], [2, 60]]),
    );
    const r = (k: number, radius: number, l = 0) => why(filletCorner(s, shown(s, l), k, radius));
    expect(r(0, 5)).toBe("A corner is rounded between two pieces: choose a shot that is no end of its line.");
    expect(r(1, 0)).toBe("A fillet has a radius above 0.");
    expect(r(1, 20.001)).toBe("A radius of 20.001 m reaches beyond the pieces there: at most 20.000 m.");
    expect(r(1, 20)).toBe("done");
    const straight = stateOf(ways(["HEDGE1", [0, 0], [0, 20], [0, 30]]));
    expect(why(filletCorner(straight, shown(straight), 1, 5))).toBe(
      "Both pieces lie in one direction there: nothing is to be rounded.",
    );
    const arc = stateOf(ways(["TOP2", [0, 60]], ["TOP2 via", [5, 62]], ["TOP2", [10, 60], [20, 60]]));
    expect(why(filletCorner(arc, shown(arc), 1, 1))).toBe(
      "An arc or a smooth curve passes there; only a corner of two straight pieces is rounded.",
    );
    // A parallel that the corner asked for runs on.
    const beside = stateOf(ways(["HEDGE1", [0, 0]], ["HEDGE1 off=-1,0", [0, 20]], ["HEDGE1", [30, 20]])),
      [, parallel] = lines(
        done(beside, (ids) => filletCorner(beside, shown(beside), 1, 5, ids)),
        "HEDGE",
      );
    expect(parallel!.companion!.right).toBe(-1);
    expect(parallel!.pieces.map((p) => p.type)).toEqual(["straight", "arc", "straight"]);
    // Two corners of one line, one after the other.
    const once = done(s, (ids) => filletCorner(s, shown(s), 1, 5, ids)),
      hand = runOf(once).lines.findIndex((l) => l.hand !== undefined),
      // 1, both ends and the middle of the arc, 3, 4.
      twice = done(once, (ids) => filletCorner(once, shown(once, hand), 4, 4, ids));
    const [line] = lines(twice, "HEDGE");
    expect(line!.pieces.map((p) => p.type)).toEqual(["straight", "arc", "straight", "arc", "straight"]);
    expect(ends(line!)).toEqual([
      [0, 0],
      [30, 40],
    ]);
  });
});

test("of another line the piece that is come to first is met", () => {
  const s = stateOf(ways(["HEDGE1", [0, 0], [10, 0]], ["TOP1", [30, -10], [30, 10], [20, 30], [20, 50]]));
  const rows = (...numbers: string[]) => numbers.map((n) => s.points.number.indexOf(n));
  expect(pieceMet(s, shown(s), shown(s, 1))).toEqual(rows("3", "4"));
  // It goes on northward below no piece: the prolongation of the last comes first.
  const up = stateOf(ways(["HEDGE1", [0, 0], [10, 0]], ["TOP1", [30, 10], [30, 20], [20, 30], [20, 50]]));
  expect(pieceMet(up, shown(up), shown(up, 1))).toEqual([4, 5]);
});

describe("extending", () => {
  const s = stateOf(ways(["HEDGE1", [0, 0, 4], [10, 0, 5]], ["TOP1", [20, -10], [20, 30]], ["PATH", [0, 9], [10, 9]]));
  const [c, d] = [2, 3] as const;
  test("goes straight on to the other line, with its slope, by the end that comes there, and follows", () => {
    const after = done(s, (ids) => extendTo(s, shown(s), [c, d], ids)),
      [line] = lines(after, "HEDGE");
    expect(ends(line!)).toEqual([
      [0, 0],
      [near(20), near(0)],
    ]);
    expect(line!.pieces.at(-1)!.to[2]).toBeCloseTo(6, 9);
    const [later] = lines(moved(after, "4", 40, 30), "HEDGE");
    expect(ends(later!)[1]).toEqual([near(25), near(0)]);
    const turned = done(s, (ids) => extendTo(s, shown(s), [c, d], ids));
    expect(turned.lines).toHaveLength(1);
  });
  test("from its first shot where that end comes there", () => {
    const back = stateOf(ways(["HEDGE1", [10, 0], [0, 0]], ["TOP1", [20, -10], [20, 30]]));
    const [line] = lines(
      done(back, (ids) => extendTo(back, shown(back), [2, 3], ids)),
      "HEDGE",
    );
    expect(ends(line!)).toEqual([
      [near(20), near(0)],
      [0, 0],
    ]);
  });
  test("is refused of parallel lines, of closed ones, of one that comes nowhere", () => {
    expect(why(extendTo(s, shown(s), [4, 5]))).toBe(
      "Neither end of HEDGE 1 comes to that line when it goes straight on.",
    );
    const inside = stateOf(ways(["HEDGE1", [0, 0], [10, 0]], ["TOP1", [5, -10], [5, 30]]));
    expect(why(extendTo(inside, shown(inside), [2, 3]))).toMatch(/^Neither end/);
    const bed = stateOf(ways(["BED1", [0, 0], [10, 0], [10, 9]]));
    expect(why(extendTo(bed, shown(bed), [0, 1]))).toBe("A closed line has no end to extend; open it first.");
  });
});

test("a perpendicular ends at right angles, a parallel through a point is as long and as far everywhere; both follow", () =>
  fc.assert(
    fc.property(
      fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: 1, max: 50 })),
      fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 })),
      fc.integer({ min: -20, max: 20 }),
      ([ue, un], [pe, pn], shift) => {
        fc.pre(Math.abs(ue * pn - un * pe) > 5 && Math.abs(ue * (pn + shift) - un * pe) > 5);
        const s = stateOf(ways(["HEDGE1", [0, 0], [ue, un]], ["SPOT", [pe, pn]]));
        for (const what of ["square", "parallel"] as const) {
          const after = done(s, (ids) => lineBeside(s, shown(s), what, 2, "TOP", ids));
          for (const [state, [e, n]] of [
            [after, [pe, pn]],
            [moved(after, "3", pe, pn + shift), [pe, pn + shift]],
          ] as const) {
            const [line] = lines(state, "TOP"),
              [[ae, an], [be, bn]] = ends(line!) as [[number, number], [number, number]],
              [ve, vn] = [be - ae, bn - an],
              size = Math.hypot(ue, un);
            if (what === "square") {
              expect([ae, an]).toEqual([e, n]);
              expect((ve * ue + vn * un) / size).toBeCloseTo(0, 7);
              // Its foot is on the line.
              expect((be * un - bn * ue) / size).toBeCloseTo(0, 7);
            } else {
              expect([ve, vn]).toEqual([near(ue), near(un)]);
              // The point is on it.
              expect(((e - ae) * un - (n - an) * ue) / size).toBeCloseTo(0, 7);
            }
          }
        }
      },
    ),
    { numRuns: 40 },
  ));

test("the nearest straight piece of a line is meant; a line of arcs alone and a point on the line are refused", () => {
  const s = stateOf(
    ways(
      ["TOP2", [0, 0]],
      ["TOP2 via", [5, 2]],
      ["TOP2", [10, 0]],
      ["HEDGE", [0, 9], [9, 9], [9, 30]],
      ["SPOT", [4, 9], [12, 25]],
    ),
  );
  for (const how of ["square", "parallel"] as const) {
    expect(why(lineBeside(s, shown(s), how, 6, "PATH"))).toBe(
      "An arc or a smooth curve has no direction that holds: a straight piece is asked.",
    );
    expect(why(lineBeside(s, shown(s, 1), how, 6, "PATH"))).toBe("Point 7 lies on the line itself.");
  }
  const [line] = lines(
    done(s, (ids) => lineBeside(s, shown(s, 1), "square", 7, "PATH", ids)),
    "PATH",
  );
  expect(ends(line!)).toEqual([
    [12, 25],
    [near(9), near(25)],
  ]);
});

describe("mirroring", () => {
  const s = stateOf(
    ways(
      ["HEDGE1", [1, 0, 3]],
      ["HEDGE1 via", [5, 4, 4]],
      ["HEDGE1", [9, 0, 5]],
      ["HEDGE1 off=2,0.5", [12, 0, 6]],
      ["SPOT", [0, 0], [0, 10]],
    ),
  );
  test("turns arcs, parallels and levels over, and follows line and axis", () => {
    const after = done(s, (ids) => mirrorLine(s, shown(s), [4, 5], ids)),
      all = lines(after, "HEDGE"),
      [line, , twin, beside] = [all[0]!, all[1]!, all[2]!, all[3]!];
    for (const [k, p] of line.pieces.entries()) {
      const q = twin.pieces[k]!;
      expect(q.type).toBe(p.type);
      expect([...q.from, ...q.to]).toEqual(
        [-p.from[0], p.from[1], p.from[2], -p.to[0], p.to[1], p.to[2]].map((x) => near(x)),
      );
      if (p.type === "arc") expect((q as ArcPiece).sweep).toBeCloseTo(-p.sweep, 9);
    }
    expect(beside.companion).toMatchObject({ right: -2, up: 0.5 });
    const later = moved(after, "1", 2, 1),
      [, , again] = lines(later, "HEDGE");
    expect(again!.pieces[0]!.from).toEqual([near(-2), near(1), near(3)]);
    const [, , axis] = lines(moved(after, "6", 10, 10), "HEDGE");
    // At a diagonal east and north are exchanged.
    expect(axis!.pieces[0]!.from.slice(0, 2)).toEqual([near(0), near(1)]);
  });
  test("what lies on the axis stays, what lies wholly on it has no other side", () => {
    const on = stateOf(ways(["HEDGE", [0, 0], [0, 5], [4, 5]], ["TOP", [0, 0], [0, 9]]));
    const after = done(on, (ids) => mirrorLine(on, shown(on), [3, 4], ids));
    expect(after.points.count - on.points.count).toBe(1);
    expect(why(mirrorLine(on, shown(on, 1), [3, 4]))).toBe("All of it lies on the axis.");
    expect(why(mirrorLine(on, shown(on), [0, 3]))).toBe("The two points of the axis stand at one position.");
  });
});

describe("points along a line", () => {
  const two = stateOf(
    ways(
      ["HEDGE", [0, 0, 0], [10, 0, 5]],
      ["SPOT", [5, 50]],
      ["HEDGE new", [0, 20, 0]],
      ["HEDGE", [10, 20, 10], [10, 30, 10]],
    ),
  );
  test("in equal parts, or every so often, on the very line of two that are called the same; they follow", () => {
    const [, line] = lines(two, "HEDGE");
    expect(alongLine(line!.pieces, { parts: 4 })).toEqual([
      { station: 5, e: 5, n: 20 },
      { station: 10, e: 10, n: 20 },
      { station: 15, e: 10, n: 25 },
    ]);
    expect(alongLine(line!.pieces, { length: 8 }).map((x) => x.station)).toEqual([8, 16]);
    // The end itself is no point between.
    expect(alongLine(line!.pieces, { length: 10 }).map((x) => x.station)).toEqual([10]);
    expect([
      alongLine(line!.pieces, { parts: 1 }),
      alongLine(line!.pieces, { length: 30 }),
      alongLine(line!.pieces, { length: 1e-5 }),
    ]).toEqual([[], [], []]);
    const k = runOf(two).lines.findIndex((l) => l.shots.length === 3),
      after = done(two, (ids) => pointsAlong(two, shown(two, k), alongLine(line!.pieces, { parts: 4 }), "PEG", ids)),
      { points } = runOf(after);
    expect(Array.from(points.z.slice(-3))).toEqual([near(5), near(10), near(10)]);
    const later = runOf(moved(after, "5", 20, 20)).points;
    expect([later.e.at(-2), later.n.at(-2)]).toEqual([near(10), near(20)]);
    expect(why(pointsAlong(two, shown(two, k), [], ""))).toBe("The line is shorter than that: no point comes of it.");
  });
});

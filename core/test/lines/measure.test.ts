import fc from "fast-check";
import { circleThrough, sweepBetween } from "../../src/lines/circle";
import { flattenLines } from "../../src/lines/flatten";
import { enclosedArea, planLength, slopeLength } from "../../src/lines/measure";
import type { Piece } from "../../src/lines/model";
import { derive, type Row } from "../job";

const straight = (from: readonly [number, number, number], to: readonly [number, number, number]): Piece => ({
  type: "straight",
  from,
  to,
  shots: [],
});
const corner = fc.tuple(
  fc.integer({ min: -500, max: 500 }),
  fc.integer({ min: -500, max: 500 }),
  fc.integer({ min: 0, max: 50 }),
);

/** A triangle of shots, one of its sides an arc through a shot beside it. */
const bowed = fc
  .tuple(corner, corner, corner, fc.double({ min: 0.05, max: 0.9, noNaN: true }), fc.boolean())
  .filter(([a, b, c]) => Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) > 100);

describe("lengths and areas", () => {
  test("a ring of straight pieces has the area of its polygon, whichever way it runs", () => {
    fc.assert(
      fc.property(fc.array(corner, { minLength: 3, maxLength: 9 }), (ring) => {
        const pieces = ring.map((p, i) => straight(p, ring[(i + 1) % ring.length]!));
        const back = [...ring].reverse().map((p, i, all) => straight(p, all[(i + 1) % all.length]!));
        const shoelace =
          Math.abs(
            ring.reduce((s, [e, n], i) => {
              const [f, m] = ring[(i + 1) % ring.length]!;
              return s + e * m - f * n;
            }, 0),
          ) / 2;
        expect(enclosedArea(pieces)).toBeCloseTo(shoelace, 6);
        expect(enclosedArea(back)).toBeCloseTo(shoelace, 6);
      }),
    );
  });

  test("with an arc: exact area and length agree with very fine chords", () => {
    fc.assert(
      fc.property(bowed, ([a, b, c, bow, left]) => {
        // A via shot beside the middle of a → b.
        const s = left ? bow : -bow,
          me = (a[0] + b[0]) / 2,
          mn = (a[1] + b[1]) / 2;
        const via: Row = {
          number: 2,
          e: me - (b[1] - a[1]) * s * 0.4,
          n: mn + (b[0] - a[0]) * s * 0.4,
          z: 5,
          code: "BED via",
        };
        const row = (number: number, p: readonly number[], code: string): Row => ({
          number,
          e: p[0]!,
          n: p[1]!,
          z: p[2]!,
          code,
        });
        const { derived } = derive([row(1, a, "BED"), via, row(3, b, "BED"), row(4, c, "BED loop")]);
        const line = derived.lines[0]!;
        const { xyz, shot } = flattenLines([line], 1e-6);
        let length = 0,
          twice = 0;
        for (let i = 1; i < shot.length; i++) {
          const [ax, ay, bx, by] = [
            xyz[3 * i - 3]! - a[0],
            xyz[3 * i - 2]! - a[1],
            xyz[3 * i]! - a[0],
            xyz[3 * i + 1]! - a[1],
          ];
          length += Math.hypot(bx - ax, by - ay);
          twice += ax * by - bx * ay;
        }
        expect(Math.abs(length / line.length - 1)).toBeLessThan(1e-6);
        expect(Math.abs(Math.abs(twice) / 2 - line.area!)).toBeLessThan(1e-3 * line.length);
        // The shots are vertices at their exact places.
        for (let i = 0; i < shot.length; i++)
          if (shot[i] === 1) expect([xyz[3 * i], xyz[3 * i + 1]]).toEqual([via.e, via.n]);
      }),
      { numRuns: 100 },
    );
  });

  test("slope length of a straight piece is the distance in space; a level not known makes it not known", () => {
    expect(slopeLength(straight([0, 0, 0], [3, 4, 12]))).toBe(13);
    expect(planLength(straight([0, 0, 0], [3, 4, 12]))).toBe(5);
    expect(slopeLength(straight([0, 0, NaN], [3, 4, 12]))).toBeNaN();
  });

  test("a circle through three places passes them, wherever they are", () => {
    fc.assert(
      fc.property(corner, corner, corner, (a, b, c) => {
        const circle = circleThrough(a[0], a[1], b[0], b[1], c[0], c[1]);
        const area = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
        if (area === 0) return expect(circle).toBeUndefined();
        for (const p of [a, b, c])
          expect(Math.abs(Math.hypot(p[0] - circle!.e, p[1] - circle!.n) / circle!.radius - 1)).toBeLessThan(1e-9);
      }),
    );
  });

  test("right and left sweeps between two places make a full turn together", () => {
    fc.assert(
      fc.property(fc.double({ min: -3, max: 3, noNaN: true }), fc.double({ min: -3, max: 3, noNaN: true }), (s, t) => {
        const at = (u: number): [number, number] => [Math.cos(u), Math.sin(u)];
        const right = sweepBetween({ e: 0, n: 0 }, ...at(s), ...at(t), true),
          left = sweepBetween({ e: 0, n: 0 }, ...at(s), ...at(t), false);
        expect(right).toBeGreaterThan(0);
        expect(left).toBeLessThan(0);
        if (Math.abs(s - t) > 1e-9) expect(right - left).toBeCloseTo(2 * Math.PI, 9);
      }),
    );
  });
});

describe("a closed line whose arc wraps round its closing", () => {
  test("the last shots via: the arc goes on to the first", () => {
    const rows: Row[] = [
      { number: 1, e: 0, n: 0, z: 1, code: "BED" },
      { number: 2, e: 10, n: 0, z: 1, code: "BED" },
      { number: 3, e: 10, n: 10, z: 1, code: "BED" },
      { number: 4, e: 0 - 2, n: 5, z: 1, code: "BED via loop" },
    ];
    const { derived } = derive(rows);
    const line = derived.lines[0]!;
    expect(line.pieces.map((p) => p.type)).toEqual(["straight", "straight", "arc"]);
    expect(line.pieces.at(-1)!.to.slice(0, 2)).toEqual([0, 0]);
  });

  test("the first shot via: the pieces begin at the first anchor and close the ring", () => {
    const rows: Row[] = [
      { number: 1, e: -2, n: 5, z: 1, code: "BED via" },
      { number: 2, e: 0, n: 10, z: 1, code: "BED" },
      { number: 3, e: 10, n: 10, z: 1, code: "BED" },
      { number: 4, e: 0, n: 0, z: 1, code: "BED loop" },
    ];
    const line = derive(rows).derived.lines[0]!;
    expect(line.pieces.map((p) => p.type)).toEqual(["straight", "straight", "arc"]);
    expect(line.pieces[0]!.from).toEqual(line.pieces.at(-1)!.to);
  });
});

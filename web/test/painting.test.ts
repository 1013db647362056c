/** Strokes and triangles that the processor paints, against what they cover by closed formulas and by brute force. */
import fc from "fast-check";
import { paintFaces, type Faces } from "../sheet/painting/faces";
import { packed, windowOf, type Picture, type Window } from "../sheet/painting/picture";
import type { Surface } from "@bramble/core/surface/model";
import type { DifferenceMap } from "@bramble/core/volumes/map";
import { groundOf, mapOf } from "../sheet/parts";
import type { SheetColors } from "../lib/theme";
import { Coverage, mixed, paintStrokes, type Strokes } from "../sheet/painting/strokes";

const W = 40,
  H = 30,
  PAPER = packed([1, 1, 1]),
  INK = packed([0, 0, 0]);
const blank = (): Picture => ({ pixels: new Uint32Array(W * H).fill(PAPER), width: W, height: H });
/** Offsets are pixels, y down from the upper left. */
const plain: Window = { west: 0, north: 0, scale: 1, ratio: 1 };
const at = (x: number, y: number) => [x, -y] as const;

const stroke = (width: number, ...ways: [number, number, number, number][]): Strokes => ({
  ends: Float32Array.from(ways.flatMap(([ax, ay, bx, by]) => [...at(ax, ay), 0, ...at(bx, by), 0])),
  width,
  color: [0, 0, 0],
  order: 0,
});

function paint(s: Strokes, p = blank(), w = plain): Picture {
  paintStrokes(p, w, s, 0, s.ends.length / 6, new Coverage(W * H));
  return p;
}

/** How much of a pixel is covered by black on white, 0 to 1. */
const covered = ({ pixels }: Picture, x: number, y: number) => 1 - (pixels[y * W + x]! & 255) / 255;
const ink = (p: Picture) =>
  Array.from(p.pixels, (_, k) => covered(p, k % W, Math.floor(k / W))).reduce((a, b) => a + b);

test("a window onto the plan puts its middle in the middle of the picture, north up, at its scale and ratio", () => {
  const p = { ...blank(), width: 80, height: 60 },
    w = windowOf({ e: 5010, n: 7020, scale: 2, width: 40, height: 30 }, [5000, 7000], 2, p);
  expect([(10 - w.west) * w.scale, (w.north - 20) * w.scale]).toEqual([40, 30]);
  expect([(11 - w.west) * w.scale, (w.north - 21) * w.scale]).toEqual([44, 26]);
});

test("a stroke along a row of pixels covers it, and half of both rows where it lies between two", () => {
  const on = paint(stroke(1, [5, 10.5, 15, 10.5]));
  expect([9, 10, 11].map((y) => covered(on, 10, y))).toEqual([0, 1, 0]);
  const between = paint(stroke(1, [5, 10, 15, 10]));
  for (const y of [9, 10]) expect(covered(between, 10, y)).toBeCloseTo(0.5, 2);
  const wide = paint(stroke(3, [5, 10.5, 15, 10.5]));
  expect([8, 9, 10, 11, 12].map((y) => covered(wide, 10, y))).toEqual([0, 1, 1, 1, 0]);
});

test("on a screen of two pixels for one of the page a stroke is twice as many pixels wide", () => {
  const p = paint(stroke(2, [5, 10, 15, 10]), blank(), { ...plain, ratio: 2 });
  expect([7, 8, 9, 10, 11, 12].map((y) => Math.round(covered(p, 10, y)))).toEqual([0, 1, 1, 1, 1, 0]);
});

test("what any stroke covers is by its distance; many pieces of one way cover what the way covers, whatever their order", () => {
  const end = fc.tuple(fc.integer({ min: -800, max: 4800 }), fc.integer({ min: -800, max: 3800 }));
  fc.assert(
    fc.property(
      end,
      end,
      fc.constantFrom(1, 1.6, 2, 5),
      fc.integer({ min: 1, max: 40 }),
      ([a, b], [c, d], width, cuts) => {
        const [ax, ay, bx, by] = [a / 100, b / 100, c / 100, d / 100],
          whole = paint(stroke(width, [ax, ay, bx, by])),
          on = (t: number): [number, number] => [ax + t * (bx - ax), ay + t * (by - ay)];
        const pieces = Array.from({ length: cuts }, (_, k): [number, number, number, number] => [
          ...on(k / cuts),
          ...on((k + 1) / cuts),
        ]);
        let off = 0;
        const parts = paint(stroke(width, ...pieces.reverse()));
        for (let y = 0; y < H; y++)
          for (let x = 0; x < W; x++) {
            const [px, py] = [x + 0.5 - ax, y + 0.5 - ay],
              square = (bx - ax) ** 2 + (by - ay) ** 2,
              t = square ? Math.min(1, Math.max(0, (px * (bx - ax) + py * (by - ay)) / square)) : 0,
              far = Math.hypot(px - t * (bx - ax), py - t * (by - ay)),
              share = Math.min(1, Math.max(0, width / 2 + 0.5 - far));
            off = Math.max(off, ...[whole, parts].map((p) => Math.abs(covered(p, x, y) - share)));
          }
        expect(off).toBeLessThan(0.01);
      },
    ),
    { numRuns: 100 },
  );
});

test("strokes that crowd are faint, to a least; those that stand apart, or are not said to crowd, are not", () => {
  const at = (apart: number | undefined, ratio = 1) =>
    covered(paint({ ...stroke(1, [5, 10.5, 15, 10.5]), apart }, blank(), { ...plain, scale: 1, ratio }), 10, 10);
  expect([undefined, 100, 8, 4, 0.01].map((apart) => Math.round(100 * at(apart)))).toEqual([100, 100, 100, 50, 30]);
  // Of a page's pixel, whatever the screen has for one.
  expect(at(8, 2)).toBeCloseTo(0.5, 1);
});

test("a stroke reaching far beyond the picture, one that is a point, and one that is no number are no trouble", () => {
  const p = paint(stroke(1, [-1e7, 10.5, 1e7, 10.5], [NaN, 3, 4, 5], [1e30, 0, 1e30, 4]));
  expect(ink(p)).toBeCloseTo(W, 1);
  expect(ink(paint(stroke(1, [20.5, 20.5, 20.5, 20.5])))).toBeCloseTo(1, 1);
});

test("a colour laid over another covers by its share alone, and leaves the picture opaque", () => {
  expect(mixed(INK, PAPER, 0)).toBe(INK);
  expect(mixed(INK, PAPER, 255)).toBe(PAPER);
  expect([...new Uint8Array(Uint32Array.of(mixed(packed([1, 0, 0]), packed([0, 0, 1]), 51)).buffer)]).toEqual([
    204, 0, 51, 255,
  ]);
});

const triangle = (corners: [number, number][], values: number[], shade: Faces["shade"]): Faces => ({
  corners: Float32Array.from(corners.flatMap(([x, y]) => at(x, y))),
  triangles: Int32Array.from(corners.keys()),
  values: Float32Array.from(values),
  perTriangle: false,
  shade,
  order: 0,
});

test("triangles of a fan paint each pixel of their hull once, whichever way they turn; what lies outside is left", () => {
  // Half of them in the middle of a pixel, where a side's end is on a row.
  const coordinate = fc.oneof(
    fc.integer({ min: -400, max: 4400 }).map((x) => x / 100),
    fc.integer({ min: 0, max: H - 1 }).map((x) => x + 0.5),
  );
  fc.assert(
    fc.property(coordinate, coordinate, fc.boolean(), (x, y, turned) => {
      // Round a point within the frame; those with a corner outside it overlap nothing.
      const frame: [number, number][] = [
          [-5, -5],
          [45, -5],
          [45, 45],
          [-5, 45],
        ],
        p = blank(),
        times = new Uint8Array(W * H);
      frame.forEach((corner, k) => {
        const next = frame[(k + 1) % 4]!,
          corners: [number, number][] = turned ? [next, corner, [x, y]] : [corner, next, [x, y]];
        const count = (_: number, px: number, py: number) => {
          times[(H - 1 - py) * W + px]!++;
          return INK;
        };
        paintFaces(p, plain, triangle(corners, [0, 0, 0], count), 0, 1);
      });
      expect(new Set(times)).toEqual(new Set([1]));
      expect(new Set(p.pixels)).toEqual(new Set([INK]));
    }),
    { numRuns: 100 },
  );
});

test("a value runs straight between corners: at each pixel's middle it is that of the plane", () => {
  const plane = (x: number, y: number) => 3 + 2 * x - 0.5 * y,
    corners: [number, number][] = [
      [2, 3],
      [37, 8],
      [11, 28],
    ];
  const seen: number[] = [];
  const values = corners.map(([x, y]) => plane(x, y));
  paintFaces(
    blank(),
    plain,
    triangle(corners, values, (d, x, y) => {
      seen.push(Math.abs(d - plane(x + 0.5, H - 1 - y + 0.5)));
      return INK;
    }),
    0,
    1,
  );
  // About as many pixels as half the cross product of two sides.
  expect(Math.abs(seen.length - (35 * 25 - 5 * 9) / 2)).toBeLessThan(15);
  expect(Math.max(...seen)).toBeLessThan(1e-4);
});

test("a value of a whole triangle is that all over; a triangle without area, or outside, paints nothing", () => {
  const of = (...xy: number[]): Faces => ({
    ...triangle(
      [0, 2, 4].map((k): [number, number] => [xy[k]!, xy[k + 1]!]),
      [],
      (d) => d,
    ),
    values: Float32Array.of(7),
    perTriangle: true,
  });
  const p = blank();
  paintFaces(p, plain, of(1, 1, 30, 1, 1, 25), 0, 1);
  expect([...new Set(p.pixels)].sort()).toEqual([PAPER, 7].sort());
  const none = blank(),
    [flat, away, unknown] = [of(1, 1, 10, 10, 20, 20), of(100, 100, 140, 100, 100, 140), of(NaN, 1, 10, 10, 2, 20)];
  for (const f of [flat, away, unknown]) paintFaces(none, plain, f, 0, 1);
  expect(new Set(none.pixels)).toEqual(new Set([PAPER]));
});

const COLORS = {
  sheet: "#ffffff",
  cut: "#ff0000",
  fill: "#0000ff",
  soft: "#888888",
  ink: "#000000",
  dark: false,
} as SheetColors;
const bytesOf = (color: number) => [...new Uint8Array(Uint32Array.of(color).buffer)].slice(0, 3);

test("a map is red where it is cut and blue and hatched where it is fill, the deeper the stronger; nothing within the deadband", () => {
  const map: DifferenceMap = {
    origin: [10, 20],
    corners: Float32Array.of(0, 0, -4, 8, 0, -4, 0, 8, 4),
    triangles: Uint32Array.of(0, 1, 2),
    edges: [-2, 0, 2],
    step: 2,
    areas: [],
    lines: [new Float32Array(0), Float32Array.of(0, 4, 4, 4), new Float32Array(0)],
    least: -4,
    most: 4,
    coarse: false,
  };
  const [faces, , bold] = mapOf(map, 0.5, undefined, COLORS, [4, 5]) as [Faces, Strokes, Strokes];
  expect([...faces.corners]).toEqual([6, 15, 14, 15, 6, 23]);
  // The line between cut and fill is the bold one.
  expect([...bold.ends]).toEqual([6, 19, 0, 10, 19, 0]);
  const at = (d: number, x = 3, y = 0) => bytesOf(faces.shade(d, x, y));
  const [r, g, b] = at(-1);
  expect([r, g! < 255, g === b]).toEqual([255, true, true]);
  expect(at(-3)[1]).toBeLessThan(g!);
  expect(at(1)[2]).toBe(255);
  expect(at(1)[0]).toBe(g);
  // One class is of one colour up to its farther bound.
  expect(at(-0.6)).toEqual(at(-2));
  const rows = Array.from({ length: 14 }, (_, x) => at(1, x, 0).join());
  expect(rows.filter((c) => c !== rows[3])).toHaveLength(4);
  expect(at(0.5)).toEqual(at(-0.5));
  expect(new Set(at(0.2)).size).toBe(1);
  expect(at(NaN)).toEqual(at(0));
  // Under a level of storage what lies above it is dry.
  const [wet] = mapOf(map, 0, 3, COLORS, [4, 5]) as [Faces];
  expect([...wet.values]).toEqual([-1, -1, 7]);
  expect(bytesOf(wet.shade(-1, 3, 0))).toEqual(at(0));
  expect(bytesOf(wet.shade(7, 3, 0))[2]).toBe(255);
});

test("the ground is in the colour of its class: by level at each position, by slope of each triangle", () => {
  // A plane that rises by a fifth to the east.
  const s = {
    origin: [100, 200],
    x: Float64Array.of(0, 10, 0),
    y: Float64Array.of(0, 0, 10),
    z: Float64Array.of(50, 52, 50),
    tri: Int32Array.of(0, 1, 2),
    twin: Int32Array.of(-1, -1, -1),
  } as unknown as Surface;
  const classes = {
    edges: [51, 51.5],
    classes: ["#000000", "#ff0000", "#00ff00"].map((color) => ({ name: color, color })),
  };
  const [level] = groundOf(s, classes, "levels", COLORS, [90, 180]);
  expect([...level!.corners]).toEqual([10, 20, 20, 20, 10, 30]);
  expect([level!.perTriangle, ...level!.values]).toEqual([false, 50, 52, 50]);
  const shade = (z: number) => bytesOf(level!.shade(z, 0, 0));
  // A quarter of the paper is seen through each.
  expect([50.99, 51, 51.5].map(shade)).toEqual([
    [64, 64, 64],
    [255, 64, 64],
    [64, 255, 64],
  ]);
  const [slope] = groundOf(s, classes, "slopes", COLORS, [90, 180]);
  expect(slope!.perTriangle).toBe(true);
  expect(slope!.values[0]).toBeCloseTo(0.2, 12);
});

/** Drawing rings, and points as dots. */
import fc from "fast-check";
import { segmentsCross, type Corner } from "@bramble/core/math/ring";
import { toPixel } from "../sheet/camera";
import { paintDots, spacingOf, type Dots } from "../sheet/painting/dots";
import { packed } from "../sheet/painting/picture";
import { gripAt, isSimpleAt, withMoved } from "../sheet/tools/corners";
import { ringStep } from "../sheet/tools/ring";

describe("a ring drawn on the sheet", () => {
  const square: Corner[] = [
    [0, 0],
    [10, 0],
    [10, 10],
  ];
  test.each<[string, Corner[], Corner, ReturnType<typeof ringStep>]>([
    ["the first corner", [], [3, 4], "corner"],
    ["a corner anywhere clear", square, [0, 10], "corner"],
    ["near the first corner it closes", square, [0.4, 0.3], "close"],
    ["two corners close nothing", square.slice(0, 2), [0.1, 0], "too few"],
    ["a click on the last corner again", square, [10, 10], "same"],
    ["a side through an earlier one", [...square, [5, 5]], [5, -5], "crosses"],
    ["a side that ends on an earlier one", square, [5, 0], "crosses"],
    ["a side back over the last one", square, [10, 4], "crosses"],
    ["closing through an earlier side", [...square, [4, 10], [4, -5], [20, -5], [20, 5]], [0, 0], "crosses"],
    [
      "closing back over the first side",
      [
        [0, 0],
        [5, 0],
        [5, 5],
        [8, 5],
        [8, 0],
      ] as Corner[],
      [0, 0],
      "crosses",
    ],
  ])("%s", (_, corners, [e, n], step) => expect(ringStep(corners, e, n, 0.5)).toBe(step));

  test.each<[string, [Corner, Corner, Corner, Corner], boolean]>([
    [
      "crosses inside",
      [
        [0, 0],
        [4, 4],
        [0, 4],
        [4, 0],
      ],
      true,
    ],
    [
      "the third corner on the first side",
      [
        [0, 0],
        [4, 0],
        [2, 0],
        [2, 5],
      ],
      true,
    ],
    [
      "the fourth on it",
      [
        [0, 0],
        [4, 0],
        [2, 5],
        [2, 0],
      ],
      true,
    ],
    [
      "the first on the second side",
      [
        [2, 0],
        [2, 5],
        [0, 0],
        [4, 0],
      ],
      true,
    ],
    [
      "the second on it",
      [
        [2, 5],
        [2, 0],
        [0, 0],
        [4, 0],
      ],
      true,
    ],
    [
      "on one line with a part in common",
      [
        [0, 0],
        [4, 0],
        [3, 0],
        [9, 0],
      ],
      true,
    ],
    [
      "on one line apart",
      [
        [0, 0],
        [4, 0],
        [5, 0],
        [9, 0],
      ],
      false,
    ],
    [
      "beside one another",
      [
        [0, 0],
        [4, 0],
        [0, 1],
        [4, 1],
      ],
      false,
    ],
    [
      "would only meet if prolonged",
      [
        [0, 0],
        [4, 0],
        [5, -1],
        [5, 1],
      ],
      false,
    ],
  ])("two sides: %s", (_, corners, meets) => expect(segmentsCross(...corners)).toBe(meets));

  test("whatever is clicked, no two sides that are not neighbours meet (by signed areas)", () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 12 }), fc.integer({ min: 0, max: 12 }));
    const area = (a: Corner, b: Corner, c: Corner) =>
      Math.sign((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]));
    const within = (a: Corner, b: Corner, p: Corner) =>
      area(a, b, p) === 0 &&
      Math.hypot(p[0] - a[0], p[1] - a[1]) + Math.hypot(p[0] - b[0], p[1] - b[1]) <=
        Math.hypot(b[0] - a[0], b[1] - a[1]) + 1e-9;
    const meet = (a: Corner, b: Corner, c: Corner, d: Corner) =>
      (area(a, b, c) !== area(a, b, d) &&
        area(c, d, a) !== area(c, d, b) &&
        area(a, b, c) * area(a, b, d) < 0 &&
        area(c, d, a) * area(c, d, b) < 0) ||
      within(a, b, c) ||
      within(a, b, d) ||
      within(c, d, a) ||
      within(c, d, b);
    fc.assert(
      fc.property(fc.array(place, { maxLength: 30 }), (clicks) => {
        const corners: Corner[] = [];
        let closed = false;
        for (const [e, n] of clicks) {
          const step = ringStep(corners, e, n, 0);
          if (step === "corner") corners.push([e, n]);
          closed = step === "close";
          if (closed) break;
        }
        const sides = corners
          .slice(closed ? 0 : 1)
          .map((c, k) => (closed ? ([c, corners[(k + 1) % corners.length]!] as const) : ([corners[k]!, c] as const)));
        for (let a = 0; a < sides.length; a++)
          for (let b = a + 2; b < sides.length; b++)
            if (!(closed && a === 0 && b === sides.length - 1)) expect(meet(...sides[a]!, ...sides[b]!)).toBe(false);
      }),
    );
  });
});

describe("a ring whose corners are moved", () => {
  const square: Corner[] = [
    [0, 0],
    [10, 0],
    [10, 10],
    [0, 10],
  ];

  test("a corner is gripped before a side, a side at the foot, and nothing beyond reach", () => {
    expect(gripAt(square, 9.6, 0.3, 1)).toEqual({ corner: 1 });
    expect(gripAt(square, 10.4, 6, 1)).toEqual({ corner: 1, on: [10, 6] });
    expect(gripAt(square, -0.5, 3, 1)).toEqual({ corner: 3, on: [0, 3] });
    expect(gripAt(square, 5, 5, 1)).toBeUndefined();
    expect(gripAt(square, -0.8, -0.8, 1)).toBeUndefined();
  });

  test("a corner goes along; where a side is gripped a corner comes", () => {
    expect(withMoved(square, { corner: 2 }, [1, 2])).toEqual({
      ring: [square[0], square[1], [11, 12], square[3]],
      corner: 2,
    });
    expect(withMoved(square, { corner: 3, on: [0, 4] }, [-2, 0])).toEqual({ ring: [...square, [-2, 4]], corner: 4 });
  });

  test("a side never runs back over the one before it", () => {
    const flat: Corner[] = [
      [0, 0],
      [10, 0],
      [20, 0],
      [20, 10],
    ];
    expect(isSimpleAt(flat, 1)).toBe(true);
    expect(isSimpleAt(withMoved(flat, { corner: 1 }, [15, 0]).ring, 1)).toBe(false);
    expect(isSimpleAt(withMoved(flat, { corner: 1 }, [-15, 0]).ring, 1)).toBe(false);
    const three: Corner[] = [
      [10, 0],
      [20, 0],
      [15, 8],
    ];
    expect(isSimpleAt(three, 2)).toBe(true);
    expect(isSimpleAt(withMoved(three, { corner: 2 }, [10, -8]).ring, 2)).toBe(false);
  });

  test("any corner of any ring that does not cross itself: what is let through never does either", () => {
    const position = fc.tuple(fc.integer({ min: 0, max: 9 }), fc.integer({ min: 0, max: 9 }));
    const meets = (ring: readonly Corner[]) =>
      ring.some((a, i) =>
        ring.some((_, j) => {
          const apart = (j - i + ring.length) % ring.length;
          if (apart < 2 || apart > ring.length - 2) return false;
          return segmentsCross(a, ring[(i + 1) % ring.length]!, ring[j]!, ring[(j + 1) % ring.length]!);
        }),
      );
    let kept = 0;
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(30), fc.boolean(), position), { maxLength: 25 }), (steps) => {
        let ring: readonly Corner[] = square;
        for (const [where, side, to] of steps) {
          const corner = where % ring.length,
            [a, b] = [ring[corner]!, ring[(corner + 1) % ring.length]!],
            on: Corner = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2],
            from = side ? on : a,
            next = withMoved(ring, side ? { corner, on } : { corner }, [to[0] - from[0], to[1] - from[1]]);
          if (!isSimpleAt(next.ring, next.corner)) continue;
          kept++;
          ring = next.ring;
          expect(meets(ring)).toBe(false);
        }
      }),
    );
    expect(kept).toBeGreaterThan(100);
  });
});

describe("points as dots", () => {
  const plan = { e: 500, n: 800, scale: 2, width: 60, height: 40 },
    red = packed([1, 0, 0]);
  const dots = (list: [number, number][], more: Partial<Dots> = {}): Dots => ({
    count: list.length,
    e: Float64Array.from(list, ([e]) => e),
    n: Float64Array.from(list, ([, n]) => n),
    stride: 1,
    color: () => red,
    control: () => false,
    spacing: 0,
    ...more,
  });
  const paint = (d: Dots, ratio = 1, faint?: boolean) => {
    const picture = new Uint32Array(60 * ratio * 40 * ratio);
    paintDots(picture, 60 * ratio, 40 * ratio, ratio, plan, d, faint);
    const at: [number, number][] = [];
    picture.forEach((c, k) => c && at.push([k % (60 * ratio), Math.floor(k / (60 * ratio))]));
    return { picture, at };
  };

  test("a colour is its bytes in the order red, green, blue, opaque", () =>
    expect([...new Uint8Array(Uint32Array.of(packed([1, 0.5, 0])).buffer)]).toEqual([255, 128, 0, 255]));

  test.each([1, 2, 3])("every dot covers its pixel and stays within its size, at ratio %i", (ratio) => {
    const inside = fc.record({
      e: fc.double({ min: 488, max: 512, noNaN: true }),
      n: fc.double({ min: 793, max: 807, noNaN: true }),
      spacing: fc.double({ min: 0, max: 30, noNaN: true }),
    });
    fc.assert(
      fc.property(inside, ({ e, n, spacing }) => {
        const { at } = paint(dots([[e, n]], { spacing }), ratio),
          [x, y] = toPixel(plan, e, n).map((v) => v * ratio) as [number, number];
        expect(at).toContainEqual([Math.floor(x), Math.floor(y)]);
        const reach = Math.max(...at.flatMap(([px, py]) => [Math.abs(px + 0.5 - x), Math.abs(py + 0.5 - y)]));
        expect(reach).toBeLessThanOrEqual(4.5 * ratio + 1);
      }),
    );
  });

  test("from near a point is a cross, from afar a dot", () => {
    const middle: [number, number][] = [[500.25, 799.75]];
    expect(paint(dots(middle)).at).toHaveLength(4);
    const cross = paint(dots(middle, { spacing: 100 })).at;
    expect(cross.every(([x, y]) => x === 30 || y === 20)).toBe(true);
    expect(cross.length).toBeGreaterThan(10);
  });

  test("what is hidden or outside is not drawn; control is a triangle on its base", () => {
    const list: [number, number][] = [
      [500, 800],
      [1e9, 800],
      [NaN, 800],
      [500, 790.1],
    ];
    expect(paint(dots(list, { color: (i) => (i === 0 ? 0 : red) })).at).toEqual([]);
    const triangle = paint(dots(list, { control: () => true })).at,
      wide = (y: number) => {
        const xs = triangle.filter((p) => p[1] === y).map(([x]) => x);
        return xs.length ? Math.max(...xs) - Math.min(...xs) : -1;
      };
    const lines = [...new Set(triangle.map(([, y]) => y))].sort((a, b) => a - b);
    for (let k = 1; k < lines.length; k++) expect(wide(lines[k]!)).toBeGreaterThanOrEqual(wide(lines[k - 1]!));
    expect(triangle).not.toContainEqual([30, 20]);
  });

  test("pairs in one array are read by their stride; the last drawn lies above", () => {
    const pairs = Float64Array.of(495, 800, 505, 800);
    const { at } = paint({ ...dots([]), count: 2, e: pairs, n: pairs.subarray(1), stride: 2 });
    expect(at.map(([x]) => x).filter((x) => x < 30)).toHaveLength(4);
    expect(at.map(([x]) => x).filter((x) => x > 30)).toHaveLength(4);
    const blue = packed([0, 0, 1]),
      { picture } = paint(
        dots(
          [
            [500, 800],
            [500, 800],
          ],
          { color: (i) => (i === 0 ? red : blue), spacing: 3 },
        ),
      );
    expect(picture[20 * 60 + 30]).toBe(blue);
  });

  test("points that crowd are faint, the fainter the nearer, to a least; control and what has a size are not", () => {
    const middle: [number, number][] = [[500.25, 799.75]],
      opacity = (more: Partial<Dots>, faint?: boolean) => {
        const { picture, at } = paint(dots(middle, more), 1, faint);
        return at.map(([x, y]) => new Uint8Array(picture.buffer)[4 * (60 * y + x) + 3]!);
      };
    // Two pixels for a unit: six pixels apart each is seen.
    expect(new Set(opacity({ spacing: 3 }))).toEqual(new Set([255]));
    expect(new Set(opacity({ spacing: 1.5 }))).toEqual(new Set([128]));
    expect(new Set(opacity({ spacing: 0.001 }))).toEqual(new Set([Math.round(0.12 * 255)]));
    expect(new Set(opacity({ spacing: 0.001, control: () => true }))).toEqual(new Set([255]));
    expect(new Set(opacity({ spacing: 0.001 }, false))).toEqual(new Set([255]));
    const sized = opacity({ spacing: Infinity, size: 4 });
    expect(sized).toHaveLength(16);
    expect(new Set(sized)).toEqual(new Set([255]));
  });

  test("what is hidden takes nothing away from what stands under it", () => {
    const both: [number, number][] = [
      [500, 800],
      [500, 800],
    ];
    expect(paint(dots(both, { color: (i) => (i === 0 ? red : 0) })).at).toHaveLength(4);
  });

  test("the spacing is the side of the square that each point would have", () => {
    const lattice = Array.from({ length: 10_000 }, (_, k) => [3 * (k % 100), 3 * Math.floor(k / 100)] as const);
    const e = Float64Array.from(lattice, ([x]) => x),
      n = Float64Array.from(lattice, ([, y]) => y);
    expect(spacingOf(e, n, 10_000)).toBeCloseTo(3, 1);
    const pairs = Float64Array.from(lattice.flat());
    expect(spacingOf(pairs, pairs.subarray(1), 10_000, 2)).toBeCloseTo(3, 1);
    expect(spacingOf(e, n, 3)).toBe(Infinity);
  });
});

// @long: left out of npm run test:quick.
import fc from "fast-check";
import { side } from "../../src/math/predicates";
import { contour, type Contours } from "../../src/surface/contour";
import { SurfaceReader } from "../../src/surface/locate";
import type { Surface } from "../../src/surface/model";
import { smoothContours } from "../../src/surface/smooth";
import { derive, type Row } from "../job";

function surfaceOf(rows: Row[]): Surface | undefined {
  const s = derive(rows, { surfaces: [{ name: "s", breaklines: { codes: ["*"] } }] }).derived.surfaces[0]!;
  return s.ok ? s.value.surface : undefined;
}

/** Points on a coarse raster, so that lines pass through vertices, and at free positions. */
const coordinate = fc.oneof(
  fc.integer({ min: 0, max: 8 }).map((k) => 5 * k),
  fc.double({ min: 0, max: 40, noNaN: true }),
);
const scene = fc.array(
  fc.tuple(
    coordinate,
    coordinate,
    fc.oneof(
      fc.integer({ min: 0, max: 6 }).map((z) => z / 2),
      fc.double({ min: 0, max: 3, noNaN: true }),
    ),
  ),
  { minLength: 4, maxLength: 24 },
);

type Segment = { line: number; at: [number, number, number, number] };

function segmentsOf(c: Contours): Segment[] {
  const out: Segment[] = [];
  for (let line = 0; line < c.level.length; line++)
    for (let i = c.starts[line]!; i < c.starts[line + 1]! - 1; i++)
      out.push({ line, at: [c.xy[2 * i]!, c.xy[2 * i + 1]!, c.xy[2 * i + 2]!, c.xy[2 * i + 3]!] });
  return out;
}

function cross([a, b, c, d]: Segment["at"], [e, f, g, h]: Segment["at"]): boolean {
  if (Math.max(a, c) < Math.min(e, g) || Math.max(e, g) < Math.min(a, c)) return false;
  if (Math.max(b, d) < Math.min(f, h) || Math.max(f, h) < Math.min(b, d)) return false;
  return side(a, b, c, d, e, f) * side(a, b, c, d, g, h) < 0 && side(e, f, g, h, a, b) * side(e, f, g, h, c, d) < 0;
}

test("rounded contours cross neither one another nor themselves, and stay within half an interval of their level", () => {
  let rounded = 0;
  // Of one level alone nothing but its own branches holds a line back.
  const steps = fc.constantFrom({ interval: 0.5, base: 0.1 }, { interval: 100, base: 1.37 });
  fc.assert(
    fc.property(scene, steps, (positions, step) => {
      const s = surfaceOf(positions.map(([e, n, z], number) => ({ number, e, n, z })));
      if (!s) return;
      const exact = contour(s, { surface: "s", ...step }),
        smooth = smoothContours(s, exact),
        reader = new SurfaceReader(s);
      rounded += smooth.xy.length - exact.xy.length;
      const segments = segmentsOf(smooth);
      let [crossings, most] = [0, 0];
      segments.forEach((a, i) => {
        for (let j = i + 1; j < segments.length; j++) if (cross(a.at, segments[j]!.at)) crossings++;
        const [ax, ay, bx, by] = a.at;
        for (const t of [0.5, 1]) {
          const under = reader.at(s.origin[0] + ax + t * (bx - ax), s.origin[1] + ay + t * (by - ay));
          // On the edge itself rounding decides whether there is ground.
          if (under) most = Math.max(most, Math.abs(under.level - smooth.level[a.line]!));
        }
      });
      expect(crossings).toBe(0);
      expect(most).toBeLessThan(step.interval / 2 + 1e-9);
    }),
    { numRuns: 400 },
  );
  expect(rounded).toBeGreaterThan(5000);
});

test("open lines keep their ends, closed ones stay closed, and what is told of a line stays", () => {
  fc.assert(
    fc.property(scene, (positions) => {
      const s = surfaceOf(positions.map(([e, n, z], number) => ({ number, e, n, z })));
      if (!s) return;
      const exact = contour(s, { surface: "s", interval: 0.25 }),
        smooth = smoothContours(s, exact);
      const { xy: _, sides: _s, starts: _t, ...told } = exact;
      expect(smooth).toMatchObject(told);
      const ends = (c: Contours, k: number) => [
        ...c.xy.subarray(2 * c.starts[k]!, 2 * c.starts[k]! + 2),
        ...c.xy.subarray(2 * c.starts[k + 1]! - 2, 2 * c.starts[k + 1]!),
      ];
      for (let k = 0; k < exact.level.length; k++) {
        const [x0, y0, x1, y1] = ends(smooth, k);
        if (exact.closed[k]) expect([x0, y0]).toEqual([x1, y1]);
        else expect([x0, y0, x1, y1]).toEqual(ends(exact, k));
      }
    }),
    { numRuns: 60 },
  );
});

test("the corners of a cone's contours are rounded: each turns by a fraction of what it did", () => {
  const rows: Row[] = [{ number: 0, e: 50, n: 50, z: 20 }];
  for (let k = 0; k < 8; k++) {
    const a = (k * Math.PI) / 4 + 0.1;
    rows.push({ number: k + 1, e: 50 + 40 * Math.cos(a), n: 50 + 40 * Math.sin(a), z: 10 });
  }
  const s = surfaceOf(rows)!,
    exact = contour(s, { surface: "s", interval: 1, base: 0.5 }),
    smooth = smoothContours(s, exact);
  const sharpest = (c: Contours, k: number) => {
    let most = 0;
    for (let i = c.starts[k]! + 1; i < c.starts[k + 1]! - 1; i++) {
      const [ax, ay] = [c.xy[2 * i]! - c.xy[2 * i - 2]!, c.xy[2 * i + 1]! - c.xy[2 * i - 1]!],
        [bx, by] = [c.xy[2 * i + 2]! - c.xy[2 * i]!, c.xy[2 * i + 3]! - c.xy[2 * i + 1]!];
      most = Math.max(most, Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by)));
    }
    return most;
  };
  expect(exact.level.length).toBe(10);
  for (let k = 0; k < 10; k++) {
    expect(sharpest(exact, k)).toBeCloseTo(Math.PI / 4, 6);
    expect(sharpest(smooth, k)).toBeLessThan(Math.PI / 4 / 2.5);
  }
});

test("a corner is rounded no farther than the vertex behind it: beyond a thin rim runs its other side", () => {
  const on = (radius: number, z: number, from: number): Row[] =>
    [90, 210, 330].map((deg, k) => ({
      number: from + k,
      e: radius * Math.cos((deg * Math.PI) / 180),
      n: radius * Math.sin((deg * Math.PI) / 180),
      z,
    }));
  // A floor with points all along its sides: the inner line has short legs there, and hardly moves.
  const corners = on(9, 0, 0),
    floor = corners.flatMap((c, k) => {
      const d = corners[(k + 1) % 3]!;
      return [0, 0.05, 0.1, 0.3, 0.5, 0.7, 0.9, 0.95].map((t, j): Row => ({
        number: 100 + 10 * k + j,
        e: c.e + t * (d.e - c.e),
        n: c.n + t * (d.n - c.n),
        z: 0,
      }));
    });
  const rim = on(10, 11, 1).map((row, k) => ({ ...row, code: k === 2 ? "TOP1 loop" : "TOP1" })),
    s = surfaceOf([...floor, ...rim, ...on(30, 0, 11)])!,
    smooth = smoothContours(s, contour(s, { surface: "s", interval: 100, base: 10.9 })),
    segments = segmentsOf(smooth);
  // Round the rim outside and inside.
  expect([...smooth.closed]).toEqual([1, 1]);
  const crossings = segments.filter((a) => segments.some((b) => a.line < b.line && cross(a.at, b.at)));
  expect(crossings).toEqual([]);
});

/** The difference of a comparison as a picture: triangles on which it is linear, classes of it, and lines of equal difference. */
import { formatFixed } from "../math/round";
import { SurfaceReader } from "../surface/locate";
import type { ComparedPair } from "./measure";
import { Overlay } from "./overlay";
import { above, partAbove } from "./part-above";

/** Positions count from `origin`; d = to − from, of a storage the depth of its bed under level 0. */
export interface DifferenceMap {
  origin: [number, number];
  /** x, y, d of each corner. */
  corners: Float32Array;
  /** Three corners a triangle. */
  triangles: Uint32Array;
  /** Bounds between classes, rising; zero is among them where both cut and fill are there. */
  edges: number[];
  /** How far they are apart. */
  step: number;
  /** Plan area of each class, one more than there are bounds; of a coarse map none. */
  areas: number[];
  /** Segments x, y, x, y on which the difference is one of the bounds, one list for each. */
  lines: Float32Array[];
  least: number;
  most: number;
  /** Only the first surface's corners are told, since the pieces would be too many. */
  coarse: boolean;
}

/** Triangles of both surfaces from which on the map is coarse. */
const MANY = 500_000;
/** Classes on either side of zero, about. */
const CLASSES = 5;

/** The map of a comparison; coarse from so many triangles on. */
export function differenceMap(pair: ComparedPair, most = MANY): DifferenceMap {
  const { from, to } = pair,
    size = (from.tri.length + (typeof to === "number" ? 0 : to.tri.length)) / 3,
    coarse = size > most,
    // Against a level the difference is linear on each triangle as it is.
    whole = typeof to === "number" && !pair.within,
    drawn = coarse || whole ? cornersOnly(pair) : allPieces(pair);
  let [least, highest] = [Infinity, -Infinity];
  for (const v of drawn.triangles) {
    const d = drawn.corners[3 * v + 2]!;
    if (d < least) least = d;
    if (d > highest) highest = d;
  }
  const step = stepFor(least, highest),
    edges = pair.kind === "storage" ? [] : boundsOf(least, highest, step);
  return {
    origin: from.origin,
    ...drawn,
    edges,
    step,
    areas: coarse ? [] : areasOf(drawn, edges),
    lines: edges.map((value) => lineAt(drawn, value)),
    least,
    most: highest,
    coarse,
  };
}

/** How far classes are apart: 1, 2 or 5 times a power of ten, about five of them to the largest difference. */
export function stepFor(least: number, most: number): number {
  const reach = Math.max(Math.abs(least), Math.abs(most));
  if (!(reach > 0) || !Number.isFinite(reach)) return 1;
  const wanted = reach / CLASSES,
    power = 10 ** Math.floor(Math.log10(wanted)),
    times = wanted / power;
  return (times <= 1 ? 1 : times <= 2 ? 2 : times <= 5 ? 5 : 10) * power;
}

/** A class of the map: from the difference nearer to zero to the farther one, which is infinite at the ends. */
export interface MapClass {
  isFill: boolean;
  near: number;
  far: number;
  /** Plan area; undefined of a coarse map. */
  area: number | undefined;
  /** How strong its colour is, from 0 to 1. */
  strength: number;
}

/** The classes of a map, from the deepest cut to the highest fill. */
export function mapClasses({ edges, areas, least, most, step }: DifferenceMap): MapClass[] {
  const largest = Math.max(Math.abs(least), Math.abs(most));
  return [...edges, Infinity].map((to, k) => {
    const from = k === 0 ? -Infinity : edges[k - 1]!,
      isFill = from >= 0 || (from === -Infinity && least >= 0),
      [near, far] = isFill ? [Math.max(from, 0), to] : [Math.min(to, 0), from];
    const reach = Number.isFinite(far) ? Math.abs(far) : Math.abs(near) + step;
    return { isFill, near, far, area: areas[k], strength: strengthOf(reach, largest) };
  });
}

/** How strong the colour of a class is, by its farther bound: shared by the map, its legend and the report. */
export const strengthOf = (far: number, largest: number) => 0.14 + 0.66 * Math.sqrt(Math.min(1, far / largest));

/** A class in words, the differences without their sign. */
export function className({ isFill, near, far }: MapClass, step: number, unit: string): string {
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9)),
    say = (x: number) => formatFixed(Math.abs(x), decimals);
  return `${isFill ? "fill" : "cut"} ${Number.isFinite(far) ? `${say(near)} to ${say(far)}` : `over ${say(near)}`} ${unit}`;
}

/** The multiples of the step between two differences. */
function boundsOf(least: number, most: number, step: number): number[] {
  const edges: number[] = [];
  if (!Number.isFinite(least)) return edges;
  for (let k = Math.floor(least / step) + 1; k * step < most; k++) edges.push(Number((k * step).toPrecision(12)));
  return edges;
}

type Drawn = Pick<DifferenceMap, "corners" | "triangles">;

function allPieces(pair: ComparedPair): Drawn {
  const { from } = pair,
    // The storage's depth is counted from level 0, so that any level can be seen.
    overlay = new Overlay(pair.kind === "storage" ? { ...pair, to: 0 } : pair),
    corners: number[] = [],
    triangles: number[] = [];
  let h = 0;
  const take = (count: number) => {
    const { uvd } = overlay,
      [a, b, c] = [from.tri[h]!, from.tri[h + 1]!, from.tri[h + 2]!],
      first = corners.length / 3;
    for (let k = 0; k < 3 * count; k += 3) {
      const [u, v, d] = [uvd[k]!, uvd[k + 1]!, uvd[k + 2]!];
      corners.push(
        from.x[c]! + u * (from.x[a]! - from.x[c]!) + v * (from.x[b]! - from.x[c]!),
        from.y[c]! + u * (from.y[a]! - from.y[c]!) + v * (from.y[b]! - from.y[c]!),
        d,
      );
    }
    for (let k = 2; k < count; k++) triangles.push(first, first + k - 1, first + k);
  };
  for (; h < from.tri.length; h += 3) overlay.pieces(h, take);
  return { corners: Float32Array.from(corners), triangles: Uint32Array.from(triangles) };
}

/** The difference at the first surface's corners alone; triangles with a corner where there is none are left out. */
function cornersOnly({ from, to, within, kind }: ComparedPair): Drawn {
  const { x, y, z, tri, origin } = from,
    reader = typeof to === "number" ? undefined : new SurfaceReader(to),
    areas = within && new SurfaceReader({ ...from, ...within.mesh }),
    corners = new Float32Array(3 * x.length);
  for (let v = 0; v < x.length; v++) {
    const [e, n] = [x[v]! + origin[0], y[v]! + origin[1]],
      level = kind === "storage" ? 0 : reader ? (reader.at(e, n)?.level ?? NaN) : (to as number),
      under = areas?.at(e, n),
      isIn = !areas || (under !== undefined && within!.partOf[under.triangle] !== 0);
    corners.set([x[v]!, y[v]!, isIn ? level - z[v]! : NaN], 3 * v);
  }
  const triangles: number[] = [];
  for (let h = 0; h < tri.length; h += 3) {
    const list = [tri[h]!, tri[h + 1]!, tri[h + 2]!];
    if (list.every((v) => !Number.isNaN(corners[3 * v + 2]!))) triangles.push(...list);
  }
  return { corners, triangles: Uint32Array.from(triangles) };
}

function areasOf({ corners: c, triangles }: Drawn, edges: readonly number[]): number[] {
  const over = edges.map(() => 0);
  let whole = 0;
  for (let k = 0; k < triangles.length; k += 3) {
    const [p, q, r] = [3 * triangles[k]!, 3 * triangles[k + 1]!, 3 * triangles[k + 2]!],
      plan = ((c[q]! - c[p]!) * (c[r + 1]! - c[p + 1]!) - (c[r]! - c[p]!) * (c[q + 1]! - c[p + 1]!)) / 2;
    whole += plan;
    edges.forEach((edge, i) => {
      partAbove(plan, c[p + 2]! - edge, c[q + 2]! - edge, c[r + 2]! - edge);
      over[i]! += above.area;
    });
  }
  const bounds = [whole, ...over, 0];
  return bounds.slice(0, -1).map((area, k) => Math.max(0, area - bounds[k + 1]!));
}

/** Where the difference is one value, as segments; a corner exactly there counts as above. */
function lineAt({ corners: c, triangles }: Drawn, value: number): Float32Array {
  const out: number[] = [];
  for (let k = 0; k < triangles.length; k += 3)
    for (let i = 0; i < 3; i++) {
      const [p, q] = [3 * triangles[k + i]!, 3 * triangles[k + ((i + 1) % 3)]!],
        [a, b] = [c[p + 2]! - value, c[q + 2]! - value];
      if (a >= 0 === b >= 0) continue;
      const t = a / (a - b);
      out.push(c[p]! + t * (c[q]! - c[p]!), c[p + 1]! + t * (c[q + 1]! - c[p + 1]!));
    }
  return Float32Array.from(out);
}

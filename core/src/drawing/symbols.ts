/** Symbols of our own, drawn from a few strokes. The frame is the symbol's size: from −0.5 to 0.5, y to the north. */
import { reach, type Stroke } from "./strokes";

export interface Symbol {
  name: string;
  about: string;
  /** Size on paper where no measured size is given, mm. */
  size: number;
  /** Line weight, mm. */
  width: number;
  strokes: readonly Stroke[];
  /** Drawn at its own size always, mm: the stem of a tree whose crown is to scale. */
  heart?: readonly Stroke[];
}

const ring = (radius = 0.5, x = 0, y = 0): Stroke => ({ at: [x, y], radius });
const disc = (radius: number, x = 0, y = 0): Stroke => ({ at: [x, y], radius, filled: true });
const line = (...path: number[]): Stroke => ({ path });
const shape = (...path: number[]): Stroke => ({ path, closed: true });
const solid = (...path: number[]): Stroke => ({ path, closed: true, filled: true });
const square = (half = 0.5): Stroke => shape(-half, -half, half, -half, half, half, -half, half);
const plus = (half = 0.5): Stroke[] => [line(-half, 0, half, 0), line(0, -half, 0, half)];
const slanted = (half = 0.36): Stroke[] => [line(-half, -half, half, half), line(-half, half, half, -half)];
/** Lobes round a circle, their joints on it. */
const lobes = (count: number, out: number): Stroke[] =>
  Array.from({ length: count }, (_, k) => {
    const turn = (360 * k) / count,
      half = 180 / count,
      r = out,
      middle = 0.5 - r;
    const open = 90 + half;
    return {
      at: [middle * Math.cos((turn * Math.PI) / 180), middle * Math.sin((turn * Math.PI) / 180)] as const,
      radius: r,
      from: turn - open + 12,
      to: turn + open - 12,
    };
  });
/** Spokes between two radii. */
const spokes = (count: number, inner: number, outer: number, first = 0): Stroke[] =>
  Array.from({ length: count }, (_, k) => {
    const a = ((first + (360 * k) / count) * Math.PI) / 180;
    return line(inner * Math.cos(a), inner * Math.sin(a), outer * Math.cos(a), outer * Math.sin(a));
  });
const triangle = (r = 0.5): Stroke => shape(-r * 0.95, -r * 0.6, r * 0.95, -r * 0.6, 0, r);

export const SYMBOLS: readonly Symbol[] = [
  { name: "spot", about: "a fine cross: a level", size: 1.2, width: 0.15, strokes: plus() },
  { name: "dot", about: "a dot", size: 0.7, width: 0.15, strokes: [disc(0.5)] },
  { name: "circle", about: "a ring", size: 1.8, width: 0.25, strokes: [ring()] },
  { name: "square", about: "an open square", size: 1.8, width: 0.25, strokes: [square()] },
  {
    name: "block",
    about: "a solid square",
    size: 1.2,
    width: 0.2,
    strokes: [solid(-0.5, -0.5, 0.5, -0.5, 0.5, 0.5, -0.5, 0.5)],
  },
  {
    name: "diamond",
    about: "a square on its corner",
    size: 2.2,
    width: 0.25,
    strokes: [shape(-0.5, 0, 0, -0.5, 0.5, 0, 0, 0.5)],
  },
  { name: "cross", about: "a slanted cross", size: 1.8, width: 0.25, strokes: slanted() },
  {
    name: "triangle",
    about: "a triangle with its point: control",
    size: 3,
    width: 0.3,
    strokes: [triangle(), disc(0.06)],
  },
  {
    name: "benchmark",
    about: "a triangle half filled: a height mark",
    size: 3,
    width: 0.25,
    strokes: [triangle(), solid(-0.475, -0.3, 0, -0.3, 0, 0.5)],
  },
  { name: "peg", about: "a ring with its point: a peg or nail", size: 1.6, width: 0.25, strokes: [ring(), disc(0.14)] },
  {
    name: "boundary-stone",
    about: "a square with its point: a boundary stone",
    size: 1.8,
    width: 0.25,
    strokes: [square(), disc(0.14)],
  },
  {
    name: "tree",
    about: "a crown of lobes with its stem",
    size: 4,
    width: 0.2,
    strokes: lobes(9, 0.13),
    heart: [disc(0.35)],
  },
  {
    name: "conifer",
    about: "a crown of spikes with its stem",
    size: 4,
    width: 0.2,
    strokes: [...spokes(16, 0.3, 0.5), ring(0.3)],
    heart: [disc(0.35)],
  },
  {
    name: "shrub",
    about: "three lobes",
    size: 2.6,
    width: 0.22,
    strokes: [
      { at: [0, 0.2], radius: 0.26, from: -20, to: 200 },
      { at: [-0.22, -0.12], radius: 0.26, from: 80, to: 320 },
      { at: [0.22, -0.12], radius: 0.26, from: 220, to: 460 },
    ],
  },
  { name: "stump", about: "a ring with a ring in it", size: 1.8, width: 0.2, strokes: [ring(), ring(0.25)] },
  {
    name: "sapling",
    about: "a stem between two leaves",
    size: 2.2,
    width: 0.22,
    strokes: [
      line(0, -0.5, 0, 0.2),
      { at: [-0.2, 0.2], radius: 0.2, from: 0, to: 360 },
      { at: [0.2, 0.2], radius: 0.2, from: 0, to: 360 },
    ],
  },
  {
    name: "reeds",
    about: "blades from one root",
    size: 2.4,
    width: 0.22,
    strokes: [line(0, -0.4, 0, 0.5), line(0, -0.4, -0.35, 0.3), line(0, -0.4, 0.35, 0.3), line(-0.3, -0.4, 0.3, -0.4)],
  },
  {
    name: "boulder",
    about: "a stone with its shade",
    size: 2.4,
    width: 0.25,
    strokes: [
      shape(-0.5, -0.25, -0.3, 0.25, 0.1, 0.42, 0.45, 0.1, 0.4, -0.3),
      line(-0.05, 0.15, 0.2, -0.02, 0.15, -0.2),
    ],
  },
  {
    name: "cover",
    about: "a ring with bars: a round cover",
    size: 1.9,
    width: 0.22,
    strokes: [ring(), line(-0.43, 0.25, 0.43, 0.25), line(-0.5, 0, 0.5, 0), line(-0.43, -0.25, 0.43, -0.25)],
  },
  {
    name: "cover-square",
    about: "a square with its diagonal: a square cover",
    size: 1.9,
    width: 0.22,
    strokes: [square(), line(-0.5, -0.5, 0.5, 0.5)],
  },
  {
    name: "gully",
    about: "a square with bars: a gully",
    size: 1.7,
    width: 0.22,
    strokes: [square(), ...[-0.25, 0, 0.25].map((x) => line(x, -0.5, x, 0.5))],
  },
  {
    name: "valve",
    about: "two triangles tip to tip: a valve",
    size: 2,
    width: 0.22,
    strokes: [shape(-0.5, -0.3, -0.5, 0.3, 0.5, -0.3, 0.5, 0.3)],
  },
  {
    name: "hydrant",
    about: "a ring half filled: a hydrant",
    size: 1.9,
    width: 0.22,
    strokes: [
      ring(),
      solid(
        ...Array.from({ length: 13 }, (_, k) => {
          const a = Math.PI + (Math.PI * k) / 12;
          return [0.5 * Math.cos(a), 0.5 * Math.sin(a)];
        }).flat(),
      ),
    ],
  },
  {
    name: "tap",
    about: "a ring with a spout",
    size: 1.9,
    width: 0.22,
    strokes: [ring(0.3), line(0.3, 0, 0.5, 0, 0.5, -0.3)],
  },
  {
    name: "well",
    about: "two rings and a cross: a well",
    size: 2.4,
    width: 0.22,
    strokes: [ring(), ring(0.34), ...plus(0.34)],
  },
  {
    name: "spring",
    about: "a ring with a wave leaving it: a spring",
    size: 2.6,
    width: 0.22,
    strokes: [ring(0.24, -0.22, 0), line(0.02, 0, 0.14, 0.12, 0.26, 0, 0.38, -0.12, 0.5, 0)],
  },
  {
    name: "pump",
    about: "a ring with a triangle in it: a pump",
    size: 2.2,
    width: 0.22,
    strokes: [ring(), shape(-0.3, -0.36, -0.3, 0.36, 0.48, 0)],
  },
  {
    name: "lamp",
    about: "a ring with rays: a lamp",
    size: 2.4,
    width: 0.22,
    strokes: [ring(0.24), ...spokes(8, 0.34, 0.5)],
    heart: [disc(0.2)],
  },
  {
    name: "pole",
    about: "a ring with a cross bar: a pole",
    size: 2.2,
    width: 0.22,
    strokes: [ring(0.28), line(-0.5, 0, -0.28, 0), line(0.28, 0, 0.5, 0)],
    heart: [disc(0.2)],
  },
  { name: "mast", about: "a lattice foot: a mast", size: 2.6, width: 0.22, strokes: [square(), ...slanted(0.5)] },
  { name: "post", about: "a small solid ring: a post", size: 1.1, width: 0.22, strokes: [ring(), disc(0.3)] },
  {
    name: "bollard",
    about: "a ring with a bar: a bollard",
    size: 1.4,
    width: 0.22,
    strokes: [ring(), line(-0.5, 0, 0.5, 0)],
  },
  {
    name: "sign",
    about: "a post below a board: a sign",
    size: 2.4,
    width: 0.22,
    strokes: [line(0, -0.5, 0, 0), shape(-0.4, 0, 0.4, 0, 0.4, 0.5, -0.4, 0.5)],
  },
  {
    name: "marker",
    about: "a flag on its post: a marker",
    size: 2.4,
    width: 0.22,
    strokes: [line(-0.25, -0.5, -0.25, 0.5), solid(-0.25, 0.5, 0.4, 0.28, -0.25, 0.06)],
  },
  {
    name: "bench",
    about: "a seat with its back",
    size: 2.4,
    width: 0.22,
    strokes: [shape(-0.5, -0.25, 0.5, -0.25, 0.5, 0.1, -0.5, 0.1), line(-0.5, 0.28, 0.5, 0.28)],
  },
  {
    name: "bin",
    about: "a narrowing vessel: a bin",
    size: 1.7,
    width: 0.22,
    strokes: [shape(-0.3, -0.5, 0.3, -0.5, 0.42, 0.35, -0.42, 0.35), line(-0.5, 0.5, 0.5, 0.5)],
  },
  {
    name: "cabinet",
    about: "a box with doors: a cabinet",
    size: 2.2,
    width: 0.22,
    strokes: [shape(-0.5, -0.32, 0.5, -0.32, 0.5, 0.32, -0.5, 0.32), line(0, -0.32, 0, 0.32)],
  },
  {
    name: "borehole",
    about: "a ring quartered: a borehole",
    size: 2.2,
    width: 0.22,
    strokes: [
      ring(),
      ...[0, 180].map((first) =>
        solid(
          0,
          0,
          ...Array.from({ length: 7 }, (_, k) => {
            const a = ((first + 15 * k) * Math.PI) / 180;
            return [0.5 * Math.cos(a), 0.5 * Math.sin(a)];
          }).flat(),
        ),
      ),
    ],
  },
  {
    name: "trial-pit",
    about: "a square quartered: a trial pit",
    size: 2.2,
    width: 0.22,
    strokes: [square(), solid(0, 0, 0.5, 0, 0.5, 0.5, 0, 0.5), solid(0, 0, -0.5, 0, -0.5, -0.5, 0, -0.5)],
  },
  {
    name: "drill-collar",
    about: "a ring with a point below it: a drill collar",
    size: 2,
    width: 0.22,
    strokes: [ring(0.34, 0, 0.14), line(0, -0.2, 0, -0.5), disc(0.1, 0, 0.14)],
  },
  {
    name: "station",
    about: "a triangle in a ring: an instrument station",
    size: 3.2,
    width: 0.25,
    strokes: [ring(), triangle(0.4), disc(0.06)],
  },
  {
    name: "water-level",
    about: "a triangle on two lines: a water level",
    size: 2.4,
    width: 0.22,
    strokes: [shape(-0.32, 0.45, 0.32, 0.45, 0, -0.05), line(-0.5, -0.05, 0.5, -0.05), line(-0.28, -0.3, 0.28, -0.3)],
  },
  {
    name: "arrow",
    about: "an arrow in the direction of its rotation",
    size: 3,
    width: 0.22,
    strokes: [line(0, -0.5, 0, 0.5), line(-0.18, 0.18, 0, 0.5, 0.18, 0.18)],
  },
];

const byName = new Map(SYMBOLS.map((s) => [s.name, s]));

export function symbolOf(name: string | undefined): Symbol | undefined {
  return name === undefined ? undefined : byName.get(name);
}

/** How far a symbol reaches from its point, mm, when drawn at `size` mm. */
export function symbolReach(s: Symbol, size: number, aspect = 1): number {
  return Math.max(reach(s.strokes) * size * Math.max(1, aspect), reach(s.heart ?? [])) + s.width / 2;
}

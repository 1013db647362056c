/** Second opinions beside an exact figure: average end areas over parallel sections, and a fine grid. */
import { Sum } from "../math/sum";
import type { Surface } from "../surface/model";
import type { VolumeRecipe } from "./model";
import { justOf, type Pair } from "./overlay";
import type { AlongWay } from "./along-way";
import { cutsOf, differenceAlong, frameOf, trianglesNear, withinRings, type ParallelLines } from "./parallel";

export interface Opinion {
  cut: number;
  fill: number;
}

export interface EndAreas extends Opinion {
  spacing: number;
  /** Azimuth along which the sections lie, degrees; or that they lie across a line, so far to either side. */
  lie: { azimuth: number } | { half: number; from: number; to: number };
  /** Each section: how far to the right of the first corner of the box, or its station; what it cuts and fills. */
  sections: { at: number; cut: number; fill: number }[];
}

export interface GridOpinion extends Opinion {
  /** The side of a cell. */
  cell: number;
  cells: number;
}

/** Sections and rows that are made at most. */
const MOST_SECTIONS = 2000;

/** The box of what is compared: west, south, east, north; undefined where there is nothing in common. */
export function boxOf({ from, to, within }: Pair): [number, number, number, number] | undefined {
  const boxes = [boxOfSurface(from)];
  if (typeof to !== "number") boxes.push(boxOfSurface(to));
  if (within) {
    const { box: b, mesh } = within,
      [oe, on] = mesh.origin;
    boxes.push([b[0] + oe, b[1] + on, b[2] + oe, b[3] + on]);
  }
  const [w, s] = [0, 1].map((k) => Math.max(...boxes.map((b) => b[k]!))) as [number, number],
    [e, n] = [2, 3].map((k) => Math.min(...boxes.map((b) => b[k]!))) as [number, number];
  return w < e && s < n ? [w, s, e, n] : undefined;
}

function boxOfSurface({ x, y, origin }: Surface): [number, number, number, number] {
  let [w, s, e, n] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let v = 0; v < x.length; v++) {
    if (x[v]! < w) w = x[v]!;
    if (x[v]! > e) e = x[v]!;
    if (y[v]! < s) s = y[v]!;
    if (y[v]! > n) n = y[v]!;
  }
  return [w + origin[0], s + origin[1], e + origin[0], n + origin[1]];
}

/** A spacing of 1, 2 or 5 times a power of ten that makes about fifty sections. */
export function spacingFor(length: number): number {
  const wanted = length / 50,
    power = 10 ** Math.floor(Math.log10(wanted)),
    m = wanted / power;
  return (m < 1.5 ? 1 : m < 3.5 ? 2 : m < 7.5 ? 5 : 10) * power;
}

/** The sections that a recipe asks for, or that a box suggests: across its longer side. */
export function sectionsWanted(
  { sections }: Pick<VolumeRecipe, "sections">,
  [w, s, e, n]: readonly [number, number, number, number],
): { spacing: number; azimuth: number } {
  const across = e - w >= n - s ? 0 : 90;
  if (sections === undefined) return { spacing: spacingFor(Math.max(e - w, n - s)), azimuth: across };
  if (typeof sections === "number") return { spacing: sections, azimuth: across };
  return { spacing: sections.spacing, azimuth: ("azimuth" in sections ? sections.azimuth : undefined) ?? across };
}

/** Calls `take` for each stretch along each of some parallel lines on which the difference is linear. */
function along(
  pair: Pair,
  lines: ParallelLines,
  take: (line: number, from: number, to: number, d0: number, d1: number) => void,
): void {
  const first = cutsOf(pair.from, lines),
    second = typeof pair.to === "number" ? pair.to : cutsOf(pair.to, lines),
    within =
      pair.within &&
      withinRings(
        pair.within.areaRings.map(({ ring }) => ring),
        lines,
      );
  first.forEach((cut, k) =>
    differenceAlong(cut, typeof second === "number" ? second : second[k]!, within?.[k], (...stretch) =>
      take(k, ...stretch),
    ),
  );
}

/**
 * Average end areas: V = Σ (A₁ + A₂)/2 · distance, over sections at multiples of the spacing across the box and just
 * within its two ends. Undefined where nothing is in common, or where the sections would be too many.
 */
export function endAreas(pair: Pair, wanted: { spacing: number; azimuth: number }, deadband = 0): EndAreas | undefined {
  const box = boxOf(pair);
  if (!box) return undefined;
  const [w, s, e, n] = box,
    origin = [w, s] as const,
    { across } = frameOf(wanted),
    reach = [across(0, 0), across(e - w, 0), across(0, n - s), across(e - w, n - s)],
    [low, high] = [Math.min(...reach), Math.max(...reach)],
    inside = 1e-9 * (high - low),
    at = [low + inside];
  if ((high - low) / wanted.spacing > MOST_SECTIONS) return undefined;
  for (let k = Math.floor(low / wanted.spacing) + 1; k * wanted.spacing < high - inside; k++)
    if (k * wanted.spacing > low + inside) at.push(k * wanted.spacing);
  at.push(high - inside);
  const sections = at.map((x) => ({ at: x, cut: 0, fill: 0 })),
    just = justOf(pair);
  along(pair, { origin, azimuth: wanted.azimuth, at: Float64Array.from(at) }, (k, from, to, d0, d1) => {
    sections[k]!.fill += areaAbove(to - from, d0, d1, deadband, just);
    sections[k]!.cut += areaAbove(to - from, -d0, -d1, deadband, just);
  });
  return { spacing: wanted.spacing, lie: { azimuth: wanted.azimuth }, sections, ...between(sections) };
}

/** V = Σ (A₁ + A₂)/2 · distance. */
function between(sections: EndAreas["sections"]): Opinion {
  const cut = new Sum(),
    fill = new Sum();
  for (let k = 1; k < sections.length; k++) {
    const [a, b] = [sections[k - 1]!, sections[k]!],
      half = (b.at - a.at) / 2;
    cut.add((a.cut + b.cut) * half);
    fill.add((a.fill + b.fill) * half);
  }
  return { cut: cut.value, fill: fill.value };
}

/**
 * Average end areas at stations of a line: sections across it at multiples of the spacing and at its ends, so far to either
 * side. What lies beyond its ends or its sides is not in them; along a bend each counts with the distance on the line.
 */
export function endAreasAcross(
  pair: Pair,
  axis: AlongWay,
  { spacing, half }: { spacing: number; half?: number | undefined },
  deadband = 0,
): EndAreas | undefined {
  const box = boxOf(pair),
    stations = axis.even(spacing, MOST_SECTIONS);
  if (!box || !stations) return undefined;
  const [w, s, e, n] = box,
    // Far enough to leave what is compared on either side, from wherever the line is.
    reach = half ?? farthest(axis, stations, box),
    just = justOf(pair),
    // A section on the very edge of what is compared is one just within it.
    inside = 1e-9 * (axis.end - axis.start);
  const sections = stations.map((station) => {
    const { e: oe, n: on, azimuth } = axis.at(Math.min(axis.end - inside, Math.max(axis.start + inside, station)))!,
      right = azimuth + Math.PI / 2,
      [de, dn] = [reach * Math.sin(right), reach * Math.cos(right)],
      lines: ParallelLines = { origin: [oe, on], azimuth: (right * 180) / Math.PI, at: new Float64Array(1) },
      near = [
        Math.max(w, oe - Math.abs(de)),
        Math.max(s, on - Math.abs(dn)),
        Math.min(e, oe + Math.abs(de)),
        Math.min(n, on + Math.abs(dn)),
      ] as const,
      section = { at: station, cut: 0, fill: 0 };
    if (near[0] > near[2] || near[1] > near[3]) return section;
    const cutOf = (surface: Surface) => cutsOf(surface, lines, trianglesNear(surface, near))[0]!,
      rings = pair.within?.areaRings.map(({ ring }) => ring);
    differenceAlong(
      cutOf(pair.from),
      typeof pair.to === "number" ? pair.to : cutOf(pair.to),
      clipped(rings && withinRings(rings, lines)[0]!, reach),
      (from, to, d0, d1) => {
        section.fill += areaAbove(to - from, d0, d1, deadband, just);
        section.cut += areaAbove(to - from, -d0, -d1, deadband, just);
      },
    );
    return section;
  });
  return { spacing, lie: { half: reach, from: axis.start, to: axis.end }, sections, ...between(sections) };
}

/** The largest distance from places of a line to the corners of a box. */
function farthest(
  axis: AlongWay,
  stations: readonly number[],
  [w, s, e, n]: readonly [number, number, number, number],
) {
  let far = 0;
  for (const station of stations) {
    const at = axis.at(station)!;
    for (const x of [w, e]) for (const y of [s, n]) far = Math.max(far, Math.hypot(x - at.e, y - at.n));
  }
  return far;
}

/** Stretches from, to within so far to either side. */
function clipped(stretches: Float64Array | undefined, half: number): Float64Array {
  if (!stretches) return Float64Array.of(-half, half);
  const out: number[] = [];
  for (let k = 0; k + 1 < stretches.length; k += 2) {
    const [from, to] = [Math.max(-half, stretches[k]!), Math.min(half, stretches[k + 1]!)];
    if (to > from) out.push(from, to);
  }
  return Float64Array.from(out);
}

/** ∫d over the part of a stretch where the linear d is above t, and not just at it. */
function areaAbove(length: number, d0: number, d1: number, t: number, just: number): number {
  const [a, b] = [d0 - t, d1 - t];
  if (a <= just && b <= just) return 0;
  if (a >= 0 && b >= 0) return (length * (d0 + d1)) / 2;
  const top = Math.max(a, b),
    part = (length * top) / Math.abs(a - b);
  return part * (top / 2 + t);
}

/**
 * A grid of square cells of about `cells` in the box: each cell counts with the difference at its middle. Its rows are
 * sections, so that every level is one of the surfaces' own.
 */
export function gridOpinion(pair: Pair, deadband = 0, cells = 250_000): GridOpinion | undefined {
  const box = boxOf(pair);
  if (!box) return undefined;
  const [w, s, e, n] = box,
    cell = Math.max(Math.sqrt(((e - w) * (n - s)) / cells), Math.max(e - w, n - s) / MOST_SECTIONS),
    rows = Math.ceil((n - s) / cell),
    // Lines that run east lie the more to the right the farther south they are.
    at = Float64Array.from({ length: rows }, (_, k) => -(rows - k - 0.5) * cell),
    cut = new Sum(),
    fill = new Sum(),
    least = deadband + justOf(pair);
  let count = 0;
  along(pair, { origin: [w, s], azimuth: 90, at }, (_, from, to, d0, d1) => {
    for (let col = Math.ceil(from / cell - 0.5); (col + 0.5) * cell < to; col++) {
      const d = d0 + (((col + 0.5) * cell - from) / (to - from)) * (d1 - d0);
      count++;
      if (d > least) fill.add(d);
      else if (d < -least) cut.add(-d);
    }
  });
  return { cell, cells: count, cut: cut.value * cell * cell, fill: fill.value * cell * cell };
}

/** Second opinions beside an exact figure: average end areas over parallel sections, and a fine grid. */
import { Sum } from "../math/sum";
import type { Surface } from "../surface/model";
import type { VolumeRecipe } from "./model";
import { justOf, type Pair } from "./overlay";
import { cutsOf, differenceAlong, frameOf, withinRings, type ParallelLines } from "./parallel";

export interface Opinion {
  cut: number;
  fill: number;
}

export interface EndAreas extends Opinion {
  spacing: number;
  /** Azimuth along which the sections lie, degrees. */
  azimuth: number;
  /** Each section: how far to the right of the first corner of the box, and what it cuts and fills. */
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
  return { spacing: sections.spacing, azimuth: sections.azimuth ?? across };
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
  const cut = new Sum(),
    fill = new Sum();
  for (let k = 1; k < sections.length; k++) {
    const [a, b] = [sections[k - 1]!, sections[k]!],
      half = (b.at - a.at) / 2;
    cut.add((a.cut + b.cut) * half);
    fill.add((a.fill + b.fill) * half);
  }
  return { ...wanted, sections, cut: cut.value, fill: fill.value };
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

/** How the ground between points is seen: plain, in bands of level, or in classes of slope with arrows of fall. */
import type { GroundSeen } from "../lib/state/choices";
import { lengthText, type Unit } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { longestSides } from "@bramble/core/surface/mesh";
import type { Surface } from "@bramble/core/surface/model";
import { toPixel, toPlan, type PlanView } from "./camera";
import { roundStep } from "@bramble/core/math/round-step";
import { readerOf } from "./surface-reader";
import type { SheetColors } from "../lib/theme";

/** What a legend says of the classes. */
export const GROUND_LEGEND: Record<GroundSeen, string> = {
  plain: "",
  levels: "by level",
  slopes: "by slope, arrows down it",
  spacing: "by how far its shots are apart",
};

/** Classes from the lowest: the class after edge k begins there. */
export interface GroundClasses {
  edges: number[];
  classes: { name: string; color: string; area?: number }[];
}

/** Colours of our own from low to high, and from flat to steep: darker as they rise, so that grey paper tells them too. */
const BY_LEVEL = ["#e3e6d2", "#c0cfae", "#b9ba8c", "#c6ad7a", "#bf8f66", "#a9705d", "#8f5a64"],
  BY_SPACING = ["#dfe5d4", "#cdc79b", "#c08a4e", "#7c3540"],
  BY_SLOPE = ["#ece6d6", "#ddd6ac", "#cdbf82", "#c9a25c", "#bd7c42", "#a55736", "#7f3331", "#4d1c2c"];
/** Rise over run. */
const SLOPES = [0.02, 0.05, 0.1, 0.2, 1 / 3, 0.5, 1];
/** Bands of level are no more than this. */
const BANDS = 12;
/** How much of a class's colour covers the paper, so that what is drawn on it stays readable. */
export const STRENGTH = 0.75;
export const MOST_CLASSES = 24;

const kept = new WeakMap<Surface, Map<string, GroundClasses>>();

/**
 * The classes of a surface; undefined where it is seen plain. `apart`: how far shots may be apart at most in this job,
 * 0 where nobody said.
 */
export function classesOf(surface: Surface, seen: GroundSeen, unit: Unit, apart: number): GroundClasses | undefined {
  if (seen === "plain") return undefined;
  let known = kept.get(surface);
  if (!known) kept.set(surface, (known = new Map()));
  const key = seen === "spacing" ? `spacing ${apart}` : seen;
  let classes = known.get(key);
  if (!classes) {
    if (seen === "levels") classes = levelsOf(surface, unit);
    else classes = seen === "slopes" ? slopesOf(surface) : spacingsOf(surface, apart, unit);
    known.set(key, classes);
  }
  return classes;
}

/** What is shown of each triangle where it is one value all over; undefined where it varies from corner to corner. */
export function valuesOf(surface: Surface, seen: GroundSeen): Float32Array | undefined {
  return seen === "spacing" ? longestSides(surface) : undefined;
}

/** How far apart the shots are between which a triangle spans: half, once and twice what is wanted. */
function spacingsOf(s: Surface, apart: number, unit: Unit): GroundClasses {
  const sides = longestSides(s),
    // Where nobody said what is wanted, twice the middle one.
    wanted = apart || roundStep(2 * (sides.slice().sort()[sides.length >> 1] || 1)),
    edges = [wanted / 2, wanted, 2 * wanted],
    areas = BY_SPACING.map(() => 0);
  const { tri, x, y } = s;
  sides.forEach((side, t) => {
    const [a, b, c] = [tri[3 * t]!, tri[3 * t + 1]!, tri[3 * t + 2]!];
    areas[edges.filter((edge) => side >= edge).length]! +=
      ((x[b]! - x[a]!) * (y[c]! - y[a]!) - (y[b]! - y[a]!) * (x[c]! - x[a]!)) / 2;
  });
  const say = edges.map((edge) => lengthText(edge, unit, 1)),
    names = [`less than ${say[0]}`, `${say[0]} to ${say[1]}`, `${say[1]} to ${say[2]}`, `more than ${say[2]}`];
  return { edges, classes: names.map((name, k) => ({ name, color: BY_SPACING[k]!, area: areas[k]! })) };
}

function levelsOf({ z }: Surface, unit: Unit): GroundClasses {
  let [low, high] = [Infinity, -Infinity];
  for (const level of z) {
    if (level < low) low = level;
    if (level > high) high = level;
  }
  const step = roundStep((high - low) / BANDS || 1);
  const edges: number[] = [];
  for (let k = Math.floor(low / step) + 1; k * step < high && edges.length < MOST_CLASSES - 1; k++)
    edges.push(k * step);
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9)),
    say = (x: number) => formatFixed(x, decimals);
  const names =
    edges.length === 0
      ? [`${formatFixed(low, 3)} ${unit}`]
      : [
          `below ${say(edges[0]!)} ${unit}`,
          ...edges.slice(1).map((to, k) => `${say(edges[k]!)} to ${say(to)} ${unit}`),
          `above ${say(edges.at(-1)!)} ${unit}`,
        ];
  return {
    edges,
    classes: names.map((name, k) => ({ name, color: between(BY_LEVEL, k / Math.max(1, names.length - 1)) })),
  };
}

/** Rise over run of each triangle, by its plane. */
export function slopesOfTriangles({ tri, x, y, z }: Surface): Float64Array {
  const out = new Float64Array(tri.length / 3);
  for (let h = 0; h < tri.length; h += 3) {
    const [a, b, c] = [tri[h]!, tri[h + 1]!, tri[h + 2]!];
    const [bx, by, bz] = [x[b]! - x[a]!, y[b]! - y[a]!, z[b]! - z[a]!],
      [cx, cy, cz] = [x[c]! - x[a]!, y[c]! - y[a]!, z[c]! - z[a]!];
    out[h / 3] = Math.hypot(bz * cy - by * cz, bx * cz - bz * cx) / (bx * cy - by * cx);
  }
  return out;
}

function slopesOf(s: Surface): GroundClasses {
  const areas = BY_SLOPE.map(() => 0),
    { tri, x, y } = s;
  slopesOfTriangles(s).forEach((slope, t) => {
    const [a, b, c] = [tri[3 * t]!, tri[3 * t + 1]!, tri[3 * t + 2]!];
    let k = 0;
    while (k < SLOPES.length && slope >= SLOPES[k]!) k++;
    areas[k]! += ((x[b]! - x[a]!) * (y[c]! - y[a]!) - (y[b]! - y[a]!) * (x[c]! - x[a]!)) / 2;
  });
  const say = (s: number) => `${formatFixed(100 * s, 0)} %`;
  return {
    edges: SLOPES,
    classes: BY_SLOPE.map((color, k) => ({
      name:
        k === 0
          ? `below ${say(SLOPES[0]!)}`
          : k === SLOPES.length
            ? `above ${say(SLOPES.at(-1)!)}`
            : `${formatFixed(100 * SLOPES[k - 1]!, 0)} to ${say(SLOPES[k]!)}`,
      color,
      area: areas[k]!,
    })),
  };
}

/** A colour of a ramp at a share of it. */
function between(ramp: readonly string[], share: number): string {
  const at = share * (ramp.length - 1),
    k = Math.min(ramp.length - 2, Math.floor(at)),
    part = (color: string, shift: number) => (Number.parseInt(color.slice(1), 16) >> shift) & 255;
  return `#${[16, 8, 0]
    .map((shift) => {
      const [a, b] = [part(ramp[k]!, shift), part(ramp[k + 1]!, shift)];
      return Math.round(a + (at - k) * (b - a))
        .toString(16)
        .padStart(2, "0");
    })
    .join("")}`;
}

/** Pixels between arrows at least, and how long they are. */
const APART = 44,
  LENGTH = 15;
/** Flatter ground than this has no arrow. */
const FLAT = 0.005;

/** Arrows down the slope, at positions of a grid that stay where they are when the sheet moves. */
export function drawFall(ctx: CanvasRenderingContext2D, v: PlanView, surface: Surface, colors: SheetColors): void {
  const step = roundStep(APART / v.scale);
  const [west, north] = toPlan(v, 0, 0),
    [east, south] = toPlan(v, v.width, v.height),
    reader = readerOf(surface);
  ctx.strokeStyle = colors.ink;
  ctx.globalAlpha = 0.75;
  ctx.lineWidth = 1;
  ctx.beginPath();
  for (let e = Math.ceil(west / step) * step; e <= east; e += step)
    for (let n = Math.ceil(south / step) * step; n <= north; n += step) {
      const under = reader.at(e, n);
      if (!under || under.slope < FLAT) continue;
      const [px, py] = toPixel(v, e, n),
        [dx, dy] = [Math.sin(under.fall), -Math.cos(under.fall)],
        [tx, ty] = [px + (dx * LENGTH) / 2, py + (dy * LENGTH) / 2];
      ctx.moveTo(px - (dx * LENGTH) / 2, py - (dy * LENGTH) / 2);
      ctx.lineTo(tx, ty);
      for (const way of [-1, 1]) {
        ctx.moveTo(tx, ty);
        ctx.lineTo(tx - 4 * dx - 3 * way * dy, ty - 4 * dy + 3 * way * dx);
      }
    }
  ctx.stroke();
  ctx.globalAlpha = 1;
}

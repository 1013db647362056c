/** How much a comparison's figures move with each level that they rest on: weights w = ∂V/∂z (COMPUTATION.md, "Volumes"). */
import type { Surface } from "../surface/model";
import type { ComparedPair } from "./measure";
import { NEAR, Overlay } from "./overlay";

/** Volume for one unit of level, by vertex of a surface. */
export interface Weights {
  surface: Surface;
  cut: Float64Array;
  fill: Float64Array;
}

/**
 * Weights of the vertices of the surfaces compared, the first's and, where the second is measured too, the second's; of a
 * heap those of the ground alone, on which its base rests. `area` takes one of the areas alone.
 *
 * With d = to − from: ∂fill/∂z = ±∫φ over d > t, φ falling from 1 at the vertex to 0 at its neighbours; with a deadband
 * t also ± t ∫φ/|∇d| along d = t, since what lies there begins to count.
 */
export function weightsOf(pair: ComparedPair, deadband = 0, area?: number): Weights[] {
  const { from, to } = pair,
    overlay = new Overlay(pair, deadband),
    first = noWeights(from),
    second = typeof to === "number" ? undefined : noWeights(to),
    taken = pair.within?.holding.map((holds) => (area === undefined ? holds.length > 0 : holds.includes(area)));
  let h = 0;
  const part = new PartBeyond();
  const take = (count: number, of: number) => {
    if (taken && !taken[of]) return;
    for (const sign of [1, -1]) {
      part.of(overlay, count, sign);
      if (part.area === 0) continue;
      spread(first, h, sign > 0, -sign * part.area, part.u, part.v);
      if (!second) continue;
      const [u, v] = sharesInOther(overlay, part.u, part.v);
      spread(second, 3 * overlay.other, sign > 0, sign * part.area, u, v);
    }
  };
  for (; h < from.tri.length; h += 3) overlay.pieces(h, take);
  const { base } = pair;
  if (!base || !second) return second ? [first, second] : [first];
  // The base's levels are the ground's.
  for (let v = 0; v < base.surface.x.length; v++)
    for (let k = 3 * v; k < 3 * v + 3; k++) {
      first.cut[base.from[k]!]! += base.share[k]! * second.cut[v]!;
      first.fill[base.from[k]!]! += base.share[k]! * second.fill[v]!;
    }
  return [first];
}

function noWeights(surface: Surface): Weights {
  return { surface, cut: new Float64Array(surface.x.length), fill: new Float64Array(surface.x.length) };
}

/** Gives a weight at a position in a triangle to its corners. */
function spread(w: Weights, h: number, isFill: boolean, weight: number, u: number, v: number): void {
  const { tri } = w.surface,
    to = isFill ? w.fill : w.cut;
  to[tri[h]!]! += weight * u;
  to[tri[h + 1]!]! += weight * v;
  to[tri[h + 2]!]! += weight * (1 - u - v);
}

/** A position's shares of the first triangle → its shares of the other one. */
function sharesInOther({ touching, slot }: Overlay, u: number, v: number): [number, number] {
  const c = touching!.corners,
    g = 6 * slot,
    [pu, pv, qu, qv, ru, rv] = [c[g]!, c[g + 1]!, c[g + 2]!, c[g + 3]!, c[g + 4]!, c[g + 5]!],
    det = (pu - ru) * (qv - rv) - (qu - ru) * (pv - rv);
  return [((qv - rv) * (u - ru) + (ru - qu) * (v - rv)) / det, ((rv - pv) * (u - ru) + (pu - ru) * (v - rv)) / det];
}

/**
 * The part of a piece where sign · d > t: a weight, equal to its area and what its end at t adds, and the position (u, v)
 * at which that weight acts.
 */
class PartBeyond {
  area = 0;
  u = 0;
  v = 0;
  private readonly us = new Float64Array(20);
  private readonly vs = new Float64Array(20);

  of(overlay: Overlay, count: number, sign: number): void {
    const { uvd, doubled, deadband: t } = overlay,
      { us, vs } = this,
      ends: number[] = [];
    let n = 0,
      least = Infinity,
      most = -Infinity;
    for (let i = 0; i < count; i++) {
      least = Math.min(least, uvd[3 * i + 2]!);
      most = Math.max(most, uvd[3 * i + 2]!);
    }
    this.area = 0;
    if (overlay.kindWithin(least, most) === NEAR) return;
    for (let i = 0, j = count - 1; i < count; j = i++) {
      const a = sign * uvd[3 * j + 2]! - t,
        b = sign * uvd[3 * i + 2]! - t;
      if (a > 0 !== b > 0) {
        const s = a / (a - b);
        us[n] = uvd[3 * j]! + s * (uvd[3 * i]! - uvd[3 * j]!);
        vs[n] = uvd[3 * j + 1]! + s * (uvd[3 * i + 1]! - uvd[3 * j + 1]!);
        ends.push(us[n]!, vs[n]!);
        n++;
      }
      if (b > 0) {
        us[n] = uvd[3 * i]!;
        vs[n++] = uvd[3 * i + 1]!;
      }
    }
    let area = 0,
      mu = 0,
      mv = 0;
    for (let k = 2; k < n; k++) {
      const plan = ((us[k - 1]! - us[0]!) * (vs[k]! - vs[0]!) - (us[k]! - us[0]!) * (vs[k - 1]! - vs[0]!)) / 2;
      area += plan;
      mu += (plan * (us[0]! + us[k - 1]! + us[k]!)) / 3;
      mv += (plan * (vs[0]! + vs[k - 1]! + vs[k]!)) / 3;
    }
    if (t > 0 && ends.length === 4) {
      const steep = steepness(uvd, count),
        edge = steep > 0 ? (t * Math.hypot(ends[2]! - ends[0]!, ends[3]! - ends[1]!)) / steep : 0;
      area += edge;
      mu += (edge * (ends[0]! + ends[2]!)) / 2;
      mv += (edge * (ends[1]! + ends[3]!)) / 2;
    }
    this.area = area * doubled;
    this.u = area === 0 ? 0 : mu / area;
    this.v = area === 0 ? 0 : mv / area;
  }
}

/** |∇d| of a piece in shares: of the widest triangle that its corners make with the first. */
function steepness(uvd: Float64Array, count: number): number {
  let widest = 0,
    steep = 0;
  for (let k = 2; k < count; k++) {
    const [p, q, e] = [uvd[3 * k - 3]! - uvd[0]!, uvd[3 * k - 2]! - uvd[1]!, uvd[3 * k - 1]! - uvd[2]!],
      [r, s, f] = [uvd[3 * k]! - uvd[0]!, uvd[3 * k + 1]! - uvd[1]!, uvd[3 * k + 2]! - uvd[2]!],
      det = p * s - r * q;
    if (Math.abs(det) <= widest) continue;
    widest = Math.abs(det);
    steep = Math.hypot((e * s - f * q) / det, (p * f - r * e) / det);
  }
  return steep;
}

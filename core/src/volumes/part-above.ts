/** The part of a triangle where a linear quantity is above zero: what every figure is made of. */

/** Area of the part, and ∫d over it, of the last call. */
export const above = { area: 0, volume: 0 };

/**
 * Where the linear d (its values at the three corners given) is > 0, over a triangle of plan area `plan`: into `above`.
 * One corner above: the part is a triangle, its area a·b of the whole, where a and b are the shares of the two sides
 * above. Two above: the whole less the corner below.
 */
export function partAbove(plan: number, d0: number, d1: number, d2: number): void {
  if (d0 <= 0 && d1 <= 0 && d2 <= 0) {
    above.area = above.volume = 0;
    return;
  }
  const whole = (plan * (d0 + d1 + d2)) / 3;
  if (d0 >= 0 && d1 >= 0 && d2 >= 0) {
    above.area = plan;
    above.volume = whole;
    return;
  }
  const aloneAbove = (d0 > 0 ? 1 : 0) + (d1 > 0 ? 1 : 0) + (d2 > 0 ? 1 : 0) === 1;
  // The corner that is alone on its side, then the two others.
  let a = d0,
    b = d1,
    c = d2;
  if (aloneAbove ? d1 > 0 : d1 < 0) {
    a = d1;
    b = d2;
    c = d0;
  } else if (aloneAbove ? d2 > 0 : d2 < 0) {
    a = d2;
    b = d0;
    c = d1;
  }
  const share = (a / (a - b)) * (a / (a - c)),
    corner = (plan * share * a) / 3;
  above.area = aloneAbove ? plan * share : plan * (1 - share);
  above.volume = aloneAbove ? corner : whole - corner;
}

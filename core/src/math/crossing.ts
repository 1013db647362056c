/** Segments that cross in plan. */
import { side } from "./predicates";

/** The position where two segments cross in the inside of both, by exact signs; undefined where they do not. */
export function properCrossing(
  ae: number,
  an: number,
  be: number,
  bn: number,
  ce: number,
  cn: number,
  de: number,
  dn: number,
): [number, number] | undefined {
  const c = side(ae, an, be, bn, ce, cn),
    d = side(ae, an, be, bn, de, dn);
  if (!(c * d < 0)) return undefined;
  if (!(side(ce, cn, de, dn, ae, an) * side(ce, cn, de, dn, be, bn) < 0)) return undefined;
  const share = c / (c - d);
  return [ce + share * (de - ce), cn + share * (dn - cn)];
}

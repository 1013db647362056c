/** Points that an edit keeps out of surfaces while no ground is known beside them. */
import type { CodedPoints } from "../codes/read";
import { notice, pts, say, type Noticed } from "../finding";
import { pointIndex } from "../math/near";
import { lengthText, type Unit } from "../math/units";
import type { PointTable } from "../points/table";

const OUT = 2;

/** `reach`, in the job's unit: so near a ground shot is expected beside a mark whose own level is not the ground's. */
export function noGroundNear(
  t: Pick<PointTable, "count" | "e" | "n" | "z" | "surface" | "deleted">,
  coded: Pick<CodedPoints, "ground">,
  reach: number,
  unit: Unit,
): Noticed[] {
  const out: Noticed[] = [];
  for (let i = 0; i < t.count; i++) {
    if (t.surface[i] !== OUT || t.deleted[i]) continue;
    const [e, n] = [t.e[i]!, t.n[i]!];
    const near = pointIndex(t).range(e - reach, n - reach, e + reach, n + reach);
    const isGround = (k: number) =>
      coded.ground[k] === 1 && !Number.isNaN(t.z[k]!) && Math.hypot(t.e[k]! - e, t.n[k]! - n) <= reach;
    if (near.some(isGround)) continue;
    const words = [
      ...say`Point ${pts(i)} is kept out of surfaces and no ground was shot within ${lengthText(reach, unit, 0)} of it: `,
      "the surface passes there by what lies farther off.",
    ];
    out.push(notice("no-ground-near", "note", words, { points: [i], at: [e, n] }));
  }
  return out;
}

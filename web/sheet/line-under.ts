/** What a line is under the cursor: its own level there and how it rises, along its way. */
import type { View } from "../lib/view";

export interface LineUnder {
  /** Its own level at the position on it that is nearest; NaN where it has none. */
  level: number;
  /** Rise over run of its piece there, in the direction of the line. */
  gradient: number;
}

export function lineUnder({ chains: { xyz, starts } }: View, line: number, e: number, n: number): LineUnder {
  let best: LineUnder = { level: NaN, gradient: NaN },
    least = Infinity;
  for (let i = starts[line]! + 1; i < (starts[line + 1] ?? 0); i++) {
    const [ae, an, az] = [xyz[3 * i - 3]!, xyz[3 * i - 2]!, xyz[3 * i - 1]!],
      [de, dn, dz] = [xyz[3 * i]! - ae, xyz[3 * i + 1]! - an, xyz[3 * i + 2]! - az],
      run = Math.hypot(de, dn),
      share = run === 0 ? 0 : Math.min(1, Math.max(0, ((e - ae) * de + (n - an) * dn) / (run * run))),
      far = Math.hypot(ae + share * de - e, an + share * dn - n);
    if (!(far < least)) continue;
    least = far;
    best = { level: az + share * dz, gradient: run === 0 ? NaN : dz / run };
  }
  return best;
}

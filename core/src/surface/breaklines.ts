/** Fixed breaklines as chains of positions whose levels are all known (RECIPE.md, "SURFACE"). */
import type { Chains } from "../lines/flatten";
import { pts, say } from "../finding";
import type { Line } from "../lines/model";
import type { Refused } from "./model";

export interface BreakChain {
  line: number;
  /** `own` where the level is the shot's; else it was taken linearly from the neighbours on the line. */
  positions: { e: number; n: number; z: number; shot: number; own: boolean }[];
}

/**
 * A position without a usable level keeps its plan position and takes its level linearly by plan length between the
 * usable ones either side; at the ends, where there is none, the piece is refused by name.
 */
export function fixedChains(
  indices: readonly number[],
  lines: readonly Line[],
  chains: Chains,
  refused: Refused[],
): BreakChain[] {
  const { xyz, shot, starts } = chains;
  const out: BreakChain[] = [];
  for (const line of indices) {
    const from = starts[line]!,
      to = starts[line + 1]!;
    const positions: BreakChain["positions"] = [];
    for (let i = from; i < to; i++) {
      positions.push({
        e: xyz[3 * i]!,
        n: xyz[3 * i + 1]!,
        z: xyz[3 * i + 2]!,
        shot: shot[i]!,
        own: shot[i]! >= 0 && !Number.isNaN(xyz[3 * i + 2]!),
      });
    }
    if (lines[line]!.closed) startAtKnown(positions);
    const known = positions.flatMap((p, k) => (Number.isNaN(p.z) ? [] : [k]));
    const name = say`breakline ${{ line }}`;
    if (positions.length < 2) continue;
    if (known.length < 2 && known.length < positions.length) {
      refused.push({
        what: name,
        why: [known.length ? "only one of its shots has a usable level" : "none of its shots has a usable level"],
      });
      continue;
    }
    for (let k = 1; k < known.length; k++) interpolate(positions, known[k - 1]!, known[k]!);
    const first = known[0]!,
      last = known.at(-1)!;
    for (const [cut, end] of [
      [first > 0, positions[0]],
      [last < positions.length - 1, positions.at(-1)],
    ] as const) {
      if (cut)
        refused.push({
          what: name,
          why:
            end!.shot >= 0
              ? say`its end at point ${pts(end!.shot)} has no usable level`
              : ["its end has no usable level"],
        });
    }
    out.push({ line, positions: positions.slice(first, last + 1) });
  }
  return out;
}

/** A ring has no ends: it is turned so that it begins, and so ends, at a position whose level is known. */
function startAtKnown(positions: BreakChain["positions"]): void {
  const first = positions.findIndex((p) => !Number.isNaN(p.z));
  if (first <= 0) return;
  positions.pop();
  positions.push(...positions.splice(0, first));
  positions.push({ ...positions[0]! });
}

function interpolate(positions: BreakChain["positions"], a: number, b: number): void {
  if (b === a + 1) return;
  const along = [0];
  for (let k = a + 1; k <= b; k++)
    along.push(
      along.at(-1)! + Math.hypot(positions[k]!.e - positions[k - 1]!.e, positions[k]!.n - positions[k - 1]!.n),
    );
  const whole = along.at(-1)!;
  for (let k = a + 1; k < b; k++) {
    const t = whole === 0 ? 0 : along[k - a]! / whole;
    positions[k]!.z = positions[a]!.z + t * (positions[b]!.z - positions[a]!.z);
  }
}

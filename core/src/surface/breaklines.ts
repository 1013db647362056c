/** Fixed breaklines as chains of places whose levels are all known (RECIPE.md, "SURFACE"). */
import type { Chains } from "../lines/flatten";
import { pts, say } from "../finding";
import type { Line } from "../lines/model";
import type { Refused } from "./model";

export interface BreakChain {
  line: number;
  /** `own` where the level is the shot's; else it was taken linearly from the neighbours on the line. */
  places: { e: number; n: number; z: number; shot: number; own: boolean }[];
}

/**
 * A place without a usable level keeps its plan position and takes its level linearly by plan length between the
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
    const places: BreakChain["places"] = [];
    for (let i = from; i < to; i++) {
      places.push({
        e: xyz[3 * i]!,
        n: xyz[3 * i + 1]!,
        z: xyz[3 * i + 2]!,
        shot: shot[i]!,
        own: shot[i]! >= 0 && !Number.isNaN(xyz[3 * i + 2]!),
      });
    }
    if (lines[line]!.closed) startAtKnown(places);
    const known = places.flatMap((p, k) => (Number.isNaN(p.z) ? [] : [k]));
    const name = say`breakline ${{ line }}`;
    if (places.length < 2) continue;
    if (known.length < 2 && known.length < places.length) {
      refused.push({
        what: name,
        why: [known.length ? "only one of its shots has a usable level" : "none of its shots has a usable level"],
      });
      continue;
    }
    for (let k = 1; k < known.length; k++) interpolate(places, known[k - 1]!, known[k]!);
    const first = known[0]!,
      last = known.at(-1)!;
    for (const [cut, end] of [
      [first > 0, places[0]],
      [last < places.length - 1, places.at(-1)],
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
    out.push({ line, places: places.slice(first, last + 1) });
  }
  return out;
}

/** A ring has no ends: it is turned so that it begins, and so ends, at a place whose level is known. */
function startAtKnown(places: BreakChain["places"]): void {
  const first = places.findIndex((p) => !Number.isNaN(p.z));
  if (first <= 0) return;
  places.pop();
  places.push(...places.splice(0, first));
  places.push({ ...places[0]! });
}

function interpolate(places: BreakChain["places"], a: number, b: number): void {
  if (b === a + 1) return;
  const along = [0];
  for (let k = a + 1; k <= b; k++)
    along.push(along.at(-1)! + Math.hypot(places[k]!.e - places[k - 1]!.e, places[k]!.n - places[k - 1]!.n));
  const whole = along.at(-1)!;
  for (let k = a + 1; k < b; k++) {
    const t = whole === 0 ? 0 : along[k - a]! / whole;
    places[k]!.z = places[a]!.z + t * (places[b]!.z - places[a]!.z);
  }
}

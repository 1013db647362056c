/**
 * How the sheet looks at the survey now: some points alone with the rest faint, and colours by what things mean instead
 * of by their code. It never touches what is handed over.
 */
import type { ColorBy } from "../lib/state/choices";
import { KINDS } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { rowOf } from "@bramble/core/points/table";
import type { Store } from "../lib/state/store";

/** One colour of the legend. */
export interface Class {
  name: string;
  color: string;
  count: number;
}

export interface Meaning {
  classes: readonly Class[];
  /** Class of each point's row. */
  of: Uint8Array;
  /** Class of each line; of its first shot unless the line itself has one. */
  ofLine(line: number): number;
}

/** Colours of our own that differ in lightness too, so that they are told apart in grey. */
const APART = ["#7c1f4f", "#2f7fa8", "#c98a2b", "#3f6b35", "#9a6fb5", "#8c3b1f", "#2f8f7f", "#55504a"];
const RISING = ["#2b4a7d", "#3f7f9c", "#5fa08f", "#93b06a", "#cfae4f", "#cc7f3f", "#a84a3a"];
const PALE = "#a59c90",
  GREEN = "#3f7a3a",
  RED = "#b3261e",
  AMBER = "#b3701a";
/** More classes than colours share the last. */
const last = (k: number) => Math.min(k, APART.length - 1);

type Source = Pick<Store, "job" | "view" | "setRows">;
let kept: { by: ColorBy; reads: readonly unknown[]; meaning: Meaning | undefined } | undefined;

/** What the colours mean; undefined where they are those of the codes. */
export function meaningOf(by: ColorBy, s: Source): Meaning | undefined {
  if (by === "code") return undefined;
  const { job, view } = s,
    t = job.points;
  const reads = [t.intake, t.kind, t.z, t.deleted, job.intakes, view.ground, view.lines, view.findings, s.setRows];
  if (kept?.by === by && kept.reads.every((x, k) => x === reads[k])) return kept.meaning;
  const meaning = made(by, s);
  kept = { by, reads, meaning };
  return meaning;
}

function made(by: Exclude<ColorBy, "code">, { job, view, setRows }: Source): Meaning {
  const t = job.points,
    of = new Uint8Array(t.count);
  const classed = (names: readonly string[], colors: readonly string[], ofLine?: Meaning["ofLine"]): Meaning => {
    const counts = names.map(() => 0);
    for (let i = 0; i < t.count; i++) if (!t.deleted[i]) counts[of[i]!]!++;
    return {
      classes: names.map((name, k) => ({ name, color: colors[k]!, count: counts[k]! })),
      of,
      ofLine: ofLine ?? ((l) => of[view.lines[l]!.shots.find((i) => i >= 0) ?? -1] ?? 0),
    };
  };
  const byName = (names: readonly string[], at: (i: number) => number) => {
    for (let i = 0; i < t.count; i++) of[i] = last(at(i));
    const shown = names.length > APART.length ? [...names.slice(0, APART.length - 1), "others"] : names;
    return classed(shown, APART);
  };
  switch (by) {
    case "crew": {
      const crews = job.intakes.map((k) => k.crew ?? k.file),
        names = [...new Set(crews), "the office"];
      return byName(names, (i) => (t.intake[i]! < 0 ? names.length - 1 : names.indexOf(crews[t.intake[i]!]!)));
    }
    case "kind":
      return byName(KINDS, (i) => t.kind[i]!);
    case "ground":
      for (let i = 0; i < t.count; i++) of[i] = view.ground[i] ? 0 : 1;
      return classed(["ground", "not ground"], [GREEN, AMBER]);
    case "breakline": {
      const names = ["fixed breakline", "draped breakline", "no breakline"],
        kinds = ["fixed", "draped"],
        classOf = (l: number) => (kinds.indexOf(view.lines[l]!.breakline) + 3) % 3;
      of.fill(2);
      view.lines.forEach((l, k) => {
        for (const i of l.shots) if (i >= 0) of[i] = Math.min(of[i]!, classOf(k));
      });
      return classed(names, [APART[0]!, APART[1]!, PALE], classOf);
    }
    case "elevation": {
      const sorted = t.z.filter((z, i) => !t.deleted[i] && !Number.isNaN(z)).sort();
      // The outermost hundredth is no measure of the rest.
      const low = sorted[Math.floor(0.01 * (sorted.length - 1))] ?? 0,
        high = sorted[Math.ceil(0.99 * (sorted.length - 1))] ?? 1,
        step = (high - low) / RISING.length || 1;
      const none = RISING.length;
      for (let i = 0; i < t.count; i++)
        of[i] = Number.isNaN(t.z[i]!)
          ? none
          : Math.max(0, Math.min(RISING.length - 1, Math.floor((t.z[i]! - low) / step)));
      const names = RISING.map((_, k) =>
        k === 0
          ? `below ${formatFixed(low + step, 1)}`
          : k === RISING.length - 1
            ? `above ${formatFixed(high - step, 1)}`
            : `${formatFixed(low + k * step, 1)} to ${formatFixed(low + (k + 1) * step, 1)}`,
      );
      return classed([...names, "no elevation"], [...RISING, PALE]);
    }
    case "finding": {
      const classes = ["error", "warning", "note"];
      of.fill(3);
      const lines = new Map<string, number>();
      for (const f of view.findings) {
        if (f.accepted !== undefined) continue;
        const k = classes.indexOf(f.severity);
        for (const id of f.points) {
          const i = rowOf(t, id);
          if (i >= 0) of[i] = Math.min(of[i]!, k);
        }
        for (const key of f.lines) lines.set(key, Math.min(lines.get(key) ?? 3, k));
      }
      return classed(
        ["error", "to look at", "note", "nothing found"],
        [RED, AMBER, APART[1]!, PALE],
        (l) => lines.get(view.lines[l]!.key) ?? 3,
      );
    }
    default: {
      of.fill(1);
      for (const i of setRows ?? []) of[i] = 0;
      return classed([by.slice(4), "not in it"], [APART[0]!, PALE]);
    }
  }
}

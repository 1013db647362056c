/** The ways of comparing, in words, and what a new comparison of each begins with. */
import type { VolumeRecipe } from "@bramble/core";
import type { VolumeKind } from "@bramble/core/volumes/model";
import type { View } from "../../lib/view";

export const KINDS: Record<VolumeKind, string> = {
  level: "a surface and a level",
  surfaces: "two surfaces",
  heap: "a heap above its toe",
  storage: "storage of a basin by level",
};

/** The first comparison of a kind; undefined where the job does not have what it needs. */
export function firstOf(
  kind: VolumeKind,
  name: string,
  surface: string,
  surfaces: readonly { name: string }[],
  view: View,
): VolumeRecipe | undefined {
  const report = view.surfaces.find((s) => s.name === surface)?.value?.report,
    [low, high] = report ? [Math.floor(report.minZ), Math.ceil(report.maxZ)] : [NaN, NaN];
  // Its levels are those of the ground, which is not made yet.
  if (!report && (kind === "level" || kind === "storage")) return undefined;
  switch (kind) {
    case "level":
      return { name, surface, level: Math.round((low + high) / 2) };
    case "surfaces": {
      const other = surfaces.find((s) => s.name !== surface);
      return other && { name, from: surface, to: other.name };
    }
    case "heap": {
      const line = toeLines(view)[0];
      return line && { name, heap: surface, toe: line };
    }
    case "storage":
      return { name, storage: surface, from: low, to: high, step: Math.max(0.1, Math.round((high - low) / 2) / 10) };
  }
}

/** Closed lines by their code and run, the likely toes first. */
export function closedLines(view: View): { code: string; run?: string }[] {
  const seen = new Map<string, { code: string; run?: string }>();
  for (const l of view.lines)
    if (l.closed && !l.companion) seen.set(`${l.code} ${l.run}`, { code: l.code, ...(l.run ? { run: l.run } : {}) });
  return [...seen.values()].sort((a, b) => (lineText(a) < lineText(b) ? -1 : 1));
}

export function toeLines(view: View): { code: string; run?: string }[] {
  const isToe = (l: { code: string }) => (/TOE|FOOT|BASE/i.test(l.code) ? 0 : 1);
  return closedLines(view).sort((a, b) => isToe(a) - isToe(b));
}

export const lineText = ({ code, run }: { code: string; run?: string }) => (run ? `${code} ${run}` : code);

/** summary.json: what a run made, as RECIPE.md lays it out. */
import { codeOf } from "../codes/read";
import type { Line } from "../lines/model";
import { extentOf } from "../points/table";
import { contourLevels } from "../surface/contour";
import type { Derived } from "./chain";
import type { JobState } from "./model";

export interface WrittenFile { file: string; format: string; bytes: number; sha256: string }

/** Throws nothing: whatever could not be made has been refused before. */
export function summarize(state: JobState, derived: Derived, files: WrittenFile[]) {
  const t = state.points;
  const byCode: Record<string, number> = {};
  let count = 0, withoutElevation = 0;
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i]) continue;
    count++;
    if (Number.isNaN(t.z[i]!)) withoutElevation++;
    const code = codeOf(derived.coded, i);
    byCode[code] = (byCode[code] ?? 0) + 1;
  }
  const extent = extentOf(t);
  return {
    recipe: 1, name: state.name, unit: state.unit,
    intakes: state.intakes.map((k) => ({
      id: k.id, file: k.file, rows: k.rows, points: k.points, refused: k.refused, clashes: k.clashes.length, setups: k.setups, notes: k.notes,
    })),
    points: { count, byCode: Object.fromEntries(Object.entries(byCode).sort((a, b) => (a[0] < b[0] ? -1 : 1))), withoutElevation, ...(extent ? { extent } : {}) },
    setups: derived.setups.map((s) => ({ ...s, intake: state.intakes[s.intake]!.id })),
    lines: summarizeLines(derived.lines, state),
    sets: derived.sets.flatMap((s) => (s.ok ? [{ name: s.name, count: s.value.length, numbers: Array.from(s.value, (i) => t.number[i]!) }] : [])),
    findings: derived.findings,
    surfaces: derived.surfaces.flatMap((s) => (s.ok ? [s.value.report] : [])),
    contours: derived.contours.flatMap((c) => (c.ok ? [{ surface: c.value.surface, levels: contourLevels(c.value) }] : [])),
    volumes: derived.volumes.flatMap((v) => (v.ok ? [v.value] : [])),
    files,
  };
}

function summarizeLines(lines: readonly Line[], state: JobState) {
  const index = new Map(lines.map((l, k) => [l, k]));
  return lines.map((l) => summarizeLine(l, state, index));
}

function summarizeLine(l: Line, state: JobState, index: ReadonlyMap<Line, number>) {
  const number = (i: number) => state.points.number[i]!;
  return {
    code: l.code, run: l.run, intake: state.intakes[l.intake]?.id ?? null, points: l.shots.map(number), closed: l.closed,
    pieces: l.pieces.map((p) => ({
      type: p.type, points: p.shots.filter((i) => i >= 0).map(number), from: p.from, to: p.to,
      ...(p.type === "arc" ? { center: p.center, radius: p.radius, sweep: (p.sweep * 180) / Math.PI } : {}),
    })),
    length: l.length, slopeLength: Number.isNaN(l.slopeLength) ? null : l.slopeLength,
    ...(l.companion ? { companion: { of: index.get(l.companion.of), right: l.companion.right, up: l.companion.up } } : {}),
    ...(l.area !== undefined ? { area: l.area, perimeter: l.length } : {}),
  };
}

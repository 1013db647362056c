/** summary.json: what a run made, as RECIPE.md lays it out. */
import { UNPLACED_REASON } from "../../checks/intakes";
import { codeOf } from "../../codes/read";
import { sentenceOf, type Finding, type Names } from "../../finding";
import { lineName, type Line } from "../../lines/model";
import { extentOf, GONE_UNPLACED, rowOf, type PointTable } from "../../points/table";
import type { FitMade } from "../../points/moved";
import type { Refused, SurfaceReport } from "../../surface/model";
import { contourLevels } from "../../surface/contour";
import type { AsBuilt, PairColumns } from "../../volumes/as-built";
import type { VolumeResult } from "../../volumes/model";
import { endAreasOf } from "../../volumes/opinion";
import { axisOf } from "../chain/design-ways";
import { precisionOf, shotPrecision } from "../../volumes/precision";
import type { Derived } from "../chain/values";
import type { JobState } from "../model/model";

export interface WrittenFile {
  file: string;
  format: string;
  bytes: number;
  sha256: string;
}

/** Throws nothing: whatever could not be made has been refused before. */
export function summarize(state: JobState, derived: Derived, files: WrittenFile[]) {
  const t = state.points;
  const byCode: Record<string, number> = {};
  let count = 0,
    withoutElevation = 0;
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i]) continue;
    count++;
    if (Number.isNaN(t.z[i]!)) withoutElevation++;
    const code = codeOf(derived.coded, i);
    byCode[code] = (byCode[code] ?? 0) + 1;
  }
  const extent = extentOf(t);
  return {
    recipe: 1,
    name: state.name,
    unit: state.unit,
    intakes: state.intakes.map((k, index) => {
      const nowhere = unplacedRows(t, index),
        refused = [...k.refused, ...nowhere].sort((a, b) => a.row - b.row);
      return {
        id: k.id,
        file: k.file,
        rows: k.rows,
        points: k.points - nowhere.length,
        refused,
        clashes: k.clashes.length,
        setups: k.setups,
        notes: k.notes,
      };
    }),
    points: {
      count,
      byCode: Object.fromEntries(Object.entries(byCode).sort((a, b) => (a[0] < b[0] ? -1 : 1))),
      withoutElevation,
      ...(extent ? { extent } : {}),
    },
    setups: derived.setupReports.map((s) => ({
      ...s,
      intake: state.intakes[s.intake]!.id,
      outlying: s.outlying.map(({ row, ...o }) => ({ number: t.number[row]!, ...o })),
    })),
    lines: summarizeLines(derived, state),
    sets: derived.madeSets.flatMap((s) =>
      s.ok ? [{ name: s.name, count: s.value.length, numbers: Array.from(s.value, (i) => t.number[i]!) }] : [],
    ),
    findings: summarizeFindings(derived.findings, t, derived.lines),
    surfaces: derived.surfaces.flatMap((s) => (s.ok ? [summarizeReport(s.value.report, t, derived.lines)] : [])),
    contours: derived.contours.flatMap((c) =>
      c.ok ? [{ surface: c.value.surface, levels: contourLevels(c.value) }] : [],
    ),
    volumes: derived.volumes.flatMap((v, k) => (v.ok ? [summarizeVolume(v.value, state, k, derived)] : [])),
    differences: derived.differences.flatMap((d) => (d.ok ? [summarizeAsBuilt(d.value, t)] : [])),
    files,
  };
}

/** Points against their design; what a point does not have is left out. */
function summarizeAsBuilt(a: AsBuilt, t: PointTable) {
  const { mean, rms, min, max } = a.figures,
    told = (name: "level" | "station" | "offset", x: number): { level?: number; station?: number; offset?: number } =>
      Number.isNaN(x) ? {} : { [name]: x };
  return {
    name: a.name,
    rows: Array.from(a.rows, (row, k) => ({
      number: t.number[row]!,
      ...(a.pairs ? pairTold(a, a.pairs, k, t) : told("level", a.level[k]!)),
      ...told("station", a.station[k]!),
      ...told("offset", a.offset[k]!),
    })),
    outside: Array.from(a.rows).flatMap((row, k) => (a.outside[k] ? [t.number[row]!] : [])),
    ...(a.pairs
      ? {
          unmatched: {
            points: Array.from(a.pairs.unmatched.points, (i) => t.number[i]!),
            against: Array.from(a.pairs.unmatched.against, (i) => t.number[i]!),
          },
        }
      : {}),
    mean,
    rms,
    min,
    max,
  };
}

/** A fit as RECIPE.md lays it out; what has no level says none. */
export function fitTold({ edit, rotation, scale, pairs, residuals, rmsPlan, rmsLevel }: FitMade) {
  return {
    edit,
    rotation,
    scale,
    residuals: residuals.map(({ dE, dN, dZ }, k) => ({ pair: pairs[k]!, dE, dN, ...(Number.isNaN(dZ) ? {} : { dZ }) })),
    rmsPlan,
    ...(Number.isNaN(rmsLevel) ? {} : { rmsLevel }),
  };
}

/** Built − designed of one pair. */
function pairTold(a: AsBuilt, p: PairColumns, k: number, t: PointTable) {
  const dZ = a.level[k]!;
  return {
    against: t.number[p.designed[k]!]!,
    dE: p.dE[k]!,
    dN: p.dN[k]!,
    ...(Number.isNaN(dZ) ? {} : { dZ }),
    plan: p.plan[k]!,
  };
}

/** Figures with their ±, and the end areas that the recipe asks for. */
function summarizeVolume(v: VolumeResult, state: JobState, k: number, { pairs, lines }: Derived) {
  const pair = pairs[k]!,
    recipe = state.volumes[k]!;
  if (!pair.ok) return v;
  const shots = shotPrecision(state.points, state.levelPrecision, state.unit),
    precision = precisionOf(pair.value, shots, recipe.deadband),
    areas = recipe.sections === undefined ? undefined : endAreasOf(recipe, pair.value, axisOf(recipe, lines, state));
  return {
    ...v,
    ...(precision
      ? { sigma: precision.net.total, sigmaCut: precision.cut.total, sigmaFill: precision.fill.total }
      : {}),
    ...(areas ? { sections: { cut: areas.cut, fill: areas.fill } } : {}),
  };
}

/** Rows of an intake that were read and have no position, as refused rows. */
export function unplacedRows(t: PointTable, intake: number): { row: number; reason: string }[] {
  const out: { row: number; reason: string }[] = [];
  for (let i = 0; i < t.count; i++) {
    if (t.intake[i] === intake && t.deleted[i] === GONE_UNPLACED)
      out.push({ row: t.row[i]!, reason: `point ${t.number[i]} was ${UNPLACED_REASON}` });
  }
  return out;
}

/** How many points of each intake were read and have no position. */
export function unplacedPerIntake(t: Pick<PointTable, "count" | "intake" | "deleted">, intakes: number): number[] {
  const per = Array.from({ length: intakes }, () => 0);
  for (let i = 0; i < t.count; i++)
    if (t.deleted[i] === GONE_UNPLACED && t.intake[i]! >= 0 && t.intake[i]! < intakes) per[t.intake[i]!]!++;
  return per;
}

/** The names that points and lines have now, by their ids and keys. */
export function namesIn(t: PointTable, lines: readonly Pick<Line, "key" | "code" | "run">[]): Names<number, string> {
  let byKey: Map<string, string> | undefined;
  return {
    point: (id) => t.number[rowOf(t, id)] ?? "that is gone",
    line: (key) => (byKey ??= new Map(lines.map((l) => [l.key, lineName(l)]))).get(key) ?? "that is gone",
  };
}

/** Findings in words, with the names that points and lines have now. */
export function summarizeFindings(findings: readonly Finding[], t: PointTable, lines: readonly Line[]) {
  const index = new Map(lines.map((l, k) => [l.key, k])),
    names = namesIn(t, lines);
  return findings.map((f) => ({
    kind: f.kind,
    severity: f.severity,
    message: sentenceOf(f, names),
    points: f.points.map((id) => t.number[rowOf(t, id)]!),
    lines: f.lines.map((key) => index.get(key)!),
    ...(f.at ? { at: f.at } : {}),
    data: f.data,
    ...(f.accepted !== undefined ? { accepted: f.accepted } : {}),
  }));
}

/** What of a surface was refused, in words. */
export function refusedInWords(
  refused: readonly Refused[],
  t: Pick<PointTable, "number">,
  lines: readonly Pick<Line, "code" | "run">[],
): { what: string; why: string }[] {
  const names: Names<number, number> = { point: (i) => t.number[i]!, line: (k) => lineName(lines[k]!) };
  return refused.map((r) => ({ what: sentenceOf({ words: r.what }, names), why: sentenceOf({ words: r.why }, names) }));
}

function summarizeReport(report: SurfaceReport, t: PointTable, lines: readonly Line[]) {
  return { ...report, refused: refusedInWords(report.refused, t, lines) };
}

function summarizeLines({ lines, ownNames }: Derived, state: JobState) {
  const index = new Map(lines.map((l, k) => [l, k]));
  return lines.map((l) => ({ ...summarizeLine(l, state, index), ...ownNames.get(l.key) }));
}

function summarizeLine(l: Line, state: JobState, index: ReadonlyMap<Line, number>) {
  const number = (i: number) => state.points.number[i]!;
  return {
    code: l.code,
    run: l.run,
    intake: state.intakes[l.intake]?.id ?? null,
    points: l.shots.map(number),
    closed: l.closed,
    pieces: l.pieces.map((p) => ({
      type: p.type,
      points: p.shots.filter((i) => i >= 0).map(number),
      from: p.from,
      to: p.to,
      ...(p.type === "arc" ? { center: p.center, radius: p.radius, sweep: (p.sweep * 180) / Math.PI } : {}),
    })),
    length: l.length,
    slopeLength: Number.isNaN(l.slopeLength) ? null : l.slopeLength,
    ...(l.companion
      ? { companion: { of: index.get(l.companion.of), right: l.companion.right, up: l.companion.up } }
      : {}),
    ...(l.area !== undefined ? { area: l.area, perimeter: l.length } : {}),
  };
}

/**
 * The stage that checks levels against one another. It takes longest of all checks, so that it may be put off until what
 * an edit waits for is done, and be carried out a little at a time.
 */
import { fieldOfJob } from "../../checks/levels/field";
import { levelFindings, predictedLevels } from "../../checks/levels/findings";
import { LevelCheck } from "../../checks/levels/levels";
import { isLookedFor, limitsOf } from "../../checks/limits";
import { byIdentity, type Finding, type FindingKind } from "../../finding";
import { atOnce } from "../../math/steps";
import { METRES } from "../../math/units";
import { rowOf } from "../../points/table";
import type { ChainValues, LevelsFound } from "./values";

const READS = [
  "count",
  "id",
  "e",
  "n",
  "z",
  "kind",
  "surface",
  "deleted",
  "intake",
  "row",
  "time",
  "targetHeight",
  "coded",
  "lines",
  "terrainChains",
  "checks",
  "unit",
] as const;
type Read = Pick<ChainValues, (typeof READS)[number]>;

/** Kinds that take a point out of the check: their own checks say what is wrong with it. */
const DOUBTFUL: readonly FindingKind[] = ["zero-elevation", "axes-swapped"],
  LEVELLESS: readonly FindingKind[] = ["zero-elevation", "no-elevation"];

/** Of more shots than this levels are not checked against one another: it would take minutes and a gigabyte. */
const MOST_SHOTS = 500_000;

export class LevelStage {
  private readonly check = new LevelCheck();
  /** What was found last, and of what. */
  private inputs: unknown[] = [];
  private last: LevelsFound = { findings: [], predicted: new Map(), checked: undefined, toCome: false };
  private waiting: { inputs: unknown[]; from: Read; found: readonly Finding[] } | undefined;

  /** What the levels say. `found` is what the other checks noticed. */
  of(values: Read, found: readonly Finding[], putOff: boolean): LevelsFound {
    // Of the other findings only which points they speak of matters.
    const speaks = found
      .filter((f) => DOUBTFUL.includes(f.kind) || LEVELLESS.includes(f.kind))
      .map((f) => `${f.kind} ${f.points.join(" ")}`)
      .join();
    const inputs = [...READS.map((k) => values[k]), speaks];
    if (inputs.length === this.inputs.length && inputs.every((x, k) => x === this.inputs[k])) {
      this.waiting = undefined;
      return this.last;
    }
    const from = Object.fromEntries(READS.map((k) => [k, values[k]])) as unknown as Read;
    this.waiting = { inputs, from, found };
    if (putOff) return this.still(from);
    atOnce(this.catchUp());
    return this.last;
  }

  /** Checks what was put off; a newer state in between ends it, and what was begun serves that one. */
  *catchUp(): Generator<void, void> {
    const job = this.waiting;
    if (!job) return;
    const { from, found } = job,
      { checks, unit } = from,
      metres = METRES[unit];
    const rowsOf = (kinds: readonly FindingKind[]) =>
      found.filter((f) => kinds.includes(f.kind)).flatMap((f) => f.points.map((id) => rowOf(from, id)));
    if (!isLookedFor("spike", checks) && !isLookedFor("height-run", checks) && rowsOf(LEVELLESS).length === 0) {
      this.last = { findings: [], predicted: new Map(), checked: undefined, toCome: false };
      this.inputs = job.inputs;
      if (this.waiting === job) this.waiting = undefined;
      return;
    }
    const field = fieldOfJob(from, from.coded, from.lines, from.terrainChains, new Set(rowsOf(DOUBTFUL)), unit);
    if (field.count > MOST_SHOTS) {
      this.last = { findings: [], predicted: new Map(), checked: undefined, toCome: false, leftOut: true };
      this.inputs = job.inputs;
      if (this.waiting === job) this.waiting = undefined;
      return;
    }
    const spike = limitsOf("spike", checks, unit),
      run = limitsOf("height-run", checks, unit);
    const checked = yield* this.check.check(field, {
      spike: isLookedFor("spike", checks) ? { ...spike, least: spike.least * metres } : undefined,
      run: isLookedFor("height-run", checks) ? { ...run, least: run.least * metres } : undefined,
    });
    const predicted = predictedLevels(checked, from, from.lines, rowsOf(LEVELLESS), unit);
    this.last = {
      findings: byIdentity(
        levelFindings(checked, from, from.lines, unit),
        from.id,
        from.lines.map((l) => l.key),
      ),
      predicted: new Map([...predicted].map(([i, level]) => [from.id[i]!, level])),
      checked,
      toCome: false,
    };
    this.inputs = job.inputs;
    if (this.waiting === job) this.waiting = undefined;
  }

  /** What was said last, of points that are still there. */
  private still(t: Read): LevelsFound {
    const findings = this.last.findings.filter((f) => f.points.every((id) => !(t.deleted[rowOf(t, id)] ?? 1)));
    return { ...this.last, findings, toCome: true };
  }
}

/** Findings of points without a level, with the level that their neighbours say. */
export function withPredicted(findings: readonly Finding[], predicted: ReadonlyMap<number, number>): Finding[] {
  if (predicted.size === 0) return findings as Finding[];
  return findings.map((f) => {
    if (!LEVELLESS.includes(f.kind)) return f;
    const levels = f.points.map((id) => predicted.get(id) ?? null);
    if (levels.every((z) => z === null)) return f;
    return { ...f, data: { ...f.data, predicted: levels.length === 1 ? levels[0] : levels } };
  });
}

/**
 * Levels checked against one another: spikes and height runs of a field of shots. Forms are kept while plan and lines
 * stay; of residuals and of what is tried first only what a changed level touches is made again.
 */
import { equalColumns } from "../../math/columns";
import { atOnce } from "../../math/steps";
import type { LevelField } from "./field";
import { FormMaker, type LevelForms } from "./forms";
import { formsByShot, Residuals } from "./residuals";
import { copyOf, RunSearch, type Seeds } from "./runs";
import { findSpikes, withoutRuns, type Spike, type SpikeLimits } from "./spikes";
import { FormWork } from "./threads";
import type { Run, RunLimits } from "./verdict";

export interface LevelLimits {
  spike: SpikeLimits | undefined;
  run: RunLimits | undefined;
}

export interface LevelsChecked {
  field: LevelField;
  spikes: Spike[];
  runs: Run[];
  /** The levels with what was found taken off, and their residuals. */
  levels: Residuals;
  predictor: FormMaker;
}

/** Searches for runs, each with fewer shots taken for spikes. */
const ROUNDS = 3;

interface Kept {
  field: LevelField;
  maker: FormMaker;
  forms: LevelForms;
  base: Residuals;
  search: RunSearch;
  seeds: Seeds;
}

export class LevelCheck {
  private kept: Kept | undefined;
  private begun: FormWork | undefined;

  /** Checks a field; yields now and then, so that other work may come between. */
  *check(field: LevelField, limits: LevelLimits): Generator<void, LevelsChecked> {
    const last = this.kept,
      kept = last && samePlan(last.field, field) ? yield* this.again(last, field) : yield* this.anew(field);
    this.kept = kept;
    const r = kept.base.copy(),
      { search } = kept;
    const seeds = copyOf(kept.seeds);
    const openGround = (shot: number) => kept.maker.openGround(shot);
    let spikes: Spike[] = [],
      runs: Run[] = [];
    if (limits.spike) spikes = withoutRuns(r, findSpikes(r, openGround, limits.spike), field.order, field.starts);
    for (let round = 0; limits.run && round < ROUNDS; round++) {
      runs = yield* search.find(r, seeds, limits.run, () => {
        if (limits.spike) spikes = findSpikes(r, openGround, limits.spike, spikes);
      });
      // What was taken for spikes may hide the rest of a run: with such shots put back it is looked for again.
      const parts = search.partsOf(runs, spikes);
      if (parts.length === 0 || round === ROUNDS - 1) break;
      for (const run of runs) search.lower(r, run.from, run.to, -run.shift);
      for (const s of parts) r.lower(s.shot, -s.residual);
      r.rescale();
      spikes = spikes.filter((s) => !parts.includes(s));
    }
    if (limits.spike && runs.length) spikes = findSpikes(r, openGround, limits.spike, spikes);
    return { field, spikes, runs, levels: r, predictor: kept.maker };
  }

  private *again(kept: Kept, field: LevelField): Generator<void, Kept> {
    const base = Residuals.again(kept.base, field);
    if (base === kept.base) return { ...kept, field };
    return { ...kept, field, base, seeds: yield* kept.search.again(base, kept.seeds) };
  }

  private *anew(field: LevelField): Generator<void, Kept> {
    yield;
    if (!this.begun || !samePlan(this.begun.field, field)) this.begun = new FormWork(field, new FormMaker(field));
    const work = this.begun,
      { maker } = work;
    while (!work.step()) yield;
    const forms = work.take();
    yield;
    const by = formsByShot(forms),
      base = yield* Residuals.of(field, forms, by),
      search = new RunSearch(field, maker.members, (shot) => maker.openGround(shot), forms.count),
      seeds = yield* search.seeds(base);
    this.begun = undefined;
    return { field, maker, forms, base, search, seeds };
  }
}

/** Whether two fields differ in levels alone. */
function samePlan(a: LevelField, b: LevelField): boolean {
  return (
    a.count === b.count &&
    equalColumns(a.x, b.x) &&
    equalColumns(a.y, b.y) &&
    equalColumns(a.order, b.order) &&
    equalColumns(a.starts, b.starts) &&
    equalColumns(a.walls, b.walls) &&
    a.strings.length === b.strings.length &&
    a.strings.every((s, k) => {
      const o = b.strings[k]!;
      return s.closed === o.closed && s.divides === o.divides && equalColumns(s.shots, o.shots);
    })
  );
}

/** Checks a field at once. */
export function checkLevels(field: LevelField, limits: LevelLimits): LevelsChecked {
  return atOnce(new LevelCheck().check(field, limits));
}

/** What became of a job between two of its states: what changed, which figures by how much, by which entries. */
import { plainNumber } from "../../math/round";
import { lengthText } from "../../math/units";
import { MEASURED_FIELDS, measuredAt, measuredName, measuredOf, type MeasuredField } from "../../records/measured";
import { EDIT_FIELDS, type EditField, fieldName } from "../../records/fields";
import { cellValue, differingCells } from "../../points/differing";
import { type EditValue } from "../../points/edits";
import { rowOf, type PointTable } from "../../points/table";
import { Chain } from "../chain/chain";
import { asItStands } from "../chain/standing";
import { applyChange, type Change, type EditableChange } from "../change/change";
import { fieldText } from "../change/details";
import type { JobState } from "../model/model";
import { effectOf, sameSurface, type Trial } from "./trial";
import type { Derived } from "../chain/values";

/** Something that a job tells by a number: volumes, areas and levels in the job's unit, points outside as a count. */
export interface Figure {
  of: "volume" | "surface" | "check";
  name: string;
  figure: "net" | "cut" | "fill" | "area" | "outside" | "mean";
}

/** Null where there is no such figure. */
export interface Moved extends Figure {
  was: number | null;
  now: number | null;
}

/** A run of entries of the ledger, mostly of one, and the figures that it moved. */
export interface StateStep {
  first: number;
  last: number;
  moved: Moved[];
}

export interface PointsBetween {
  /** Ids of points that came, that went, and that stayed and tell something else. */
  made: number[];
  gone: number[];
  changed: number[];
  /** Cells that tell something else, and the first of them in words. */
  cells: number;
  details: { id: number; what: string; was: string; now: string }[];
}

export interface StatesCompared extends Pick<Trial, "lines" | "gone" | "come" | "surfaces"> {
  points: PointsBetween;
  figures: Moved[];
  steps: StateStep[];
}

/** The job as it was after an entry of its ledger. */
export interface Stop {
  seq: number;
  state: JobState;
}

export interface Entry {
  seq: number;
  change: Change;
}

/** Times that all that follows from the job is worked out to find the entries that moved a figure. */
const MOST_RUNS = 100;
/** Cells that are told in words. */
const MOST_CELLS = 500;

/**
 * Compares the first with the last of some states, which are in the order of the ledger. `entries` are those after the
 * first state up to the last, oldest first. A delivery cannot be carried out on a state: where one is among them, the
 * states before and after it are among `stops`.
 */
export function compareStates(stops: readonly Stop[], entries: readonly Entry[], most = MOST_RUNS): StatesCompared {
  const [first, last] = [stops[0]!.state, stops.at(-1)!.state],
    chain = new Chain(),
    [before, after] = [chain.run(first), chain.run(last)],
    [was, is] = [asItStands(first, before), asItStands(last, after)],
    nothing: EditableChange = { type: "several", text: "", changes: [] },
    { lines, gone, come, surfaces } = effectOf(was, before, is, after, nothing, true);
  return {
    points: pointsBetween(was, is),
    figures: moved(figuresOf(before), figuresOf(after)),
    steps: new Steps(chain, most).between(stops, entries),
    lines,
    gone,
    come,
    surfaces: surfaces.filter(({ name }) => {
      const [was, is] = [before, after].map((d) => d.surfaces.find((s) => s.name === name));
      return !sameSurface(was, is);
    }),
  };
}

/** Finds the entries that moved figures by halving what lies between two states whose figures differ. */
class Steps {
  private readonly found: StateStep[] = [];

  constructor(
    private readonly chain: Chain,
    private runs: number,
  ) {}

  between(stops: readonly Stop[], entries: readonly Entry[]): StateStep[] {
    let was = this.figures(stops[0]!.state);
    for (const [k, stop] of stops.entries()) {
      if (k === 0) continue;
      const from = stops[k - 1]!,
        now = this.figures(stop.state);
      this.narrow(
        from.state,
        was,
        entries.filter((e) => e.seq > from.seq && e.seq <= stop.seq),
        now,
      );
      was = now;
    }
    return this.found;
  }

  private narrow(state: JobState, was: Figures, entries: readonly Entry[], now: Figures): void {
    const changes = moved(was, now);
    if (changes.length === 0 || entries.length === 0) return;
    if (entries.length === 1 || this.runs <= 0) {
      this.found.push({ first: entries[0]!.seq, last: entries.at(-1)!.seq, moved: changes });
      return;
    }
    const half = entries.length >> 1,
      [early, late] = [entries.slice(0, half), entries.slice(half)],
      middle = early.reduce((s, e) => applyChange(s, e.change as EditableChange), state),
      between = this.figures(middle);
    this.narrow(state, was, early, between);
    this.narrow(middle, between, late, now);
  }

  private figures(state: JobState): Figures {
    this.runs--;
    return figuresOf(this.chain.run(state, true));
  }
}

type Figures = Map<string, Figure & { value: number }>;

function figuresOf(d: Derived): Figures {
  const figures: Figures = new Map();
  const tell = (of: Figure["of"], name: string, values: Partial<Record<Figure["figure"], number>>) => {
    for (const [figure, value] of Object.entries(values) as [Figure["figure"], number][])
      if (!Number.isNaN(value)) figures.set(JSON.stringify([of, name, figure]), { of, name, figure, value });
  };
  for (const v of d.volumes)
    if (v.ok) tell("volume", v.name, { net: v.value.net, cut: v.value.cut, fill: v.value.fill });
  for (const s of d.surfaces) if (s.ok) tell("surface", s.name, { area: s.value.report.area });
  for (const c of d.differences) {
    if (!c.ok) continue;
    const outside = c.value.outside.reduce((sum, x) => sum + x, 0);
    tell("check", c.name, { outside, mean: c.value.figures.mean });
  }
  return figures;
}

/** What sums leave of nothing, in the job's unit, and as a share of a figure. */
const NOTHING = 1e-9,
  NOISE = 1e-11;

function isSame(a: number | undefined, b: number | undefined): boolean {
  if (a === undefined || b === undefined) return a === b;
  return Math.abs(a - b) <= NOTHING + NOISE * Math.max(Math.abs(a), Math.abs(b));
}

/** The figures that are others, those that came and those that went. */
function moved(was: Figures, now: Figures): Moved[] {
  const out: Moved[] = [];
  for (const key of new Set([...was.keys(), ...now.keys()])) {
    const [a, b] = [was.get(key), now.get(key)],
      { of, name, figure } = (b ?? a)!;
    if (!isSame(a?.value, b?.value)) out.push({ of, name, figure, was: a?.value ?? null, now: b?.value ?? null });
  }
  return out;
}

/**
 * Which points came, went or tell something else: by their ids, and those of a delivery that was read again by their row
 * in it.
 */
function pointsBetween(before: JobState, after: JobState): PointsBetween {
  const [was, now] = [before.points, after.points],
    changed = new Set<number>(),
    details: PointsBetween["details"] = [];
  let cells = 0;
  const note = (row: number, name: string, values: () => { was: string; now: string }) => {
    const id = now.id[row]!;
    changed.add(id);
    cells++;
    if (details.length < MOST_CELLS) details.push({ id, what: `Point ${now.number[row]}, ${name}`, ...values() });
  };
  const tell = (old: number, row: number, field: EditField) =>
    note(row, fieldName(field), () => inWords(field, cellValue(was, old, field), cellValue(now, row, field), after));
  for (const { id, field } of differingCells(was, now, Infinity)) {
    const [old, row] = [rowOf(was, id), rowOf(now, id)];
    if (field !== "code" && !was.deleted[old] && !now.deleted[row]) tell(old, row, field);
  }
  const came = new Map(notIn(was, now).map((row) => [sourceOf(after, row) ?? row, row])),
    gone: number[] = [];
  for (const old of notIn(now, was)) {
    const source = sourceOf(before, old),
      row = source === undefined ? undefined : came.get(source);
    if (row === undefined) {
      gone.push(was.id[old]!);
      continue;
    }
    came.delete(source!);
    for (const field of EDIT_FIELDS)
      if (field !== "cues" && !Object.is(cellValue(was, old, field), cellValue(now, row, field))) tell(old, row, field);
    // Another reading may have taken other columns of the file.
    const [then, today] = [measuredAt(was.measured, old, was.texts), measuredAt(now.measured, row, now.texts)];
    for (const field of MEASURED_FIELDS)
      if (then?.[field] !== today?.[field])
        note(row, measuredName(field), () => ({
          was: measuredText(field, then?.[field], after.unit),
          now: measuredText(field, today?.[field], after.unit),
        }));
  }
  return { made: [...came.values()].map((row) => now.id[row]!), gone, changed: [...changed], cells, details };
}

/** The delivery and the row of it that a point came from; undefined where an office made it. */
function sourceOf({ points: t, intakes }: JobState, row: number): string | undefined {
  const intake = intakes[t.intake[row]!];
  return intake && `${t.row[row]} ${intake.id}`;
}

/** Two values of a field, lengths as they are shown; to the last digit where that shows no difference. */
function inWords(field: EditField, was: EditValue, now: EditValue, { unit }: JobState): { was: string; now: string } {
  if (typeof was === "number" && typeof now === "number" && lengthText(was, unit) !== lengthText(now, unit))
    return { was: lengthText(was, unit), now: lengthText(now, unit) };
  return { was: fieldText(field, was, unit), now: fieldText(field, now, unit) };
}

function measuredText(field: MeasuredField, value: string | number | undefined, unit: JobState["unit"]): string {
  if (typeof value !== "number") return value ?? "none";
  const m = measuredOf(field);
  return m.is === "length" ? lengthText(value, unit) : `${plainNumber(value)}${"unit" in m ? m.unit : ""}`;
}

/** Rows of the points that stand in `those` and not in `t`. */
function notIn(t: PointTable, those: PointTable): number[] {
  const out: number[] = [];
  for (let i = 0; i < those.count; i++) {
    if (those.deleted[i]) continue;
    const row = rowOf(t, those.id[i]!);
    if (row < 0 || t.deleted[row]) out.push(i);
  }
  return out;
}

/** Findings of lines while these are made: cues that did nothing, lines of one shot, arcs that do not fit. */
import { notice, pts, say, type Noticed } from "../finding";
import type { Tolerances } from "../math/tolerances";
import { lengthText, type Unit } from "../math/units";
import { someOf } from "../math/words";
import type { Gathered, LineColumns } from "./gather";
import { lineName, type Line } from "./model";
import type { Outcome } from "./pieces";

/** A parallel that could not be made, or not wholly, and the shot that asked for it. */
export interface Vanished {
  right: number;
  at: number;
  all: boolean;
}

export class LinesTold {
  readonly findings: Noticed[] = [];

  constructor(
    private readonly t: Pick<LineColumns, "id" | "e" | "n">,
    private readonly tolerance: Tolerances,
    private readonly unit: Unit,
  ) {}

  /** Points that lines by hand name and that are not there. */
  missing(missing: Gathered["missing"]): void {
    for (const { line, name, numbers } of missing)
      this.findings.push(
        notice(
          "unread-word",
          "warning",
          say`Line ${line}, drawn by hand: there is no point ${someOf(numbers)}; it was passed over.`,
          { data: { line, numbers }, subject: `${name ?? line} by hand` },
        ),
      );
  }

  /** A cue at the shot of a row that did nothing. */
  ignoredCue(i: number, why: string): void {
    const { id, e, n } = this.t;
    this.findings.push(
      notice("cue-ignored", "note", say`Point ${pts(i)}: ${why}; the cue does nothing.`, {
        points: [i],
        at: [e[i]!, n[i]!],
        subject: `${id[i]!}: ${why}`,
      }),
    );
  }

  vanished(line: Line, { right, at, all }: Vanished): void {
    const what = all ? `${lineName(line)} is too narrow for a parallel` : `an arc of ${lineName(line)} has no parallel`;
    this.ignoredCue(at, `${what} at ${lengthText(right, this.unit)}, which was left out`);
  }

  /** How a line came out; `index` is its own among all. */
  line(line: Line, index: number, closedByItself: boolean): void {
    const first = line.shots[0]!,
      name = { line: index };
    const more = {
      points: line.shots,
      lines: [index],
      at: [this.t.e[first]!, this.t.n[first]!] as [number, number],
      subject: line.key,
    };
    if (line.pieces.length === 0)
      this.findings.push(
        notice(
          "single-point-line",
          "warning",
          say`Line ${name} has a single shot, point ${pts(first)}: nothing is drawn. Its other shots may be coded differently.`,
          more,
        ),
      );
    if (closedByItself)
      this.findings.push(
        notice(
          "area-unclosed",
          "note",
          say`Area ${name} ends at point ${pts(line.shots.at(-1)!)} without a loop; it was closed.`,
          more,
        ),
      );
  }

  /** What became of the steering of a line's shots. */
  outcome(index: number, { shots, why, ignored, flat, misfit }: Outcome): void {
    const at: [number, number] | undefined = shots.length ? [this.t.e[shots[0]!]!, this.t.n[shots[0]!]!] : undefined;
    const where = { points: shots, lines: [index], ...(at ? { at } : {}) },
      here = pts(shots, Infinity),
      name = { line: index },
      tell = (...said: [kind: Noticed["kind"], severity: Noticed["severity"], words: Noticed["words"]]) =>
        this.findings.push(notice(...said, where));
    if (why) tell("cue-ignored", "note", say`Line ${name}, point ${here}: ${why}; the cue does nothing.`);
    else if (ignored)
      tell("cue-ignored", "note", say`Line ${name}: no arc can pass point ${here} there; it stays straight.`);
    if (flat) tell("arc-flat", "note", say`Line ${name}: the shots at point ${here} are straight; no arc is drawn.`);
    if (misfit !== undefined && misfit > this.tolerance.arc)
      this.findings.push(
        notice(
          "arc-misfit",
          "warning",
          say`Line ${name}: a shot lies ${lengthText(misfit, this.unit)} off its arc past points ${here}.`,
          { ...where, data: { misfit } },
        ),
      );
  }
}

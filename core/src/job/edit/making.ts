/** Points that an edit makes on its way: numbered, placed, each with what it follows, as changes of one deed. */
import type { By, LevelBy } from "../../construct/model";
import { solve, type InPlan, type Sources } from "../../construct/solve";
import type { AddedPoints } from "../../points/add";
import { addToNumber } from "../../points/numbers";
import { findPoints, refOfMade, type PointFinder, type PointRef } from "../../points/refs";
import type { OneChange } from "../change/change";
import { nextFreeNumber, numberedFrom } from "../change/next-number";
import type { JobState } from "../model/model";

export interface PointMade {
  ref: PointRef;
  number: string;
  at: InPlan;
}

/** Ids before the server has given any: an edit is tried with these first, to know how many points it makes. */
const FIRST_TRIED = 2 ** 30;

export class Making {
  private readonly points: AddedPoints = {
    id: [],
    number: [],
    easting: [],
    northing: [],
    elevation: [],
    description: [],
  };
  private readonly follows: OneChange[] = [];
  private readonly own = new Map<PointRef, InPlan>();
  private readonly taken: Set<string>;
  private readonly found: PointFinder;
  private number: string;

  /** `number` is tried first; without it the next that the job has for points that the office computes. */
  constructor(
    private readonly job: Pick<JobState, "points" | "intakes" | "nextNumber" | "nextNumbers">,
    private readonly ids?: readonly number[],
    number?: string,
  ) {
    this.taken = new Set(job.points.number);
    this.found = findPoints(job.points, job.intakes);
    this.number = number ?? nextFreeNumber(job, numberedFrom(job, "computed"));
  }

  /** How many points it makes. */
  get count(): number {
    return this.points.id.length;
  }

  /** Where a point of the job, or one that was made, stands now; undefined where there is none. */
  at(ref: PointRef): InPlan | undefined {
    const own = this.own.get(ref);
    if (own) return own;
    const row = this.found.rowOf(ref),
      t = this.job.points;
    return row < 0 ? undefined : [t.e[row]!, t.n[row]!];
  }

  /** A point at a position, which it follows nothing from but what is said. */
  put(
    at: InPlan,
    more: { by?: Exclude<By, { at: unknown }>; elevation?: LevelBy | number; description?: string } = {},
  ): PointMade {
    const id = this.ids?.[this.count] ?? FIRST_TRIED + this.count,
      { by, elevation, description = "" } = more,
      level = typeof elevation === "object" ? elevation : undefined;
    while (this.taken.has(this.number)) this.number = addToNumber(this.number, 1);
    const { number, points } = this,
      ref = refOfMade(id, number);
    this.taken.add(number);
    points.id.push(id);
    points.number.push(number);
    points.easting.push(at[0]);
    points.northing.push(at[1]);
    points.elevation.push(typeof elevation === "number" && !Number.isNaN(elevation) ? elevation : null);
    points.description.push(description);
    if (by || level)
      this.follows.push({
        type: "named",
        part: "computed",
        name: String(id),
        old: null,
        new: { point: id, ...(by ? { by } : {}), ...(level ? { elevation: level } : {}) },
      });
    this.own.set(ref, at);
    return { ref, number, at };
  }

  /** A point where a way that names points alone puts it; undefined where it puts it nowhere, or in two positions. */
  construct(by: Exclude<By, { at: unknown }>, elevation?: LevelBy | number): PointMade | undefined {
    const solved = solve(by, this.sources);
    if (!("at" in solved) || solved.at.length !== 1) return undefined;
    return this.put(solved.at[0]!, { by, ...(elevation === undefined ? {} : { elevation }) });
  }

  private get sources(): Sources {
    return {
      at: (ref) => this.at(ref),
      way: () => "a line is not asked here",
      line: () => "a line is not asked here",
      rowOf: (ref) => this.found.rowOf(ref),
    };
  }

  /** The points, then what they follow. */
  changes(): OneChange[] {
    return this.count ? [{ type: "add", points: this.points }, ...this.follows] : [];
  }
}

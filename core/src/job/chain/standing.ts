/**
 * The points as they stand: moved ones where their moves bring them, constructed ones where their sources put them. What
 * follows points alone is worked out at once; what follows lines or surfaces is worked out again until nothing moves any more, since lines and surfaces are made of
 * points, constructed ones too.
 */
import { CIRCLE, followSources, type Asked, type Followed } from "../../construct/follow";
import { STANDING_COLUMNS } from "../../construct/rows";
import type { LineAsked, LineRef } from "../../construct/model";
import { NOTHING_FOLLOWS, programOf, type Program } from "../../construct/program";
import type { Lost } from "../../construct/solve";
import { refusal, Refusal } from "../../errors";
import type { Line } from "../../lines/model";
import { equalColumns } from "../../math/columns";
import type { PointRef } from "../../points/refs";
import { GONE_UNPLACED, type PointTable } from "../../points/table";
import { SurfaceReader } from "../../surface/locate";
import { AlongWay } from "../../volumes/along-way";
import type { JobState } from "../model/model";
import { waysOf } from "./design-ways";
import type { Kept } from "./stages";
import { movedStage } from "./moving";
import { surfaceOf } from "./surfaces";
import type { Given, Grounds, Known } from "./values";

type Stated = Known<Exclude<Given, "points" | "lostPoints" | "program" | "movesMade">>;
type Moved = Stated & Known<"movesMade" | "shotAt">;
/** Points as they stand, as stages read them. */
export type Stood = Known<"points" | "lostPoints" | "program" | "movesMade" | "shotAt" | (typeof COLUMNS)[number]>;

const COLUMNS = STANDING_COLUMNS,
  WHO = ["computed", "count", "id", "number", "deleted", "intake", "row", "cameAs", "intakes"] as const,
  NONE_LOST: ReadonlyMap<number, Lost> = new Map();
/** Constructions on lines and surfaces of constructions on lines and surfaces … so deep at most. */
const ROUNDS = 20;

export class Standing {
  private last: { program: Program; followed: Followed } | undefined;

  /** `linesOf` makes lines of what is given, with points as they stand so far. */
  constructor(private readonly linesOf: (given: Stated & Stood, kept: Kept) => Grounds) {}

  of(own: PointTable, job: Stated, kept: Kept): Stood {
    const { points, movesMade } = movedStage(own, job, kept),
      given: Moved = { ...job, ...(movesMade.length ? points : {}), movesMade };
    const program = given.computed.length
      ? kept.run("program", WHO, given, (v) => programOf(v.computed, v, v.intakes))
      : NOTHING_FOLLOWS;
    if (program.steps.length + program.circular.length === 0) {
      const { e, n, z, deleted, follows, shotAt } = points;
      return { points, lostPoints: NONE_LOST, program, movesMade, e, n, z, deleted, follows, shotAt };
    }
    const followed = this.settled(program, points, given, kept);
    this.last = { program, followed };
    const columns = Object.fromEntries(
      COLUMNS.map((key) => [key, kept.run(`followed ${key}`, [key], followed, (v) => v[key] as never)]),
    ) as unknown as Pick<PointTable, (typeof COLUMNS)[number]>;
    const whole = { ...points, ...columns };
    return {
      ...columns,
      program,
      movesMade,
      shotAt: points.shotAt,
      lostPoints: kept.run("lost points", ["lost"], followed, (v) => v.lost, sameLost),
      points: kept.run("points as they stand", Object.keys(whole) as (keyof PointTable)[], whole, () => whole),
    };
  }

  private settled(program: Program, own: PointTable, given: Moved, kept: Kept): Followed {
    const rowNamed = (ref: PointRef) => program.rowOf.get(ref) ?? -1,
      alone = askedOf([], given, rowNamed);
    if (!program.asksLines && program.onSurface.size === 0)
      return kept.run(
        "followed",
        ["program", ...COLUMNS, "delivered", "intakes", "files"],
        { ...given, program },
        (v) => followSources(v.program, v, alone),
      );
    // Where nothing that it hangs on became another the last answer is right, and nothing is made anew.
    let now = this.last?.program === program ? this.last.followed : followSources(program, own, alone);
    for (let round = 0; round < ROUNDS; round++) {
      const next = this.again(program, own, given, now, kept);
      if (same(next, now)) return next;
      now = next;
    }
    return withoutMoving(this.again(program, own, given, now, kept), now, program);
  }

  /** Everything once more, with lines and surfaces of the points as they stand now. */
  private again(program: Program, own: PointTable, given: Moved, now: Followed, kept: Kept): Followed {
    const { lost: lostPoints, ...columns } = now,
      grounds = this.linesOf({ ...given, ...columns, lostPoints, program, points: { ...own, ...columns } }, kept),
      readers = new Map<string, SurfaceReader>();
    for (const name of program.onSurface.keys()) {
      const recipe = given.surfaceRecipes.find((s) => s.name === name),
        made = recipe && surfaceOf(recipe, grounds, kept);
      if (made?.ok) readers.set(name, new SurfaceReader(made.value.surface));
    }
    return followSources(program, own, {
      ...askedOf(grounds.lines, given, (ref) => program.rowOf.get(ref) ?? -1),
      levelOn: (name, e, n) => readers.get(name)?.at(e, n)?.level ?? NaN,
    });
  }
}

/** Lines by what constructions call them. */
export function askedOf(
  lines: readonly Line[],
  given: Pick<JobState, "intakes" | "delivered" | "files">,
  rowOf: (ref: PointRef) => number,
): Asked {
  const line = (ref: LineRef): Line | string => {
    const found = lines.filter((l) =>
        "hand" in ref
          ? l.hand === ref.hand
          : l.code.toUpperCase() === ref.code.toUpperCase() &&
            (ref.run === undefined || l.run === ref.run) &&
            ("from" in ref
              ? l.shots.length > 0 && l.shots[0] === rowOf(ref.from)
              : ref.intake === undefined || given.intakes[l.intake]?.id === ref.intake),
      ),
      name = "hand" in ref ? ref.hand : [ref.code, ref.run].filter(Boolean).join(" ");
    if (found.length === 1) return found[0]!;
    return found.length ? `${found.length} lines are called ${name}` : `there is no line ${name}`;
  };
  const wayOf = (ref: LineAsked): AlongWay | string => {
    if ("code" in ref || "hand" in ref) {
      const found = line(ref);
      return typeof found === "string" ? found : new AlongWay({ pieces: found.pieces, start: 0 });
    }
    try {
      return new AlongWay(waysOf({ name: "", line: ref }, lines, given)[0]!);
    } catch (e) {
      if (e instanceof Refusal && "file" in ref) return `there is no line ${ref.alignment} of ${ref.file}`;
      throw e;
    }
  };
  // Many points stand along few lines: each is looked for once.
  const known = new Map<string, AlongWay | string>();
  const way = (ref: LineAsked) => {
    const key = JSON.stringify(ref);
    let found = known.get(key);
    if (found === undefined) known.set(key, (found = wayOf(ref)));
    return found;
  };
  return { line, way, levelOn: () => NaN };
}

const same = (a: Followed, b: Followed) => COLUMNS.every((key) => equalColumns(a[key], b[key]));

function sameLost(a: ReadonlyMap<number, Lost>, b: ReadonlyMap<number, Lost>): boolean {
  return a.size === b.size && [...a].every(([row, why]) => JSON.stringify(why) === JSON.stringify(b.get(row)));
}

/** What still moves follows itself: in plan it is not there; levels of surfaces that follow them in a circle are missing. */
function withoutMoving(next: Followed, now: Followed, { steps, onSurface }: Program): Followed {
  const [deleted, z, lost] = [next.deleted.slice(), next.z.slice(), new Map(next.lost)],
    moves = (row: number, ...keys: ("e" | "n" | "deleted")[]) =>
      keys.some((key) => !Object.is(next[key][row], now[key][row]));
  for (const { row } of steps)
    if (moves(row, "e", "n", "deleted")) {
      deleted[row]! |= GONE_UNPLACED;
      lost.set(row, CIRCLE);
    }
  for (const row of [...onSurface.values()].flatMap((rows) => [...rows])) {
    z[row] = NaN;
    lost.set(row, CIRCLE);
  }
  return { ...next, deleted, z, lost };
}

/** The state with its points as they stand: what everything but a change reads. */
export const asItStands = <S extends { points: PointTable }>(state: S, { points }: { points: PointTable }): S =>
  points === state.points ? state : { ...state, points };

/** Why a recipe cannot be run with these constructions: two positions fit, or they follow one another in a circle. */
export function refusalOfLost({ lostPoints, points }: { lostPoints: ReadonlyMap<number, Lost>; points: PointTable }) {
  for (const [row, why] of lostPoints) {
    const path = `computed point ${points.number[row]}`;
    if ("both" in why) {
      const [a, b] = why.both.map(([e, n]) => `E ${e.toFixed(3)} N ${n.toFixed(3)}`);
      return refusal("recipe-field", { path, why: `two positions fit, ${a} and ${b}: say which by near` });
    }
    if (why === CIRCLE) return refusal("recipe-field", { path, why: CIRCLE.why });
  }
  return undefined;
}

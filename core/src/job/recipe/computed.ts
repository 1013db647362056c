/** Points that the office made, between a recipe, which names their sources by numbers, and a job, which keeps what they follow. */
import { hasAlong, passedBy, passedLevel, type By, type Construction, type LevelBy } from "../../construct/model";
import { CIRCLE, followSources } from "../../construct/follow";
import { programOf, type Program } from "../../construct/program";
import { refusal } from "../../errors";
import { ADDED, tableOfAdded, type AddedPoints } from "../../points/add";
import {
  attributesGiven,
  attributesOf,
  decodeAttributes,
  encodeAttributes,
  type AttributesGiven,
} from "../../points/attributes";
import { decodeCueEdits, encodeCueEdits, type CueEdit } from "../../points/cue-edits";
import { fieldValue, withEdits, type CellEdit } from "../../points/edits";
import { numberIndex } from "../../points/index";
import { numbersOfRefs, refsOfNumbers } from "../../points/refs";
import { GONE_DELETED, insertPoints, type PointTable } from "../../points/table";
import { PLAIN_FIELDS, usualOf } from "../../records/fields";
import type { PointKind, SurfaceChoice } from "../../records/kinds";
import type { JobState } from "../model/model";

/** A point that the office made, beside its position. What it has besides is what an office may give it. */
export interface ComputedPoint {
  number: string;
  description?: string;
  by: By;
  elevation?: number | LevelBy;
  note?: string;
  precision?: number;
  targetHeight?: number;
  surface?: SurfaceChoice;
  kind?: Exclude<PointKind, "reference">;
  attributes?: AttributesGiven;
  cues?: CueEdit[];
}

/** The table with the points that the office made, which come after all edits, and what these follow. */
export function withComputed(
  t: PointTable,
  computed: readonly ComputedPoint[],
  intakes: JobState["intakes"],
): { points: PointTable; computed: Construction[] } {
  if (computed.length === 0) return { points: t, computed: [] };
  const taken = new Set(numberIndex(t).keys());
  for (const [k, c] of computed.entries()) {
    const wrong = (field: string, why: string) => refusal("recipe-field", { path: `computed[${k}].${field}`, why });
    if (taken.has(c.number)) throw wrong("number", `another point has the number “${c.number}” already`);
    if (typeof c.elevation === "object" && "along" in c.elevation && !hasAlong(c.by))
      throw wrong("elevation", "its way names no two points, and no line, along which a level could run");
    taken.add(c.number);
  }
  const first = (t.id[t.count - 1] ?? 0) + 1,
    given = computed.map(({ by, elevation, ...c }) => {
      const [easting, northing] = "at" in by ? by.at : [0, 0];
      return { ...c, easting, northing, elevation: typeof elevation === "number" ? elevation : null };
    });
  const added = tableOfAdded({
    id: computed.map((_, k) => first + k),
    ...(Object.fromEntries(ADDED.map((field) => [field, given.map((c) => c[field])])) as Omit<AddedPoints, "id">),
  });
  const edits = computed.flatMap(({ surface, attributes, cues }, row): CellEdit[] => [
    ...(surface ? [{ row, field: "surface" as const, value: surface }] : []),
    ...(attributes
      ? [{ row, field: "attributes" as const, value: encodeAttributes(attributesGiven(attributes)) }]
      : []),
    ...(cues ? [{ row, field: "cues" as const, value: encodeCueEdits(cues) }] : []),
  ]);
  const points = insertPoints(t, withEdits(added, edits)),
    refOf = refsOfNumbers(points, intakes);
  const constructions = computed.flatMap(({ by, elevation }, k): Construction[] => {
    const follows = {
      ...("at" in by ? {} : { by: passedBy(by, refOf) }),
      ...(typeof elevation === "object" ? { elevation: passedLevel(elevation, refOf) } : {}),
    };
    return Object.keys(follows).length ? [{ point: first + k, ...follows }] : [];
  });
  const program = programOf(constructions, points, intakes),
    [circle] = program.circular;
  if (circle !== undefined)
    throw refusal("recipe-field", {
      path: `computed[${points.id[circle.row]! - first}].by`,
      why: `point ${points.number[circle.row]} follows itself: ${CIRCLE.why}`,
    });
  return { points: nearSources(points, program), computed: constructions };
}

/**
 * The table with constructed points where they stand by other points alone, and those that need more beside a source: what
 * looks at a job's points before its chain has run finds none of them far off.
 */
function nearSources(t: PointTable, program: Program): PointTable {
  if (program.steps.length === 0) return t;
  const none = () => "lines are not made yet",
    { e, n, lost } = followSources(program, t, { way: none, line: none, levelOn: () => NaN }),
    there = Math.max(0, t.deleted.indexOf(0));
  for (const row of lost.keys()) [e[row], n[row]] = [t.e[there]!, t.n[there]!];
  return { ...t, e, n };
}

/** The points that the office made: what they follow, by the numbers of now, or where they are. */
export function computedPoints({ points: t, intakes, computed }: Pick<JobState, "points" | "intakes" | "computed">) {
  const out: ComputedPoint[] = [],
    numberOf = numbersOfRefs(t, intakes),
    follows = new Map(computed.map((c) => [c.point, c]));
  for (let i = 0; i < t.count; i++) {
    if (t.intake[i]! >= 0 || t.deleted[i]! & GONE_DELETED) continue;
    const own = PLAIN_FIELDS.filter((f) => f !== "northing" && f !== "easting").map(
        (f) => [f, fieldValue(t, i, f)] as const,
      ),
      [attributes, cues] = [attributesOf(t, i), String(fieldValue(t, i, "cues"))],
      { by, elevation } = follows.get(t.id[i]!) ?? {};
    out.push({
      number: t.number[i]!,
      by: by ? passedBy(by, numberOf) : { at: [t.e[i]!, t.n[i]!] },
      ...Object.fromEntries(own.filter(([f, value]) => value !== usualOf(f))),
      ...(elevation ? { elevation: passedLevel(elevation, numberOf) } : {}),
      ...(attributes && { attributes: decodeAttributes(attributes) }),
      ...(cues && { cues: decodeCueEdits(cues) }),
    });
  }
  return out;
}

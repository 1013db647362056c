/**
 * What refers to points, between the application, where they are known by identity (points/refs.ts), and a recipe, which
 * names them by their numbers.
 */
import type { HandLine, HandLineGiven } from "../../lines/model";
import { orderedNumbers, writeNumbers } from "../../points/numbers";
import { numbersOfRefs, refForRecipe, refsOfNumbers, settledRef, type PointRef } from "../../points/refs";
import { conditionsChanged } from "../../sets/model";
import type { JobState } from "../model/model";
import type { JobParts } from "../model/parts";
import { AS_IT_IS, passed } from "../model/references";

/** Parts that refer to points by identity. Numbers as a condition of a set are a condition in a recipe as well. */
type Referring = Pick<JobParts, "lines" | "names" | "sets" | "surfaces" | "added">;
export type ReferringGiven = Omit<Referring, "lines"> & { lines: HandLineGiven[] };

const cuesOf = <L extends { cues?: Record<string, string> }>(line: L, key: (of: string) => string): Pick<L, "cues"> =>
  line.cues ? { cues: Object.fromEntries(Object.entries(line.cues).map(([of, words]) => [key(of), words])) } : {};

/** What a recipe gives, as the application keeps it, once all points are there. */
export function referringKept(
  given: ReferringGiven,
  { points, intakes }: Pick<JobState, "points" | "intakes">,
): Referring {
  const ofNumber = refsOfNumbers(points, intakes),
    settled = settledRef(points, intakes);
  return {
    lines: given.lines.map((l): HandLine => ({
      ...l,
      points: orderedNumbers(l.points).map(ofNumber),
      ...cuesOf(l, ofNumber),
    })),
    names: given.names.map((n) => passed("names", n, { ...AS_IT_IS, point: ofNumber })),
    sets: given.sets,
    surfaces: given.surfaces.map((s) => passed("surfaces", s, { ...AS_IT_IS, point: ofNumber })),
    added: given.added.map((a) => passed("added", a, { ...AS_IT_IS, point: settled })),
  };
}

/** What the application keeps, as a recipe gives it. */
export function referringGiven({
  points,
  intakes,
  ...kept
}: Referring & Pick<JobState, "points" | "intakes">): ReferringGiven {
  const numberOf = numbersOfRefs(points, intakes),
    numbers = (refs: readonly PointRef[]) => refs.map(numberOf),
    inRecipe = refForRecipe(points);
  return {
    lines: kept.lines.map((l) => ({ ...l, points: writeNumbers(numbers(l.points)), ...cuesOf(l, numberOf) })),
    names: kept.names.map((n) => passed("names", n, { ...AS_IT_IS, point: numberOf })),
    sets: kept.sets.map((s) => ({
      ...s,
      rule: conditionsChanged(s.rule, (c) => ("points" in c ? { numbers: numbers(c.points) } : c)),
    })),
    surfaces: kept.surfaces.map((s) => passed("surfaces", s, { ...AS_IT_IS, point: numberOf })),
    added: kept.added.map((a) => passed("added", a, { ...AS_IT_IS, point: inRecipe })),
  };
}

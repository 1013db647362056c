/** The shapes of limits, acceptances, named states and tolerances. */
import { FINDING_KINDS, kindOfFinding, type Limit } from "../../../finding-kinds";
import { listOf, name, notNegative, numbers, oneOf, positive, record, text, type Schema, whole } from "../../../shape";

/** What a limit may be. */
const limitShape = ({ is, zero }: Limit): Schema =>
  is === "count" ? whole(2, 1_000_000) : zero ? notNegative : positive;
/** Limits of checks; `false` for those that are not made. */
export const checksSchema = record(
  Object.fromEntries(
    FINDING_KINDS.map((k) => {
      const { limits } = kindOfFinding(k);
      if (!limits) return [k, oneOf(false)];
      const own = Object.entries(limits).map(([name, limit]) => [name, limitShape(limit)]);
      return [k, { if: { type: "object" }, then: record(Object.fromEntries(own)), else: oneOf(false) }];
    }),
  ),
);

const acceptedFields = (points: Schema) => ({
  kind: oneOf(...FINDING_KINDS),
  points,
  lines: listOf(text, { maxItems: 1000 }),
  reason: { type: "string", minLength: 1, maxLength: 1000 },
});
/** As a recipe says it: points by their numbers, lines by their names. */
export const acceptedGivenSchema = record(acceptedFields(numbers), ["kind", "reason"]);
/** As the application keeps it: points by their ids, lines by their keys, with what the finding said. */
export const acceptedSchema = record(
  {
    name,
    ...acceptedFields(listOf(whole(0, 2 ** 31 - 1), { maxItems: 1_000_000 })),
    named: listOf(text, { maxItems: 1000 }),
    facts: listOf({ type: ["string", "number", "boolean", "null"] }, { maxItems: 100_000 }),
  },
  ["name", "kind", "points", "lines", "reason"],
);

/** A state is the number of an entry of the ledger; 0: before the first. */
export const stateSchema = record({ name, seq: whole(0, 2 ** 31 - 1) }, ["name", "seq"]);

export const toleranceSchema = record({
  arc: positive,
  chord: positive,
  coincident: notNegative,
  crossing: notNegative,
  precision: positive,
  repeat: positive,
});

/** The shape of moves that a job keeps (points/moves.ts): points by identity, deliveries by their ids. */
import { has, listOf, name, oneOf, pointRef, record, type Schema } from "../../../shape";
import { fitOf, transformSchema } from "./points";

const points: Schema = has(
  "intakes",
  record({ intakes: listOf(name, { minItems: 1, maxItems: 10_000 }) }, ["intakes"]),
  record({ chosen: listOf(pointRef, { minItems: 1, maxItems: 1_000_000 }) }, ["chosen"]),
);

export const moveSchema: Schema = has(
  "fit",
  record({ name, points, fit: fitOf(record({ from: pointRef, to: pointRef, out: oneOf(true) }, ["from", "to"])) }, [
    "name",
    "points",
    "fit",
  ]),
  record({ name, points, transform: transformSchema }, ["name", "points", "transform"]),
);

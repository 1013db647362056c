/**
 * The JSON schema of a recipe, printed by `./bramble schema`: composed of the shapes of settings, parts, intakes and
 * edits.
 */
import { UNITS } from "../../math/units";
import { RECIPE_PARTS, PARTS, type RecipePart } from "./parts";
import { RECIPE_SETTINGS, SETTINGS } from "./settings";
import { listOf, oneOf, record, text, type Schema } from "../../shape";
import { bookFileSchema } from "./shapes/book";
import { acceptedGivenSchema, toleranceSchema } from "./shapes/checks";
import { intakeSchema } from "./shapes/intake";
import { computedSchema } from "./shapes/computed";
import { editSchema, handLineSchema, lineNameGivenSchema } from "./shapes/points";
import { RULES, setGivenSchema } from "./shapes/rules";
import { surfaceGivenSchema } from "./shapes/surfaces";

/** Parts that a recipe writes another way than the application keeps them. */
const GIVEN: Partial<Record<RecipePart, Schema>> = {
  lines: handLineSchema,
  names: lineNameGivenSchema,
  sets: setGivenSchema,
  surfaces: surfaceGivenSchema,
  accepted: acceptedGivenSchema,
  computed: computedSchema,
};
const parts = Object.fromEntries(
  RECIPE_PARTS.map((p) => [p, listOf(GIVEN[p] ?? PARTS[p].schema, { maxItems: PARTS[p].most })]),
);

export const recipeSchema: Schema = {
  $schema: "http://json-schema.org/draft-07/schema#",
  title: "Recipe of a Rough Bramble job",
  ...record(
    {
      recipe: oneOf(1),
      unit: oneOf(...UNITS),
      ...Object.fromEntries(RECIPE_SETTINGS.map((f) => [f, SETTINGS[f].schema])),
      name: text,
      tolerance: toleranceSchema,
      codeBook: { ...bookFileSchema, type: ["object", "string"] },
      intakes: listOf(intakeSchema, { maxItems: 10_000 }),
      edits: listOf(editSchema, { maxItems: 1_000_000 }),
      ...parts,
    },
    ["recipe"],
  ),
  $defs: RULES,
};

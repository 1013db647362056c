/** The core: everything that is computed, without interface, file system or network. */
export * from "./errors";
export * from "./finding";
export * from "./job/model";
export * from "./job/change";
export { Chain, runChain, type Derived, type Made } from "./job/chain";
export { withPlaces, reduceState, referencesOf } from "./job/reduce";
export { freeLineName, openRecipe, openRecipeTables, parseRecipe, plainSettings, readIntake, tolerancesIn, checkBook, type IntakeJob, type ReadIntake, type Recipe, type RecipeIntake, type OpenFile } from "./job/recipe";
export * from "./job/line-edits";
export { writeRecipe } from "./job/write";
export { summarize, type WrittenFile } from "./job/summary";
export { recipeSchema } from "./job/schema";
export { checkCodeBookShape, checkLayoutShape, checkCueEditsShape, checkIntakeShape, checkPartShape, checkRecipeShape, checkSettingShape, checkToleranceShape } from "./job/validate";
export { writeFile, paperScale } from "./handover/files";
export { DEFAULT_COLUMNS, DEFAULT_DECIMALS } from "./handover/csv";
export { UNITS, UNIT_NAMES, METRES, AREA_UNITS, VOLUME_UNITS, areaFactor, volumeFactor, fromMetres, unitFactor, readLength, type AreaUnit, type Unit, type VolumeUnit } from "./math/units";
export { GENERAL_BOOK } from "./codes/general-book";
export { lookAt, textOfRows, type Look, type LookedClash, type LookedCode, type LookedLine, type LookJob } from "./job/look";
export { addToNumber } from "./points/numbers";

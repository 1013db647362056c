/** The core: everything that is computed, without interface, file system or network. */
export * from "./errors";
export * from "./finding";
export { KINDS, type PointKind } from "./records/kinds";
export type { Delivered } from "./records/delivered";
export type { RefusedRow } from "./records/records";
export { DEFAULT_TOLERANCES, tolerancesIn, type Tolerances } from "./math/tolerances";
export * from "./codes/model";
export { columnName, COLUMNS, type NamedColumn } from "./intake/columns";
export * from "./intake/model";
export * from "./points/setups";
export type { CrewRange } from "./points/numbers";
export { GROUND, type Condition, type ConditionKind, type PointSet, type SetRule } from "./sets/model";
export type { ContoursRecipe, LineWanted, RingWanted, SurfaceRecipe, SurfaceReport } from "./surface/model";
export type { VolumeRecipe } from "./volumes/model";
export type { AsBuilt, DifferenceRecipe } from "./volumes/as-built";
export type { HandoverColumn } from "./handover/model";
export type { HandoverFile, PointColumns, TextStyle } from "./handover/files";
export { filesOf, leavingName, NAME_WORDS, plainName, staysInside } from "./handover/names";
export type { ManifestFile } from "./handover/manifest";
export type { HandLine } from "./lines/model";
export type { DrawingSettings, PointLabels, SurfaceLook } from "./drawing/model";
export * from "./job/model/model";
export * from "./job/model/parts";
export * from "./job/model/settings";
export { sameJson } from "./math/json";
export { writeNumbers, type Numbers } from "./points/numbers";
export { addedOf, tableOfAdded, type AddedPoints } from "./points/add";
export * from "./job/change/change";
export { asksForFindings, keepSet, renameSet, setContext } from "./job/edit/sets";
export { thingRemoved, thingRenamed } from "./job/change/rename";
export { usersOf } from "./job/model/references";
export { standingInTheWay } from "./job/change/dependents";
export { nextStep, type NextStep, type Stepped } from "./job/change/steps";
export { renumber, type Follower, type Renumbering } from "./job/change/renumber";
export {
  beginningOf,
  changeAbout,
  changeDetails,
  ledgerReport,
  type ChangeDetail,
  type Subject,
} from "./job/change/details";
export { freeLineName, type LineName, type LinesNamed } from "./lines/names";
export { nameGone, nameLine, nameOfLine } from "./job/edit/line-names";
export { Chain, runChain } from "./job/chain/chain";
export { acceptanceOf, openedAgain, type Accepted } from "./checks/accepted";
export { isLookedFor, limitsOf, type ChecksGiven } from "./checks/limits";
export type { CheckLimits, LimitedKind } from "./finding-kinds";
export type { Evidence } from "./job/told/evidence";
export { repairsOf, type Repair } from "./job/edit/repairs";
export { withPoint } from "./job/edit/repair-parts";
export {
  compareStates,
  type Figure,
  type Moved,
  type StateStep,
  type StatesCompared,
  type Stop,
} from "./job/told/states";
export { effectOf, tryChange, type Trial } from "./job/told/trial";
export { type CellValue } from "./points/differing";
export { asItStands, refusalOfLost } from "./job/chain/standing";
export type { Derived, Made } from "./job/chain/values";
export { withPositions, reduceState, referencesOf } from "./job/model/reduce";
export {
  openRecipe,
  openRecipeTables,
  parseRecipe,
  readIntake,
  type IntakeJob,
  type ReadIntake,
  type Recipe,
  type RecipeIntake,
  type OpenFile,
} from "./job/recipe/recipe";
export { cueChange, type CueStep, type DrawnLine, type LineEdit } from "./job/edit/drawn-lines";
export { joinLines, jointsOf, type Joint } from "./job/edit/join-lines";
export * from "./job/edit/line-edits";
export { recodeLine, withElement } from "./job/edit/recode-line";
export * from "./job/edit/shot-edits";
export { writeRecipe } from "./job/recipe/write";
export {
  namesIn,
  refusedInWords,
  fitTold,
  summarize,
  unplacedPerIntake,
  unplacedRows,
  type WrittenFile,
} from "./job/told/summary";
export { recipeSchema } from "./job/model/schema";
export {
  checkCodeBookShape,
  checkLayoutShape,
  checkCueEditsShape,
  checkPartShape,
  checkRecipeShape,
  checkSetting,
  checkShape,
} from "./job/model/validate";
export { layoutSource, paperScale } from "./job/leave/drawn";
export type { JobThen } from "./job/leave/handover-source";
export { writeFile, type OwnFile, type Written } from "./job/leave/handover";
export { previewOf, type Preview } from "./job/leave/preview";
export { writeHandover, type HandoverHost, type HandoverMade } from "./job/leave/leave";
export { DEFAULT_COLUMNS, HANDOVER_COLUMNS, HOLDS, PAPER_NAMES } from "./handover/model";
export { DEFAULT_DECIMALS } from "./handover/says";
export { HANDOVER_FORMATS } from "./handover/formats";
export {
  sayingsOf,
  HANDOVER_KINDS,
  kindOfFile,
  needsSystem,
  newFile,
  pointsOf,
  wordsOfFile,
  type BroughtFile,
  type PlanFile,
  type ReportFile,
  type HandoverFormat,
} from "./handover/files";
export {
  UNITS,
  UNIT_NAMES,
  UNIT_NAMES_MANY,
  METRES,
  AREA_UNITS,
  VOLUME_UNITS,
  areaFactor,
  volumeFactor,
  decimalsOf,
  fromMetres,
  lengthText,
  unitFactor,
  readLength,
  type AreaUnit,
  type Unit,
  type VolumeUnit,
} from "./math/units";
export { bookIn } from "./codes/book-units";
export { GENERAL_BOOK, generalBook } from "./codes/general-book";
export {
  lookAt,
  textOfRows,
  type Look,
  type LookedCode,
  type LookedWord,
  type LookedLine,
  type LookJob,
} from "./job/told/look";
export type { OnlyRows } from "./intake/model";
export type { LookedClash, Repeated } from "./job/recipe/repeated";
export { addToNumber } from "./points/numbers";

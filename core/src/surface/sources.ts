import type { Chains } from "../lines/flatten";
import type { Line } from "../lines/model";
import type { PointFinder } from "../points/refs";
import type { Tolerances } from "../math/tolerances";
import type { Unit } from "../math/units";
import type { ReferenceLine } from "../records/reference";
import type { KeptSums } from "./block-sums";
import type { KeptPlan } from "./triangulate";

/** What a surface is built from. */
export interface SurfaceSources {
  unit: Unit;
  /** Table rows of the points the recipe chose, and where these are; all have an elevation. */
  points: Int32Array;
  e: Float64Array;
  n: Float64Array;
  z: Float64Array;
  lines: readonly Line[];
  /** The lines as chords, with unusable levels not known. */
  chains: Chains;
  tolerance: Tolerances;
  /** Names of the intakes that lines name by index; lines that files brought along, by the files' names. */
  intakes?: readonly string[];
  fileLines?: (file: string) => readonly ReferenceLine[];
  /** Finds the points that corrections refer to. */
  found?: PointFinder;
  /** Kept between buildings of one surface by who builds it again and again. */
  plan?: KeptPlan;
  /** Told which step is next, in words. */
  begins?: (step: string) => void;
  sums?: KeptSums;
}

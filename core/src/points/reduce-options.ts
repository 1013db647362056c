/** What raw observations are reduced with. */
import type { Tolerances } from "../math/tolerances";
import type { Unit } from "../math/units";
import type { Curvature } from "./setups";

export interface ReduceOptions {
  unit: Unit;
  tolerance: Tolerances;
  curvature: Required<Exclude<Curvature, false>> | false;
  scaleFactor: number;
}

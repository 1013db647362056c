/**
 * How good a point's place is held to be. What is said of plan or level alone goes before what is said of both
 * (RECIPE.md: `precision` is both).
 */
import { measuredName } from "../records/measured";
import type { PointTable } from "./table";

type Precisions = Pick<PointTable, "precision" | "measured">;

/** One sigma of a point's level, in the job's unit; NaN where nothing is said. */
export function levelPrecision({ precision, measured }: Precisions, i: number): number {
  const own = measured.precisionLevel?.[i] ?? NaN;
  return Number.isNaN(own) ? precision[i]! : own;
}

const ALONE = ["precisionPlan", "precisionLevel"] as const;

/** The worst one sigma that is said of a point, in the job's unit, and what sentences call it; NaN where nothing is said. */
export function worstPrecision({ precision, measured }: Precisions, i: number): { value: number; name: string } {
  let worst = { value: precision[i]!, name: "precision" };
  for (const field of ALONE) {
    const value = measured[field]?.[i] ?? NaN;
    if (value > worst.value || Number.isNaN(worst.value)) worst = { value, name: measuredName(field) };
  }
  return Number.isNaN(worst.value) ? { value: NaN, name: "precision" } : worst;
}

import type { Reference } from "./reference";
import type { Survey } from "./survey";

/** What an intake brought beside its points, kept as it was read. */
export interface Delivered {
  survey?: Survey;
  reference?: Reference;
}

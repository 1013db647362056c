/** What of the store the sheet looks at. */
import type { Store } from "../lib/state/store";

export type SheetState = Pick<
  Store,
  | "job"
  | "view"
  | "layers"
  | "surface"
  | "volume"
  | "flood"
  | "incoming"
  | "jobId"
  | "onlyRows"
  | "colorBy"
  | "setRows"
  | "groundSeen"
  | "layout"
  | "points"
>;

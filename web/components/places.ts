/** The six places in the order of work, and which findings are at home in each. */
import type { FindingKind } from "@bramble/core";

export const PLACES = ["intake", "points", "lines", "surface", "volumes", "handover"] as const;
export type PlaceName = (typeof PLACES)[number];

export const PLACE_NAMES: Record<PlaceName, string> = {
  intake: "Intake", points: "Points", lines: "Lines", surface: "Surface", volumes: "Volumes", handover: "Handover",
};

const HOME: Partial<Record<FindingKind, PlaceName>> = {
  "unread-row": "intake", "number-clash": "intake", "axes-swapped": "intake", "far-away": "intake",
  "single-point-line": "lines", "area-unclosed": "lines", "cue-ignored": "lines", "arc-flat": "lines", "arc-misfit": "lines", "long-segment": "lines", "line-crosses-itself": "lines",
  "breaklines-cross": "surface", coincident: "surface", "long-triangle": "surface",
};

/** Where a finding is dealt with; most are about points. */
export function homeOf(kind: FindingKind): PlaceName {
  return HOME[kind] ?? "points";
}

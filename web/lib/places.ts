/** The six places in the order of work, and which findings are at home in each. */
import { kindOfFinding, type FindingKind } from "@bramble/core/finding-kinds";

export const PLACES = ["intake", "points", "lines", "surface", "volumes", "handover"] as const;
/** With those beside the path, whose things belong to every place. */
export const ALL_PLACES = [...PLACES, "book", "settings"] as const;
export type PlaceName = (typeof PLACES)[number];

export const PLACE_NAMES: Record<PlaceName, string> = {
  intake: "Intake",
  points: "Points",
  lines: "Lines",
  surface: "Surface",
  volumes: "Volumes",
  handover: "Handover",
};

/** What is done in each place, in a sentence. */
export const PLACE_WORK: Record<PlaceName, string> = {
  intake: "Take in what the crews send. See what was read before it is stored; what was received is kept as it came.",
  points: "One table of all points: sort, filter, correct. What you select is selected on the sheet too.",
  lines: "The linework that the codes draw, each line with its shots, length and area.",
  surface: "Terrain from ground points and breaklines, with its contours and sections.",
  volumes: "Surfaces against each other or a level, heaps, storage: cut and fill, their ±, a report.",
  handover: "Drawings, plans, tables and open data files, alone or as one package, each read back first.",
};

/** Where a finding is dealt with; most are about points. */
export function homeOf(kind: FindingKind): PlaceName {
  return kindOfFinding(kind).home ?? "points";
}

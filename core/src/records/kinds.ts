/** Words that the table of points counts by: what a point is, whether it is part of surfaces, what of it follows. */

/** What a point is to the job. */
export const KINDS = ["measured", "control", "design", "computed", "reference"] as const;
export type PointKind = (typeof KINDS)[number];

export const SURFACE_CHOICES = ["auto", "in", "out"] as const;
export type SurfaceChoice = (typeof SURFACE_CHOICES)[number];

/** Bits of PointTable.follows. */
export const FOLLOWS_N = 1,
  FOLLOWS_E = 2,
  FOLLOWS_Z = 4,
  FOLLOWS_ALL = 7;

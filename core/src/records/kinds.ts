/** What a point is to the job. */
export const KINDS = ["measured", "control", "design", "computed", "reference"] as const;
export type PointKind = (typeof KINDS)[number];

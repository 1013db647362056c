/** Words of what leaves: columns of points, what geometry a file may hold, sizes of paper. */
import { EDIT_FIELDS, isPlain, type EditField, type PlainField } from "../records/fields";
import { MEASURED_FIELDS, type MeasuredField } from "../records/measured";

/** What stands in a column of points beside fields and what was measured: it follows from other things. */
export const FOLLOWING_COLUMNS = ["code", "name", "intake", "crew", "setup", "time"] as const;
export type FollowingColumn = (typeof FOLLOWING_COLUMNS)[number];

const isOwn = (f: EditField): f is PlainField | "number" => f === "number" || isPlain(f);
export type PointColumn = PlainField | "number" | MeasuredField | FollowingColumn;
export const HANDOVER_COLUMNS: readonly PointColumn[] = [
  ...EDIT_FIELDS.filter(isOwn),
  ...FOLLOWING_COLUMNS,
  ...MEASURED_FIELDS,
];
export type HandoverColumn = PointColumn | `attr:${string}`;
export const DEFAULT_COLUMNS: HandoverColumn[] = ["number", "northing", "easting", "elevation", "description"];

/** What geometry may leave in one file. */
export const HOLDS = ["points", "lines", "surfaces", "contours", "survey"] as const;
export type Holds = (typeof HOLDS)[number];

export const PAPER_NAMES = ["A4", "A3", "A2", "A1", "A0"] as const;
export type Paper = (typeof PAPER_NAMES)[number];

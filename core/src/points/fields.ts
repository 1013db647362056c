/**
 * What an office may change of a point, each described once: where it stands in the table and in the database, what it may
 * be, what it is called. Edits, additions, recipes, the edges' rules, the ledger's words and stored columns follow from it.
 */
import { KINDS } from "../records/kinds";
import { FOLLOWS_E, FOLLOWS_N, FOLLOWS_Z, SURFACE_CHOICES } from "./table";

interface Described {
  /** What sentences call it, where that is not its name. */
  words?: string;
  /** Its column in the database. */
  stored: string;
  /** Positions of points depend on it: by reduction of raw observations, and by the cue `past`. */
  positions?: true;
  /** A point that the office makes must have it, or may have it from the beginning. */
  added?: "must" | "may";
}

/** In the job's unit; null where a point has none. */
export interface LengthField extends Described {
  is: "length";
  column: "e" | "n" | "z" | "precision" | "targetHeight";
  /** No point is without it. */
  required?: true;
  least?: 0;
  /** A coordinate: which of them, and its bit in `follows`. */
  coordinate?: { axis: 0 | 1 | 2; follows: number };
}
export interface TextField extends Described {
  is: "text";
  column: "description" | "note";
}
export interface ChoiceField extends Described {
  is: "choice";
  column: "kind" | "surface";
  /** In the order in which the table counts them. */
  of: readonly string[];
  /** What a person may choose. */
  offered: readonly string[];
}
/** The number of the point, whether it is deleted, its edited cues and its attributes have ways of their own. */
interface OwnField extends Described {
  is: "number" | "deleted" | "cues" | "attributes";
}
export type PointField = LengthField | TextField | ChoiceField | OwnField;

const described = <F extends Record<string, PointField>>(fields: F): F => fields;

export const FIELDS = described({
  number: { is: "number", stored: "number", positions: true, added: "must" },
  northing: {
    is: "length",
    column: "n",
    stored: "northing",
    required: true,
    coordinate: { axis: 1, follows: FOLLOWS_N },
    positions: true,
    added: "must",
  },
  easting: {
    is: "length",
    column: "e",
    stored: "easting",
    required: true,
    coordinate: { axis: 0, follows: FOLLOWS_E },
    positions: true,
    added: "must",
  },
  elevation: {
    is: "length",
    column: "z",
    stored: "elevation",
    coordinate: { axis: 2, follows: FOLLOWS_Z },
    positions: true,
    added: "must",
  },
  description: { is: "text", column: "description", stored: "description", positions: true, added: "must" },
  note: { is: "text", column: "note", stored: "note", added: "may" },
  targetHeight: {
    is: "length",
    column: "targetHeight",
    words: "target height",
    stored: "target_height",
    positions: true,
    added: "may",
  },
  precision: { is: "length", column: "precision", stored: "precision", least: 0, added: "may" },
  kind: {
    is: "choice",
    column: "kind",
    stored: "kind",
    of: KINDS,
    offered: KINDS.filter((k) => k !== "reference"),
    positions: true,
    added: "may",
  },
  surface: {
    is: "choice",
    column: "surface",
    words: "use in surfaces",
    stored: "surface",
    of: SURFACE_CHOICES,
    offered: SURFACE_CHOICES,
  },
  deleted: { is: "deleted", words: "deletion", stored: "deleted", positions: true },
  cues: { is: "cues", stored: "cues", positions: true },
  attributes: { is: "attributes", stored: "attributes" },
});

export type EditField = keyof typeof FIELDS;
export const EDIT_FIELDS = Object.keys(FIELDS) as EditField[];

/** Fields whose value stands in a column of its own and is compared as it is stored. */
export type PlainField = {
  [F in EditField]: (typeof FIELDS)[F]["is"] extends "length" | "text" | "choice" ? F : never;
}[EditField];
export type LengthName = { [F in EditField]: (typeof FIELDS)[F]["is"] extends "length" ? F : never }[EditField];

/** A field's description, as one of the kinds that there are. */
export const fieldOf = (field: EditField): PointField => FIELDS[field];

export const isPlain = (field: EditField): field is PlainField =>
  ["length", "text", "choice"].includes(FIELDS[field].is);
export const isLength = (field: EditField): field is LengthName => FIELDS[field].is === "length";

export const PLAIN_FIELDS = EDIT_FIELDS.filter(isPlain);

/** What sentences call a field. */
export const fieldName = (field: EditField): string => fieldOf(field).words ?? field;

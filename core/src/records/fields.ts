/**
 * What an office may change of a point, each described once: where it stands in the table and in the database, what it may
 * be, what it is called, by which heading a file names it. The table's columns, readers, edits, additions, recipes, the
 * edges' rules, the ledger's words, the database, the screen's columns and those of files follow from it.
 * What the field alone says of a point is in measured.ts. In the order in which tables show them.
 */
import { FOLLOWS_E, FOLLOWS_N, FOLLOWS_Z, KINDS, SURFACE_CHOICES } from "./kinds";

/** What can be done to a field of many points at once. */
export type Deed = "set" | "add" | "replace";

interface Described {
  /** What sentences call it, where that is not its name. */
  words?: string;
  /** What it is called above a column, where that is not what sentences call it. */
  title?: string;
  /** Its column in the database. */
  stored: string;
  /** Positions of points depend on it: by reduction of raw observations, and by the cue `past`. */
  positions?: true;
  /** A point that the office makes must have it, or may have it from the beginning. */
  added?: "must" | "may";
  /** Headings by which files name it, as patterns of whole headings between blanks; see intake/columns.ts. */
  heads?: string;
  /** The usual deed first. */
  many?: readonly Deed[];
  /** Of its column on the screen, in pixels. */
  width?: number;
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
  /** What a point that the office makes has, where nothing else is said. */
  usual: string;
  /** What choices are called, where that is not their name. */
  called?: Readonly<Record<string, string>>;
}
/** The number of the point, whether it is deleted, its edited cues and its attributes have ways of their own. */
interface OwnField extends Described {
  is: "number" | "deleted" | "cues" | "attributes";
}
export type PointField = LengthField | TextField | ChoiceField | OwnField;

const described = <const F extends Record<string, PointField>>(fields: F): F => fields;

export const FIELDS = described({
  number: {
    is: "number",
    stored: "number",
    positions: true,
    added: "must",
    heads:
      "(no|nr|num|number|pt|point|pointno|pointnumber|pointid|#)\\.? " +
      "nummer punkt punktnr punktnummer numero num punto pto ponto puntnummer numer nrpunktu",
    width: 84,
  },
  northing: {
    is: "length",
    column: "n",
    stored: "northing",
    required: true,
    coordinate: { axis: 1, follows: FOLLOWS_N },
    positions: true,
    added: "must",
    heads:
      "n north northing northings northing\\(.*\\) " +
      "nord norden nordwert hochwert norte noord noorden norr polnoc pohjoinen",
    many: ["add"],
    width: 100,
  },
  easting: {
    is: "length",
    column: "e",
    stored: "easting",
    required: true,
    coordinate: { axis: 0, follows: FOLLOWS_E },
    positions: true,
    added: "must",
    heads:
      "e east easting eastings easting\\(.*\\) ost osten ostwert rechtswert est este leste oost oosten oster wschod ita",
    many: ["add"],
    width: 100,
  },
  elevation: {
    is: "length",
    column: "z",
    stored: "elevation",
    coordinate: { axis: 2, follows: FOLLOWS_Z },
    positions: true,
    added: "must",
    heads:
      "z h elev elevation lev lvl level height rl elevation\\(.*\\) " +
      "hohe hoehe hoogte altitude altitud altura cota quota kote hojd hoyde hojde wysokosc korkeus niveau",
    many: ["add", "set"],
    width: 92,
  },
  description: {
    is: "text",
    column: "description",
    stored: "description",
    positions: true,
    added: "must",
    heads:
      "d desc description text fielddescription " +
      "beschreibung bezeichnung omschrijving descripcion descrizione descricao libelle beskrivning beskrivelse opis",
    many: ["replace", "set"],
    width: 168,
  },
  surface: {
    is: "choice",
    column: "surface",
    words: "use in surfaces",
    title: "In surfaces",
    stored: "surface",
    of: SURFACE_CHOICES,
    offered: SURFACE_CHOICES,
    usual: "auto",
    called: { auto: "by code" },
    many: ["set"],
    width: 84,
  },
  note: {
    is: "text",
    column: "note",
    stored: "note",
    added: "may",
    heads:
      "note notes remark remarks comment " +
      "bemerkung anmerkung remarque nota notas osservazioni opmerking anteckning merknad uwagi",
    many: ["set", "replace"],
    width: 140,
  },
  kind: {
    is: "choice",
    column: "kind",
    stored: "kind",
    of: KINDS,
    offered: KINDS.filter((k) => k !== "reference"),
    usual: "computed",
    positions: true,
    added: "may",
    many: ["set"],
    width: 88,
  },
  targetHeight: {
    is: "length",
    column: "targetHeight",
    words: "target height",
    stored: "target_height",
    positions: true,
    added: "may",
    heads: "targetheight rodheight polheight poleheight",
    many: ["set", "add"],
    width: 110,
  },
  precision: {
    is: "length",
    column: "precision",
    stored: "precision",
    least: 0,
    added: "may",
    heads: "precision sigma accuracy quality genauigkeit precisione precizion nauwkeurigheid noggrannhet",
    many: ["set"],
    width: 92,
  },
  deleted: { is: "deleted", words: "deletion", stored: "deleted", positions: true },
  cues: { is: "cues", stored: "cues", positions: true },
  attributes: { is: "attributes", stored: "attributes" },
});

type Fields = typeof FIELDS;
export type EditField = keyof Fields;
type FieldThat<D> = { [F in EditField]: Fields[F] extends D ? F : never }[EditField];

/** Fields whose value stands in a column of its own and is compared as it is stored. */
export type PlainField = FieldThat<{ is: "length" | "text" | "choice" }>;
export type LengthName = FieldThat<{ is: "length" }>;
/** Fields that a column of a file may give. */
export type ReadField = FieldThat<{ heads: string }>;

export const EDIT_FIELDS = Object.keys(FIELDS) as EditField[];

/** A field's description, as one of the kinds that there are. */
export const fieldOf = (field: EditField): PointField => FIELDS[field];

export const isPlain = (field: EditField): field is PlainField =>
  ["length", "text", "choice"].includes(FIELDS[field].is);
export const isLength = (field: EditField): field is LengthName => FIELDS[field].is === "length";

export const PLAIN_FIELDS = EDIT_FIELDS.filter(isPlain);
export const LENGTHS = EDIT_FIELDS.filter(isLength);
export const READ_FIELDS = EDIT_FIELDS.filter((f): f is ReadField => fieldOf(f).heads !== undefined);

/** What has a column of one kind in the table, in the order of the fields. */
const ofKind = <I extends PointField["is"]>(is: I) =>
  EDIT_FIELDS.map(fieldOf).filter((f): f is Extract<PointField, { is: I }> => f.is === is);
export const LENGTH_FIELDS = ofKind("length"),
  TEXT_FIELDS = ofKind("text"),
  CHOICE_FIELDS = ofKind("choice");

/** What sentences call a field. */
export const fieldName = (field: EditField): string => fieldOf(field).words ?? field;

/** What a field is called above its column. */
export function fieldTitle(field: EditField): string {
  const name = fieldOf(field).title ?? fieldName(field);
  return name.charAt(0).toUpperCase() + name.slice(1);
}

/** What a point that the office makes has in a field, where nothing else is said. */
export function usualOf(field: PlainField): string | null {
  const f = fieldOf(field) as LengthField | TextField | ChoiceField;
  return f.is === "length" ? null : f.is === "text" ? "" : f.usual;
}

/** A choice as a person reads it. */
export const choiceName = ({ called = {} }: ChoiceField, choice: string) => called[choice] ?? choice;

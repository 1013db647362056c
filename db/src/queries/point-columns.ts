/**
 * The columns of the table of points, each once: how a point's row is copied into the database, and out of it again.
 * Beside them a row has its job and its delivery.
 */
import { TextStore } from "@bramble/core/math/texts";
import { attributesOf, type Attributes } from "@bramble/core/points/attributes";
import {
  fieldOf,
  PLAIN_FIELDS,
  type ChoiceField,
  type LengthField,
  type PlainField,
  type TextField,
} from "@bramble/core/points/fields";
import { GONE_DELETED, GONE_GAVE_WAY, tableOf, type PointTable } from "@bramble/core/points/table";
import type { AttributeColumn } from "@bramble/core/records/records";
import type { BinaryRow } from "./binary-row.ts";

interface StoredColumn {
  name: string;
  /** How it is asked for, where that is not by its name. */
  asked?: string;
  /** As COPY's text form takes it; `texts` are the table's own, ready for that. */
  write(t: PointTable, i: number, texts: readonly string[]): string;
  read(b: BinaryRow, to: TableRead, i: number): void;
}

/** A table while its rows come out of the database. */
export class TableRead {
  readonly t: PointTable;
  private readonly store: TextStore;
  private readonly known = new Map<string, number>();
  private readonly attributes = new Map<string, AttributeColumn>();
  private readonly cameAs: Record<number, string> = {};

  constructor(count: number) {
    this.t = tableOf(count);
    this.store = new TextStore(this.t.texts);
  }

  /** The index of a text. */
  text(text: string): number {
    let i = this.known.get(text);
    if (i === undefined) this.known.set(text, (i = this.store.of(text)));
    return i;
  }

  attributesOf(i: number, given: Attributes): void {
    const { count } = this.t;
    for (const [name, value] of Object.entries(given)) {
      let column = this.attributes.get(name);
      if (!column) this.attributes.set(name, (column = { name, values: new Uint32Array(count) }));
      if (value === null) (column.taken ??= new Uint8Array(count))[i] = 1;
      else column.values[i] = this.text(value);
    }
  }

  cameFrom(i: number, number: string): void {
    this.cameAs[this.t.id[i]!] = number;
  }

  done(): PointTable {
    this.t.attributes = [...this.attributes.values()];
    if (Object.keys(this.cameAs).length) this.t.cameAs = this.cameAs;
    return this.t;
  }
}

const NONE = "\\N";
/** Backslash, tab and line ends are what COPY's text form must not see as they are. */
export const copyText = (s: string) =>
  /[\\\t\n\r]/.test(s) ? s.replace(/\\/g, "\\\\").replace(/\t/g, "\\t").replace(/\n/g, "\\n").replace(/\r/g, "\\r") : s;

const whole = (name: "id" | "row"): StoredColumn => ({
  name,
  write: (t, i) => String(t[name][i]),
  read: (b, { t }, i) => (t[name][i] = b.int()),
});
const double = (name: string, column: LengthField["column"] | "time"): StoredColumn => ({
  name,
  write: (t, i) => (Number.isNaN(t[column][i]!) ? NONE : String(t[column][i])),
  read: (b, { t }, i) => (t[column][i] = b.double()),
});
const text = (name: string, column: TextField["column"] | "cues"): StoredColumn => ({
  name,
  write: (t, i, texts) => texts[t[column][i]!]!,
  read: (b, to, i) => (to.t[column][i] = to.text(b.text())),
});
const choice = ({ stored, column, of }: ChoiceField): StoredColumn => ({
  name: stored,
  write: (t, i) => of[t[column][i]!]!,
  read: (b, { t }, i) => (t[column][i] = of.indexOf(b.text())),
});

/** The column of a field that has one of its own. */
function columnOf(field: PlainField): StoredColumn {
  const f = fieldOf(field) as LengthField | TextField | ChoiceField;
  if (f.is === "length") return double(f.stored, f.column);
  return f.is === "text" ? text(f.stored, f.column) : choice(f);
}

export const POINT_COLUMNS: readonly StoredColumn[] = [
  whole("id"),
  whole("row"),
  { name: "number", write: (t, i) => copyText(t.number[i]!), read: (b, { t }, i) => (t.number[i] = b.text()) },
  ...PLAIN_FIELDS.map(columnOf),
  double("time", "time"),
  {
    name: "attributes",
    asked: "attributes::text",
    write: (t, i) => copyText(t.attributes.length ? attributesOf(t, i) : "") || NONE,
    read(b, to, i) {
      const given = b.text();
      if (given) to.attributesOf(i, JSON.parse(given) as Attributes);
    },
  },
  {
    name: "deleted",
    write: (t, i) => (t.deleted[i]! & GONE_DELETED ? "t" : "f"),
    read: (b, { t }, i) => (t.deleted[i] = b.truth() ? GONE_DELETED : 0),
  },
  {
    name: "gave_way",
    write: (t, i) => (t.deleted[i]! & GONE_GAVE_WAY ? "t" : "f"),
    read: (b, { t }, i) => (t.deleted[i]! |= b.truth() ? GONE_GAVE_WAY : 0),
  },
  { name: "follows", write: (t, i) => String(t.follows[i]), read: (b, { t }, i) => (t.follows[i] = b.short()) },
  text("cues", "cues"),
  {
    // The number that it came with, where it has another now.
    name: "came_as",
    write(t, i) {
      const first = t.cameAs?.[t.id[i]!];
      return first === undefined ? NONE : copyText(first);
    },
    read(b, to, i) {
      const first = b.text();
      if (first) to.cameFrom(i, first);
    },
  },
];

export const COLUMN_NAMES = POINT_COLUMNS.map((c) => c.name).join(", ");

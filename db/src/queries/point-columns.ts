/**
 * The columns of the table of points, each once: how a point's row is copied into the database, and out of it again.
 * Beside them a row has its job and its delivery.
 */
import { TextStore } from "@bramble/core/math/texts";
import { attributesOf, type Attributes } from "@bramble/core/points/attributes";
import { CHOICE_FIELDS, LENGTH_FIELDS, TEXT_FIELDS } from "@bramble/core/records/fields";
import { measuredAt, putMeasured } from "@bramble/core/records/measured";
import { GONE_DELETED, GONE_GAVE_WAY, tableOf, type PointTable } from "@bramble/core/points/table";
import type { AttributeColumn } from "@bramble/core/records/records";
import type { BinaryRow } from "./binary-row.ts";

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
const copyText = (s: string) =>
  /[\\\t\n\r]/.test(s) ? s.replace(/\\/g, "\\\\").replace(/\t/g, "\\t").replace(/\n/g, "\\n").replace(/\r/g, "\\r") : s;

/** What has a column of its own, by how it is stored: of one manner all are read and written in one loop. */
const DOUBLES = [
    ...LENGTH_FIELDS.map(({ stored, column, required }) => ({ stored, column, required })),
    { stored: "time", column: "time", required: undefined } as const,
  ],
  TEXTS = [...TEXT_FIELDS, { stored: "cues", column: "cues" } as const],
  CHOICES = CHOICE_FIELDS;

/** In the order in which rows are read and written. */
const NAMES: readonly string[] = [
  "id",
  "row",
  "number",
  ...[...DOUBLES, ...TEXTS, ...CHOICES].map((c) => c.stored),
  "attributes",
  "measured",
  "deleted",
  "gave_way",
  "follows",
  "came_as",
];
export const COLUMN_NAMES = NAMES.join(", ");
/** How they are asked for. */
export const COLUMNS_ASKED = NAMES.map((name) =>
  name === "attributes" || name === "measured" ? `${name}::text` : name,
).join(", ");

/** Reads the columns of a row, in their order, into row i of a table. */
export function rowReader(to: TableRead): (b: BinaryRow, i: number) => void {
  const { t } = to,
    doubles = DOUBLES.map(({ column }) => t[column]),
    texts = TEXTS.map(({ column }) => t[column]),
    choices = CHOICES.map(({ column, of }) => ({ values: t[column], of }));
  return (b, i) => {
    t.id[i] = b.int();
    t.row[i] = b.int();
    t.number[i] = b.text();
    for (const values of doubles) values[i] = b.double();
    for (const values of texts) values[i] = to.text(b.text());
    for (const { values, of } of choices) values[i] = of.indexOf(b.text());
    const attributes = b.text();
    if (attributes) to.attributesOf(i, JSON.parse(attributes) as Attributes);
    const measured = b.text();
    if (measured)
      putMeasured(t.measured, t.count, i, JSON.parse(measured) as Record<string, string | number>, (x) => to.text(x));
    t.deleted[i] = (b.truth() ? GONE_DELETED : 0) | (b.truth() ? GONE_GAVE_WAY : 0);
    t.follows[i] = b.short();
    // The number that it came with, where it has another now.
    const first = b.text();
    if (first) to.cameFrom(i, first);
  };
}

/** Writes the columns of row i of a table, in their order, as COPY's text form takes them. */
export function rowWriter(t: PointTable): (i: number) => string {
  const all = t.texts.map(copyText),
    // A position that is not known yet is no number; a column that a point must have takes that, and not nothing.
    doubles = DOUBLES.map(({ column, required }) => ({ values: t[column], none: required ? "NaN" : NONE })),
    texts = TEXTS.map(({ column }) => t[column]),
    choices = CHOICES.map(({ column, of }) => ({ values: t[column], of }));
  const hasMeasured = Object.keys(t.measured).length > 0,
    truth = (x: number) => (x ? "t" : "f");
  return (i) => {
    let row = `${t.id[i]}\t${t.row[i]}\t${copyText(t.number[i]!)}`;
    for (const { values, none } of doubles) row += Number.isNaN(values[i]!) ? `\t${none}` : `\t${values[i]}`;
    for (const values of texts) row += `\t${all[values[i]!]}`;
    for (const { values, of } of choices) row += `\t${of[values[i]!]}`;
    const attributes = t.attributes.length ? copyText(attributesOf(t, i)) : "",
      first = t.cameAs?.[t.id[i]!],
      deleted = t.deleted[i]!;
    const measured = hasMeasured ? measuredAt(t.measured, i, t.texts) : undefined;
    row += `\t${attributes || NONE}\t${measured ? copyText(JSON.stringify(measured)) : NONE}`;
    row += `\t${truth(deleted & GONE_DELETED)}\t${truth(deleted & GONE_GAVE_WAY)}`;
    return `${row}\t${t.follows[i]}\t${first === undefined ? NONE : copyText(first)}`;
  };
}

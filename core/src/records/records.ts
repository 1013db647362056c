/** What a file of points says, in columns, as written: the readers' common result. */
import { Doubles, Ints } from "../math/grow";
import { TextStore } from "../math/texts";
import { LENGTH_FIELDS, TEXT_FIELDS, type LengthField, type TextField } from "./fields";
import { pickMeasured, scaleMeasured, type MeasuredColumns } from "./measured";

/** A row that gave no point, and why. `row` is the physical line from 1 on which the record starts. */
export interface RefusedRow {
  row: number;
  reason: string;
}

/** Texts of one attribute, as indices into the texts beside it; 0 where a record has none. */
export interface AttributeColumn {
  /** 1 where the office has taken the attribute away, also what a description says of it; left out where it never did. */
  taken?: Uint8Array;
  name: string;
  values: Uint32Array;
}

/** A column of texts that may be made as they are asked for. */
export interface TextList {
  readonly length: number;
  at(i: number): string;
  /** At least as many as its text has letters; nothing is made to know it. */
  roomOf(i: number): number;
  /** Every text in its order, in an array of one's own. */
  all(): string[];
}

export function textList(texts: readonly string[]): TextList {
  return { length: texts.length, at: (i) => texts[i]!, roomOf: (i) => texts[i]!.length, all: () => texts.slice() };
}

/** One column for each field that is a length (NaN when missing) or a text (an index into the texts beside it). */
export type FieldColumns = Record<LengthField["column"], Float64Array> & Record<TextField["column"], Uint32Array>;

export interface Records extends FieldColumns {
  count: number;
  /** Physical line, from 1, on which each record starts; rising, so that it names the record within its file. */
  row: Int32Array;
  number: TextList;
  /** Milliseconds since 1970 as written (no time zone), NaN when not given. */
  time: Float64Array;
  /** `texts[0]` is the empty text. */
  texts: string[];
  attributes: AttributeColumn[];
  measured: MeasuredColumns;
  /** Index into KINDS for each record, where the file itself says it; else the intake's kind holds. */
  kind?: Uint8Array;
  /** 1 where the position follows from raw observations; e, n, z are then NaN until they are reduced. */
  observed?: Uint8Array;
  /** Records in the file, refused ones counted, headers, blanks and comments not. */
  rows: number;
  refused: RefusedRow[];
  /** Things worth saying about the file as a whole. */
  notes: string[];
}

/** Records that a reader builds one at a time, in growing columns. */
export class RecordList {
  private readonly number: string[] = [];
  private readonly row = new Ints();
  private readonly e = new Doubles();
  private readonly n = new Doubles();
  private readonly z = new Doubles();
  private readonly time = new Doubles();
  private readonly targetHeight = new Doubles();
  private readonly description = new Ints();
  private readonly note = new Ints();
  private readonly kind = new Ints();
  private readonly observed = new Ints();
  private readonly texts = new TextStore();
  readonly refused: RefusedRow[] = [];
  readonly notes: string[] = [];

  add(
    row: number,
    number: string,
    e: number,
    n: number,
    z: number,
    more: Partial<{
      description: string;
      note: string;
      time: number;
      targetHeight: number;
      kind: number;
      observed: boolean;
    }> = {},
  ): void {
    this.number.push(number);
    this.row.push(row);
    this.e.push(e);
    this.n.push(n);
    this.z.push(z);
    this.time.push(more.time ?? NaN);
    this.targetHeight.push(more.targetHeight ?? NaN);
    this.description.push(this.texts.of(more.description ?? ""));
    this.note.push(this.texts.of(more.note ?? ""));
    this.kind.push(more.kind ?? -1);
    this.observed.push(more.observed ? 1 : 0);
  }

  get count(): number {
    return this.number.length;
  }

  /** The columns; records in the order of their rows, each row used once. */
  records(defaultKind: number): Records {
    const { count } = this;
    const order = Int32Array.from({ length: count }, (_, i) => i);
    let sorted = true;
    for (let i = 1; i < count && sorted; i++) sorted = this.row.at(i) >= this.row.at(i - 1);
    if (!sorted) order.sort((a, b) => this.row.at(a) - this.row.at(b) || a - b);
    const doubles = (of: Doubles) => {
      const values = of.done();
      return sorted ? values : Float64Array.from(order, (i) => values[i]!);
    };
    const row = new Int32Array(count),
      kind = new Uint8Array(count),
      observed = new Uint8Array(count),
      description = new Uint32Array(count),
      note = new Uint32Array(count);
    for (let k = 0, last = 0; k < count; k++) {
      const i = order[k]!;
      last = row[k] = Math.max(this.row.at(i), last + 1);
      kind[k] = this.kind.at(i) < 0 ? defaultKind : this.kind.at(i);
      observed[k] = this.observed.at(i);
      description[k] = this.description.at(i);
      note[k] = this.note.at(i);
    }
    return {
      count,
      row,
      number: textList(sorted ? this.number : Array.from(order, (i) => this.number[i]!)),
      e: doubles(this.e),
      n: doubles(this.n),
      z: doubles(this.z),
      precision: new Float64Array(count).fill(NaN),
      targetHeight: doubles(this.targetHeight),
      time: doubles(this.time),
      description,
      note,
      texts: this.texts.texts,
      attributes: [],
      measured: {},
      kind,
      observed,
      rows: count + this.refused.length,
      refused: this.refused,
      notes: this.notes,
    };
  }
}

/** Every length of the records in another unit; the coordinates stay when they are angles. */
export function scaleRecords(r: Records, factor: number, degrees = false): Records {
  if (factor === 1) return r;
  const scaled = LENGTH_FIELDS.filter((f) => !(degrees && f.required)).map((f) => [
    f.column,
    r[f.column].map((x) => x * factor),
  ]);
  return { ...r, ...Object.fromEntries(scaled), measured: scaleMeasured(r.measured, factor) };
}

/** The records whose flag is set. */
export function pickRecords(r: Records, keep: Uint8Array): Records {
  const positions = Int32Array.from(keep.keys()).filter((i) => keep[i] === 1);
  const doubles = (of: Float64Array) => Float64Array.from(positions, (i) => of[i]!),
    texts = (of: Uint32Array) => Uint32Array.from(positions, (i) => of[i]!),
    bytes = (of?: Uint8Array) => (of ? Uint8Array.from(positions, (i) => of[i]!) : undefined);
  return {
    ...r,
    ...Object.fromEntries(LENGTH_FIELDS.map(({ column }) => [column, doubles(r[column])])),
    ...Object.fromEntries(TEXT_FIELDS.map(({ column }) => [column, texts(r[column])])),
    count: positions.length,
    row: Int32Array.from(positions, (i) => r.row[i]!),
    number: textList(Array.from(positions, (i) => r.number.at(i))),
    time: doubles(r.time),
    attributes: r.attributes.map((a) => ({ name: a.name, values: texts(a.values) })),
    measured: pickMeasured(r.measured, positions),
    kind: bytes(r.kind),
    observed: bytes(r.observed),
  };
}

/** What a file of points says, in columns, as written: the readers' common result. */
import type { RefusedRow } from "../job/model";
import type { AttributeColumn } from "../points/table";

export interface Records {
  count: number;
  /** Physical line, from 1, on which each record starts; rising, so that it names the record within its file. */
  row: Int32Array;
  number: string[];
  e: Float64Array;
  n: Float64Array;
  /** NaN when missing. */
  z: Float64Array;
  precision: Float64Array;
  targetHeight: Float64Array;
  time: Float64Array;
  /** Indices into `texts`; `texts[0]` is the empty text. */
  description: Uint32Array;
  note: Uint32Array;
  texts: string[];
  attributes: AttributeColumn[];
  /** Index into KINDS for each record, where the file itself says it; else the intake's kind holds. */
  kind?: Uint8Array;
  /** 1 where the place follows from raw observations; e, n, z are then NaN until they are reduced. */
  observed?: Uint8Array;
  /** Records in the file, refused ones counted, headers, blanks and comments not. */
  rows: number;
  refused: RefusedRow[];
  /** Things worth saying about the file as a whole. */
  notes: string[];
}

/** Records that a reader builds one at a time; for files of many kinds of things, not for the hot way of text. */
export class RecordList {
  private readonly rows: { row: number; number: string; e: number; n: number; z: number; description: string; note: string; time: number; targetHeight: number; kind: number; observed: boolean }[] = [];
  readonly refused: RefusedRow[] = [];
  readonly notes: string[] = [];

  add(row: number, number: string, e: number, n: number, z: number, more: Partial<{ description: string; note: string; time: number; targetHeight: number; kind: number; observed: boolean }> = {}): void {
    this.rows.push({ row, number, e, n, z, description: "", note: "", time: NaN, targetHeight: NaN, kind: -1, observed: false, ...more });
  }

  get count(): number {
    return this.rows.length;
  }

  /** The columns; records in the order of their rows, each row used once. */
  records(defaultKind: number): Records {
    const rows = this.rows.sort((a, b) => a.row - b.row), count = rows.length;
    let last = 0;
    for (const r of rows) last = r.row = Math.max(r.row, last + 1);
    const texts = [""], index = new Map([["", 0]]);
    const of = (text: string) => {
      let i = index.get(text);
      if (i === undefined) index.set(text, (i = texts.push(text) - 1));
      return i;
    };
    // Plain loops: TypedArray.from with a function takes many times as long.
    const row = new Int32Array(count), kind = new Uint8Array(count), observed = new Uint8Array(count), description = new Uint32Array(count), note = new Uint32Array(count);
    const e = new Float64Array(count), n = new Float64Array(count), z = new Float64Array(count), targetHeight = new Float64Array(count), time = new Float64Array(count);
    const number: string[] = [];
    for (const [i, r] of rows.entries()) {
      number.push(r.number);
      row[i] = r.row;
      kind[i] = r.kind < 0 ? defaultKind : r.kind;
      observed[i] = r.observed ? 1 : 0;
      description[i] = of(r.description);
      note[i] = of(r.note);
      [e[i], n[i], z[i], targetHeight[i], time[i]] = [r.e, r.n, r.z, r.targetHeight, r.time];
    }
    return {
      count, row, number, e, n, z, precision: new Float64Array(count).fill(NaN), targetHeight, time, description, note, texts, attributes: [], kind, observed,
      rows: count + this.refused.length, refused: this.refused, notes: this.notes,
    };
  }
}

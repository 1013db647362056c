/** The present points of a job as a column table. */
import pg from "pg";
import { to as copyTo } from "pg-copy-streams";
import { KINDS } from "@bramble/core";
import { TextStore } from "@bramble/core/math/texts";
import { emptyTable, SURFACE_CHOICES, type PointTable } from "@bramble/core/points/table";
import type { Attributes } from "@bramble/core/points/attributes";
import type { AttributeColumn } from "@bramble/core/records/records";
import { getPool, transaction, type Client } from "../pool.ts";

/** A point of a delivery that was withdrawn. */
export interface WithdrawnPoint {
  number: string;
  intake: string;
  file: string;
}

/** Points called so in deliveries that are withdrawn and of which no other reading stands; the first few. */
export async function withdrawnPoints(jobId: number, number: string): Promise<WithdrawnPoint[]> {
  const { rows } = await getPool().query<WithdrawnPoint>(
    `SELECT DISTINCT p.number, i.key AS intake, i.file
       FROM points p JOIN intakes i ON i.id = p.intake_id
      WHERE p.job_id = $1 AND p.number IN ($2, upper($2), lower($2)) AND i.withdrawn
        AND NOT EXISTS (SELECT FROM intakes s WHERE s.job_id = $1 AND s.sequence = i.sequence AND NOT s.withdrawn)
      ORDER BY i.file, p.number LIMIT 4`,
    [jobId, number.slice(0, 1000).replaceAll("\u0000", "")],
  );
  return rows;
}

/** In this order in every row of the copy below. */
const FIELDS =
  "id, intake_id, row, number, easting, northing, elevation, precision, target_height, time, " +
  "description, note, attributes::text, kind, surface, (deleted::int | (gave_way::int << 2))::smallint, follows, cues, came_as";

/**
 * All points whose intake is not withdrawn, by id; `intake` is the index of the intake among those of loadJob. They
 * come by COPY in its binary form, straight into typed columns: a million take a third of the time that rows of objects
 * take.
 */
export async function loadPoints(db: Pick<Client, "query">, jobId: number): Promise<PointTable> {
  // A copy holds one connection from its first row to its last.
  if (db instanceof pg.Pool) return transaction((client) => loadPoints(client, jobId));
  // COPY takes no parameters; what stands in its text are whole numbers of our own.
  if (!Number.isSafeInteger(jobId)) throw new Error("a job's number is a whole number");
  const keys = (
    await db.query("SELECT id FROM intakes WHERE job_id = $1 AND NOT withdrawn ORDER BY sequence", [jobId])
  ).rows.map((r) => r.id as number);
  const indexOf = new Map(keys.map((id, i) => [id, i]));
  // What the office made is of no intake.
  const chosen = `job_id = ${jobId} AND (intake_id IS NULL${keys.length ? ` OR intake_id IN (${keys.map(Number).join(", ")})` : ""})`;
  const count = (await db.query(`SELECT count(*)::int AS n FROM points WHERE ${chosen}`)).rows[0].n as number;
  const t = sized(count);
  const store = new TextStore(t.texts);
  const attributes = new Map<string, AttributeColumn>();
  const texts = new Map<string, number>();
  const textOf = (text: string) => {
    let i = texts.get(text);
    if (i === undefined) texts.set(text, (i = store.of(text)));
    return i;
  };
  const cameAs: Record<number, string> = {};
  let i = 0;
  const row = (b: BinaryRow) => {
    t.id[i] = b.int();
    t.intake[i] = indexOf.get(b.bigintOr(0)) ?? -1;
    t.row[i] = b.int();
    t.number[i] = b.text();
    t.e[i] = b.double();
    t.n[i] = b.double();
    t.z[i] = b.double();
    t.precision[i] = b.double();
    t.targetHeight[i] = b.double();
    t.time[i] = b.double();
    t.description[i] = textOf(b.text());
    t.note[i] = textOf(b.text());
    const given = b.text();
    if (given) {
      for (const [name, value] of Object.entries(JSON.parse(given) as Attributes)) {
        let column = attributes.get(name);
        if (!column) attributes.set(name, (column = { name, values: new Uint32Array(count) }));
        if (value === null) (column.taken ??= new Uint8Array(count))[i] = 1;
        else column.values[i] = textOf(value);
      }
    }
    t.kind[i] = KINDS.indexOf(b.text() as (typeof KINDS)[number]);
    t.surface[i] = SURFACE_CHOICES.indexOf(b.text() as (typeof SURFACE_CHOICES)[number]);
    t.deleted[i] = b.short();
    t.follows[i] = b.short();
    t.cues[i] = textOf(b.text());
    const first = b.text();
    if (first) cameAs[t.id[i]!] = first;
    i++;
  };
  const stream = (db as Client).query(
    copyTo(`COPY (SELECT ${FIELDS} FROM points WHERE ${chosen} ORDER BY id) TO STDOUT (FORMAT binary)`),
  );
  await readRows(stream as AsyncIterable<Buffer>, row);
  t.attributes = [...attributes.values()];
  if (Object.keys(cameAs).length) t.cameAs = cameAs;
  return t;
}

function sized(count: number): PointTable {
  const ints = () => new Int32Array(count),
    bytes = () => new Uint8Array(count),
    doubles = () => new Float64Array(count),
    texts = () => new Uint32Array(count);
  return {
    ...emptyTable(),
    count,
    id: ints(),
    intake: ints(),
    row: ints(),
    number: [],
    e: doubles(),
    n: doubles(),
    z: doubles(),
    kind: bytes(),
    surface: bytes(),
    deleted: bytes(),
    follows: bytes(),
    precision: doubles(),
    targetHeight: doubles(),
    time: doubles(),
    description: texts(),
    note: texts(),
    cues: texts(),
  };
}

/** COPY's head: 11 bytes that say what it is, 4 of flags, 4 with the length of what else is in the head. */
const HEAD = 19;

/** Calls for each whole row; a row cut by the end of a piece waits for the next piece. */
async function readRows(pieces: AsyncIterable<Buffer>, row: (b: BinaryRow) => void): Promise<void> {
  let rest: Buffer | undefined,
    headRead = false;
  for await (const piece of pieces) {
    const bytes = rest ? Buffer.concat([rest, piece]) : piece;
    const b = new BinaryRow(bytes);
    if (!headRead) {
      if (bytes.length < HEAD) {
        rest = bytes;
        continue;
      }
      b.at = HEAD + bytes.readInt32BE(HEAD - 4);
      headRead = true;
    }
    while (b.wholeRow()) row(b);
    rest = b.at < bytes.length ? bytes.subarray(b.at) : undefined;
  }
}

/** Fields of a row one after another: a 4-byte length, −1 for null, then the value, big endian. */
class BinaryRow {
  at = 0;

  constructor(private readonly bytes: Buffer) {}

  /** Whether a whole row stands here; if so the next field is its first. A count of −1 is the end. */
  wholeRow(): boolean {
    const { bytes } = this;
    let at = this.at;
    if (at + 2 > bytes.length) return false;
    const fields = bytes.readInt16BE(at);
    if (fields < 0) return false;
    at += 2;
    for (let k = 0; k < fields; k++) {
      if (at + 4 > bytes.length) return false;
      at += 4 + Math.max(0, bytes.readInt32BE(at));
    }
    if (at > bytes.length) return false;
    this.at += 2;
    return true;
  }

  private next(): number {
    const length = this.bytes.readInt32BE(this.at);
    this.at += 4;
    return length;
  }

  private fixed(size: number): number {
    this.next();
    const at = this.at;
    this.at += size;
    return at;
  }

  int(): number {
    return this.bytes.readInt32BE(this.fixed(4));
  }
  short(): number {
    return this.bytes.readInt16BE(this.fixed(2));
  }
  byte(): number {
    return this.bytes[this.fixed(1)]!;
  }

  bigintOr(otherwise: number): number {
    if (this.next() < 0) return otherwise;
    this.at += 8;
    return Number(this.bytes.readBigInt64BE(this.at - 8));
  }

  /** NaN for null. */
  double(): number {
    if (this.next() < 0) return NaN;
    this.at += 8;
    return this.bytes.readDoubleBE(this.at - 8);
  }

  /** "" for null. */
  text(): string {
    const length = this.next();
    if (length <= 0) return "";
    this.at += length;
    return this.bytes.toString("utf8", this.at - length, this.at);
  }
}

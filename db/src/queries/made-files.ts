/** Files that are made of a job by the queue: asked for, under way with their progress, made and kept, or failed. */
import { refusal, type HandoverFormat, type ManifestFile } from "@bramble/core";
import { to as copyTo } from "pg-copy-streams";
import { getPool, transaction, type Client } from "../pool.ts";
import { putInQueue } from "../queue.ts";
import { onlyField } from "./binary-row.ts";

/** A report on comparisons. */
export interface ReportWanted {
  what: "volumes";
  format: "pdf" | "xlsx";
  comparisons: string[];
}

/** A report, or a file of the handover by its name there. */
export type FileWanted =
  | ReportWanted
  /** `holds` the files that a package held. */
  | { what: "handover"; format: HandoverFormat; name: string; type: string; holds?: string[] };

export interface MadeFile {
  id: number;
  wanted: FileWanted;
  file: string;
  author: string;
  asked: string;
  state: "waiting" | "making" | "made" | "failed";
  /** What is being worked out now, and the share of all that is done. */
  doing: string;
  share: number;
  /** The entry of the ledger after which the job was what the file is made of. */
  seq: number | null;
  made: string | null;
  /** Why it could not be made. */
  why: string | null;
  size: number | null;
  /** What was read back from it, of a file of the handover. */
  told: ManifestFile | null;
}

/** Files that a job keeps, those included that wait to be made: a whole handover may be asked for at once. */
const MOST_KEPT = 200;
/** Seconds after which a maker that is not heard of is taken for gone. */
const GONE = 30;

/** Attempts after which an order is given up whose makers were ended each time. */
const MOST_ATTEMPTS = 10;
/** Bytes of one piece. */
const PART = 1 << 20;

const COLUMNS = "id, wanted, file, author, asked, state, doing, share, seq, made, why, size, told";

const told = (row: MadeFile & { asked: Date; made: Date | null }): MadeFile => ({
  ...row,
  asked: row.asked.toISOString(),
  made: row.made && row.made.toISOString(),
});

/** The files of a job, the latest first. */
export async function listMadeFiles(jobId: number): Promise<MadeFile[]> {
  const { rows } = await getPool().query(`SELECT ${COLUMNS} FROM made_files WHERE job_id = $1 ORDER BY id DESC`, [
    jobId,
  ]);
  return rows.map(told);
}

/** Orders a file; one that was ordered under the same name before is not made twice. */
export function orderFile(
  jobId: number,
  author: string,
  file: string,
  wanted: FileWanted,
  name: string,
): Promise<MadeFile> {
  return transaction(async (client) => {
    const { rowCount } = await client.query("SELECT 1 FROM jobs WHERE id = $1 AND removed IS NULL FOR UPDATE", [jobId]);
    if (!rowCount) throw refusal("job-unknown", { job: String(jobId) });
    const known = await client.query(`SELECT ${COLUMNS} FROM made_files WHERE job_id = $1 AND name = $2`, [
      jobId,
      name,
    ]);
    if (known.rows[0]) return told(known.rows[0]);
    const { rows: counts } = await client.query("SELECT count(*)::int AS all FROM made_files WHERE job_id = $1", [
      jobId,
    ]);
    if (counts[0].all >= MOST_KEPT) throw refusal("files-many", { most: MOST_KEPT });
    const { rows } = await client.query(
      `INSERT INTO made_files (job_id, name, wanted, file, author) VALUES ($1, $2, $3, $4, $5) RETURNING ${COLUMNS}`,
      [jobId, name, JSON.stringify(wanted), file, author],
    );
    await putInQueue(client, rows[0].id as number);
    return told(rows[0]);
  });
}

/** Takes a file away, also one that is still being made: its maker ends when it next tells how far it is. */
export async function forgetFile(jobId: number, id: number): Promise<void> {
  const { rowCount } = await getPool().query("DELETE FROM made_files WHERE job_id = $1 AND id = $2", [jobId, id]);
  if (!rowCount) throw refusal("change-unknown", { what: "That file" });
}

/** A file that is made, as it leaves. */
export interface LeavingFile {
  id: number;
  attempt: number;
  file: string;
  wanted: FileWanted;
  size: number;
}

/** A file that is made; its bytes come by `bytesOfMade`. */
export async function madeFile(jobId: number, id: number): Promise<LeavingFile> {
  const { rows } = await getPool().query<LeavingFile>(
    "SELECT id, attempt, file, wanted, size FROM made_files WHERE job_id = $1 AND id = $2 AND state = 'made'",
    [jobId, id],
  );
  if (!rows[0]) throw refusal("change-unknown", { what: "That file" });
  return rows[0];
}

/**
 * The bytes of a file from one to before another, in pieces of at most a megabyte: none is read before it is asked for,
 * and no connection is held between two.
 */
export async function* bytesOfMade(
  { id, attempt, size }: Pick<LeavingFile, "id" | "attempt" | "size">,
  from = 0,
  to = size,
): AsyncGenerator<Buffer> {
  for (let at = from; at < to;) {
    const part = Math.floor(at / PART),
      bytes = await bytesOfPart(id, attempt, part);
    if (!bytes) throw refusal("change-unknown", { what: "That file" });
    yield bytes.subarray(at - part * PART, Math.min(to - part * PART, PART));
    at = (part + 1) * PART;
  }
}

/** The bytes of one part, which come as they are; as a value of a row they would come as digits. */
async function bytesOfPart(id: number, attempt: number, part: number): Promise<Buffer | undefined> {
  // COPY takes no parameters; what stands in its text are whole numbers of our own.
  if (![id, attempt, part].every(Number.isSafeInteger)) throw new Error("a part of a file has whole numbers");
  const of = `file_id = ${id} AND attempt = ${attempt} AND part = ${part}`,
    copy = `COPY (SELECT bytes FROM made_file_parts WHERE ${of}) TO STDOUT (FORMAT binary)`;
  return transaction((client) => onlyField(client.query(copyTo(copy)) as AsyncIterable<Buffer>));
}

/** An order in one of its attempts: a maker that was taken for gone is in a former one, and changes nothing any more. */
export interface Attempt {
  id: number;
  attempt: number;
}

/** An order that a maker takes up; undefined where it was taken away, or another is at it. */
export async function takeOrder(id: number): Promise<(MadeFile & Attempt & { job: number }) | undefined> {
  const { rows } = await getPool().query(
    `UPDATE made_files SET state = 'making', seen = now(), attempt = attempt + 1 WHERE id = $1 AND state = 'waiting'
     RETURNING job_id AS job, attempt, ${COLUMNS}`,
    [id],
  );
  return rows[0] && { ...told(rows[0]), job: rows[0].job, attempt: rows[0].attempt };
}

const OF_ATTEMPT = "id = $1 AND attempt = $2 AND state = 'making'";

/** Says how far a file is; false when nobody wants it any more. */
export async function tellProgress({ id, attempt }: Attempt, doing: string, share: number): Promise<boolean> {
  const { rowCount } = await getPool().query(
    `UPDATE made_files SET doing = $3, share = $4, seen = now() WHERE ${OF_ATTEMPT}`,
    [id, attempt, doing, share],
  );
  return rowCount === 1;
}

/** Says that a maker is still there; false when nobody wants its file any more. */
export async function stillMaking({ id, attempt }: Attempt): Promise<boolean> {
  const { rowCount } = await getPool().query(`UPDATE made_files SET seen = now() WHERE ${OF_ATTEMPT}`, [id, attempt]);
  return rowCount === 1;
}

/**
 * Keeps what was made; `told` of a file of the handover, which leaves under the name that is told. The pieces go in one by
 * one, and the file is there with its last; where nobody wants it any more nothing is left of it.
 */
export async function keepMade(
  { id, attempt }: Attempt,
  seq: number,
  bytes: Uint8Array,
  told?: ManifestFile,
): Promise<void> {
  for (let at = 0; at < bytes.length; at += PART) {
    const { rowCount } = await getPool().query(
      `INSERT INTO made_file_parts (file_id, attempt, part, bytes)
       SELECT id, attempt, $3, $4 FROM made_files WHERE ${OF_ATTEMPT} FOR KEY SHARE`,
      [id, attempt, at / PART, Buffer.from(bytes.buffer, bytes.byteOffset + at, Math.min(PART, bytes.length - at))],
    );
    if (!rowCount) break;
  }
  await getPool().query(
    `UPDATE made_files SET state = 'made', seq = $3, size = $4, made = now(), doing = '', share = 1,
            told = $5, file = coalesce($6, file)
      WHERE ${OF_ATTEMPT}`,
    [id, attempt, seq, bytes.length, told ? JSON.stringify(told) : null, told?.file ?? null],
  );
  await getPool().query(
    `DELETE FROM made_file_parts p USING made_files f
      WHERE p.file_id = $1 AND f.id = $1 AND (p.attempt < f.attempt OR f.state <> 'made' AND p.attempt = $2)`,
    [id, attempt],
  );
}

/** The entry of the ledger after which a file of the handover was made last; undefined where it never was. */
export async function lastHandover(jobId: number, name: string): Promise<number | undefined> {
  const { rows } = await getPool().query(
    `SELECT seq FROM made_files WHERE job_id = $1 AND state = 'made' AND wanted->>'what' = 'handover'
        AND (wanted->>'name' = $2 OR wanted->'holds' ? $2) ORDER BY id DESC LIMIT 1`,
    [jobId, name],
  );
  return rows[0]?.seq as number | undefined;
}

export async function tellFailed({ id, attempt }: Attempt, why: string): Promise<void> {
  await getPool().query(`UPDATE made_files SET state = 'failed', why = $3, made = now() WHERE ${OF_ATTEMPT}`, [
    id,
    attempt,
    why,
  ]);
}

/** What an order is given up with whose makers were ended each time. */
const GIVEN_UP = `It was begun ${MOST_ATTEMPTS} times, and its maker ended each time. Ask for it again.`;

/** Puts an order back whose maker ended, or lost the database, through no fault of the file; it is made again. */
export async function putBack({ id, attempt }: Attempt): Promise<void> {
  await transaction(async (client) => {
    if ((await waitAgain(client, OF_ATTEMPT, [id, attempt])).length) await putInQueue(client, id);
  });
}

/** Orders that wait again, by a condition on them; those begun too often fail. The ids of those that wait. */
async function waitAgain(client: Client, which: string, values: unknown[]): Promise<number[]> {
  const { rows } = await client.query<{ id: number; state: string }>(
    `UPDATE made_files SET doing = '', share = 0,
            state = CASE WHEN attempt >= ${MOST_ATTEMPTS} THEN 'failed' ELSE 'waiting' END,
            why = CASE WHEN attempt >= ${MOST_ATTEMPTS} THEN $${values.length + 1} END,
            made = CASE WHEN attempt >= ${MOST_ATTEMPTS} THEN now() END
      WHERE ${which} RETURNING id, state`,
    [...values, GIVEN_UP],
  );
  return rows.filter((r) => r.state === "waiting").map((r) => r.id);
}

/**
 * Puts orders in again whose makers are gone: ended, or cut off; and those that wait without being in the queue, as one
 * does that was fetched by a process which then ended. How many makers were gone.
 */
export function takeUpOrders(): Promise<number> {
  return transaction(async (client: Client) => {
    const gone = await waitAgain(client, `state = 'making' AND seen < now() - make_interval(secs => ${GONE})`, []);
    // One that is in the queue is not put in twice.
    const { rows } = await client.query<{ id: number }>(
      "SELECT id FROM made_files WHERE state = 'waiting' ORDER BY id",
    );
    for (const { id } of rows) await putInQueue(client, id);
    return gone.length;
  });
}

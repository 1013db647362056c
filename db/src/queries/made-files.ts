/** Files that are made of a job by the queue: asked for, under way with their progress, made and kept, or failed. */
import { refusal, type HandoverFormat, type ManifestFile } from "@bramble/core";
import { getPool, transaction, type Client } from "../pool.ts";
import { putInQueue } from "../queue.ts";

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

const COLUMNS =
  "id, wanted, file, author, asked, state, doing, share, seq, made, why, octet_length(bytes) AS size, told";

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

/** The bytes of a file that is made. */
export async function bytesOfFile(
  jobId: number,
  id: number,
): Promise<{ file: string; wanted: FileWanted; bytes: Buffer }> {
  const { rows } = await getPool().query(
    "SELECT file, wanted, bytes FROM made_files WHERE job_id = $1 AND id = $2 AND state = 'made'",
    [jobId, id],
  );
  if (!rows[0]) throw refusal("change-unknown", { what: "That file" });
  return rows[0];
}

/** An order that a maker takes up; undefined where it was taken away, or another is at it. */
export async function takeOrder(id: number): Promise<(MadeFile & { job: number }) | undefined> {
  const { rows } = await getPool().query(
    `UPDATE made_files SET state = 'making', seen = now() WHERE id = $1 AND state = 'waiting'
     RETURNING job_id AS job, ${COLUMNS}`,
    [id],
  );
  return rows[0] && { ...told(rows[0]), job: rows[0].job };
}

/** Says how far a file is; false when nobody wants it any more. */
export async function tellProgress(id: number, doing: string, share: number): Promise<boolean> {
  const { rowCount } = await getPool().query(
    "UPDATE made_files SET doing = $2, share = $3, seen = now() WHERE id = $1 AND state = 'making'",
    [id, doing, share],
  );
  return rowCount === 1;
}

/** Says that a maker is still there; false when nobody wants its file any more. */
export async function stillMaking(id: number): Promise<boolean> {
  const { rowCount } = await getPool().query("UPDATE made_files SET seen = now() WHERE id = $1 AND state = 'making'", [
    id,
  ]);
  return rowCount === 1;
}

/** Keeps what was made; `told` of a file of the handover, which leaves under the name that is told. */
export async function keepMade(id: number, seq: number, bytes: Uint8Array, told?: ManifestFile): Promise<void> {
  await getPool().query(
    `UPDATE made_files SET state = 'made', seq = $2, bytes = $3, made = now(), doing = '', share = 1,
            told = $4, file = coalesce($5, file)
      WHERE id = $1 AND state = 'making'`,
    [id, seq, Buffer.from(bytes), told ? JSON.stringify(told) : null, told?.file ?? null],
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

export async function tellFailed(id: number, why: string): Promise<void> {
  await getPool().query(
    "UPDATE made_files SET state = 'failed', why = $2, made = now() WHERE id = $1 AND state = 'making'",
    [id, why],
  );
}

/** Puts orders in again whose makers are gone: ended, or cut off. How many there were. */
export function takeUpOrders(): Promise<number> {
  return transaction(async (client: Client) => {
    const { rows } = await client.query(
      `UPDATE made_files SET state = 'waiting', doing = '', share = 0
        WHERE state = 'making' AND seen < now() - make_interval(secs => ${GONE}) RETURNING id`,
    );
    for (const { id } of rows) await putInQueue(client, id as number);
    return rows.length;
  });
}

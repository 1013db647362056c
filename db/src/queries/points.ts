/** The present points of a job as a column table. */
import pg from "pg";
import { to as copyTo } from "pg-copy-streams";
import type { PointTable } from "@bramble/core/points/table";
import { getPool, transaction, type Client } from "../pool.ts";
import { readRows, type BinaryRow } from "./binary-row.ts";
import { COLUMNS_ASKED, rowReader, TableRead } from "./point-columns.ts";

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
  const to = new TableRead(count),
    read = rowReader(to);
  let i = 0;
  const row = (b: BinaryRow) => {
    to.t.intake[i] = indexOf.get(b.bigintOr(0)) ?? -1;
    read(b, i++);
  };
  const stream = (db as Client).query(
    copyTo(
      `COPY (SELECT intake_id, ${COLUMNS_ASKED} FROM points WHERE ${chosen} ORDER BY id) TO STDOUT (FORMAT binary)`,
    ),
  );
  await readRows(stream as AsyncIterable<Buffer>, row);
  return to.done();
}

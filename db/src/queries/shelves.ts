/** Jobs as a whole: copied, put away, removed and brought back. */
import { refusal } from "@bramble/core";
import { transaction } from "../pool.ts";
import { inTurn } from "../turns.ts";
import { jobMadeFor } from "./jobs.ts";
import { COLUMN_NAMES } from "./point-columns.ts";

/** Days that a removed job can be brought back. */
export const KEPT_DAYS = 30;

/** A job's own rows: what a copy takes along, table by table, with what is another there. */
const OWN = { definitions: "part, name, position, body", job_files: "name, bytes" } as const;
const INTAKE_COLUMNS = "key, file, info, bytes, sha256, author, taken, withdrawn, sequence, turned";
/**
 * A job with everything of another, its deliveries and its ledger too, so that its past can be read and undone there.
 * Refused when there is no such job.
 */
export function copyJob(id: number, name: string, request: string | null = null): Promise<number> {
  return transaction(async (client) => {
    const before = await jobMadeFor(client, request);
    if (before !== undefined) return before;
    const { rows } = await client.query(
      `INSERT INTO jobs (name, unit, settings, book, version, next_point, request)
       SELECT $2, unit, settings, book, version, next_point, $3 FROM jobs WHERE id = $1 AND removed IS NULL RETURNING id`,
      [id, name, request],
    );
    if (!rows[0]) throw refusal("job-unknown", { job: String(id) });
    const made = rows[0].id as number;
    for (const [table, columns] of Object.entries(OWN))
      await client.query(
        `INSERT INTO ${table} (job_id, ${columns}) SELECT $2, ${columns} FROM ${table} WHERE job_id = $1`,
        [id, made],
      );
    // Each delivery is another row there; what names it by its row follows.
    await client.query(
      `CREATE TEMP TABLE copied ON COMMIT DROP AS
       SELECT id AS was, nextval(pg_get_serial_sequence('intakes', 'id')) AS becomes FROM intakes WHERE job_id = ${Number(id)}`,
    );
    await client.query(
      `INSERT INTO intakes (id, job_id, ${INTAKE_COLUMNS}, bytes_of) OVERRIDING SYSTEM VALUE
       SELECT c.becomes, $2, ${INTAKE_COLUMNS}, o.becomes FROM intakes i JOIN copied c ON c.was = i.id
         LEFT JOIN copied o ON o.was = i.bytes_of WHERE i.job_id = $1 ORDER BY i.id`,
      [id, made],
    );
    for (const table of ["intake_parts", "intake_extras"])
      await client.query(
        `INSERT INTO ${table} (intake_id, part, bytes) SELECT c.becomes, part, bytes FROM ${table} p JOIN copied c ON c.was = p.intake_id`,
      );
    await client.query(
      `INSERT INTO points (job_id, intake_id, ${COLUMN_NAMES})
       SELECT $2, c.becomes, ${COLUMN_NAMES} FROM points p LEFT JOIN copied c ON c.was = p.intake_id
        WHERE p.job_id = $1`,
      [id, made],
    );
    await client.query("INSERT INTO lost_points (job_id, id) SELECT $2, id FROM lost_points WHERE job_id = $1", [
      id,
      made,
    ]);
    await client.query(
      `INSERT INTO ledger (job_id, seq, author, at, kind, target, undone, brief, change)
       SELECT $2, seq, author, at, kind, target, undone,
              brief || CASE WHEN now IS NULL THEN '{}' ELSE jsonb_build_object('change', now || '{"replaced": []}') END,
              coalesce(now, change)
         FROM ledger LEFT JOIN LATERAL (
           SELECT change || jsonb_strip_nulls(jsonb_build_object(
                    'id', (SELECT becomes FROM copied WHERE was = (change->>'id')::bigint),
                    'instead', (SELECT becomes FROM copied WHERE was = (change->>'instead')::bigint))) AS now
            WHERE change->>'type' = 'intake') AS intake ON true
        WHERE job_id = $1`,
      [id, made],
    );
    return made;
  });
}

/** Puts a job away or takes it out again; removes it or brings it back. Refused when there is no such job. */
export async function shelveJob(
  id: number,
  author: string,
  shelf: { archived?: boolean; removed?: boolean },
): Promise<void> {
  const { rowCount } = await inTurn(id, author, () =>
    transaction((client) =>
      client.query(
        `UPDATE jobs SET
           archived = CASE WHEN $2::boolean IS NULL THEN archived WHEN $2 THEN coalesce(archived, now()) END,
           removed = CASE WHEN $3::boolean IS NULL THEN removed WHEN $3 THEN coalesce(removed, now()) END
         WHERE id = $1`,
        [id, shelf.archived ?? null, shelf.removed ?? null],
      ),
    ),
  );
  if (!rowCount) throw refusal("job-unknown", { job: String(id) });
}

/** Jobs removed longer ago than they are kept go for good. */
export function purgeRemoved(): Promise<number> {
  return transaction(async (client) => {
    const { rows } = await client.query(
      `DELETE FROM jobs WHERE removed < now() - make_interval(days => ${KEPT_DAYS}) RETURNING id`,
    );
    // Points do not follow their job by themselves (migration 2 says why).
    for (const { id } of rows) await client.query("DELETE FROM points WHERE job_id = $1", [id]);
    return rows.length;
  });
}

/** A file of one job, such as a geoid's grid, is kept with another too. */
export async function copyJobFile(from: number, to: number, name: string): Promise<void> {
  await transaction((client) =>
    client.query(
      `INSERT INTO job_files (job_id, name, bytes) SELECT $2, name, bytes FROM job_files WHERE job_id = $1 AND name = $3
     ON CONFLICT (job_id, name) DO UPDATE SET bytes = excluded.bytes`,
      [from, to, name],
    ),
  );
}

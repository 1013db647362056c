/** Taking a delivery in: bytes, shots and points in one transaction with the ledger. */
import { createHash } from "node:crypto";
import { KINDS, readIntake, refusal, type IntakeInfo, type RecipeIntake } from "@bramble/core";
import { emptyTable, type PointTable } from "@bramble/core/points/table";
import { transaction, type Client } from "../pool.ts";
import { loadJob } from "./jobs.ts";
import { enter, type LedgerEntry } from "./ledger.ts";

const PART = 1 << 20;
const BATCH = 20_000;

export interface TakenIntake { entry: LedgerEntry; info: IntakeInfo }

/** Reads and stores one file; nothing is stored when it is refused. The intake's id is made from the file's name when none is given. */
export function takeIntake(jobId: number, author: string, given: Omit<RecipeIntake, "id"> & { id?: string }, bytes: Uint8Array): Promise<TakenIntake> {
  return transaction(async (client) => {
    const job = await loadJob(client, jobId, true);
    const id = freeKey(given.id ?? given.file, [...job.intakes, ...job.withdrawn].map((k) => k.id));
    const { table, ids, next } = await livingNumbers(client, jobId);
    const { info, taken } = readIntake(table, bytes, { ...given, id }, {
      unit: job.definition.unit, order: job.definition.order, intakeIndex: 0, firstId: next,
    });
    const sha256 = createHash("sha256").update(bytes).digest("hex");
    const intakeId = (await client.query(
      "INSERT INTO intakes (job_id, key, file, info, bytes, sha256, author) VALUES ($1, $2, $3, $4, $5, $6, $7) RETURNING id",
      [jobId, id, given.file, JSON.stringify(info), bytes.length, sha256, author])).rows[0].id as number;
    for (let at = 0, part = 0; at < bytes.length; at += PART, part++) {
      await client.query("INSERT INTO intake_parts (intake_id, part, bytes) VALUES ($1, $2, $3)", [intakeId, part, Buffer.from(bytes.subarray(at, at + PART))]);
    }
    await storePoints(client, jobId, intakeId, taken.added);
    const replaced = taken.replaced.map((i) => ids[i]!);
    await client.query("UPDATE points SET deleted = true WHERE job_id = $1 AND id = ANY($2)", [jobId, replaced]);
    await client.query("UPDATE jobs SET next_point = $2 WHERE id = $1", [jobId, next + taken.added.count]);
    const entry = await enter(client, job, author, "change", { type: "intake", intake: id, file: given.file, action: "take", replaced }, null);
    return { entry, info };
  });
}

/** Withdraws an intake whole; the ledger can bring it back. */
export function withdrawIntake(jobId: number, author: string, key: string): Promise<LedgerEntry> {
  return transaction(async (client) => {
    const job = await loadJob(client, jobId, true);
    const made = (await client.query(
      "SELECT change FROM ledger WHERE job_id = $1 AND change->>'type' = 'intake' AND change->>'intake' = $2 ORDER BY seq LIMIT 1", [jobId, key])).rows[0];
    const { rowCount } = await client.query("UPDATE intakes SET withdrawn = true WHERE job_id = $1 AND key = $2 AND NOT withdrawn", [jobId, key]);
    if (!made || !rowCount) throw refusal("change-unknown", { what: `Intake “${key}”` });
    await client.query("UPDATE points SET deleted = false WHERE job_id = $1 AND id = ANY($2)", [jobId, made.change.replaced]);
    return enter(client, job, author, "change", { ...made.change, action: "withdraw" }, null);
  });
}

/** The bytes of an intake as they came. */
export async function intakeBytes(db: Pick<Client, "query">, jobId: number, key: string): Promise<{ file: string; bytes: Buffer }> {
  const { rows } = await db.query("SELECT id, file FROM intakes WHERE job_id = $1 AND key = $2", [jobId, key]);
  if (!rows[0]) throw refusal("change-unknown", { what: `Intake “${key}”` });
  const parts = await db.query("SELECT bytes FROM intake_parts WHERE intake_id = $1 ORDER BY part", [rows[0].id]);
  return { file: rows[0].file, bytes: Buffer.concat(parts.rows.map((r) => r.bytes as Buffer)) };
}

/** Numbers in use, as much of a table as the clash policy needs, and the next free id. */
async function livingNumbers(client: Client, jobId: number): Promise<{ table: PointTable; ids: number[]; next: number }> {
  const { rows } = (await client.query({
    rowMode: "array",
    text: `SELECT p.id, p.number FROM points p JOIN intakes i ON i.id = p.intake_id WHERE p.job_id = $1 AND NOT p.deleted AND NOT i.withdrawn ORDER BY p.id`,
    values: [jobId],
  })) as unknown as { rows: [number, string][] };
  const next = (await client.query("SELECT next_point FROM jobs WHERE id = $1", [jobId])).rows[0].next_point as number;
  const table: PointTable = { ...emptyTable(), count: rows.length, number: rows.map((r) => r[1]), deleted: new Uint8Array(rows.length) };
  return { table, ids: rows.map((r) => r[0]), next };
}

async function storePoints(client: Client, jobId: number, intakeId: number, t: PointTable): Promise<void> {
  const level = (x: number) => (Number.isNaN(x) ? null : x);
  for (let from = 0; from < t.count; from += BATCH) {
    const rows = Array.from({ length: Math.min(BATCH, t.count - from) }, (_, k) => from + k);
    const attributes = rows.map((i) => {
      const given = t.attributes.flatMap((a) => (a.values[i] ? [[a.name, t.texts[a.values[i]!]!]] : []));
      return given.length ? JSON.stringify(Object.fromEntries(given)) : null;
    });
    const columns = [
      rows.map((i) => t.id[i]), rows.map((i) => t.row[i]), rows.map((i) => t.number[i]), rows.map((i) => t.e[i]), rows.map((i) => t.n[i]),
      rows.map((i) => level(t.z[i]!)), rows.map((i) => level(t.precision[i]!)), rows.map((i) => level(t.targetHeight[i]!)), rows.map((i) => level(t.time[i]!)),
      rows.map((i) => t.texts[t.description[i]!]), rows.map((i) => t.texts[t.note[i]!]), attributes, rows.map((i) => KINDS[t.kind[i]!]),
    ];
    await client.query(`
      WITH received AS (
        SELECT * FROM unnest($3::int[], $4::int[], $5::text[], $6::float8[], $7::float8[], $8::float8[], $9::float8[], $10::float8[], $11::float8[], $12::text[], $13::text[], $14::text[], $15::text[])
          AS u(id, row, number, easting, northing, elevation, precision, target_height, time, description, note, attributes, kind)
      ), kept AS (
        INSERT INTO shots (intake_id, row, number, easting, northing, elevation, precision, target_height, time, description, note, attributes)
        SELECT $2::bigint, row, number, easting, northing, elevation, precision, target_height, time, description, note, attributes::jsonb FROM received
      )
      INSERT INTO points (job_id, intake_id, id, row, number, easting, northing, elevation, precision, target_height, time, description, note, attributes, kind)
      SELECT $1::bigint, $2::bigint, id, row, number, easting, northing, elevation, precision, target_height, time, description, note, attributes::jsonb, kind FROM received`,
    [jobId, intakeId, ...columns]);
  }
}

/** The file's name without its ending; with a count when that is taken. */
function freeKey(file: string, taken: string[]): string {
  const base = file.replace(/\.[^.]*$/, "").slice(0, 60) || "intake";
  if (!taken.includes(base)) return base;
  for (let k = 2; ; k++) if (!taken.includes(`${base}-${k}`)) return `${base}-${k}`;
}

/** The one write path: every change is checked against the present state, stored and entered in the ledger in one transaction. */
import {
  applyDefinition, describeChange, fieldName, inverse, plainSettings, refusal, Refusal, type Change, type IntakeChange, type NamedChange, type PointsChange,
  type SettingChange,
} from "@bramble/core";
import { FOLLOWS_E, FOLLOWS_N, FOLLOWS_Z } from "@bramble/core/points/table";
import { OBSERVED, type EditField, type EditValue } from "@bramble/core/points/edits";
import { getPool, transaction, type Client } from "../pool.ts";
import { loadJob, writePart, type StoredJob } from "./jobs.ts";

export interface LedgerEntry {
  seq: number;
  author: string;
  at: string;
  kind: "change" | "undo" | "redo";
  target: number | null;
  undone: boolean;
  change: Change;
  text: string;
}

/** Stores a change that a person asked for. Refused when it is based on old data. */
export function storeChange(jobId: number, author: string, change: Exclude<Change, IntakeChange>): Promise<LedgerEntry> {
  return transaction(async (client) => {
    const job = await loadJob(client, jobId, true);
    await carryOut(client, job, change);
    return enter(client, job, author, "change", change, null);
  });
}

/** Undoes the last change that is not undone yet, by its inverse. */
export function undoLast(jobId: number, author: string): Promise<LedgerEntry> {
  return step(jobId, author, "undo", `SELECT seq, change FROM ledger WHERE job_id = $1 AND kind = 'change' AND NOT undone ORDER BY seq DESC LIMIT 1`);
}

/** Does again what was undone last, unless something else was changed since. */
export function redoLast(jobId: number, author: string): Promise<LedgerEntry> {
  return step(jobId, author, "redo", `
    SELECT c.seq, c.change FROM ledger c WHERE c.job_id = $1 AND c.kind = 'change' AND c.undone
       AND c.seq > coalesce((SELECT max(seq) FROM ledger WHERE job_id = $1 AND kind = 'change' AND NOT undone), 0)
     ORDER BY c.seq LIMIT 1`);
}

function step(jobId: number, author: string, kind: "undo" | "redo", find: string): Promise<LedgerEntry> {
  return transaction(async (client) => {
    const job = await loadJob(client, jobId, true);
    const last = (await client.query(find, [jobId])).rows[0] as { seq: number; change: Change } | undefined;
    if (!last) throw refusal("undo-nothing", {});
    const change = kind === "undo" ? inverse(last.change) : last.change;
    try {
      await carryOut(client, job, change);
    } catch (e) {
      if (e instanceof Refusal && e.code === "change-outdated") throw refusal("undo-order", { what: describeChange(last.change) });
      throw e;
    }
    await client.query("UPDATE ledger SET undone = $3 WHERE job_id = $1 AND seq = $2", [jobId, last.seq, kind === "undo"]);
    return enter(client, job, author, kind, change, last.seq);
  });
}

/** Writes the ledger entry and the job's new version. */
export async function enter(
  client: Client, job: { id: number; version: number }, author: string, kind: LedgerEntry["kind"], change: Change, target: number | null,
): Promise<LedgerEntry> {
  const seq = job.version + 1;
  const { rows } = await client.query("INSERT INTO ledger (job_id, seq, author, kind, target, change) VALUES ($1, $2, $3, $4, $5, $6) RETURNING at", [
    job.id, seq, author, kind, target, JSON.stringify(change),
  ]);
  await client.query("UPDATE jobs SET version = $2 WHERE id = $1", [job.id, seq]);
  return { seq, author, at: rows[0].at.toISOString(), kind, target, undone: false, change, text: describeChange(change) };
}

/** The latest entries, newest first. */
export async function listLedger(jobId: number, most = 200, before = Number.MAX_SAFE_INTEGER): Promise<LedgerEntry[]> {
  const { rows } = await getPool().query("SELECT seq, author, at, kind, target, undone, change FROM ledger WHERE job_id = $1 AND seq < $3 ORDER BY seq DESC LIMIT $2", [
    jobId, most, before,
  ]);
  return rows.map((r) => ({ ...r, at: r.at.toISOString(), text: describeChange(r.change) }));
}

async function carryOut(client: Client, job: StoredJob, change: Change): Promise<void> {
  if (change.type === "several") {
    // Each is checked against what those before it left.
    for (const c of change.changes) {
      await carryOut(client, job, c);
      if (c.type !== "points") job = { ...job, definition: { ...job.definition, ...applyDefinition(job.definition, c) } };
    }
    return;
  }
  if (change.type === "points") await editPoints(client, job.id, change);
  else if (change.type === "intake") await turnIntake(client, job.id, change);
  else await writeDefinition(client, job, change);
}

/** Which bit of `follows` a coordinate has. */
const BIT: Partial<Record<EditField, number>> = { northing: FOLLOWS_N, easting: FOLLOWS_E, elevation: FOLLOWS_Z };

const COLUMN: Record<EditField, { name: string; type: string }> = {
  number: { name: "number", type: "text" }, northing: { name: "northing", type: "float8" }, easting: { name: "easting", type: "float8" },
  elevation: { name: "elevation", type: "float8" }, description: { name: "description", type: "text" }, note: { name: "note", type: "text" },
  targetHeight: { name: "target_height", type: "float8" }, precision: { name: "precision", type: "float8" }, kind: { name: "kind", type: "text" },
  surface: { name: "surface", type: "text" }, deleted: { name: "deleted", type: "boolean" }, cues: { name: "cues", type: "text" },
};

async function editPoints(client: Client, jobId: number, change: PointsChange): Promise<void> {
  for (const field of new Set(change.edits.map((e) => e.field))) {
    const edits = change.edits.filter((e) => e.field === field);
    const { name, type } = COLUMN[field];
    const ids = edits.map((e) => e.id), bit = BIT[field] ?? 0;
    const now = new Map<number, { number: string; value: EditValue; kind: string; follows: number }>(
      (await client.query(
        `SELECT p.id, p.number, p.${name} AS value, p.kind, p.follows FROM points p JOIN intakes i ON i.id = p.intake_id
          WHERE p.job_id = $1 AND p.id = ANY($2) AND NOT i.withdrawn`, [jobId, ids])).rows.map((r) => [r.id, r]));
    for (const e of edits) {
      const present = now.get(e.id);
      if (!present) throw refusal("change-unknown", { what: "A point that you changed" });
      if (present.kind === "reference" && field !== "deleted") throw refusal("change-reference", { number: present.number });
      if ((present.follows & bit ? OBSERVED : present.value) !== e.old) {
        const by = (await client.query(
          "SELECT author FROM ledger WHERE job_id = $1 AND change @> $2 ORDER BY seq DESC LIMIT 1",
          [jobId, JSON.stringify({ edits: [{ id: e.id, field }] })])).rows[0]?.author as string | undefined;
        throw refusal("change-outdated", { what: `The ${fieldName(field)} of point ${present.number}`, theirs: String(present.value ?? "missing"), author: by });
      }
    }
    const given = edits.filter((e) => !(bit && e.new === OBSERVED)), free = edits.filter((e) => bit && e.new === OBSERVED);
    await client.query(
      `UPDATE points p SET ${name} = u.value, follows = p.follows & ~$4::int FROM unnest($2::int[], $3::${type}[]) AS u(id, value) WHERE p.job_id = $1 AND p.id = u.id`,
      [jobId, given.map((e) => e.id), given.map((e) => e.new), bit]);
    if (free.length) await client.query("UPDATE points SET follows = follows | $3::int WHERE job_id = $1 AND id = ANY($2)", [jobId, free.map((e) => e.id), bit]);
  }
  const touched = change.edits.filter((e) => e.field === "number" || (e.field === "deleted" && e.new === false)).map((e) => e.id);
  if (touched.length) {
    const [taken] = await repeatedNumbers(client, jobId, touched);
    if (taken) throw refusal("change-number-taken", { number: taken });
  }
}

/** Numbers of the given points that another living point has too. */
async function repeatedNumbers(client: Client, jobId: number, ids: number[]): Promise<string[]> {
  const { rows } = await client.query(`
    SELECT DISTINCT p.number FROM points p JOIN intakes pi ON pi.id = p.intake_id
      JOIN points q ON q.job_id = p.job_id AND q.number = p.number AND q.id <> p.id JOIN intakes qi ON qi.id = q.intake_id
     WHERE p.job_id = $1 AND p.id = ANY($2) AND NOT p.deleted AND NOT q.deleted AND NOT pi.withdrawn AND NOT qi.withdrawn
     ORDER BY p.number LIMIT 5`, [jobId, ids]);
  return rows.map((r) => r.number);
}

/** Withdraws an intake or brings it back, with the points that it replaced and the reading that it stands instead of. */
export async function turnIntake(client: Client, jobId: number, change: IntakeChange): Promise<void> {
  const take = change.action === "take";
  if (take && change.instead) await turn(client, jobId, change.instead, true, change);
  await turn(client, jobId, change.id, !take, change);
  await client.query("UPDATE points SET deleted = $3 WHERE job_id = $1 AND id = ANY($2)", [jobId, change.replaced, take]);
  if (!take && change.instead) await turn(client, jobId, change.instead, false, change);
  const standing = take ? change.id : change.instead;
  const ids = standing === undefined ? [] : (await client.query("SELECT id FROM points WHERE job_id = $1 AND intake_id = $2", [jobId, standing])).rows.map((r) => r.id as number);
  const clash = await repeatedNumbers(client, jobId, take ? ids : [...ids, ...change.replaced]);
  if (clash.length) throw refusal("change-restore-clash", { file: change.file, numbers: clash.join(", ") });
}

/** One row of the intakes withdrawn or brought back, with the points that it replaced when it was taken in. */
async function turn(client: Client, jobId: number, rowId: number, withdraw: boolean, change: IntakeChange): Promise<void> {
  const { rowCount } = await client.query("UPDATE intakes SET withdrawn = $3 WHERE job_id = $1 AND id = $2 AND withdrawn = NOT $3", [jobId, rowId, withdraw]);
  if (!rowCount) throw refusal("change-outdated", { what: `Intake “${change.file}”`, theirs: withdraw ? "withdrawn already" : "there already" });
  if (rowId === change.id) return;
  const { rows } = await client.query("SELECT change->'replaced' AS replaced FROM ledger WHERE job_id = $1 AND change->>'type' = 'intake' AND (change->>'id')::bigint = $2 ORDER BY seq LIMIT 1", [jobId, rowId]);
  await client.query("UPDATE points SET deleted = $3 WHERE job_id = $1 AND id = ANY($2)", [jobId, rows[0]?.replaced ?? [], !withdraw]);
}

async function writeDefinition(client: Client, job: StoredJob, change: NamedChange | SettingChange): Promise<void> {
  const next = { ...job.definition, ...applyDefinition(job.definition, change) };
  if (change.type === "setting" || change.part === "codes") {
    await client.query("UPDATE jobs SET name = $2, settings = $3, book = $4 WHERE id = $1", [
      job.id, next.name, JSON.stringify({ ...plainSettings(next), date: next.date, order: next.order, tolerance: next.tolerance }), JSON.stringify(next.book),
    ]);
    return;
  }
  await writePart(client, job.id, change.part, next[change.part]);
}

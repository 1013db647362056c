/** Taking a delivery in, reading it again, withdrawing it: bytes, points and ledger in one transaction. */
import { createHash } from "node:crypto";
import { pipeline } from "node:stream/promises";
import { Readable } from "node:stream";
import { from as copyFrom } from "pg-copy-streams";
import {
  readIntake,
  refusal,
  sameJson,
  withPositions,
  type Delivered,
  type IntakeChange,
  type IntakeInfo,
  type IntakeOptions,
  type JobState,
  type RecipeIntake,
} from "@bramble/core";
import { guessFormat, openTables } from "@bramble/core/intake/deliver";
import { readGeoid, type Geoid } from "@bramble/core/intake/geoid";
import { pack, unpack } from "@bramble/core/math/pack";
import { carryEdits } from "@bramble/core/points/carry";
import { beforeTurn } from "@bramble/core/points/giving-way";
import { GONE_GAVE_WAY, pickRows, type PointTable } from "@bramble/core/points/table";
import { getPool, type Client } from "../pool.ts";
import { writing } from "../turns.ts";
import { type StoredIntake, type StoredJob } from "./jobs.ts";
import { settleNumbers } from "./giving-way.ts";
import { enter, entryNamed, turnIntake, type ToldEntry } from "./ledger.ts";
import { COLUMN_NAMES, rowWriter } from "./point-columns.ts";
import { loadPoints } from "./points.ts";

const PART = 1 << 20;

export interface TakenIntake {
  entry: ToldEntry;
  info: IntakeInfo;
}

/**
 * Reads and stores one file; nothing is stored when it is refused. The intake's id is made from the file's name when
 * none is given.
 */
export async function takeIntake(
  jobId: number,
  author: string,
  given: Omit<RecipeIntake, "id"> & { id?: string },
  bytes: Uint8Array,
  name: string | null = null,
): Promise<TakenIntake> {
  const tables = await openTables(given.file, bytes, given.format ?? guessFormat(bytes));
  const taken = await writing(jobId, author, async (client, job) => {
    const stored = await entryNamed(client, jobId, name);
    if (stored) return takenBefore(job, stored);
    const { state, next } = await stateToRead(client, job);
    const id = freeKey(
      given.id ?? given.file,
      [...job.intakes, ...job.withdrawn].map((k) => k.id),
    );
    const { info, taken, delivered } = readIntake(
      { ...state, points: { ...state.points, deleted: beforeTurn(state.points, state.intakes, state.intakes.length) } },
      bytes,
      { ...given, id },
      { firstId: next, geoid: await geoidOf(client, job), tables },
    );
    const sha256 = createHash("sha256").update(bytes).digest("hex");
    const rowId = await storeIntake(
      client,
      { jobId, key: id, file: given.file, info, size: bytes.length, sha256, author },
      taken.added,
      delivered,
    );
    await storeParts(client, "intake_parts", rowId, bytes);
    // Where no number clashed and nothing gives way, nothing does now.
    const isPlain = taken.clashes.length === 0 && !state.points.deleted.some((d) => d & GONE_GAVE_WAY),
      { away: replaced } = isPlain ? { away: [] } : await settleNumbers(client, jobId);
    await client.query("UPDATE jobs SET next_point = $2 WHERE id = $1", [jobId, next + taken.added.count]);
    const entry = await enter(
      client,
      job,
      author,
      "change",
      { type: "intake", intake: id, id: rowId, file: given.file, action: "take", replaced },
      null,
      name,
    );
    return { entry, info };
  });
  // The planner learns of the many points before anybody asks for them, apart from the transaction, which others would
  // wait for.
  if (taken.info.points >= ANALYSED_FROM) await getPool().query("ANALYZE points");
  return taken;
}

const ANALYSED_FROM = 1000;

export interface ReadAgain extends TakenIntake {
  lost: string[];
}

/**
 * Reads the bytes of an intake in another way, in its place. Office edits of its points stay: they are carried over by
 * the row of the file that gave the point; those that find no point any more are listed.
 */
export function readIntakeAgain(
  jobId: number,
  author: string,
  key: string,
  given: IntakeOptions,
  name: string | null = null,
): Promise<ReadAgain> {
  return writing(jobId, author, async (client, job) => {
    const stored = await entryNamed(client, jobId, name);
    if (stored) return takenBefore(job, stored);
    const { state, next } = await stateToRead(client, job);
    const at = job.intakes.findIndex((k) => k.id === key),
      old = job.intakes[at];
    if (!old) throw refusal("change-unknown", { what: `Intake “${key}”` });
    const { bytes } = await intakeBytes(client, jobId, key);
    const tables = await openTables(old.file, bytes, given.format ?? old.format ?? guessFormat(bytes));
    const geoid = await geoidOf(client, job);
    const reading: RecipeIntake = { ...given, id: key, file: old.file };
    // It is read in its turn: as if neither it were there nor what came after it.
    const without = withoutIntake(state, at);
    const { info, taken, delivered } = readIntake(without, bytes, reading, { firstId: next, geoid, tables });
    if (sameJson(comparable(info), comparable(old))) throw refusal("reading-same", { file: old.file });
    // What its rows say, whoever has their numbers.
    const before = readIntake(without, bytes, asGiven(old), {
      firstId: next,
      geoid,
      lookOnly: true,
      tables:
        given.layout?.table === old.layout?.table
          ? tables
          : await openTables(old.file, bytes, old.format ?? guessFormat(bytes)),
    });
    const now = pickRows(state.points, rowsOf(state.points, at));
    const { table, lost } = carryEdits(now, before.taken.added, taken.added);
    const rowId = await storeIntake(
      client,
      { jobId, key, file: old.file, info, size: old.bytes, sha256: old.sha256, author, instead: old.rowId },
      table,
      delivered,
    );
    await client.query("UPDATE jobs SET next_point = $2 WHERE id = $1", [jobId, next + table.count]);
    const change: IntakeChange = {
      type: "intake",
      intake: key,
      id: rowId,
      instead: old.rowId,
      file: old.file,
      action: "take",
      replaced: [],
      ...(lost.length ? { lost } : {}),
    };
    change.replaced = (await turnIntake(client, jobId, change)).away;
    return { entry: await enter(client, job, author, "change", change, null, name), info, lost };
  });
}

/** What a request that was stored before is told: as it stands now. */
export function takenBefore(job: StoredJob, entry: ToldEntry): ReadAgain {
  const change = entry.change as IntakeChange,
    info = [...job.intakes, ...job.withdrawn].find((k) => k.id === change.intake);
  if (!info) throw refusal("change-unknown", { what: `Intake “${change.intake}”` });
  return { entry, info, lost: change.lost ?? [] };
}

/** Withdraws an intake whole, or brings a withdrawn one back. */
export function turnOneIntake(
  jobId: number,
  author: string,
  key: string,
  action: "take" | "withdraw",
  name: string | null = null,
): Promise<ToldEntry> {
  return writing(jobId, author, async (client, job) => {
    const stored = await entryNamed(client, jobId, name);
    if (stored) return stored;
    const found = (action === "take" ? job.withdrawn : job.intakes).find((k) => k.id === key);
    if (!found) throw refusal("change-unknown", { what: `Intake “${key}”` });
    const change: IntakeChange = {
      type: "intake",
      intake: key,
      id: found.rowId,
      file: found.file,
      action,
      replaced: [],
    };
    const { away, back } = await turnIntake(client, jobId, change);
    change.replaced = action === "take" ? away : back;
    return enter(client, job, author, "change", change, null, name);
  });
}

export const withdrawIntake = (jobId: number, author: string, key: string) =>
  turnOneIntake(jobId, author, key, "withdraw");

/** The bytes of an intake as they came. */
export async function intakeBytes(
  db: Pick<Client, "query">,
  jobId: number,
  key: string,
): Promise<{ file: string; bytes: Buffer }> {
  const { rows } = await db.query(
    "SELECT coalesce(bytes_of, id) AS id, file FROM intakes WHERE job_id = $1 AND key = $2 ORDER BY withdrawn, id DESC LIMIT 1",
    [jobId, key],
  );
  if (!rows[0]) throw refusal("change-unknown", { what: `Intake “${key}”` });
  return { file: rows[0].file, bytes: await loadParts(db, "intake_parts", rows[0].id) };
}

/** What the standing intakes brought beside points, in their order. */
export async function loadDelivered(db: Pick<Client, "query">, intakes: readonly StoredIntake[]): Promise<Delivered[]> {
  const out: Delivered[] = [];
  for (const k of intakes) {
    const bytes = k.setups > 0 || k.reference ? await loadParts(db, "intake_extras", k.rowId) : Buffer.alloc(0);
    // A fresh buffer starts at a multiple of 8, as the typed arrays within need.
    out.push(bytes.length ? unpack<Delivered>(new Uint8Array(bytes).buffer) : {});
  }
  return out;
}

/** A job's whole state as stored, with its observed points reduced. */
export async function loadJobState(db: Pick<Client, "query">, job: StoredJob): Promise<JobState> {
  return withPositions({
    ...job.definition,
    intakes: job.intakes,
    delivered: await loadDelivered(db, job.intakes),
    points: await loadPoints(db, job.id),
  });
}

/** The geoid grid that the job's settings name. */
export async function geoidOf(db: Pick<Client, "query">, job: StoredJob): Promise<Geoid | undefined> {
  const name = job.definition.geoid;
  if (!name) return undefined;
  const { rows } = await db.query("SELECT bytes FROM job_files WHERE job_id = $1 AND name = $2", [job.id, name]);
  if (!rows[0])
    throw refusal("file-geoid", { file: name, why: "its bytes are not in the job; choose it again in the settings" });
  return readGeoid(name, rows[0].bytes as Buffer);
}

/** Keeps a file that the settings may name. */
export async function keepJobFile(
  db: Pick<Client, "query">,
  jobId: number,
  name: string,
  bytes: Uint8Array,
): Promise<void> {
  await db.query(
    "INSERT INTO job_files (job_id, name, bytes) VALUES ($1, $2, $3) ON CONFLICT (job_id, name) DO UPDATE SET bytes = excluded.bytes",
    [jobId, name, Buffer.from(bytes)],
  );
}

async function stateToRead(client: Client, job: StoredJob): Promise<{ state: JobState; next: number }> {
  const next = (await client.query("SELECT next_point FROM jobs WHERE id = $1", [job.id])).rows[0].next_point as number;
  return { state: await loadJobState(client, job), next };
}

/** The state without one intake, as it was before that had its turn: points of later ones are there, and give way. */
function withoutIntake(s: JobState, at: number): JobState {
  const before = { ...s.points, deleted: beforeTurn(s.points, s.intakes, at) },
    points = pickRows(before, rowsOf(s.points, at, false));
  for (let i = 0; i < points.count; i++) if (points.intake[i]! > at) points.intake[i]!--;
  const others = <T>(list: readonly T[]) => list.filter((_, i) => i !== at);
  return { ...s, intakes: others(s.intakes), delivered: others(s.delivered), points };
}

function rowsOf(t: PointTable, intake: number, those = true): Int32Array {
  return Int32Array.from({ length: t.count }, (_, i) => i).filter((i) => (t.intake[i] === intake) === those);
}

/** The options of an intake as they were given. */
function asGiven({
  id,
  file,
  format,
  layout,
  line,
  heightAt,
  unit,
  encoding,
  clash,
  add,
  answers,
  crew,
  kind,
  only,
}: IntakeInfo): RecipeIntake {
  return { id, file, format, layout, line, heightAt, unit, encoding, clash, add, clashes: answers, crew, kind, only };
}

/** What tells two readings apart, as it is stored. */
function comparable(info: IntakeInfo): unknown {
  return JSON.parse(JSON.stringify(asGiven(info)));
}

interface IntakeRow {
  jobId: number;
  key: string;
  file: string;
  info: IntakeInfo;
  size: number;
  sha256: string;
  author: string;
  instead?: number;
}

/**
 * The row of the intake, its points and what it brought beside them. A reading in place of another starts withdrawn and
 * is then turned.
 */
async function storeIntake(client: Client, k: IntakeRow, points: PointTable, delivered: Delivered): Promise<number> {
  const { rows } = await client.query(
    `
    INSERT INTO intakes (job_id, key, file, info, bytes, sha256, author, withdrawn, sequence, bytes_of)
    VALUES ($1, $2, $3, $4, $5, $6, $7, $8::bigint IS NOT NULL,
            coalesce((SELECT sequence FROM intakes WHERE id = $8), (SELECT coalesce(max(sequence), 0) + 1 FROM intakes WHERE job_id = $1)),
            (SELECT coalesce(bytes_of, id) FROM intakes WHERE id = $8))
    RETURNING id`,
    [k.jobId, k.key, k.file, JSON.stringify(k.info), k.size, k.sha256, k.author, k.instead ?? null],
  );
  const rowId = rows[0].id as number;
  await copyPoints(client, k.jobId, rowId, points);
  if (delivered.survey || delivered.reference) await storeParts(client, "intake_extras", rowId, pack(delivered));
  return rowId;
}

async function storeParts(
  client: Client,
  table: "intake_parts" | "intake_extras",
  rowId: number,
  bytes: Uint8Array,
): Promise<void> {
  for (let at = 0, part = 0; at < bytes.length; at += PART, part++) {
    await client.query(`INSERT INTO ${table} (intake_id, part, bytes) VALUES ($1, $2, $3)`, [
      rowId,
      part,
      Buffer.from(bytes.subarray(at, at + PART)),
    ]);
  }
}

async function loadParts(
  db: Pick<Client, "query">,
  table: "intake_parts" | "intake_extras",
  rowId: number,
): Promise<Buffer> {
  const { rows } = await db.query(`SELECT bytes FROM ${table} WHERE intake_id = $1 ORDER BY part`, [rowId]);
  return Buffer.concat(rows.map((r) => r.bytes as Buffer));
}

/** The points by COPY: a million go in without a statement for each batch. */
async function copyPoints(client: Client, jobId: number, rowId: number, t: PointTable): Promise<void> {
  const write = rowWriter(t);
  function* lines() {
    let block = "";
    for (let i = 0; i < t.count; i++) {
      block += `${jobId}\t${rowId}\t${write(i)}\n`;
      if (block.length > 1 << 16) {
        yield block;
        block = "";
      }
    }
    yield block;
  }
  const into = client.query(copyFrom(`COPY points (job_id, intake_id, ${COLUMN_NAMES}) FROM STDIN`));
  await pipeline(Readable.from(lines()), into);
}

/** The file's name without its ending; with a count when that is taken. */
function freeKey(file: string, taken: string[]): string {
  const base = file.replace(/\.[^.]*$/, "").slice(0, 60) || "intake";
  if (!taken.includes(base)) return base;
  for (let k = 2; ; k++) if (!taken.includes(`${base}-${k}`)) return `${base}-${k}`;
}

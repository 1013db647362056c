/** Jobs: the list, a new one, and everything stored about one but its points. */
import {
  NAMED_PARTS, refusal, tolerancesIn, type CodeBook, type IntakeInfo, type JobDefinition, type NamedPart, type Unit,
} from "@bramble/core";
import { getPool, type Client } from "../pool.ts";

type Queryable = Pick<Client, "query">;

export interface JobListed {
  id: number;
  name: string;
  unit: Unit;
  created: string;
  points: number;
  intakes: number;
  changed: string | null;
  author: string | null;
}

export async function listJobs(): Promise<JobListed[]> {
  const { rows } = await getPool().query(`
    SELECT j.id, j.name, j.unit, j.created,
           (SELECT count(*)::int FROM points p JOIN intakes i ON i.id = p.intake_id WHERE p.job_id = j.id AND NOT p.deleted AND NOT i.withdrawn) AS points,
           (SELECT count(*)::int FROM intakes i WHERE i.job_id = j.id AND NOT i.withdrawn) AS intakes,
           l.at AS changed, l.author
      FROM jobs j LEFT JOIN ledger l ON l.job_id = j.id AND l.seq = j.version
     ORDER BY coalesce(l.at, j.created) DESC, j.id DESC`);
  return rows.map((r) => ({ ...r, created: r.created.toISOString(), changed: r.changed?.toISOString() ?? null }));
}

export interface NewJob { name: string; unit: Unit; order: "NE" | "EN"; date?: string; book: CodeBook }

export async function createJob(job: NewJob): Promise<number> {
  const settings = { date: job.date, order: job.order, tolerance: tolerancesIn(job.unit) };
  const { rows } = await getPool().query("INSERT INTO jobs (name, unit, settings, book) VALUES ($1, $2, $3, $4) RETURNING id", [
    job.name, job.unit, JSON.stringify(settings), JSON.stringify(job.book),
  ]);
  return rows[0].id;
}

export interface StoredIntake extends IntakeInfo {
  bytes: number;
  sha256: string;
  author: string;
  taken: string;
}

export interface StoredJob {
  id: number;
  version: number;
  definition: JobDefinition;
  /** In the order taken in, withdrawn ones left out. */
  intakes: StoredIntake[];
  /** Those withdrawn, for the list. */
  withdrawn: StoredIntake[];
}

/** Refused when there is no such job. With `lock` the job waits for other writers and they for it. */
export async function loadJob(db: Queryable, id: number, lock = false): Promise<StoredJob> {
  const job = (await db.query(`SELECT name, unit, settings, book, version FROM jobs WHERE id = $1${lock ? " FOR UPDATE" : ""}`, [id])).rows[0];
  if (!job) throw refusal("job-unknown", { job: String(id) });
  const { rows: definitions } = await db.query("SELECT part, body FROM definitions WHERE job_id = $1 ORDER BY part, position", [id]);
  const { rows: intakes } = await db.query("SELECT key, info, bytes, sha256, author, taken, withdrawn FROM intakes WHERE job_id = $1 ORDER BY id", [id]);
  const part = (p: NamedPart) => definitions.filter((d) => d.part === p).map((d) => d.body);
  const stored = (withdrawn: boolean) => intakes.filter((k) => k.withdrawn === withdrawn).map((k) => ({
    ...k.info, bytes: k.bytes, sha256: k.sha256, author: k.author, taken: k.taken.toISOString(),
  }));
  return {
    id, version: job.version, intakes: stored(false), withdrawn: stored(true),
    definition: {
      name: job.name, unit: job.unit, date: job.settings.date, order: job.settings.order, tolerance: job.settings.tolerance, book: job.book,
      ...(Object.fromEntries(NAMED_PARTS.map((p) => [p, part(p)])) as Pick<JobDefinition, NamedPart>),
    },
  };
}

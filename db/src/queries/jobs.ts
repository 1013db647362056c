/** Jobs: the list, a new one, and everything stored about one but its points. */
import {
  nameOf,
  NAMED_PARTS,
  pickGiven,
  RECIPE_SETTINGS,
  refusal,
  repeatedPart,
  tolerancesIn,
  type CodeBook,
  type IntakeInfo,
  type JobDefinition,
  type NamedPart,
  type Unit,
} from "@bramble/core";
import { getPool, transaction, type Client } from "../pool.ts";

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
  /** The client or project that it belongs to, as its settings say. */
  client: string | null;
  archived: string | null;
  removed: string | null;
}

/** Points of a job as of a version: what changes them raises it. */
const counted = new Map<number, { version: number; points: number }>();

export async function listJobs(): Promise<JobListed[]> {
  const { rows } = await getPool().query(`
    SELECT j.id, j.name, j.unit, j.created, j.archived, j.removed, j.version, j.settings->>'client' AS client,
           (SELECT count(*)::int FROM intakes i WHERE i.job_id = j.id AND NOT i.withdrawn) AS intakes,
           l.at AS changed, l.author
      FROM jobs j LEFT JOIN ledger l ON l.job_id = j.id AND l.seq = j.version
     ORDER BY coalesce(l.at, j.created) DESC, j.id DESC`);
  // Counting a million points takes a while: each job's are counted again only when it has changed.
  for (const { id, version } of rows) {
    if (counted.get(id)?.version === version) continue;
    const { rows: now } = await getPool().query(
      `SELECT j.version, (SELECT count(*)::int FROM points p LEFT JOIN intakes i ON i.id = p.intake_id
                WHERE p.job_id = j.id AND NOT p.deleted AND NOT p.gave_way AND i.withdrawn IS NOT TRUE) AS points
         FROM jobs j WHERE j.id = $1`,
      [id],
    );
    counted.set(id, now[0] ?? { version, points: 0 });
  }
  const iso = (at: Date | null) => at?.toISOString() ?? null;
  return rows.map((row) => {
    const { version: _, ...r } = row;
    return {
      ...r,
      points: counted.get(r.id)!.points,
      created: iso(r.created),
      changed: iso(r.changed),
      archived: iso(r.archived),
      removed: iso(r.removed),
    };
  });
}

export interface NewJob extends Partial<JobDefinition> {
  name: string;
  unit: Unit;
  order: "NE" | "EN";
  book: CodeBook;
}

/** The job that a request made before, by the name that it gave; undefined when there is none. */
export async function jobMadeFor(db: Queryable, request: string | null): Promise<number | undefined> {
  if (request === null) return undefined;
  // Two of one name at once: the second waits here for the first.
  await db.query("SELECT pg_advisory_xact_lock(hashtextextended($1, 0))", [request]);
  return (await db.query("SELECT id FROM jobs WHERE request = $1", [request])).rows[0]?.id as number | undefined;
}

/** A new job; settings and named things that a template gives come with it. `request` names what asked for it. */
export function createJob(job: NewJob, request: string | null = null): Promise<number> {
  return transaction(async (client) => {
    const settings = {
      ...pickGiven(job as JobDefinition, RECIPE_SETTINGS),
      tolerance: tolerancesIn(job.unit, job.tolerance),
    };
    const { rows } = await client.query(
      "INSERT INTO jobs (name, unit, settings, book, request) VALUES ($1, $2, $3, $4, $5) RETURNING id",
      [job.name, job.unit, JSON.stringify(settings), JSON.stringify(job.book), request],
    );
    for (const part of NAMED_PARTS) await writePart(client, rows[0].id, part, job[part] ?? []);
    return rows[0].id;
  });
}

/** All named things of one part, in their order. */
export async function writePart(
  client: Queryable,
  jobId: number,
  part: NamedPart,
  bodies: readonly unknown[],
): Promise<void> {
  const twice = repeatedPart(part, bodies);
  if (twice) throw twice;
  await client.query("DELETE FROM definitions WHERE job_id = $1 AND part = $2", [jobId, part]);
  for (const [position, body] of bodies.entries()) {
    await client.query("INSERT INTO definitions (job_id, part, name, position, body) VALUES ($1, $2, $3, $4, $5)", [
      jobId,
      part,
      nameOf(part, body),
      position,
      JSON.stringify(body),
    ]);
  }
}

export interface StoredIntake extends IntakeInfo {
  /** Row of the intakes table: a reading has one of its own. */
  rowId: number;
  bytes: number;
  sha256: string;
  author: string;
  taken: string;
  /** Ids of points that an earlier version of the application lost from it by reading it again; they are offered back. */
  lost?: number[];
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

/** The last entry of the ledger that is in a job. Refused when there is no such job. */
export async function versionOf(db: Queryable, id: number): Promise<number> {
  const { rows } = await db.query("SELECT version FROM jobs WHERE id = $1 AND removed IS NULL", [id]);
  if (!rows[0]) throw refusal("job-unknown", { job: String(id) });
  return rows[0].version as number;
}

/** Refused when there is no such job. With `lock` the job waits for other writers and they for it. */
export async function loadJob(db: Queryable, id: number, lock = false): Promise<StoredJob> {
  const job = (
    await db.query(
      `SELECT name, unit, settings, book, version FROM jobs WHERE id = $1 AND removed IS NULL${lock ? " FOR UPDATE" : ""}`,
      [id],
    )
  ).rows[0];
  if (!job) throw refusal("job-unknown", { job: String(id) });
  const { rows: definitions } = await db.query(
    "SELECT part, body FROM definitions WHERE job_id = $1 ORDER BY part, position",
    [id],
  );
  const { rows: intakes } = await db.query(
    "SELECT id, sequence, key, info, bytes, sha256, author, taken, withdrawn FROM intakes WHERE job_id = $1 ORDER BY sequence, turned, id",
    [id],
  );
  const { rows: lost } = await db.query(
    `SELECT p.intake_id AS intake, array_agg(p.id ORDER BY p.id) AS ids FROM lost_points l JOIN points p USING (job_id, id)
      WHERE l.job_id = $1 AND p.deleted GROUP BY p.intake_id`,
    [id],
  );
  const lostOf = new Map(lost.map((l) => [l.intake, l.ids as number[]]));
  const part = (p: NamedPart) => definitions.filter((d) => d.part === p).map((d) => d.body);
  const stored = (rows: typeof intakes) =>
    rows.map((k) => ({
      ...k.info,
      rowId: k.id,
      bytes: k.bytes,
      sha256: k.sha256,
      author: k.author,
      taken: k.taken.toISOString(),
      ...(lostOf.has(k.id) ? { lost: lostOf.get(k.id) } : {}),
    }));
  // Of several readings of one file only that which stood last is told as withdrawn, and none while one stands.
  const standing = new Set(intakes.filter((k) => !k.withdrawn).map((k) => k.sequence));
  const last = new Map(intakes.map((k) => [k.sequence, k.id]));
  const withdrawn = intakes.filter((k) => k.withdrawn && !standing.has(k.sequence) && last.get(k.sequence) === k.id);
  return {
    id,
    version: job.version,
    intakes: stored(intakes.filter((k) => !k.withdrawn)),
    withdrawn: stored(withdrawn),
    definition: {
      ...job.settings,
      name: job.name,
      unit: job.unit,
      book: job.book,
      ...(Object.fromEntries(NAMED_PARTS.map((p) => [p, part(p)])) as Pick<JobDefinition, NamedPart>),
    },
  };
}

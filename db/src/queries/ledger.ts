/**
 * The one write path: every change is checked against the present state, stored and entered in the ledger in one
 * transaction.
 */
import {
  applyDefinition,
  beginningOf,
  changeAbout,
  describeChange,
  inverse,
  nextStep,
  pickGiven,
  RECIPE_SETTINGS,
  refusal,
  Refusal,
  standingInTheWay,
  withIndices,
  type Change,
  type EditableChange,
  type IntakeChange,
  type NamedChange,
  type NamedState,
  type SettingChange,
  type Stepped,
  type ToldChange,
} from "@bramble/core";
import { getPool, type Client } from "../pool.ts";
import { writing } from "../turns.ts";
import { writePart, type StoredJob } from "./jobs.ts";
import { settleNumbers, type Settled } from "./giving-way.ts";
import { addPoints, editPoints, removePoints } from "./point-edits.ts";

/** An entry; where it comes without asking for all of it, a large change stays behind (ToldEntry). */
export interface LedgerEntry<C = Change> {
  seq: number;
  author: string;
  at: string;
  kind: "change" | "undo" | "redo";
  /** The change that an undo or redo is about. */
  target: number | null;
  undone: boolean;
  /** An undo or redo of a single entry, whatever came after it (job/change/steps.ts). */
  alone: boolean;
  change: C;
  text: string;
  /** The name that the window which asked gave its change. */
  client: string | null;
}

export type ToldEntry = LedgerEntry<ToldChange>;

/** The channel on which every entry is told, as `JOB SEQ`, once it is stored. */
export const CHANNEL = "rough_bramble_ledger";

/** The entry that was stored for a request, by the name that it gave; undefined when there is none. */
export async function entryNamed(
  db: Pick<Client, "query">,
  jobId: number,
  name: string | null,
): Promise<ToldEntry | undefined> {
  if (name === null) return undefined;
  const { rows } = await db.query(`SELECT ${TOLD} FROM ledger WHERE job_id = $1 AND client = $2`, [jobId, name]);
  return rows[0] && entryOf(rows[0]);
}

/**
 * The entry of a request, looked up when nothing that was on its way for the job can still be stored: one that waits
 * for whoever holds it. Undefined when the request was not stored.
 */
export function lookUpEntry(jobId: number, author: string, name: string): Promise<ToldEntry | undefined> {
  return writing(jobId, author, (client) => entryNamed(client, jobId, name));
}

/**
 * Stores a change that a person asked for. Refused when it is based on old data; one that was stored already is found
 * by its name.
 */
export function storeChange(
  jobId: number,
  author: string,
  change: EditableChange,
  name: string | null = null,
): Promise<ToldEntry> {
  return writing(jobId, author, async (client, job) => {
    const stored = await entryNamed(client, jobId, name);
    if (stored) return stored;
    const whole = withIndices(job.definition, change),
      [why] = standingInTheWay(job.definition, whole);
    if (why) throw refusal("change-leaves", { why });
    await carryOut(client, job, whole);
    return enter(client, job, author, "change", whole, null, name);
  });
}

/**
 * Takes back the person's own last deed that is not taken back yet, by its inverse. A delivery only when `delivery` says so.
 */
export function undoLast(
  jobId: number,
  author: string,
  delivery = false,
  name: string | null = null,
): Promise<ToldEntry> {
  return step({ jobId, author, kind: "undo", delivery, name });
}

/** Does again what the person took back last, unless they did something else since. */
export function redoLast(
  jobId: number,
  author: string,
  delivery = false,
  name: string | null = null,
): Promise<ToldEntry> {
  return step({ jobId, author, kind: "redo", delivery, name });
}

/**
 * Takes one of the person's own changes back, or does it again, whatever came after it: refused where that has changed
 * the same, or would be left without what it names.
 */
export function stepOne(
  jobId: number,
  author: string,
  kind: "undo" | "redo",
  seq: number,
  delivery = false,
  name: string | null = null,
): Promise<ToldEntry> {
  return step({ jobId, author, kind, delivery, name }, seq);
}

interface Step {
  jobId: number;
  author: string;
  kind: "undo" | "redo";
  delivery: boolean;
  /** The name that the window gave its request. */
  name: string | null;
}

/** `one`: the entry that is meant, where it is not the next one. */
function step({ jobId, author, kind: asked, delivery, name }: Step, one?: number): Promise<ToldEntry> {
  return writing(jobId, author, async (client, job) => {
    const stored = await entryNamed(client, jobId, name);
    if (stored) return stored;
    const { rows: own } = await client.query<Stepped>(
      "SELECT seq, kind, target, undone, alone FROM ledger WHERE job_id = $1 AND author = $2",
      [jobId, author],
    );
    const next = nextStep(own, asked),
      isNext = one === undefined || (next?.target === one && next.kind === asked && next.of === undefined),
      step = isNext ? next : { kind: asked, target: one };
    const { rows } = await client.query<{ seq: number; change: Change }>(
      "SELECT seq, change FROM ledger WHERE job_id = $1 AND author = $2 AND kind = 'change' AND seq = $3 AND undone = $4",
      [jobId, author, step?.target ?? 0, step?.kind === "redo"],
    );
    const [last] = rows;
    if (!last || !step) throw refusal("undo-nothing", { author, kind: asked });
    const { kind } = step,
      deed = describeChange(last.change);
    if (last.change.type === "intake" && !delivery)
      throw refusal("undo-delivery", { file: last.change.file, deed, seq: last.seq, kind });
    const change = kind === "undo" ? inverse(last.change) : last.change;
    try {
      const [why] = standingInTheWay(job.definition, change);
      if (why) throw refusal("undo-order", { deed, why });
      await carryOut(client, job, change);
    } catch (e) {
      if (e instanceof Refusal && e.code === "undo-order") throw e;
      if (e instanceof Refusal)
        throw refusal("undo-order", { deed, why: e.code === "change-outdated" ? meanwhile(e) : e.message });
      throw e;
    }
    await client.query("UPDATE ledger SET undone = $3 WHERE job_id = $1 AND seq = $2", [
      jobId,
      last.seq,
      kind === "undo",
    ]);
    // A deed upon the single entry is taken back by this one, or done again as a deed of its own.
    await client.query(
      "UPDATE ledger SET undone = true WHERE job_id = $1 AND author = $2 AND alone AND target = $3 AND NOT undone",
      [jobId, author, last.seq],
    );
    return enter(
      client,
      job,
      author,
      kind,
      change,
      last.seq,
      name,
      !isNext || (asked === "redo" && step.of !== undefined),
    );
  });
}

/** What was changed since, without the words about a change that was asked for. */
function meanwhile(e: Refusal): string {
  const { what, author, theirs } = e.data as { what: string; author?: string; theirs: string };
  return `${what} was changed since${author ? ` by ${author}` : ""}: it is now ${theirs}.`;
}

/** Writes the ledger entry and the job's new version, and tells it to whoever listens when all of it is stored. */
export async function enter(
  client: Client,
  job: { id: number; version: number },
  author: string,
  kind: LedgerEntry["kind"],
  change: Change,
  target: number | null,
  name: string | null = null,
  alone = false,
): Promise<LedgerEntry> {
  const seq = job.version + 1,
    body = JSON.stringify(change),
    brief = body.length > LARGE ? JSON.stringify(briefOf(kind, change, body.length)) : null;
  const { rows } = await client.query(
    `INSERT INTO ledger (job_id, seq, author, kind, target, change, client, alone, brief)
     VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9) RETURNING ${HEAD}`,
    [job.id, seq, author, kind, target, body, name, alone, brief],
  );
  await client.query("UPDATE jobs SET version = $2 WHERE id = $1", [job.id, seq]);
  await client.query("SELECT pg_notify($1, $2)", [CHANNEL, `${job.id} ${seq}`]);
  return entryOf({ ...rows[0], change });
}

const HEAD = "seq, author, at, kind, target, undone, alone, client, brief->>'words' AS words",
  WHOLE = `${HEAD}, change`;

/** Bytes of JSON up to which a change comes with its entry, read in the server itself. */
const LARGE = 256_000;
/** A large change stays behind: reading a part of it would be reading it whole. */
const TOLD = `${HEAD}, CASE WHEN brief IS NULL THEN change ELSE brief->'change' END AS change`;

/** What is kept beside a large change: what it did in words, and what stands for it. */
interface Brief {
  words: string;
  change: ToldChange;
}

/** Of a delivery what it is about stays, without the points that it replaced. */
const briefOf = (kind: LedgerEntry["kind"], change: Change, bytes: number): Brief => ({
  words: wordsOf(kind, change),
  change: change.type === "intake" ? { ...change, replaced: [] } : { type: "large", bytes },
});

/** What is kept of an entry; its words only where its change may stay behind. */
type Row<C> = Omit<LedgerEntry<C>, "at" | "text"> & { at: Date; words: string | null };

function entryOf<C extends ToldChange>({ words, ...row }: Row<C>): LedgerEntry<C> {
  // Where a change stays behind, its words do not.
  return { ...row, at: row.at.toISOString(), text: words ?? wordsOf(row.kind, row.change as Change) };
}

/** What an entry did; a step back is told in the words of the deed that it takes back. */
function wordsOf(kind: LedgerEntry["kind"], change: Change): string {
  if (kind === "undo") return `${describeChange(inverse(change))}: taken back`;
  return kind === "redo" ? `${describeChange(change)}: done again` : describeChange(change);
}

/** Puts what is kept beside large changes beside those of an earlier version, one at a time. */
export async function giveBriefs(client: Client): Promise<void> {
  const { rows: large } = await client.query<{ job_id: number; seq: number; size: number }>(
    "SELECT job_id, seq, size FROM ledger WHERE size > $1 AND brief IS NULL",
    [LARGE],
  );
  for (const { job_id, seq, size } of large) {
    const { rows } = await client.query<Pick<LedgerEntry, "kind" | "change">>(
        "SELECT kind, change FROM ledger WHERE job_id = $1 AND seq = $2",
        [job_id, seq],
      ),
      { kind, change } = rows[0]!,
      brief = JSON.stringify(briefOf(kind, change, size));
    await client.query("UPDATE ledger SET brief = $3 WHERE job_id = $1 AND seq = $2", [job_id, seq, brief]);
  }
}

/** Bytes of changes that are read at once: a page of many is shorter, and has one at least. */
const PAGE_BYTES = 2e6;

/** Entries of a job on one side of another, from there on, as many as are asked for and have room. */
async function pageFrom(
  db: Pick<Client, "query">,
  { jobId, most }: { jobId: number; most: number },
  { side, seq, order }: { side: "<" | ">"; seq: number; order: "ASC" | "DESC" },
): Promise<ToldEntry[]> {
  const { rows } = await db.query<Row<ToldChange>>(
    `SELECT ${TOLD} FROM (
       SELECT *, sum(told) OVER (ORDER BY seq ${order}) - told AS before
         FROM (SELECT *, CASE WHEN brief IS NULL THEN size ELSE 0 END AS told
                 FROM ledger WHERE job_id = $1 AND seq ${side} $2 ORDER BY seq ${order} LIMIT $3) AS near
     ) AS paged WHERE before < $4 ORDER BY seq ${order}`,
    [jobId, seq, most, PAGE_BYTES],
  );
  return rows.map(entryOf);
}

/** The latest entries, newest first, without large changes; fewer where they have no room together. */
export const listLedger = (
  jobId: number,
  most = 200,
  before = Number.MAX_SAFE_INTEGER,
  db: Pick<Client, "query"> = getPool(),
): Promise<ToldEntry[]> => pageFrom(db, { jobId, most }, { side: "<", seq: before, order: "DESC" });

/** The entries after one, oldest first, in the same way. */
export const ledgerPageAfter = (jobId: number, after: number, most = 100): Promise<ToldEntry[]> =>
  pageFrom(getPool(), { jobId, most }, { side: ">", seq: after, order: "ASC" });

/** The entries after one, oldest first, whole however large: to be read beside the server. */
export async function ledgerAfter(
  jobId: number,
  after: number,
  most = 100,
  db: Pick<Client, "query"> = getPool(),
): Promise<LedgerEntry[]> {
  const { rows } = await db.query<Row<Change>>(
    `SELECT ${WHOLE} FROM ledger WHERE job_id = $1 AND seq > $2 ORDER BY seq LIMIT $3`,
    [jobId, after, most],
  );
  return rows.map(entryOf);
}

/** The beginning of what one entry did, so many details of it; to be read beside the server. Refused where it is not there. */
export const ledgerEntry = (jobId: number, seq: number, most: number): Promise<LedgerEntry> =>
  entryCut(jobId, seq, (change) => beginningOf(change, most));

/** Where in a change a point may stand. */
const ABOUT_POINT = [
  "$.edits[*] ? (@.id == $id)",
  "$.changes[*].edits[*] ? (@.id == $id)",
  "$.points.id[*] ? (@ == $id)",
  "$.changes[*].points.id[*] ? (@ == $id)",
  "$.replaced[*] ? (@ == $id)",
];

/**
 * The latest entries that did something to a point, newest first, each with that alone. One is held whole at a time; to be
 * read beside the server.
 */
export async function ledgerOfPoint(jobId: number, point: number, most = 200): Promise<LedgerEntry[]> {
  const { rows: about } = await getPool().query<{ seq: number }>(
      `SELECT seq FROM ledger
        WHERE job_id = $1 AND (${ABOUT_POINT.map((_, k) => `jsonb_path_exists(change, $${k + 4}::jsonpath, $2::jsonb)`).join(" OR ")})
        ORDER BY seq DESC LIMIT $3`,
      [jobId, JSON.stringify({ id: point }), most, ...ABOUT_POINT],
    ),
    entries: LedgerEntry[] = [];
  for (const { seq } of about)
    entries.push(await entryCut(jobId, seq, (change) => changeAbout(change, point) ?? change));
  return entries;
}

/** One entry with a part of its change; refused where there is none. */
async function entryCut(jobId: number, seq: number, cut: (change: Change) => Change): Promise<LedgerEntry> {
  const { rows } = await getPool().query<Row<Change>>(`SELECT ${WHOLE} FROM ledger WHERE job_id = $1 AND seq = $2`, [
      jobId,
      seq,
    ]),
    [row] = rows;
  if (!row) throw refusal("request-wrong", { why: `The ledger has no entry ${seq}` });
  return entryOf({ ...row, change: cut(row.change) });
}

/** Writes what a change does, without an entry of the ledger; refused where it does not fit what is there. */
export async function carryOut(client: Client, job: StoredJob, change: Change): Promise<void> {
  switch (change.type) {
    case "several":
      // Each is checked against what those before it left.
      for (const c of change.changes) {
        await carryOut(client, job, c);
        if (c.type === "named" || c.type === "setting")
          job = { ...job, definition: { ...job.definition, ...applyDefinition(job.definition, c) } };
      }
      return;
    case "points":
      return editPoints(client, job.id, change);
    case "add":
      return addPoints(client, job.id, change.points);
    case "remove":
      return removePoints(client, job.id, change.points);
    case "intake":
      await turnIntake(client, job.id, change);
      return;
    default:
      if (change.type === "named" && change.part === "states") checkState(job, change.new as NamedState | null);
      return writeDefinition(client, job, change);
  }
}

/** A state is named after an entry that is there. */
function checkState(job: StoredJob, state: NamedState | null): void {
  if (state && state.seq > job.version) throw refusal("request-wrong", { why: `The ledger has no entry ${state.seq}` });
}

/**
 * Withdraws an intake or brings it back, with the reading that it stands instead of, and settles who gives way to whom.
 */
export async function turnIntake(client: Client, jobId: number, change: IntakeChange): Promise<Settled> {
  const take = change.action === "take";
  if (take && change.instead) await turn(client, jobId, change.instead, true, change);
  await turn(client, jobId, change.id, !take, change);
  if (!take && change.instead) await turn(client, jobId, change.instead, false, change);
  return settleNumbers(client, jobId);
}

/** One row of the intakes withdrawn or brought back; refused where another reading of the file stands. */
async function turn(
  client: Client,
  jobId: number,
  rowId: number,
  withdraw: boolean,
  change: IntakeChange,
): Promise<void> {
  const { rowCount } = await client.query(
    `UPDATE intakes k SET withdrawn = $3, turned = (SELECT version FROM jobs WHERE id = $1)
      WHERE job_id = $1 AND id = $2 AND withdrawn = NOT $3
        AND ($3 OR NOT EXISTS (SELECT FROM intakes o WHERE o.job_id = $1 AND o.key = k.key AND NOT o.withdrawn))`,
    [jobId, rowId, withdraw],
  );
  if (!rowCount)
    throw refusal("change-outdated", {
      what: `Intake “${change.file}”`,
      theirs: withdraw ? "withdrawn already" : "there already",
    });
}

async function writeDefinition(client: Client, job: StoredJob, change: NamedChange | SettingChange): Promise<void> {
  const next = { ...job.definition, ...applyDefinition(job.definition, change) };
  if (change.type === "named" && change.part !== "codes") {
    await writePart(client, job.id, change.part, next[change.part]);
    return;
  }
  await client.query("UPDATE jobs SET name = $2, settings = $3, book = $4 WHERE id = $1", [
    job.id,
    next.name,
    JSON.stringify(pickGiven(next, RECIPE_SETTINGS)),
    JSON.stringify(next.book),
  ]);
}

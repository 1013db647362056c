/** Tasks beside the server, as answers to requests. */
import { Refusal } from "@bramble/core";
import { getPool, inTurn, jobMadeFor, loadJob, lookUpEntry, takenBefore, transaction } from "@bramble/db";
import { processes, type Answer, type Lane } from "../heavy/processes";
import type { AskedOf } from "../heavy/tasks";

export const BINARY = { "content-type": "application/octet-stream" };

/** An answer of a process, as it comes. */
export function sent(
  { body, size }: Pick<Answer, "body" | "size">,
  headers: Record<string, string>,
  status = 200,
): Response {
  return new Response(body, { status, headers: { ...headers, "content-length": String(size) } });
}

export const JSON_TYPE = { "content-type": "application/json" };

/** The turn of a writer of a job. */
export const turnOf =
  (job: number, author: string) =>
  <T>(work: () => Promise<T>): Promise<T> =>
    inTurn(job, author, work);

type Storing = "change" | "step" | "take" | "readAgain";

/**
 * A task that changes a job, in turn with all others that do. Where its process ended, it is looked up whether it was
 * stored: the answer is then as it would have been.
 */
export async function storedBeside<T extends Storing>(
  lane: Lane,
  task: T,
  asked: AskedOf<T>,
  what: string,
  status = 200,
): Promise<Response> {
  const { job, author, name } = asked;
  try {
    return sent(await processes().run(lane, task, asked, what, { turn: turnOf(job, author) }), JSON_TYPE, status);
  } catch (e) {
    if (!hasEnded(e)) throw e;
    const entry = await lookUpEntry(job, author, name);
    if (!entry) throw e;
    const isDelivery = task === "take" || task === "readAgain";
    return Response.json(isDelivery ? takenBefore(await loadJob(getPool(), job), entry) : entry, { status });
  }
}

/** A task that makes a job. */
export async function madeBeside<T extends "create" | "unpack">(
  task: T,
  asked: AskedOf<T>,
  what: string,
): Promise<Response> {
  try {
    return sent(await processes().run(task === "unpack" ? "long" : "quick", task, asked, what), JSON_TYPE, 201);
  } catch (e) {
    if (!hasEnded(e)) throw e;
    const id = await transaction((client) => jobMadeFor(client, asked.name));
    if (id === undefined) throw e;
    return Response.json({ id }, { status: 201 });
  }
}

const hasEnded = (e: unknown): e is Refusal =>
  e instanceof Refusal && ["work-long", "work-large", "work-ended"].includes(e.code);

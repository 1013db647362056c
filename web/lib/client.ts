/** Asking the server from the browser. What it refuses comes as an error with its sentence. */
import { currentAuthor } from "./author";

export class Refused extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly data: Record<string, unknown>,
  ) {
    super(message);
  }
}

/** Answers that were lost, or never made because the database is away or overrun: what was asked is asked again. */
export const LOST: ReadonlySet<string> = new Set(["offline", "storing-unknown", "database-away", "database-short"]);
const SOONEST = 500,
  LATEST = 8000,
  /** Milliseconds after which somebody has to look. */
  PATIENCE = 60_000;

let say: (words: string) => void = () => undefined;

/** Whoever shows what is going on is told when an answer was lost and is asked for again, or waits in line. */
export function whenWaiting(listener: (words: string) => void): void {
  say = listener;
}

/**
 * Asks for something to be stored. Each request has a name, so that one whose answer was lost is asked again and done
 * once; a caller that names its request itself asks again itself.
 */
async function store(
  url: string,
  init: RequestInit & { headers?: Record<string, string> },
  name: string = crypto.randomUUID(),
): Promise<Response> {
  const named = init.headers?.["x-change"] !== undefined,
    headers = { "x-author": encodeURIComponent(currentAuthor()), "x-change": name, ...init.headers };
  const end = Date.now() + PATIENCE;
  for (let wait = SOONEST; ; wait = Math.min(LATEST, 2 * wait)) {
    try {
      return await ask(url, { ...init, headers });
    } catch (e) {
      if (named || !(e instanceof Refused) || !LOST.has(e.code)) throw e;
      if (Date.now() > end)
        throw new Refused(
          e.code,
          "There has been no answer for a minute, and it is not known whether this was stored. " +
            "Look at the ledger when the server is back.",
          {},
        );
      say(e.message);
      await new Promise((again) => setTimeout(again, wait));
    }
  }
}

async function ask(url: string, init: RequestInit = {}): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(url, init);
  } catch {
    throw new Refused(
      "offline",
      init.method
        ? "The server does not answer. It is not known whether this was stored; it is looked up."
        : "The server does not answer.",
      {},
    );
  }
  if (!response.ok) {
    const body = (await response.json().catch(() => undefined)) as
      { code: string; message: string; data: Record<string, unknown> } | undefined;
    throw new Refused(
      body?.code ?? "unexpected",
      body?.message ?? `The server answered ${response.status}.`,
      body?.data ?? {},
    );
  }
  return response;
}

export async function getJson<T>(url: string, signal?: AbortSignal): Promise<T> {
  return (await ask(url, { signal })).json() as Promise<T>;
}

export async function getBytes(url: string): Promise<{ buffer: ArrayBuffer; version: number }> {
  const response = await ask(url);
  return { buffer: await response.arrayBuffer(), version: Number(response.headers.get("x-version")) };
}

export async function postJson<T>(url: string, body: unknown = {}, headers: Record<string, string> = {}): Promise<T> {
  return (
    await store(url, {
      method: "POST",
      body: JSON.stringify(body),
      headers: { "content-type": "application/json", ...headers },
    })
  ).json() as Promise<T>;
}

export async function remove<T>(url: string): Promise<T> {
  return (await store(url, { method: "DELETE" })).json() as Promise<T>;
}

export const putJson = <T>(url: string, body: unknown): Promise<T> => sendJson("PUT", url, body);
export const patchJson = <T>(url: string, body: unknown): Promise<T> => sendJson("PATCH", url, body);

async function sendJson<T>(method: string, url: string, body: unknown): Promise<T> {
  return (
    await store(url, { method, body: JSON.stringify(body), headers: { "content-type": "application/json" } })
  ).json() as Promise<T>;
}

/** Milliseconds between two looks at whether a file waits in line, when its answer is not there. */
const LOOK_EVERY = 2000;

/** Stores a file; while it waits for others' it is said so. */
async function storeFile<T>(url: string, body: Blob, tell = say, headers: Record<string, string> = {}): Promise<T> {
  const name = crypto.randomUUID();
  const look = setInterval(() => {
    getJson<{ before: number | null }>(`/api/uploads?name=${name}`).then(
      ({ before }) => {
        if (before !== null)
          tell(`Others send files at this moment: this one waits in line${before ? `, ${before} before it` : ""}.`);
      },
      () => undefined,
    );
  }, LOOK_EVERY);
  try {
    const type = { "content-type": "application/octet-stream", ...headers };
    return (await store(url, { method: "POST", body, headers: type }, name)).json() as Promise<T>;
  } finally {
    clearInterval(look);
  }
}

/** Sends a file as it is; how to read it stands before it as JSON, whose length in bytes goes in a header. */
export async function postFile<T>(url: string, file: Blob, options: unknown): Promise<T> {
  const head = new TextEncoder().encode(JSON.stringify(options));
  const body = new Blob([head, file]);
  return storeFile(url, body, say, { "x-head": String(head.length) });
}

/** Sends a file alone; `tell` hears when it waits in line. */
export const postFileTo = <T>(url: string, file: Blob, tell = say): Promise<T> => storeFile(url, file, tell);

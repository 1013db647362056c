/** Route handlers: parse, call, respond. Only this machine may ask, and every refusal leaves as a sentence. */
import { parseJson } from "@bramble/core/math/json";
import { refusal, Refusal, type RefusalCode } from "@bramble/core";
import { ValidationError } from "yup";

const STATUS: Partial<Record<RefusalCode, number>> = {
  "job-unknown": 404,
  "change-unknown": 404,
  "change-outdated": 409,
  "change-number-taken": 409,
  "change-restore-clash": 409,
  "undo-nothing": 409,
  "undo-order": 409,
  "number-clash": 409,
  "file-too-large": 413,
};

/** Runs a handler; refusals and what Yup finds wrong become answers that say so. */
export async function respond(request: Request, handle: () => Promise<Response>): Promise<Response> {
  try {
    checkOrigin(request);
    return await handle();
  } catch (e) {
    if (e instanceof Refusal) return Response.json(e, { status: STATUS[e.code] ?? 400 });
    if (e instanceof ValidationError)
      return Response.json(refusal("request-wrong", { why: e.errors[0] ?? e.message }), { status: 400 });
    console.error(e);
    return Response.json(
      {
        code: "unexpected",
        message:
          "Something went wrong on the server; nothing was stored. Try again, and look into the server's output if it stays.",
        data: {},
      },
      { status: 500 },
    );
  }
}

/** A page of another site must not reach this server through the person's browser, by its own name or by a name that points here. */
function checkOrigin(request: Request): void {
  const host = request.headers.get("host") ?? "";
  const allowed = process.env.BRAMBLE_HOSTS?.split(",") ?? [];
  const name = host.replace(/:\d+$/, "");
  if (!["127.0.0.1", "localhost", "[::1]", ...allowed].includes(name))
    throw refusal("request-wrong", { why: `This server does not answer for “${name}”` });
  const origin = request.headers.get("origin");
  // A page without an origin of its own says the word null.
  if (origin && !(URL.canParse(origin) && new URL(origin).host === host))
    throw refusal("request-wrong", { why: "Another site asked" });
  if (request.headers.get("sec-fetch-site") === "cross-site")
    throw refusal("request-wrong", { why: "Another site asked" });
}

const LARGEST_BODY = 64e6;

/** The largest file taken in, in bytes; set by BRAMBLE_INTAKE_LIMIT. */
export function intakeLimit(): number {
  return Number(process.env.BRAMBLE_INTAKE_LIMIT ?? 512e6);
}

/** The JSON of a request, up to a limit. */
export async function readJson(request: Request): Promise<unknown> {
  return jsonOf(await readBody(request, "The request", LARGEST_BODY));
}

/** JSON that came in, whose texts can all be stored. */
export function jsonOf(bytes: Uint8Array): unknown {
  const text = new TextDecoder().decode(bytes);
  let value: unknown;
  try {
    value = parseJson(text);
  } catch (e) {
    throw refusal("request-wrong", { why: `The request is not JSON: ${(e as Error).message}` });
  }
  // Such characters can only come as escapes: few bodies have any, and need be looked through.
  for (const waiting = /\\u(?:0000|d[89a-f])/i.test(text) ? [value] : []; waiting.length > 0;) {
    const next = waiting.pop();
    if (typeof next === "string") checkText(next);
    else if (typeof next === "object" && next !== null)
      for (const [key, item] of Object.entries(next)) {
        if (!Array.isArray(next)) checkText(key);
        waiting.push(item);
      }
  }
  return value;
}

/** PostgreSQL takes neither into a text. */
function checkText(text: string): void {
  if (text.includes("\0")) throw refusal("request-wrong", { why: "A text cannot hold a zero byte" });
  if (/\p{Surrogate}/u.test(text))
    throw refusal("request-wrong", { why: "A text cannot hold half of a pair of code units" });
}

/** The body of a request. Refused before it is read when it says that it is over the limit, and as soon as it is when it does not say. */
export async function readBody(request: Request, file: string, limit: number): Promise<Uint8Array> {
  const declared = Number(request.headers.get("content-length") ?? 0);
  if (declared > limit) throw refusal("file-too-large", { file, bytes: declared, limit });
  // As large as the request says it is, so that a large file is in memory once; a request that does not say grows by half each time.
  let out = new Uint8Array(declared || 1 << 16),
    size = 0;
  for (const reader = request.body?.getReader(); reader;) {
    const { done, value } = await reader.read();
    if (done) break;
    if (size + value.length > limit) {
      await reader.cancel();
      throw refusal("file-too-large", { file, bytes: size + value.length, limit });
    }
    if (size + value.length > out.length) {
      const wider = new Uint8Array(Math.max(size + value.length, Math.ceil(out.length * 1.5)));
      wider.set(out.subarray(0, size));
      out = wider;
    }
    out.set(value, size);
    size += value.length;
  }
  return out.subarray(0, size);
}

/** The largest number that the database gives to a job. */
const LAST_ID = 2 ** 31 - 1;

export function jobId(params: { id: string }): number {
  if (!/^\d{1,10}$/.test(params.id) || Number(params.id) > LAST_ID) throw refusal("job-unknown", { job: params.id });
  return Number(params.id);
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    throw refusal("request-wrong", { why: "The author's name is not encoded as it must be" });
  }
}

/** Who is at the keyboard, from the request's header. */
export function author(request: Request): string {
  const name = decoded(request.headers.get("x-author") ?? "").trim();
  checkText(name);
  if (!name || name.length > 80) throw refusal("author-missing", {});
  return name;
}

/** A file to be saved under its own name. */
export function download(bytes: Uint8Array | string, file: string, type: string): Response {
  const name = file
    .split("/")
    .at(-1)!
    .replace(/[^\x20-\x7e]|["\\]/g, "_");
  return new Response(bytes as BodyInit, {
    headers: {
      "content-type": type,
      "content-disposition": `attachment; filename="${name}"`,
      "x-content-type-options": "nosniff",
    },
  });
}

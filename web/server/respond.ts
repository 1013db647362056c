/** Route handlers: parse, call, respond. Only this machine may ask, and every refusal leaves as a sentence. */
import { parseJson } from "@bramble/core/math/json";
import { refusal, type RefusalCode } from "@bramble/core";
import { readBody, withBody } from "./body";
import { LAST_ID } from "./edge";
import { isKnownHost } from "./hosts";
import { asRefusal } from "./refusals";

const STATUS: Partial<Record<RefusalCode, number>> = {
  "job-unknown": 404,
  "change-unknown": 404,
  "change-unstored": 404,
  "change-outdated": 409,
  "change-number-taken": 409,
  "numbers-open": 409,
  "undo-nothing": 409,
  "undo-order": 409,
  "number-clash": 409,
  "file-too-large": 413,
  "upload-slow": 408,
  "upload-gave-way": 503,
  "job-busy": 409,
  "storing-slow": 503,
  "storing-unknown": 503,
  "database-away": 503,
  "database-short": 503,
  "database-read-only": 503,
  "disk-full": 507,
  "work-long": 503,
  "work-large": 503,
  "work-ended": 503,
  "work-many": 503,
};

/** What a browser or anything between must not keep. */
const UNSTORED = { "cache-control": "no-store", "x-content-type-options": "nosniff" };

/** Runs a handler; refusals and what Yup finds wrong become answers that say so. */
export async function respond(request: Request, handle: () => Promise<Response>): Promise<Response> {
  try {
    checkOrigin(request);
    const answer = await handle();
    for (const [name, value] of Object.entries(UNSTORED))
      if (!answer.headers.has(name)) answer.headers.set(name, value);
    return answer;
  } catch (e) {
    const refused = asRefusal(e);
    if (refused) return Response.json(refused, { status: STATUS[refused.code] ?? 400, headers: UNSTORED });
    console.error(e);
    return Response.json(
      {
        code: "unexpected",
        message:
          "Something went wrong on the server; nothing was stored. Try again, and look into the server's output if it stays.",
        data: {},
      },
      { status: 500, headers: UNSTORED },
    );
  }
}

/** A page of another site must not reach this server through the person's browser, by its own name or by a name that points here. */
function checkOrigin(request: Request): void {
  const host = request.headers.get("host") ?? "";
  if (!isKnownHost(host))
    throw refusal("request-wrong", { why: `This server does not answer for “${host.replace(/:\d+$/, "")}”` });
  const origin = request.headers.get("origin");
  // A page without an origin of its own says the word null.
  if (origin && !isOwn(origin, host, request.headers.get("x-forwarded-proto") ?? "http"))
    throw refusal("request-wrong", { why: "Another site asked" });
  if (request.headers.get("sec-fetch-site") === "cross-site")
    throw refusal("request-wrong", { why: "Another site asked" });
  // A form of another site can send neither of these.
  const type = request.headers.get("content-type")?.split(";")[0]?.trim().toLowerCase();
  if (["POST", "PUT", "PATCH"].includes(request.method) && !BODY_TYPES.has(type))
    throw refusal("request-wrong", {
      why: `A request that stores something has the content type ${[...BODY_TYPES].join(" or ")}`,
    });
}

/** Whether a page's origin is this server as it was asked: by its scheme, which a proxy before it may say, and its host. */
function isOwn(origin: string, host: string, scheme: string): boolean {
  if (!URL.canParse(origin)) return false;
  const { protocol, host: of } = new URL(origin);
  return protocol === `${scheme}:` && of === host.toLowerCase();
}

const BODY_TYPES: ReadonlySet<string | undefined> = new Set(["application/json", "application/octet-stream"]);

/** Bytes of JSON that are looked through here, and beside the server. */
const LARGEST_HERE = 8e6,
  LARGEST_BODY = 64e6;

/** The JSON of a request, up to a limit. */
export async function readJson(request: Request): Promise<unknown> {
  return jsonOf(await readBody(request, "The request", LARGEST_HERE));
}

/** Bodies over this many bytes are looked through by a process of their own. */
const SMALL_BODY = 256e3;

/** Lets JSON be worked on here where it is small, else as a file by a process beside the server. */
export async function withJson<T>(
  request: Request,
  here: (asked: unknown) => Promise<T>,
  beside: (path: string) => Promise<T>,
): Promise<T> {
  const declared = request.headers.get("content-length");
  if (declared !== null && Number(declared) <= SMALL_BODY) return here(await readJson(request));
  return withBody(request, "The request", LARGEST_BODY, beside);
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
export function download(
  bytes: Uint8Array | string | ReadableStream<Uint8Array>,
  file: string,
  type: string,
): Response {
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

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

async function ask(url: string, init: RequestInit = {}): Promise<Response> {
  let response: Response;
  try {
    // Reading names nobody, and plain requests find what the page has asked for ahead.
    response = await fetch(
      url,
      init.method ? { ...init, headers: { "x-author": encodeURIComponent(currentAuthor()), ...init.headers } } : init,
    );
  } catch {
    throw new Refused("offline", "The server does not answer; nothing was stored.", {});
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

export async function getJson<T>(url: string): Promise<T> {
  return (await ask(url)).json() as Promise<T>;
}

export async function getBytes(url: string): Promise<{ buffer: ArrayBuffer; version: number }> {
  const response = await ask(url);
  return { buffer: await response.arrayBuffer(), version: Number(response.headers.get("x-version")) };
}

export async function postJson<T>(url: string, body: unknown = {}, headers: Record<string, string> = {}): Promise<T> {
  return (
    await ask(url, {
      method: "POST",
      body: JSON.stringify(body),
      headers: { "content-type": "application/json", ...headers },
    })
  ).json() as Promise<T>;
}

export async function remove<T>(url: string): Promise<T> {
  return (await ask(url, { method: "DELETE" })).json() as Promise<T>;
}

export const putJson = <T>(url: string, body: unknown): Promise<T> => sendJson("PUT", url, body);
export const patchJson = <T>(url: string, body: unknown): Promise<T> => sendJson("PATCH", url, body);

async function sendJson<T>(method: string, url: string, body: unknown): Promise<T> {
  return (
    await ask(url, { method, body: JSON.stringify(body), headers: { "content-type": "application/json" } })
  ).json() as Promise<T>;
}

/** Sends a file as it is; how to read it stands before it as JSON, whose length in bytes goes in a header. */
export async function postFile<T>(url: string, file: Blob, options: unknown): Promise<T> {
  const head = new TextEncoder().encode(JSON.stringify(options));
  const body = new Blob([head, file]);
  return (
    await ask(url, {
      method: "POST",
      body,
      headers: { "content-type": "application/octet-stream", "x-head": String(head.length) },
    })
  ).json() as Promise<T>;
}

/** Sends a file alone. */
export async function postFileTo<T>(url: string, file: Blob): Promise<T> {
  return (
    await ask(url, { method: "POST", body: file, headers: { "content-type": "application/octet-stream" } })
  ).json() as Promise<T>;
}

/** Bodies of requests on their way in: within a size, at a pace, few large ones at once. */
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { randomUUID } from "node:crypto";
import { refusal } from "@bramble/core";
import { uploads, type Upload } from "./uploads";

/** The largest file taken in, in bytes; set by BRAMBLE_INTAKE_LIMIT. */
export function intakeLimit(): number {
  return Number(process.env.BRAMBLE_INTAKE_LIMIT ?? 512e6);
}

/** Seconds that a body may take to begin with, and bytes each second that it must come in at from then on. */
const patience = () => Number(process.env.BRAMBLE_UPLOAD_SECONDS ?? 30),
  SLOWEST = 20_000;

/**
 * The body of a request piece by piece. Refused before it is read when it says that it is over the limit, as soon as it
 * is when it does not say, and when it comes too slowly.
 */
async function* piecesOf(request: Request, file: string, limit: number, upload?: Upload): AsyncGenerator<Uint8Array> {
  const declared = Number(request.headers.get("content-length") ?? 0);
  if (declared > limit) throw refusal("file-too-large", { file, bytes: declared, limit });
  const reader = request.body?.getReader();
  if (!reader) return;
  const began = Date.now(),
    seconds = patience();
  let size = 0,
    late: ReturnType<typeof setTimeout> | undefined;
  const away = new Promise<"away">((resolve) => {
    // Its place may be gone before the first piece is asked for.
    if (upload?.away.aborted) resolve("away");
    else upload?.away.addEventListener("abort", () => resolve("away"));
  });
  try {
    for (;;) {
      const wait = began + seconds * 1000 + (size / SLOWEST) * 1000 - Date.now();
      const slow = new Promise<"slow">((resolve) => (late = setTimeout(() => resolve("slow"), wait)));
      const came = await Promise.race([reader.read(), slow, away]);
      clearTimeout(late);
      if (came === "away") throw refusal("upload-gave-way", { file });
      if (came === "slow") throw refusal("upload-slow", { file, seconds });
      if (came.done) return;
      size += came.value.length;
      if (upload) upload.size = size;
      if (size > limit) throw refusal("file-too-large", { file, bytes: size, limit });
      yield came.value;
    }
  } finally {
    clearTimeout(late);
    // Whoever sends more than is read is not listened to any longer.
    void reader.cancel().catch(() => undefined);
  }
}

/** A body that is small enough to be held in memory. */
export async function readBody(request: Request, file: string, limit: number): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  for await (const piece of piecesOf(request, file, limit)) pieces.push(piece);
  return Buffer.concat(pieces);
}

/** Puts the body of a request into a file while it comes in, lets it be worked on, and takes the file away. A few at once. */
export async function withBody<T>(
  request: Request,
  file: string,
  limit: number,
  work: (path: string, size: number) => Promise<T>,
): Promise<T> {
  const { headers, signal } = request,
    upload = await uploads().enter(headers.get("x-author") ?? "", file, signal, headers.get("x-change") ?? "");
  const folder = process.env.BRAMBLE_UPLOADS ?? os.tmpdir(),
    name = path.join(folder, `rough-bramble-${randomUUID()}`);
  try {
    const into = await fs.promises.open(name, "wx", 0o600);
    let size = 0;
    try {
      for await (const piece of piecesOf(request, file, limit, upload)) {
        await into.writeFile(piece);
        size += piece.length;
      }
    } finally {
      await into.close();
    }
    upload.leave();
    return await work(name, size);
  } finally {
    upload.leave();
    await fs.promises.rm(name, { force: true });
  }
}

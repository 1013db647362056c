/** Files that leave in pieces, whole or from one byte to another: no more of them is held than is being sent. */
import { bytesOfMade, type LeavingFile } from "@bramble/db";
import parseRange from "range-parser";
import { download } from "./respond";

/** A file that is made, or the part of it that is asked for (RFC 9110, section 14). */
export function leaving(request: Request, made: LeavingFile, type: string): Response {
  const { size, file } = made,
    tag = `"${made.id}-${made.attempt}"`,
    asked = rangeOf(request, size, tag);
  if (asked === "outside")
    return new Response(null, {
      status: 416,
      headers: { "content-range": `bytes */${size}`, "accept-ranges": "bytes" },
    });
  const { start, end } = asked ?? { start: 0, end: size - 1 },
    pieces = bytesOfMade(made, start, end + 1),
    whole = download(streamOf(pieces), file, type),
    headers = new Headers(whole.headers);
  headers.set("content-length", String(end + 1 - start));
  headers.set("accept-ranges", "bytes");
  headers.set("etag", tag);
  if (asked) headers.set("content-range", `bytes ${start}-${end}/${size}`);
  return new Response(whole.body, { status: asked ? 206 : 200, headers });
}

/** The bytes asked for, both ends included; undefined for the whole: several ranges are answered by it as well. */
function rangeOf(request: Request, size: number, tag: string): { start: number; end: number } | "outside" | undefined {
  const range = request.headers.get("range"),
    ifStill = request.headers.get("if-range");
  if (range === null || (ifStill !== null && ifStill !== tag)) return undefined;
  const parsed = parseRange(size, range, { combine: true });
  if (parsed === -1) return "outside";
  return parsed === -2 || parsed.type !== "bytes" || parsed.length !== 1 ? undefined : parsed[0];
}

/** Pieces as a stream that asks for the next when there is room for it, and for none once nobody reads. */
function streamOf(pieces: AsyncGenerator<Uint8Array>): ReadableStream<Uint8Array> {
  return new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        const { value, done } = await pieces.next();
        if (done) controller.close();
        else controller.enqueue(value);
      },
      async cancel() {
        await pieces.return(undefined);
      },
    },
    { highWaterMark: 0 },
  );
}

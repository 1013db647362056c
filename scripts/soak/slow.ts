/**
 * npm run soak -- slow [SECONDS]: people who send and fetch very slowly, as many as there is room for, and what others who
 * do the same at their own pace wait for meanwhile.
 */
import net from "node:net";
import path from "node:path";
import { Application } from "../lib/application";
import { Client, emptyJob, newJob, seeded, takeIn } from "./client";
import { check, letters, Others, seconds, timed } from "./others";

const long = Number(process.argv[2] ?? 10),
  /** Bytes a second of the slow ones. */
  PACE = 22_000,
  AT_ONCE = 8,
  /** Nobody waits longer for their own file while slow ones are there; of what is made first no longer than when all are quick. */
  PATIENCE = 30_000,
  MOST_TIMES = 2;
console.log(`Slow senders and readers for ${long} seconds each …`);

const app = new Application(path.join(import.meta.dirname, "../.."), 47_390);
try {
  const { url } = await app.begin(),
    { port } = new URL(url),
    job = await newJob(url, 100_000),
    client = new Client(url, job, "Ada", seeded(1));
  // What is fetched is larger than what the system holds on the way.
  await takeIn(
    url,
    job,
    "wide.csv",
    Array.from({ length: 600 }, (_, k) => `${900_000 + k},1,1,5,SPOT,${letters(50_000)}`).join("\n"),
  );

  const sending = Array.from({ length: 6 }, (_, k) =>
    slowly(
      Number(port),
      request(`/api/jobs/${job}/intakes`, {
        method: "POST",
        "x-author": `Slow ${k}`,
        "content-type": "application/octet-stream",
        "x-head": "2",
        "content-length": "400000000",
      }),
      "send",
    ),
  );
  const others = new Others(url, app.serverPid());
  const own = await emptyJob(url, "Own"),
    [, took] = await timed(() => takeIn(url, own, "own.csv", "1,0,0,5,SPOT"));
  check(`Six senders at ${PACE / 1000} kB/s: another's file was taken in after ${seconds(took)}`, await others.stop());
  for (const s of sending) s.destroy();
  if (took > PATIENCE) throw new Error("a file waited for slow ones");

  for (const of of [
    "/state",
    "/points",
    "/recipe",
    "/recipe?with=files",
    "/intakes/wide",
    "/ledger",
    "/ledger?as=text",
  ]) {
    const get = async () => (await (await fetch(`${url}/api/jobs/${job}${of}`)).arrayBuffer()).byteLength,
      // A change before, since what was sent a moment ago is kept.
      touched = async (old: string, note: string) =>
        client.store({ type: "points", edits: [{ id: 1, field: "note", old, new: note }] });
    await touched("", "a");
    const [, quick] = await timed(() => Promise.all(Array.from({ length: AT_ONCE + 1 }, get)));
    await touched("a", "b");
    const reading = Array.from({ length: AT_ONCE }, () =>
        slowly(Number(port), request(`/api/jobs/${job}${of}`, {}), "read"),
      ),
      asking = new Others(url, app.serverPid());
    // Another person asks for the same at their own pace, once the slow ones are there.
    await new Promise((r) => setTimeout(r, long * 1000));
    await touched("b", "");
    const [size, fetched] = await timed(get);
    check(
      `${AT_ONCE} slow readers of ${of}: another had its ${(size / 1e6).toFixed(1)} MB after ${seconds(fetched)}` +
        ` (nine quick ones: ${seconds(quick)})`,
      await asking.stop(),
    );
    for (const s of reading) s.destroy();
    if (fetched > Math.max(2000, MOST_TIMES * quick)) throw new Error(`${of} waited for slow readers`);
  }
} finally {
  await app.remove();
}

function request(of: string, { method = "GET", ...headers }: Record<string, string>): string {
  const lines = Object.entries({ host: "127.0.0.1", ...headers }).map(([name, value]) => `${name}: ${value}`);
  return `${method} ${of} HTTP/1.1\r\n${lines.join("\r\n")}\r\n\r\n`;
}

/** A connection that sends or reads a few bytes each second. */
function slowly(to: number, head: string, what: "send" | "read"): net.Socket {
  const socket = net.connect({ port: to, host: "127.0.0.1", highWaterMark: PACE } as net.NetConnectOpts);
  socket.on("error", () => undefined);
  socket.write(what === "send" ? `${head}{}` : head);
  const each = setInterval(() => {
    if (socket.destroyed) clearInterval(each);
    else if (what === "send") socket.write("x".repeat(PACE));
    else socket.read(PACE);
  }, 1000);
  // Paused until it is read.
  if (what === "read") socket.on("readable", () => undefined);
  else socket.resume();
  return socket;
}

/**
 * npm run soak -- streams [WINDOWS]: so many windows listen and never read, while one person comes and goes and large changes are
 * made. The server's memory stays, others are answered, and one who reads hears all.
 */
import net from "node:net";
import path from "node:path";
import { Application, until } from "../lib/application";
import { Client, newJob, seeded } from "./client";
import { check, heldBy, MB, Others } from "./others";

const windows = Number(process.argv[2] ?? 480),
  /** Windows of one person, and of one job, below their limits. */
  OF_PERSON = 40,
  OF_JOB = 160,
  COMING_AND_GOING = 500,
  CHANGES = 200,
  POINTS = 40,
  NOTE = 2500;
console.log(`${windows} windows that do not read …`);

const app = new Application(path.join(import.meta.dirname, "../.."), 47_360),
  sockets: net.Socket[] = [];
try {
  const { url } = await app.begin(),
    { port } = new URL(url),
    jobs: number[] = [];
  for (let k = 0; k <= Math.floor(windows / OF_JOB); k++) jobs.push(await newJob(url, POINTS));
  const before = heldBy(app.serverPid()),
    address = (job: number, who: string, window: string) =>
      `/api/jobs/${job}/stream?${new URLSearchParams({ after: "0", who, window })}`;
  const listening = Array.from({ length: windows }, (_, k) => {
    const socket = net.connect(Number(port), "127.0.0.1");
    sockets.push(socket);
    socket.on("error", () => undefined);
    const job = jobs[Math.floor(k / OF_JOB)]!,
      who = `Person ${Math.floor(k / OF_PERSON)}`;
    socket.write(`GET ${address(job, who, `w${k}`)} HTTP/1.1\r\nHost: 127.0.0.1:${port}\r\n\r\n`);
    // Its first bytes are there: from now on nobody reads.
    return new Promise<void>((resolve) =>
      socket.once("readable", () => {
        socket.read(10);
        resolve();
      }),
    );
  });
  await Promise.all(listening);
  const others = new Others(url, app.serverPid());
  let heard = 0;
  const ear = new AbortController(),
    hearing = (async () => {
      const answer = await fetch(`${url}${address(jobs[0]!, "Ear", "ear")}`, { signal: ear.signal });
      let text = "";
      for await (const piece of answer.body!.pipeThrough(new TextDecoderStream())) {
        text += piece;
        heard += text.split("event: entry\n").length - 1;
        text = text.slice(text.lastIndexOf("\n") + 1);
      }
    })().catch(() => undefined);
  const client = new Client(url, jobs[0]!, "Ada", seeded(1));
  const comings = (async () => {
    for (let k = 0; k < COMING_AND_GOING; k++) {
      const gone = new AbortController(),
        answer = await fetch(`${url}${address(jobs[k % jobs.length]!, `Guest ${k}`, `g${k}`)}`, {
          signal: gone.signal,
        });
      await answer.body!.getReader().read();
      gone.abort();
    }
  })();
  comings.catch(() => undefined);
  let old = "";
  for (let k = 0; k < CHANGES; k++) {
    const note = `${k} `.padEnd(NOTE, "x"),
      edits = Array.from({ length: POINTS }, (_, i) => ({ id: i + 1, field: "note", old, new: note }));
    await client.store({ type: "points", edits });
    old = note;
  }
  await comings;
  // The delivery too.
  await until(() => heard >= CHANGES + 1);
  ear.abort();
  await hearing;
  const seen = await others.stop();
  check(
    `${windows} windows, ${COMING_AND_GOING} comings and goings, ${CHANGES} changes of ${MB(2 * POINTS * NOTE)}`,
    seen,
  );
  console.log(`The server held ${MB(before)} before, and one that read heard all ${heard}.`);
} finally {
  for (const s of sockets) s.destroy();
  await app.remove();
}

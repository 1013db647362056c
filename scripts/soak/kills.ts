/**
 * npm run soak -- kills [TIMES]: the server and the database are ended by force at random moments while eight writers
 * send changes. Whatever was answered is stored once; whatever was not is looked up by asking again by its name.
 */
import path from "node:path";
import { Application, until } from "../lib/application";
import { Client, newJob, seeded, summary, sum } from "./client";

const times = Number(process.argv[2] ?? 50),
  seed = Number(process.env.SEED ?? Math.floor(Math.random() * 2 ** 31)),
  random = seeded(seed),
  WRITERS = 8,
  POINTS = 40;
console.log(`Ended by force ${times} times, seed ${seed} …`);

const app = new Application(path.join(import.meta.dirname, "../.."), 47_330);
try {
  const { url, said } = await app.begin(),
    job = await newJob(url, POINTS);
  let going = true,
    lost = 0;
  const clients = Array.from({ length: WRITERS }, (_, k) => new Client(url, job, `Writer ${k}`, seeded(seed + k + 1)));
  // Each has points of its own: what one asks for is never refused for another's sake.
  const writing = clients.map(async (client, k) => {
    const own = Array.from({ length: POINTS / WRITERS }, (_, i) => 1 + k * (POINTS / WRITERS) + i),
      level = new Map(own.map((id) => [id, 5]));
    while (going) {
      const id = own[Math.floor(client.random() * own.length)]!,
        now = Math.round(client.random() * 1e6) / 1000;
      lost += await client.store({
        type: "points",
        edits: [{ id, field: "elevation", old: level.get(id)!, new: now }],
      });
      level.set(id, now);
    }
  });
  for (let k = 0; k < times; k++) {
    await new Promise((r) => setTimeout(r, 300 + random() * 1500));
    const server = random() < 0.5,
      pid = server ? app.serverPid() : app.databasePid(),
      before = sum(clients);
    process.kill(pid, "SIGKILL");
    process.stdout.write(server ? "s" : "d");
    await until(() => sum(clients) > before + WRITERS && (server ? app.serverPid() : app.databasePid()) !== pid);
  }
  going = false;
  await Promise.all(writing);
  const { problems, entries, points } = await summary(url, job, clients);
  console.log(`\n${entries} changes by ${WRITERS} writers, ${lost} answers lost on their way, ${points} points.`);
  if (said().match(/not begun again/)) problems.push("the start command gave up");
  if (problems.length) throw new Error(problems.join("\n"));
  console.log("Each change is stored once, in order, and the points are what they lead to.");
} finally {
  await app.remove();
}

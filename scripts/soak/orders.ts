/**
 * npm run soak -- orders [TIMES]: the process of the queue, the makers beside it and the database are ended by force at
 * random moments while files are ordered. Each order is made at the end, none stands still, none fails by it.
 */
import fs from "node:fs";
import path from "node:path";
import { Application, until } from "../lib/application";
import { Client, newJob, seeded } from "./client";

const times = Number(process.argv[2] ?? 50),
  seed = Number(process.env.SEED ?? Math.floor(Math.random() * 2 ** 31)),
  random = seeded(seed),
  /** Orders that are under way at once, and the most that a job keeps before those made are taken away. */
  AHEAD = 6,
  KEPT = 60;
console.log(`Ended by force ${times} times, seed ${seed} …`);

interface Made {
  id: number;
  state: "waiting" | "making" | "made" | "failed";
  why: string | null;
}

/** Processes below one, by their parents. */
function below(pid: number): number[] {
  const parents = new Map<number, number[]>();
  for (const name of fs.readdirSync("/proc").filter((x) => /^\d+$/.test(x)))
    try {
      const parent = Number(/\) \S (\d+)/.exec(fs.readFileSync(`/proc/${name}/stat`, "utf8"))![1]);
      parents.set(parent, [...(parents.get(parent) ?? []), Number(name)]);
    } catch {
      // It has ended since.
    }
  const all: number[] = [];
  for (const waiting = [pid]; waiting.length > 0;) {
    const children = parents.get(waiting.pop()!) ?? [];
    all.push(...children);
    waiting.push(...children);
  }
  return all;
}
const isQueue = (pid: number): boolean => {
  try {
    return fs.readFileSync(`/proc/${pid}/cmdline`, "utf8").includes("queue.mjs");
  } catch {
    return false;
  }
};

const app = new Application(path.join(import.meta.dirname, "../.."), 47_331);
try {
  const { url, said } = await app.begin(),
    job = await newJob(url, 400),
    client = new Client(url, job, "Ada", seeded(seed + 1)),
    file = { file: "points.csv", format: "csv" };
  await client.asked("POST", "/changes", { type: "named", part: "handover", name: file.file, old: null, new: file });
  const ordered = new Set<number>(),
    taken = new Set<number>();
  const list = async () => (await (await client.asked("GET", "/made")).json()) as Made[];
  const order = async () =>
    ordered.add(
      ((await (await client.asked("POST", "/made", { what: "handover", name: file.file })).json()) as Made).id,
    );
  /** Keeps some orders under way; those that are made leave when there are many. */
  const goOn = async () => {
    const now = await list();
    for (const f of now) if (f.state === "failed") throw new Error(`Order ${f.id} failed: ${f.why}`);
    if (now.length > KEPT)
      for (const f of now.filter((x) => x.state === "made")) {
        // Where the answer was lost it is gone already.
        await client.asked("DELETE", `/made/${f.id}`).catch((e: Error) => {
          if (!e.message.includes("change-unknown")) throw e;
        });
        taken.add(f.id);
      }
    for (let k = now.filter((f) => f.state !== "made").length; k < AHEAD; k++) await order();
  };
  for (let k = 0; k < times; k++) {
    await goOn();
    await new Promise((r) => setTimeout(r, random() * 2500));
    const queue = below(app.serverPid()).filter(isQueue),
      makers = queue.flatMap(below),
      which = random(),
      [mark, pids] =
        which < 0.4
          ? (["q", queue] as const)
          : which < 0.8
            ? (["m", makers] as const)
            : (["d", [app.databasePid()]] as const);
    for (const pid of pids)
      try {
        process.kill(pid, "SIGKILL");
      } catch {
        // It has ended by itself.
      }
    process.stdout.write(pids.length ? mark : ".");
    if (mark === "d") await until(async () => app.databasePid() !== pids[0]);
  }
  console.log(`\n${ordered.size} orders, ${taken.size} of them fetched and taken away meanwhile.`);
  await until(async () => (await list()).every((f) => f.state !== "waiting" && f.state !== "making"));
  const last = await list(),
    problems = last.filter((f) => f.state === "failed").map((f) => `Order ${f.id} failed: ${f.why}`);
  for (const id of ordered)
    if (!taken.has(id) && !last.some((f) => f.id === id)) problems.push(`Order ${id} is not there any more.`);
  if (said().match(/not begun again/)) problems.push("the start command gave up");
  if (problems.length) throw new Error(problems.join("\n"));
  console.log("Each order is made, or was taken away.");
} finally {
  await app.remove();
}

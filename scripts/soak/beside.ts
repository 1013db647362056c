/**
 * npm run soak -- beside [POINTS]: a job is opened whole, after a change each time, alone and beside packages that come in and go out.
 */
import path from "node:path";
import { Application } from "../lib/application";
import { Client, newJob, seeded } from "./client";
import { check, Others, seconds, timed } from "./others";

const points = Number(process.argv[2] ?? 200_000),
  TIMES = 8,
  /** A reading beside the packages may take so many times as long as alone, on two cores. */
  MOST_TIMES = 4;
console.log(`A job of ${points} points is opened ${TIMES} times alone, then beside packages …`);

const app = new Application(path.join(import.meta.dirname, "../.."), 47_380);
try {
  const { url } = await app.begin(),
    job = await newJob(url, points),
    heavy = await newJob(url, points),
    client = new Client(url, job, "Ada", seeded(1));
  let level = 5;
  /** Changed each time, so that it is read anew. */
  const opened = async () => {
    await client.store({ type: "points", edits: [{ id: 1, field: "elevation", old: level, new: ++level }] });
    const answer = await fetch(`${url}/api/jobs/${job}/state`);
    if (!answer.ok) throw new Error(await answer.text());
    await answer.arrayBuffer();
  };
  const each = async (enough = () => true) => {
    const took: number[] = [];
    while (took.length < TIMES || !enough()) took.push((await timed(opened))[1]);
    return took.sort((a, b) => a - b);
  };
  await opened();
  const alone = await each();
  const packed = async () => (await fetch(`${url}/api/jobs/${heavy}/recipe?with=files`)).arrayBuffer(),
    bytes = await packed();
  let going = true;
  const done = { in: 0, out: 0 };
  const keep = async (what: keyof typeof done, work: () => Promise<unknown>) => {
    while (going) {
      await work();
      done[what]++;
    }
  };
  const others = new Others(url, app.serverPid()),
    headers = { "x-author": "Ben", "content-type": "application/octet-stream" },
    takeIn = async () => {
      const answer = await fetch(`${url}/api/jobs`, { method: "POST", headers, body: bytes });
      if (answer.status !== 201) throw new Error(await answer.text());
    };
  const packages = Promise.all([keep("in", takeIn), keep("in", takeIn), keep("out", packed), keep("out", packed)]);
  const beside = await each(() => done.in > 0 && done.out > 0);
  going = false;
  check(`Beside ${done.in} packages that came in and ${done.out} that went out`, await others.stop(), 2e9);
  await packages;
  const median = (took: number[]) => took[Math.floor(took.length / 2)]!,
    said = (took: number[]) => `${seconds(median(took))} at the median, ${seconds(took.at(-1)!)} at most`;
  console.log(`Opened alone: ${said(alone)}. Beside packages: ${said(beside)}.`);
  if (median(beside) > MOST_TIMES * median(alone)) throw new Error("reading waited for making");
} finally {
  await app.remove();
}

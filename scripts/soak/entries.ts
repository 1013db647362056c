/**
 * npm run soak -- entries [COUNT]: changes of 51 MB each, and windows that open the ledger, listen and look at one of them.
 */
import path from "node:path";
import { Application } from "../lib/application";
import { Client, newJob, seeded, type Change } from "./client";
import { check, MB, Others, seconds, timed } from "./others";

const count = Number(process.argv[2] ?? 9),
  POINTS = 10_000,
  NOTE = 5000,
  WINDOWS = 20;
console.log(`${count} changes of ${MB(POINTS * (NOTE + 50))} …`);

const app = new Application(path.join(import.meta.dirname, "../.."), 47_370);
try {
  const { url } = await app.begin(),
    job = await newJob(url, POINTS),
    client = new Client(url, job, "Ada", seeded(1));
  const storing = new Others(url, app.serverPid());
  let old = "";
  for (let k = 0; k < count; k++) {
    const note = String.fromCharCode(97 + k).repeat(NOTE / 2),
      edits = Array.from({ length: POINTS }, (_, i) => ({ id: i + 1, field: "note", old, new: note })),
      change: Change = { type: "points", edits };
    const [, took] = await timed(() => client.store(change));
    console.log(`Change ${k + 1}, ${MB(JSON.stringify(change).length)}: ${seconds(took)}.`);
    old = note;
  }
  check("While they were stored", await storing.stop());
  const reading = new Others(url, app.serverPid());
  const get = async (of: string) => {
    const answer = await fetch(`${url}/api/jobs/${job}${of}`);
    if (!answer.ok) throw new Error(`${of}: ${await answer.text()}`);
    return (await answer.arrayBuffer()).byteLength;
  };
  for (const [what, of] of [
    ["The ledger", "/ledger"],
    ["The entries after the first", "/ledger?after=1"],
    ["The beginning of one", "/ledger?entry=2&most=200"],
    ["What was done to a point", "/ledger?point=7"],
    ["The job", ""],
  ] as const) {
    const [bytes, took] = await timed(async () => Math.max(...(await Promise.all(Array(WINDOWS).fill(of).map(get)))));
    console.log(`${what}, by ${WINDOWS} at once: ${seconds(took)}, ${MB(bytes)} each.`);
  }
  check("While they were read", await reading.stop());
} finally {
  await app.remove();
}

/** Migrates the database and loads the demo jobs into an empty one. */
import { Refusal } from "@bramble/core";
import path from "node:path";
import { closePool, listJobs, migrate, prepareQueue } from "@bramble/db";
import { loadDemo } from "../demo/src/load.ts";

try {
  await prepare();
} catch (e) {
  if (!(e instanceof Refusal)) throw e;
  console.error(e.message);
  process.exitCode = 1;
}
await closePool();

async function prepare(): Promise<void> {
  for (const name of await migrate(path.join(import.meta.dirname, "../db/migrations")))
    console.log(`Migrated: ${name}`);
  await prepareQueue();
  if ((await listJobs()).length === 0 && process.env.BRAMBLE_DEMO !== "no") {
    console.log("Loading the demo jobs …");
    await loadDemo();
  }
}

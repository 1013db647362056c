/** Migrates the database and loads the demo jobs into an empty one. */
import path from "node:path";
import { closePool, listJobs, migrate } from "@bramble/db";
import { loadDemo } from "../demo/src/load.ts";

for (const name of await migrate(path.join(import.meta.dirname, "../db/migrations"))) console.log(`Migrated: ${name}`);
if ((await listJobs()).length === 0 && process.env.BRAMBLE_DEMO !== "no") {
  console.log("Loading the demo jobs …");
  await loadDemo();
}
await closePool();

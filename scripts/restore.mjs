// npm run restore -- FILE: what a backup holds takes the place of what is there, whole or not at all. What was there is
// kept beside it in the same cluster, under a name that is said.
import { spawnSync } from "node:child_process";
import fs from "node:fs";
import path from "node:path";
import { root } from "./lib/bundle.mjs";
import { DATABASE, startCluster } from "./lib/cluster.mjs";
import { clearLeftovers, dataHome, runningNow } from "./lib/instance.mjs";
import { ensureNpm, fail } from "./lib/sh.mjs";

const [given] = process.argv.slice(2);
if (!given) fail("Say what from: npm run restore -- FILE");
if (process.env.DATABASE_URL)
  fail("DATABASE_URL is set: that database is looked after by its own server. Use pg_dump and pg_restore there.");
const file = path.resolve(given);
if (!fs.existsSync(file)) fail(`There is no “${file}”.`);
const other = runningNow();
if (other) fail(`Rough Bramble is running${other.url && ` at ${other.url}`}. Stop it there with Ctrl-C first.`);
ensureNpm();
await clearLeftovers(console.log);

const ARRIVING = "arriving",
  OUTSIDE = "template1";
const cluster = await startCluster({ folder: path.join(dataHome, "postgresql"), durable: true });
let failed = "";
try {
  failed ||= tried("pg_restore", ["--list", file], "This is no backup");
  failed ||= sql(OUTSIDE, `DROP DATABASE IF EXISTS ${ARRIVING}`) || sql(OUTSIDE, `CREATE DATABASE ${ARRIVING}`);
  failed ||= tried(
    "pg_restore",
    ["--exit-on-error", "--single-transaction", "--no-owner", "--no-privileges", `--dbname=${ARRIVING}`, file],
    "The backup cannot be read to its end",
  );
  failed ||= migrated();
  if (!failed) {
    const now = new Date().toISOString().replace(/\D/g, "").slice(0, 14),
      before = `before_${now}`;
    failed =
      sql(OUTSIDE, `ALTER DATABASE ${DATABASE} RENAME TO ${before}`) ||
      sql(OUTSIDE, `ALTER DATABASE ${ARRIVING} RENAME TO ${DATABASE}`);
    if (!failed) {
      console.log(`Restored from ${file}: ${counted()} jobs.`);
      console.log(`What was there before is kept as the database “${before}” until somebody drops it.`);
    }
  } else sql(OUTSIDE, `DROP DATABASE IF EXISTS ${ARRIVING}`);
} finally {
  cluster.stop();
}
if (failed) fail(`Nothing was restored; what was there is as it was.\n${failed}`);

/** Runs one of PostgreSQL's programs; "" when it went well, else what went wrong. */
function tried(program, args, words) {
  const { status, stderr } = spawnSync(path.join(cluster.bin, program), args, { env: cluster.env, encoding: "utf8" });
  return status === 0 ? "" : `${words}: ${stderr.trim() || program}`;
}

function sql(database, text) {
  return tried("psql", ["--quiet", "--set=ON_ERROR_STOP=1", `--command=${text}`, database], text);
}

/** Brings what came to the version of now; refuses what a newer version wrote. */
function migrated() {
  const env = { ...process.env, DATABASE_URL: cluster.urlOf(ARRIVING), BRAMBLE_DEMO: "no" };
  const { status, stderr } = spawnSync(process.execPath, ["--import", "tsx", path.join(root, "scripts/prepare.ts")], {
    env,
    cwd: root,
    encoding: "utf8",
  });
  return status === 0 ? "" : stderr;
}

function counted() {
  const args = ["--tuples-only", "--no-align", "--command=SELECT count(*) FROM jobs", DATABASE];
  return spawnSync(path.join(cluster.bin, "psql"), args, { env: cluster.env, encoding: "utf8" }).stdout.trim();
}

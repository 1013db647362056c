// npm run backup -- FILE: all jobs in one file of pg_dump's own format, read through again after it is written. The
// application may run meanwhile: what it stores after the beginning is not in it.
import { spawnSync } from "node:child_process";
import fs from "node:fs";
import path from "node:path";
import { DATABASE, startCluster } from "./lib/cluster.mjs";
import { dataHome } from "./lib/instance.mjs";
import { fail } from "./lib/sh.mjs";

const [given] = process.argv.slice(2);
if (!given) fail("Say where to: npm run backup -- FILE");
if (process.env.DATABASE_URL)
  fail("DATABASE_URL is set: that database is looked after by its own server. Use pg_dump and pg_restore there.");
const file = path.resolve(given),
  part = `${file}.part`;
if (fs.existsSync(file)) fail(`“${file}” is there already; a backup takes no other's place. Give it another name.`);

const cluster = await startCluster({ folder: path.join(dataHome, "postgresql"), durable: true, shared: true });
try {
  // Nobody else may read it, from its first byte on.
  fs.writeFileSync(part, "", { mode: 0o600 });
  run("pg_dump", ["--format=custom", "--no-owner", "--no-privileges", `--file=${part}`, DATABASE], "writing it");
  // Every byte is unpacked again: a file cut short or a full disk shows here, and not on the day it is needed.
  run("pg_restore", ["--file=/dev/null", part], "reading it again");
  fs.renameSync(part, file);
  const { stdout } = spawnSync(
    path.join(cluster.bin, "psql"),
    ["--tuples-only", "--no-align", "--command=SELECT count(*) FROM jobs", DATABASE],
    { env: cluster.env, encoding: "utf8" },
  );
  console.log(`${stdout.trim()} jobs, ${(fs.statSync(file).size / 1e6).toFixed(1)} MB: ${file}`);
} finally {
  fs.rmSync(part, { force: true });
  cluster.stop();
}

function run(program, args, what) {
  const { status, stderr } = spawnSync(path.join(cluster.bin, program), args, { env: cluster.env, encoding: "utf8" });
  if (status === 0) return;
  fs.rmSync(part, { force: true });
  cluster.stop();
  fail(`The backup was not made: ${what} failed.\n${stderr}`);
}

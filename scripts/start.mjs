// npm start, npm run dev: everything on one command. Installs what is missing, builds, starts the database,
// migrates, loads the demo, serves on loopback. Ctrl-C stops all of it.
import fs from "node:fs";
import path from "node:path";
import { root } from "./lib/bundle.mjs";
import { answers, ensureNpm, fail, freePort, quietly, start } from "./lib/sh.mjs";
import { startCluster } from "./lib/cluster.mjs";

const dev = process.argv.includes("--dev");

ensureNpm();
const { commandBundle } = await import("./lib/bundle.mjs");
const { ensureBuilt, ensureHeavy, nextBin, webEnv } = await import("./lib/build.mjs");
await commandBundle();
await ensureHeavy();
if (!dev) ensureBuilt();

// One at a time: a second start must not take the first one's database away.
const lock = path.join(root, ".data/running.json");
const running = fs.existsSync(lock) ? JSON.parse(fs.readFileSync(lock, "utf8")) : undefined;
if (running && isAlive(running.pid))
  fail(`Rough Bramble is running already${running.url ? ` at ${running.url}` : ""}. Stop it there with Ctrl-C first.`);
const note = (url) => {
  fs.mkdirSync(path.dirname(lock), { recursive: true });
  fs.writeFileSync(lock, JSON.stringify({ pid: process.pid, url }));
};
note();

const given = process.env.DATABASE_URL;
const cluster = given ? undefined : await startCluster({ folder: path.join(root, ".data/postgresql"), durable: true });
const env = { ...webEnv, DATABASE_URL: given ?? cluster.url };

let server;
let stopping = false;
const stop = (code) => {
  if (stopping) return;
  stopping = true;
  server?.kill("SIGTERM");
  cluster?.stop();
  fs.rmSync(lock, { force: true });
  process.exit(code);
};
process.on("SIGINT", () => stop(0));
process.on("SIGTERM", () => stop(0));
process.on("exit", () => {
  if (!stopping) cluster?.stop();
});

process.stdout.write(
  quietly(process.execPath, ["--import", "tsx", path.join(root, "scripts/prepare.ts")], {
    env,
    what: "Preparing the database",
  }),
);
const port = await freePort(Number(process.env.PORT ?? 4310));
const url = `http://127.0.0.1:${port}`;
server = start(process.execPath, [nextBin, dev ? "dev" : "start", "-H", "127.0.0.1", "-p", String(port)], {
  cwd: path.join(root, "web"),
  env,
  stdio: ["ignore", dev ? "inherit" : "ignore", "inherit"],
  detached: false,
});
server.on("exit", (code) => {
  if (!stopping) {
    process.stderr.write("The server ended.\n");
    stop(code ?? 1);
  }
});
if (!(await answers(url, server))) fail("The server did not answer.");
note(url);
console.log(`Rough Bramble is at ${url}  (Ctrl-C stops it)`);

function isAlive(pid) {
  try {
    process.kill(pid, 0);
    return pid !== process.pid;
  } catch {
    return false;
  }
}

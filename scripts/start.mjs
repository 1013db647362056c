// npm start, npm run dev: everything on one command. Installs what is missing, builds, starts the database,
// migrates, loads the demo, serves on loopback. Ctrl-C stops all of it; what ends by itself is started again.
import { once } from "node:events";
import fs from "node:fs";
import path from "node:path";
import { root } from "./lib/bundle.mjs";
import { answers, ensureNpm, fail, freePort, quietly, start } from "./lib/sh.mjs";
import { startCluster } from "./lib/cluster.mjs";
import { clearLeftovers, dataHome, forget, note, runningNow } from "./lib/instance.mjs";
import { end, markOf } from "./lib/who.mjs";

const dev = process.argv.includes("--dev");
const WANTED_PORT = Number(process.env.PORT ?? 4310);
/** A server that has ended so often in a row before it answered would do so again. */
const MOST_ENDS = 5;
const LOOK_EVERY = 1000;
/** How long a server that is stopped has for what it is answering. */
const LAST_WORDS_SECONDS = 3;

ensureNpm();
const { commandBundle } = await import("./lib/bundle.mjs");
const { ensureBuilt, ensureHeavy, nextBin, served, webEnv } = await import("./lib/build.mjs");
await commandBundle();
await ensureHeavy();
if (!dev) ensureBuilt();

// One at a time: a second start must not take the first one's database away.
const other = runningNow();
if (other) fail(`Rough Bramble is running already${other.url && ` at ${other.url}`}. Stop it there with Ctrl-C first.`);
await clearLeftovers(console.log);
note();

const given = process.env.DATABASE_URL;
const cluster = given ? undefined : await startCluster({ folder: path.join(dataHome, "postgresql"), durable: true });
// Files on their way in: what was left there belongs to nobody any more.
const uploads = path.join(dataHome, "uploads");
fs.rmSync(uploads, { recursive: true, force: true });
fs.mkdirSync(uploads, { recursive: true, mode: 0o700 });
const env = { ...webEnv, DATABASE_URL: given ?? cluster.url, BRAMBLE_UPLOADS: uploads };

let server,
  stopping = false;
const stop = async (code) => {
  if (stopping) return;
  stopping = true;
  // A server that is left with an open connection would answer on it, without its database, after the next start.
  if (server?.exitCode === null && server.signalCode === null)
    await Promise.all([once(server, "exit"), end(markOf(server.pid), LAST_WORDS_SECONDS)]);
  cluster?.stop();
  forget();
  process.exit(code);
};
process.on("SIGINT", () => void stop(0));
process.on("SIGTERM", () => void stop(0));
process.on("exit", () => {
  if (stopping) return;
  server?.kill("SIGKILL");
  cluster?.stop();
  forget();
});

process.stdout.write(
  quietly(process.execPath, ["--import", "tsx", path.join(root, "scripts/prepare.ts")], {
    env,
    what: "Preparing the database",
  }),
);
const port = await freePort(WANTED_PORT);
if (port !== WANTED_PORT) console.log(`Port ${WANTED_PORT} is taken by another program; it will be ${port}.`);
const url = `http://127.0.0.1:${port}`;
let ends = 0;
// One that ended at once is begun again: then the next is waited for.
if (!(await serve()) && !(await answers(url, server))) fail("The server did not answer.");
console.log(`Rough Bramble is at ${url}  (Ctrl-C stops it)`);
if (cluster) void watchDatabase();

async function serve() {
  server = start(process.execPath, dev ? [nextBin, "dev", "-H", "127.0.0.1", "-p", String(port)] : served(port), {
    cwd: path.join(root, "web"),
    env,
    stdio: ["ignore", dev ? "inherit" : "ignore", "inherit"],
    detached: false,
  });
  note(server, url);
  server.on("exit", ended);
  const answered = await answers(url, server);
  if (answered) ends = 0;
  return answered;
}

/** The server has ended by itself: it begins again, unless it comes to nothing again and again. */
function ended() {
  if (stopping) return;
  if (++ends >= MOST_ENDS) {
    process.stderr.write(`The server ended ${MOST_ENDS} times before it answered; it is not begun again.\n`);
    return void stop(1);
  }
  process.stderr.write("The server ended unexpectedly; it is begun again.\n");
  void serve();
}

async function watchDatabase() {
  while (!stopping) {
    await new Promise((r) => setTimeout(r, LOOK_EVERY));
    if (stopping || cluster.runs()) continue;
    process.stderr.write("The database ended unexpectedly; it is begun again.\n");
    await cluster.again();
  }
}

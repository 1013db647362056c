// npm run worker: makes files from the queue beside other such processes, here or on another machine, against the
// database that DATABASE_URL names. It makes nothing ready there: the application has done that. Ctrl-C stops it.
import { ensureNpm, fail, start } from "./lib/sh.mjs";

ensureNpm();
if (!process.env.DATABASE_URL) fail("Say by DATABASE_URL which database the files are ordered in.");
const { ensureHeavy, webEnv } = await import("./lib/build.mjs");
await ensureHeavy();
const worker = start(process.execPath, [webEnv.BRAMBLE_QUEUE], { env: webEnv, stdio: "inherit" });
console.log("Files that are ordered are made here too (Ctrl-C stops it)");
const stop = () => worker.kill("SIGKILL");
process.on("SIGINT", stop).on("SIGTERM", stop);
worker.on("exit", (code) => process.exit(code ?? 0));

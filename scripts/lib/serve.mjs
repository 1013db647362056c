// A throw-away application with the demo jobs: for browser tests and pictures.
import path from "node:path";
import { root } from "./bundle.mjs";
import { ensureBuilt, ensureHeavy, served, webEnv } from "./build.mjs";
import { answers, freePort, quietly, start } from "./sh.mjs";

/** Prepares the database, serves the built application on a free port; returns its address, environment and how to stop it. */
export async function serveDemo(databaseUrl, more = {}) {
  const env = { ...webEnv, DATABASE_URL: databaseUrl, ...more };
  ensureBuilt();
  await ensureHeavy();
  quietly(process.execPath, ["--import", "tsx", path.join(root, "scripts/prepare.ts")], {
    env,
    what: "Preparing the database",
  });
  const port = await freePort();
  const url = `http://127.0.0.1:${port}`;
  const server = start(process.execPath, served(port), {
    cwd: path.join(root, "web"),
    env,
    stdio: ["ignore", "ignore", "inherit"],
  });
  if (!(await answers(`${url}/api/jobs`, server))) throw new Error("the server did not answer");
  return { url, env, stop: () => server.kill("SIGTERM") };
}

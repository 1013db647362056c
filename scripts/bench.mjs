// npm run bench [-- SIZES]: the core bundled once, so that no compiler runs beside what is measured; then what a person
// waits for in the browser.
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { spawnSync } from "node:child_process";
import { bundled, root } from "./lib/bundle.mjs";
import { startCluster } from "./lib/cluster.mjs";
import { serveDemo } from "./lib/serve.mjs";
import { must } from "./lib/sh.mjs";

const out = await bundled("core/bench/run.ts", "bench.mjs");
must(process.execPath, ["--expose-gc", "--max-old-space-size=12000", out, ...process.argv.slice(2)], {
  what: "The bench",
});

const folder = fs.mkdtempSync(path.join(os.tmpdir(), "rough-bramble-bench-"));
fs.chmodSync(folder, 0o755);
const cluster = await startCluster({ folder: path.join(folder, "postgresql"), durable: false });
const server = await serveDemo(cluster.database("browser"), { BRAMBLE_INTAKE_LIMIT: "100000000" });
try {
  console.log("\nWhat is waited for in the browser; in brackets the ratio to a plain frame of the page.\n");
  const { status } = spawnSync(
    process.execPath,
    ["node_modules/@playwright/test/cli.js", "test", "-c", "e2e/playwright.config.ts", "--reporter=line", "speed"],
    {
      stdio: "inherit",
      cwd: root,
      env: { ...server.env, BASE_URL: server.url, WAIT_SIZES: process.env.WAIT_SIZES ?? "20000,50000,200000,1000000" },
    },
  );
  process.exitCode = status ?? 1;
} finally {
  server.stop();
  cluster.stop();
  fs.rmSync(folder, { recursive: true, force: true });
}

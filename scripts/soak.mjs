// npm run soak [-- PART [COUNT [FIRST]]]: what takes too long for every test run, each with inputs that no run had
// before, within minutes. Without a part, all of them: surfaces of nasty scenes, volumes of nasty pairs, readings of deliveries in any
// order, the properties of core and page, damaged files, ends by force, clients at once, orders whose makers are ended, large made
// files, windows that do not read, large entries, opening beside packages, slow senders and readers, a full disk, backups of earlier
// versions. SEED repeats one.
import { spawnSync } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { bundled, root } from "./lib/bundle.mjs";
import { startCluster } from "./lib/cluster.mjs";
import { fail, must } from "./lib/sh.mjs";

/** What the bundles do not hold: it finds its own parts beside itself. */
const OUTSIDE = ["sql.js", "sql.js/*", "pg-native"];
const tsx = (script, ...args) =>
  must(process.execPath, ["--import", "tsx", path.join(root, "scripts/soak", script), ...args], {
    what: `The soak of ${script}`,
  });

const PARTS = {
  async surfaces(...args) {
    const out = await bundled("core/test/surface/soak.ts", "soak.mjs");
    must(process.execPath, [out, ...args], { what: "The soak of surfaces" });
  },
  async volumes(...args) {
    const out = await bundled("core/test/volumes/soak.ts", "soak-volumes.mjs");
    must(process.execPath, [out, ...args], { what: "The soak of volumes" });
  },
  properties() {
    const seed = process.env.SEED ?? String(Math.floor(Math.random() * 2 ** 31));
    console.log(`Properties with the seed ${seed} …`);
    must(process.execPath, [path.join(root, "node_modules/jest/bin/jest.js"), "core/test", "web/test/[^/]*$"], {
      what: `The properties with SEED=${seed}`,
      cwd: root,
      env: { ...process.env, SEED: seed },
    });
  },
  async files(...args) {
    tsx("files.ts", await bundled("scripts/soak/files-program.ts", "soak-files.mjs", OUTSIDE), ...args);
  },
  async readings(...args) {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), "rough-bramble-readings-"));
    fs.chmodSync(folder, 0o755);
    const cluster = await startCluster({ folder: path.join(folder, "postgresql"), durable: false });
    const { status } = spawnSync(
      process.execPath,
      ["--import", "tsx", path.join(root, "scripts/soak/readings.ts"), ...args],
      { stdio: "inherit", cwd: root, env: { ...process.env, DATABASE_URL: cluster.url } },
    );
    // Before anything ends: nobody else would stop it.
    cluster.stop();
    fs.rmSync(folder, { recursive: true, force: true });
    if (status !== 0) fail("The soak of readings failed.");
  },
  kills: (...args) => tsx("kills.ts", ...args),
  clients: (...args) => tsx("clients.ts", ...args),
  orders: (...args) => tsx("orders.ts", ...args),
  made: (...args) => tsx("made.ts", ...args),
  streams: (...args) => tsx("streams.ts", ...args),
  entries: (...args) => tsx("entries.ts", ...args),
  beside: (...args) => tsx("beside.ts", ...args),
  slow: (...args) => tsx("slow.ts", ...args),
  disk: () => tsx("disk.ts"),
  restores: () => tsx("restores.ts"),
};

const [part, ...args] = process.argv.slice(2);
if (part === undefined) for (const one of Object.values(PARTS)) await one();
else if (part in PARTS) await PARTS[part](...args);
else {
  process.stderr.write(`There is no “${part}” to soak. Choose one of: ${Object.keys(PARTS).join(", ")}.\n`);
  process.exitCode = 2;
}

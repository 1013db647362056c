// npm test: sets up what it needs, then types, lint, unit tests and browser tests; ends with "N passed, N failed".
// npm run test:quick: types, lint and the unit tests that need neither database nor browser nor long (no @long in them).
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { spawnSync } from "node:child_process";
import { root } from "./lib/bundle.mjs";
import { ensureDebian, ensureNpm, hasProgram } from "./lib/sh.mjs";
import { startCluster } from "./lib/cluster.mjs";

const only = process.argv.slice(2),
  isQuick = only.includes("quick");
const wants = (part) => (isQuick ? ["types", "lint"].includes(part) : only.length === 0 || only.includes(part));

ensureNpm();
if (!isQuick) ensureDebian(["chromium-headless-shell"], () => fs.existsSync("/usr/bin/chromium-headless-shell"));
if (!isQuick)
  ensureDebian(
    ["gdal-bin", "libxml2-utils", "poppler-utils", "python3-ezdxf", "sqlite3", "unzip"],
    () =>
      hasProgram("ogrinfo") &&
      hasProgram("pdftotext") &&
      hasProgram("xmllint") &&
      hasProgram("sqlite3") &&
      hasProgram("unzip") &&
      spawnSync("/usr/bin/python3", ["-c", "import ezdxf"]).status === 0,
  );
const { commandBundle } = await import("./lib/bundle.mjs");
const { ensureBuilt, ensureHeavy, webEnv } = await import("./lib/build.mjs");
const { serveDemo } = await import("./lib/serve.mjs");
if (!isQuick) await commandBundle();

const folder = fs.mkdtempSync(path.join(os.tmpdir(), "rough-bramble-test-"));
fs.chmodSync(folder, 0o755);
const results = path.join(folder, "results");
fs.mkdirSync(results);
const totals = { passed: 0, failed: 0 };
const count = (name, passed, failed) => {
  totals.passed += passed;
  totals.failed += failed;
  console.log(`— ${name}: ${passed} passed, ${failed} failed`);
};
/** A step that is one check: it passes or it fails. */
const step = (name, program, args, options = {}) => {
  const { status } = spawnSync(program, args, { stdio: "inherit", cwd: root, ...options });
  count(name, status === 0 ? 1 : 0, status === 0 ? 0 : 1);
};

/** Folders whose lines a formatter breaks. */
const FORMATTED = ["core", "paper", "web", "db", "cli", "demo", "e2e", "scripts"];

let cluster, server;
try {
  if (wants("types"))
    step("types", process.execPath, ["node_modules/typescript/bin/tsc", "-p", "tsconfig.json", "--noEmit"]);
  if (wants("lint")) step("lint", path.join(root, "node_modules/.bin/oxlint"), ["--deny-warnings"]);
  if (wants("lint"))
    step("format", path.join(root, "node_modules/.bin/prettier"), [
      "--check",
      "--log-level=warn",
      "--cache",
      "--cache-location=.cache/prettier",
      ...FORMATTED,
    ]);
  if (isQuick) quickTests();
  else cluster = await startCluster({ folder: path.join(folder, "postgresql"), durable: false });
  const env = { ...webEnv, ...(cluster && { DATABASE_URL: cluster.url }) };

  // Before anything that starts the application: two builds at once would disturb each other.
  if (wants("unit") || wants("browser")) {
    ensureBuilt();
    await ensureHeavy();
  }
  if (wants("unit")) {
    // Those that share the database and its queue run one after another.
    unitTests("unit tests", ["core", "paper", "cli", "demo"], ["--maxWorkers=2"], env);
    unitTests("tests of database and server", ["db", "web", "scripts"], ["--runInBand"], env);
  }
  if (wants("browser")) {
    // Apart from what the unit tests left behind.
    server = await serveDemo(cluster.database("browser"), { BRAMBLE_INTAKE_LIMIT: "8000000" });
    const file = path.join(results, "playwright.json");
    spawnSync(process.execPath, ["node_modules/@playwright/test/cli.js", "test", "-c", "e2e/playwright.config.ts"], {
      stdio: "inherit",
      cwd: root,
      env: { ...server.env, BASE_URL: server.url, PLAYWRIGHT_JSON_OUTPUT_NAME: file },
    });
    const r = readJson(file);
    count(
      "browser tests",
      (r?.stats.expected ?? 0) + (r?.stats.flaky ?? 0),
      (r?.stats.unexpected ?? 1) + (r?.errors?.length ?? 0),
    );
  }
} catch (e) {
  console.error(e);
  totals.failed++;
} finally {
  server?.stop();
  cluster?.stop();
  fs.rmSync(folder, { recursive: true, force: true });
}
console.log(`${totals.passed} passed, ${totals.failed} failed`);
process.exit(totals.failed === 0 && totals.passed > 0 ? 0 : 1);

function unitTests(name, folders, options, env) {
  const file = path.join(results, `${path.basename(folders[0])}.json`),
    patterns = options.includes("--runTestsByPath") ? folders : folders.map((f) => `/${f}/test/`);
  spawnSync(
    process.execPath,
    ["node_modules/jest/bin/jest.js", "--silent=false", "--json", `--outputFile=${file}`, ...options, ...patterns],
    { stdio: ["ignore", "ignore", "inherit"], cwd: root, env },
  );
  const r = readJson(file);
  count(name, r?.numPassedTests ?? 0, (r?.numFailedTests ?? 0) + (r?.numRuntimeErrorTestSuites ?? (r ? 0 : 1)));
}

/** Unit tests of the core and of the page without what runs on a server. */
function quickTests() {
  const quick = ["core/test", "paper/test", "web/test"]
    .flatMap((folder) => fs.readdirSync(path.join(root, folder), { recursive: true }).map((f) => path.join(folder, f)))
    .filter((f) => f.endsWith(".test.ts") && !f.includes(`${path.sep}heavy${path.sep}`))
    .filter((f) => !fs.readFileSync(path.join(root, f), "utf8").includes("@long"));
  unitTests("quick unit tests", quick, ["--maxWorkers=2", "--runTestsByPath"], webEnv);
}

function readJson(file) {
  return fs.existsSync(file) ? JSON.parse(fs.readFileSync(file, "utf8")) : undefined;
}

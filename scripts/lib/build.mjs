// Builds the web application when a source is newer than the last build.
import fs from "node:fs";
import path from "node:path";
import { bundled, newest, root } from "./bundle.mjs";
import { must } from "./sh.mjs";

/** What is done in processes beside the server. */
const heavy = path.join(root, ".cache/heavy.mjs"),
  /** What takes files to be made out of the queue. */
  queue = path.join(root, ".cache/queue.mjs");
export const webEnv = { ...process.env, NEXT_TELEMETRY_DISABLED: "1", BRAMBLE_HEAVY: heavy, BRAMBLE_QUEUE: queue };
export const nextBin = path.join(root, "node_modules/next/dist/bin/next");

/**
 * How the built application is served, on loopback. A connection that rests is kept longer than those who ask keep it: one
 * that is closed at the moment of a request loses it.
 */
export const served = (port) => [
  nextBin,
  "start",
  "-H",
  "127.0.0.1",
  "-p",
  String(port),
  "--keepAliveTimeout",
  "75000",
];

/** Packages that read files beside themselves stay as they are. */
const BROUGHT = [
  "sql.js",
  "sql.js/*",
  "pg-native",
  "pg-boss",
  "pdfkit",
  "pngjs",
  "write-excel-file",
  "@napi-rs/canvas",
];

/** Bundles what the server does in processes of its own; again only when a source is newer. */
export async function ensureHeavy() {
  const made = fs.statSync(heavy, { throwIfNoEntry: false })?.mtimeMs ?? 0;
  if (made < newest(["web/heavy", "web/lib", "core/src", "paper/src", "db/src", "package-lock.json"]))
    for (const [entry, file] of [
      ["web/heavy/queue-main.ts", queue],
      ["web/heavy/main.ts", heavy],
    ])
      await bundled(entry, path.basename(file), BROUGHT);
}

export function ensureBuilt() {
  const made = fs.statSync(path.join(root, "web/.next/BUILD_ID"), { throwIfNoEntry: false })?.mtimeMs ?? 0;
  const changed = newest(["web", "core/src", "db/src", "package-lock.json"]);
  if (made >= changed) return;
  console.log("Building the application …");
  must(process.execPath, [nextBin, "build"], { cwd: path.join(root, "web"), env: webEnv, what: "The build" });
  fs.utimesSync(path.join(root, "web/.next/BUILD_ID"), new Date(), new Date());
}

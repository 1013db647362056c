// Builds the web application when a source is newer than the last build.
import fs from "node:fs";
import path from "node:path";
import { newest, root } from "./bundle.mjs";
import { must } from "./sh.mjs";

export const webEnv = { ...process.env, NEXT_TELEMETRY_DISABLED: "1" };
export const nextBin = path.join(root, "node_modules/next/dist/bin/next");

export function ensureBuilt() {
  const made = fs.statSync(path.join(root, "web/.next/BUILD_ID"), { throwIfNoEntry: false })?.mtimeMs ?? 0;
  const changed = newest(["web", "core/src", "db/src", "package-lock.json"]);
  if (made >= changed) return;
  console.log("Building the application …");
  must(process.execPath, [nextBin, "build"], { cwd: path.join(root, "web"), env: webEnv, what: "The build" });
  fs.utimesSync(path.join(root, "web/.next/BUILD_ID"), new Date(), new Date());
}

// Bundles the headless command; again only when a source is newer than the bundle.
import fs from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";

export const root = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "../..");

/** Newest modification time below folders, of files whose name ends as given. */
export function newest(folders, endings = [".ts", ".tsx", ".mjs", ".css", ".sql", ".json"]) {
  let time = 0;
  const visit = (p) => {
    const stat = fs.statSync(p, { throwIfNoEntry: false });
    if (!stat) return;
    if (stat.isDirectory()) {
      for (const name of fs.readdirSync(p))
        if (name !== "node_modules" && !name.startsWith(".next") && name !== "dist") visit(path.join(p, name));
    } else if (endings.some((e) => p.endsWith(e))) time = Math.max(time, stat.mtimeMs);
  };
  for (const f of folders) visit(path.resolve(root, f));
  return time;
}

/** Bundles one entry of ours for Node into .cache, so that no compiler runs beside it; its path. */
export async function bundled(entry, name, external = []) {
  const out = path.join(root, ".cache", name);
  await bundle(entry, out, external);
  return out;
}

/** Path of the command's bundle, made when it is missing or old. */
export async function commandBundle() {
  const out = path.join(root, "cli/dist/bramble.mjs");
  const made = fs.statSync(out, { throwIfNoEntry: false })?.mtimeMs ?? 0;
  // The database in WebAssembly brings all it needs and looks for nothing beside itself.
  if (made < newest(["cli/src", "core/src", "core/package.json", "paper/src"]))
    await bundle("cli/src/main.ts", out, [
      "sql.js",
      "sql.js/*",
      "pdfkit",
      "pngjs",
      "write-excel-file",
      "@napi-rs/canvas",
    ]);
  return out;
}

async function bundle(entry, out, external) {
  const { build } = await import("esbuild");
  await build({
    entryPoints: [path.join(root, entry)],
    outfile: out,
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    logLevel: "warning",
    external,
    banner: {
      js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
    },
  });
}

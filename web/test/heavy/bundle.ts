/** The program of badly behaved tasks, bundled for a process of its own. */
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { buildSync } from "esbuild";

export function bundledProgram(): { path: string; remove(): void } {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), "processes-")),
    out = path.join(folder, "program.mjs");
  buildSync({
    entryPoints: [path.join(__dirname, "program.ts")],
    outfile: out,
    bundle: true,
    platform: "node",
    format: "esm",
    external: ["pg-native", "sql.js", "sql.js/*"],
    banner: { js: "import { createRequire as r } from 'node:module'; const require = r(import.meta.url);" },
    logLevel: "error",
  });
  return { path: out, remove: () => fs.rmSync(folder, { recursive: true }) };
}

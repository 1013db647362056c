// npm run bench [-- SIZES]: bundled once, so that no compiler runs beside what is measured.
import path from "node:path";
import { build } from "esbuild";
import { root } from "./lib/bundle.mjs";
import { must } from "./lib/sh.mjs";

const out = path.join(root, ".cache/bench.mjs");
await build({
  entryPoints: [path.join(root, "core/bench/run.ts")],
  outfile: out,
  bundle: true,
  platform: "node",
  format: "esm",
  target: "node20",
  logLevel: "warning",
  banner: {
    js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
  },
});
must(process.execPath, ["--expose-gc", "--max-old-space-size=12000", out, ...process.argv.slice(2)], {
  what: "The bench",
});

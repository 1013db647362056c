// npm run soak [-- SCENES [FIRST]]: surfaces of nasty inputs, bundled once.
import path from "node:path";
import { build } from "esbuild";
import { root } from "./lib/bundle.mjs";
import { must } from "./lib/sh.mjs";

const out = path.join(root, ".cache/soak.mjs");
await build({
  entryPoints: [path.join(root, "core/test/surface/soak.ts")],
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
must(process.execPath, [out, ...process.argv.slice(2)], { what: "The soak" });

// npm run soak [-- SCENES [FIRST]]: surfaces of nasty inputs, bundled once, then every property of the core and the page
// with random inputs that no run had before.
import path from "node:path";
import { bundled, root } from "./lib/bundle.mjs";
import { must } from "./lib/sh.mjs";

const out = await bundled("core/test/surface/soak.ts", "soak.mjs");
must(process.execPath, [out, ...process.argv.slice(2)], { what: "The soak" });
const seed = String(Math.floor(Math.random() * 2 ** 31));
console.log(`Properties with the seed ${seed} …`);
must(process.execPath, [path.join(root, "node_modules/jest/bin/jest.js"), "{core,web}/test"], {
  what: `The properties with SEED=${seed}`,
  cwd: root,
  env: { ...process.env, SEED: seed },
});

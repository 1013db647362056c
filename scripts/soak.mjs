// npm run soak [-- SCENES [FIRST]]: surfaces of nasty inputs, bundled once.
import { bundled } from "./lib/bundle.mjs";
import { must } from "./lib/sh.mjs";

const out = await bundled("core/test/surface/soak.ts", "soak.mjs");
must(process.execPath, [out, ...process.argv.slice(2)], { what: "The soak" });

/** npm run demo [-- SIZE FOLDER]: writes the demo's files. Without arguments the ones kept in demo/gorsefold. */
import fs from "node:fs";
import path from "node:path";
import { demoFiles } from "./files.ts";

const [size, folder = path.join(import.meta.dirname, "../gorsefold")] = process.argv.slice(2);
fs.mkdirSync(folder, { recursive: true });
for (const [name, text] of Object.entries(demoFiles(size ? Number(size) : undefined)))
  fs.writeFileSync(path.join(folder, name), text);

/** Threads of a program of Node. */
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import { FormMaker } from "@bramble/core/checks/levels/forms";
import { LevelCheck } from "@bramble/core/checks/levels/levels";
import { giveThreads } from "@bramble/core/checks/levels/threads";
import { atOnce } from "@bramble/core/math/steps";
import { buildSync } from "esbuild";
import { terrain } from "../../core/test/checks/terrain";
import { giveCores, threadOf } from "../src/cores";

test("a program's own threads answer; a check with them finds what one without finds", async () => {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), "bramble-threads-")),
    program = path.join(folder, "program.mjs");
  const { field } = terrain({ seed: 2, spacing: 6, shots: 700, curve: 0.1, strings: true, face: true });
  try {
    buildSync({
      stdin: { contents: `import { serveForms } from "./cores"; serveForms();`, resolveDir: "paper/src" },
      outfile: program,
      bundle: true,
      platform: "node",
      format: "esm",
    });
    const thread = threadOf(program);
    thread.tell({ work: 1, field: field });
    thread.tell({ work: 1, from: 100, to: 250 });
    let came = thread.come();
    for (; !came; came = thread.come()) await new Promise(setImmediate);
    expect(came).toEqual({ work: 1, part: new FormMaker(field).make(100, 250) });

    giveCores(program, 2);
    const { field: large } = terrain({
        seed: 3,
        spacing: 6,
        shots: 21_000,
        curve: 0.1,
        strings: true,
        spikes: 9,
        spike: 1,
      }),
      limits = { spike: { limit: 6, least: 0.3 }, run: { least: 0.12, shots: 5 } };
    const found = [];
    for (const withThreads of [true, false]) {
      if (!withThreads) giveThreads(() => []);
      const { spikes, runs } = atOnce(new LevelCheck().check(large, limits));
      found.push({ spikes, runs });
    }
    expect(found[0]).toEqual(found[1]);
    expect(found[0]!.spikes.length).toBeGreaterThan(5);
  } finally {
    giveThreads(() => []);
    fs.rmSync(folder, { recursive: true });
  }
});

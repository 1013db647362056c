/**
 * npm run soak -- readings [RUNS]: deliveries with overlapping numbers taken in, read again, withdrawn, restored and edited
 * by two people in any order, on a database of its own, against a plain model of what must be there.
 */
import path from "node:path";
import fc from "fast-check";
import { closePool, migrate } from "../../db/src/index";
import { checkSteps, steps } from "../../db/test/readings-model";

const runs = Number(process.argv[2] ?? 400),
  seed = Number(process.env.SEED ?? Math.floor(Math.random() * 2 ** 31));
console.log(`${runs} sequences, seed ${seed} …`);
await migrate(path.join(import.meta.dirname, "../../db/migrations"));
let done = 0;
try {
  await fc.assert(
    fc.asyncProperty(steps, async (list) => {
      await checkSteps(list);
      if (++done % 100 === 0) console.log(`${done} sequences: what is there is what must be`);
    }),
    { numRuns: runs, seed },
  );
} finally {
  await closePool();
}

/**
 * npm run soak -- files [COUNT]: so many damaged files of all formats, read and derived from in a process with limits.
 * None hangs, none ends the process, none gives anything but its rows or a sentence.
 */
import path from "node:path";
import { Processes, type Answer } from "../../web/heavy/processes";

const [program, asked] = process.argv.slice(2),
  count = Number(asked ?? 10_000),
  seed = Number(process.env.SEED ?? Math.floor(Math.random() * 2 ** 30)),
  BATCH = 50,
  limits = { seconds: 60, memory: 2e9 };
process.env.BRAMBLE_ROOT = path.join(import.meta.dirname, "../..");
console.log(`${count} damaged files, from seed ${seed} on …`);

interface Told {
  problems: string[];
  points: number;
  refused: number;
  slowest: number;
}
const processes = new Processes(program!, limits),
  run = processes.run.bind(processes) as unknown as <H>(
    lane: "make",
    task: string,
    asked: object,
    what: string,
  ) => Promise<Answer<H>>;
try {
  const { names } = (await run<{ names: string[] }>("make", "names", {}, "Making the files")).head,
    each = Math.ceil(count / names.length);
  const problems: string[] = [];
  for (const file of names) {
    let points = 0,
      refused = 0,
      slowest = 0;
    for (let from = seed; from < seed + each; from += BATCH) {
      const size = Math.min(BATCH, seed + each - from);
      const told = await batch(file, from, size);
      problems.push(...told.problems);
      points += told.points;
      refused += told.refused;
      slowest = Math.max(slowest, told.slowest);
    }
    console.log(`${file}: ${each} read, ${refused} refused, ${points} points, the slowest ${slowest.toFixed(0)} ms`);
  }
  if (problems.length) throw new Error(`${problems.length} went wrong:\n${problems.slice(0, 10).join("\n")}`);
  console.log("No hang, no uncaught error, no row lost.");
} finally {
  processes.close();
}

/** A batch whose process had to be ended is read again one by one, so that the one that did it is named. */
async function batch(file: string, from: number, size: number): Promise<Told> {
  try {
    return (await run<Told>("make", "read", { file, from, count: size }, `Reading ${file}`)).head;
  } catch (e) {
    const why = (e as Error).message;
    if (size === 1) return { problems: [`${file}, seed ${from}: ${why}`], points: 0, refused: 0, slowest: 0 };
    const all: Told = { problems: [], points: 0, refused: 0, slowest: 0 };
    for (let k = 0; k < size; k++) {
      const one = await batch(file, from + k, 1);
      all.problems.push(...one.problems);
      all.points += one.points;
      all.refused += one.refused;
      all.slowest = Math.max(all.slowest, one.slowest);
    }
    return all;
  }
}

/**
 * npm run soak -- clients [SECONDS]: eight clients change one job at random, each other's points too, while another
 * job's pages are asked for. No update is lost, nothing is an error of the server, and the other job answers at once.
 */
import path from "node:path";
import { Application } from "../lib/application";
import { decodeTable } from "../../core/src/points/columns";
import { Client, newJob, seeded, summary, type Change } from "./client";

const seconds = Number(process.argv[2] ?? 120),
  seed = Number(process.env.SEED ?? Math.floor(Math.random() * 2 ** 31)),
  CLIENTS = 8,
  POINTS = 200,
  /** Milliseconds at the median, of pages of another job. */
  ANSWERED_WITHIN = 200;
console.log(`${CLIENTS} clients for ${seconds} seconds, seed ${seed} …`);

const app = new Application(path.join(import.meta.dirname, "../.."), 47_340);
try {
  const { url } = await app.begin(),
    job = await newJob(url, POINTS),
    other = await newJob(url, POINTS),
    end = Date.now() + seconds * 1000,
    counted: Record<string, number> = {},
    errors: string[] = [];
  const levels = async () => {
    const t = decodeTable(await (await fetch(`${url}/api/jobs/${job}/points`)).arrayBuffer());
    return Array.from({ length: t.count }, (_, i) => ({ id: t.id[i]!, z: t.z[i]! }));
  };
  const clients = Array.from({ length: CLIENTS }, (_, k) => new Client(url, job, `Client ${k}`, seeded(seed + k)));
  const work = clients.map(async (client) => {
    const { random } = client;
    let known = await levels(),
      files = 0;
    while (Date.now() < end) {
      const p = random(),
        name = client.name();
      let answer: Response | undefined, what: string;
      if (p < 0.7) {
        what = "edit";
        const edits = Array.from(
          { length: 1 + Math.floor(random() * 4) },
          () => known[Math.floor(random() * known.length)]!,
        );
        const change: Change = {
          type: "points",
          edits: [...new Map(edits.map((e) => [e.id, e])).values()].map(({ id, z }) => ({
            id,
            field: "elevation",
            old: Number.isNaN(z) ? null : z,
            new: Math.round(random() * 1e5) / 1000,
          })),
        };
        answer = await client.ask("POST", "/changes", change, name);
        if (answer?.ok) for (const e of change.edits) known.find((k) => k.id === e.id)!.z = e.new as number;
      } else if (p < 0.86) {
        what = p < 0.8 ? "undo" : "redo";
        answer = await client.ask("POST", `/${what}?delivery=yes`, {}, name);
      } else if (p < 0.9) {
        what = "ids";
        answer = await client.ask("POST", "/ids", { count: 3 }, name);
      } else if (p < 0.95) {
        what = "intake";
        const file = `${client.author.replace(" ", "-")}-${++files}.csv`,
          layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
          head = JSON.stringify({ file, layout, clash: "add", add: 1000 * files + Math.floor(random() * 1e6) });
        answer = await fetch(`${url}/api/jobs/${job}/intakes`, {
          method: "POST",
          headers: {
            "x-author": client.author,
            "x-change": name,
            "content-type": "application/octet-stream",
            "x-head": String(head.length),
          },
          body: `${head}1,1,2,3,SPOT\n2,4,5,6,SPOT\n`,
        });
      } else {
        what = "withdraw";
        answer = await client.ask("DELETE", `/intakes/${client.author.replace(" ", "-")}-${files}`, undefined, name);
      }
      const text = (await answer?.text()) ?? "";
      if (!answer || answer.status >= 500) errors.push(`${what}: ${answer?.status} ${text.slice(0, 200)}`);
      else if (answer.ok && what !== "ids") client.stored.add(name);
      else if (!answer.ok) known = await levels();
      const key = `${what} ${answer?.ok ? "done" : "refused"}`;
      counted[key] = (counted[key] ?? 0) + 1;
    }
  });
  const took: number[] = [];
  const others = (async () => {
    for (const asked = [`/jobs/${other}/points`, `/api/jobs/${other}/state`, "/"]; Date.now() < end;) {
      const begun = performance.now(),
        answer = await fetch(url + asked[took.length % asked.length]!);
      await answer.arrayBuffer();
      if (answer.status !== 200) errors.push(`another job: ${answer.status}`);
      took.push(performance.now() - begun);
    }
  })();
  await Promise.all([...work, others]);
  const { problems, entries } = await summary(url, job, clients),
    median = took.sort((a, b) => a - b)[took.length >> 1]!;
  console.log(
    Object.entries(counted)
      .sort()
      .map(([k, n]) => `${n} ${k}`)
      .join(", "),
  );
  console.log(
    `${entries} entries; another job answered after ${median.toFixed(0)} ms at the median of ${took.length}.`,
  );
  problems.push(...errors.slice(0, 20));
  if (median > ANSWERED_WITHIN) problems.push(`another job answered after ${median.toFixed(0)} ms`);
  if (problems.length) throw new Error(problems.join("\n"));
  console.log("No update is lost, and nothing was an error of the server.");
} finally {
  await app.remove();
}

/**
 * npm run soak -- made [MB]: three deliveries of so many megabytes go into one made file, the recipe with them. Eight fetch
 * it at once, whole and in ranges, while others ask.
 */
import path from "node:path";
import { createHash } from "node:crypto";
import { Application, until } from "../lib/application";
import { Client, emptyJob, seeded, takeIn } from "./client";
import { check, letters, MB, Others, seconds, timed } from "./others";

const megabytes = Number(process.argv[2] ?? 200),
  AT_ONCE = 8,
  /** Letters of the column that nobody reads: few rows make a large file. */
  WIDE = 50_000;
console.log(`A made file of three deliveries of ${megabytes} MB …`);

const app = new Application(path.join(import.meta.dirname, "../.."), 47_350);
try {
  const { url } = await app.begin(),
    job = await emptyJob(url, "Large"),
    client = new Client(url, job, "Ada", seeded(1)),
    rows = Math.ceil((megabytes * 1e6) / WIDE);
  for (const day of [1, 2, 3]) {
    const text = Array.from({ length: rows }, (_, k) => `${day * 100_000 + k},${k},${day},5,SPOT,${letters(WIDE)}`);
    const [, took] = await timed(() => takeIn(url, job, `day${day}.csv`, text.join("\n")));
    console.log(`Delivery ${day} of ${MB(text.join("\n").length)} taken in: ${seconds(took)}.`);
  }
  const file = { file: "all.zip", format: "recipe", with: "files" };
  await client.asked("POST", "/changes", { type: "named", part: "handover", name: file.file, old: null, new: file });
  const before = new Others(url, app.serverPid()),
    { id } = (await (await client.asked("POST", "/made", { what: "handover", name: file.file })).json()) as {
      id: number;
    },
    state = async () =>
      ((await (await client.asked("GET", "/made")).json()) as { id: number; state: string; why: string | null }[]).find(
        (f) => f.id === id,
      )!;
  await until(async () => ["made", "failed"].includes((await state()).state));
  if ((await state()).state === "failed") throw new Error((await state()).why!);
  check("While it was made", await before.stop());

  const fetched = async (headers: Record<string, string> = {}) => {
    const answer = await fetch(`${url}/api/jobs/${job}/made/${id}`, { headers }),
      hash = createHash("sha256");
    let size = 0;
    for await (const piece of answer.body!) {
      hash.update(piece);
      size += piece.length;
    }
    return { size, hash: hash.digest("hex") };
  };
  const during = new Others(url, app.serverPid());
  const [all, took] = await timed(() => Promise.all(Array.from({ length: AT_ONCE }, () => fetched())));
  check(`${AT_ONCE} at once, ${MB(all[0]!.size)} each, in ${seconds(took)}`, await during.stop());
  if (new Set(all.map((f) => f.hash)).size !== 1) throw new Error("they are not the same");
  const middle = Math.floor(all[0]!.size / 2),
    [part, partTook] = await timed(() => fetched({ range: `bytes=${middle}-${middle + 99}` }));
  if (part.size !== 100) throw new Error(`a range of 100 bytes has ${part.size}`);
  console.log(`100 bytes in the middle of it: ${partTook.toFixed(0)} ms.`);
} finally {
  await app.remove();
}

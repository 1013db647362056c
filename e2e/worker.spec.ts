/** Files that are ordered are made by whichever process is there: one begun by hand as well as the server's own. */
import { spawn, type ChildProcess } from "node:child_process";
import fs from "node:fs";
import { expect, test, type APIRequestContext } from "./test";
import { AUTHOR, change, jobWith } from "./helpers";

/** The server's own process of the queue: of its program, against its database. */
function ownMakers(): number[] {
  const database = `DATABASE_URL=${process.env.DATABASE_URL}`;
  return fs.readdirSync("/proc").flatMap((pid) => {
    if (!/^\d+$/.test(pid)) return [];
    try {
      const [command, environment] = ["cmdline", "environ"].map((x) =>
        fs.readFileSync(`/proc/${pid}/${x}`, "utf8").split("\0"),
      );
      return command!.some((x) => x.endsWith("/queue.mjs")) && environment!.includes(database) ? [Number(pid)] : [];
    } catch {
      // It has ended since, or is somebody else's.
      return [];
    }
  });
}

/** Processes begun by one of these. */
const childrenOf = (parents: readonly number[]): number[] =>
  fs.readdirSync("/proc").flatMap((pid) => {
    if (!/^\d+$/.test(pid)) return [];
    try {
      const parent = Number(/\) \S (\d+)/.exec(fs.readFileSync(`/proc/${pid}/stat`, "utf8"))![1]);
      return parents.includes(parent) ? [Number(pid)] : [];
    } catch {
      return [];
    }
  });

const states = async (request: APIRequestContext, job: number) =>
  ((await (await request.get(`/api/jobs/${job}/made`)).json()) as { state: string }[]).map((f) => f.state);

test("a process on its own makes what the server's own does not come to, beside others each file once", async ({
  request,
}) => {
  expect(process.env.DATABASE_URL, "npm test says which database the server uses; by hand say the same").toBeTruthy();
  const job = await jobWith(request, "1,10,20,5,SPOT\n2,10,30,5,SPOT\n3,20,20,6,SPOT\n"),
    file = { file: "points.csv", format: "csv" };
  expect(
    (await change(request, job, { type: "named", part: "handover", name: file.file, old: null, new: file })).ok(),
  ).toBe(true);
  const order = () =>
    request.post(`/api/jobs/${job}/made`, { headers: AUTHOR, data: { what: "handover", name: "points.csv" } });
  const own = ownMakers();
  expect(own.length).toBeGreaterThan(0);
  let other: ChildProcess | undefined;
  try {
    for (const pid of own) process.kill(pid, "SIGSTOP");
    expect((await order()).status()).toBe(201);
    other = spawn(process.execPath, ["scripts/worker.mjs"], { stdio: "ignore" });
    await expect.poll(() => states(request, job), { timeout: 30_000 }).toEqual(["made"]);
    for (const pid of own) process.kill(pid, "SIGCONT");
    for (let k = 0; k < 6; k++) expect((await order()).status()).toBe(201);
    await expect.poll(() => states(request, job), { timeout: 30_000 }).toEqual(Array.from({ length: 7 }, () => "made"));
  } finally {
    for (const pid of own) process.kill(pid, "SIGCONT");
    other?.kill("SIGTERM");
  }
});

test("makers that are killed in the middle of their work lose no order, and none fails by it", async ({ request }) => {
  const job = await jobWith(request, "1,10,20,5,SPOT\n2,10,30,5,SPOT\n3,20,20,6,SPOT\n"),
    file = { file: "points.csv", format: "csv" };
  await change(request, job, { type: "named", part: "handover", name: file.file, old: null, new: file });
  for (let k = 0; k < 5; k++)
    await request.post(`/api/jobs/${job}/made`, { headers: AUTHOR, data: { what: "handover", name: "points.csv" } });
  let kills = 0;
  await expect
    .poll(
      async () => {
        const now = await states(request, job);
        if (now.includes("making") && kills < 6)
          for (const pid of childrenOf(ownMakers())) {
            process.kill(pid, "SIGKILL");
            kills++;
          }
        return now;
      },
      { timeout: 60_000, intervals: [20] },
    )
    .toEqual(Array.from({ length: 5 }, () => "made"));
  expect(kills).toBeGreaterThan(0);
});

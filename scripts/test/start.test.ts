/** Start, stop, what force leaves behind, backup and restore: by the commands themselves, in a folder of their own. */
import { spawn, spawnSync } from "node:child_process";
import fs from "node:fs";
import path from "node:path";
import { Application, isGone, until } from "../lib/application";

const PORT = 47_310,
  app = new Application(path.join(__dirname, "../.."), PORT),
  { home, cluster } = app,
  begin = () => app.begin(),
  command = (name: string, ...args: string[]) => app.command(name, ...args);

jest.setTimeout(400_000);
afterAll(() => app.remove());

const jobs = async (url: string) => {
  const answer = await fetch(`${url}/api/jobs`).catch(() => undefined);
  return answer?.ok ? ((await answer.json()) as { id: number; name: string }[]).map((j) => j.name).sort() : undefined;
};
/** As whom the database runs: what it may end, a careless start would end. */
function asDatabaseUser(): { uid?: number } {
  return process.getuid?.() === 0
    ? { uid: Number(spawnSync("id", ["-u", "postgres"], { encoding: "utf8" }).stdout) }
    : {};
}
const DEMO = ["Gorsefold Quarry", "Gorsefold, gate yard"];
test("what was left over is told from what others run; what ends by itself begins again; a backup comes back", async () => {
  // Nothing is known of an empty note, and a note may be of a process that is another's by now.
  fs.writeFileSync(path.join(home, "running.json"), "");
  const first = await begin();
  expect([first.url, await jobs(first.url)]).toEqual([`http://127.0.0.1:${PORT}`, DEMO]);
  expect(first.said()).toContain("ended without stopping");

  const second = await begin();
  expect([second.child.exitCode, second.said()]).toEqual([1, expect.stringContaining(`already at ${first.url}`)]);

  // The server, then the database, are ended by force: both are there again at the same address, with all that was.
  const serverPid = app.serverPid();
  process.kill(serverPid, "SIGKILL");
  await until(async () => isGone(serverPid) && (await jobs(first.url)) !== undefined);
  expect(app.serverPid()).not.toBe(serverPid);
  const master = app.databasePid();
  process.kill(master, "SIGKILL");
  const shown = new Set<string>();
  await until(async () => {
    const page = await fetch(first.url),
      text = await page.text();
    shown.add(`${page.status} ${/does not answer|Gorsefold Quarry/.exec(text)?.[0]}`);
    return isGone(master) && (await jobs(first.url)) !== undefined;
  });
  // Meanwhile the page said so.
  expect([...shown].filter((s) => !/^200 (does not answer|Gorsefold Quarry)$/.test(s))).toEqual([]);
  expect(shown).toContain("200 does not answer");
  expect(await jobs(first.url)).toEqual(DEMO);
  expect(first.said()).toContain("The server ended unexpectedly");
  expect(first.said()).toContain("The database ended unexpectedly");

  // A backup while it runs.
  const file = path.join(home, "all.backup"),
    backup = command("backup", file);
  expect([backup.status, backup.stdout]).toEqual([0, expect.stringContaining("2 jobs")]);
  expect((fs.statSync(file).mode & 0o777).toString(8)).toBe("600");
  expect(command("backup", file)).toMatchObject({ status: 1, stderr: expect.stringContaining("is there already") });
  expect(command("restore", file)).toMatchObject({ status: 1, stderr: expect.stringContaining("is running at") });

  // The start command alone is ended by force: its server is found, ended, and its port taken again.
  const left = app.serverPid();
  first.child.kill("SIGKILL");
  await until(() => first.child.signalCode !== null);
  expect(isGone(left)).toBe(false);
  const third = await begin();
  expect([third.url, third.said()]).toEqual([
    first.url,
    expect.stringContaining(`A server of an earlier start (process ${left}`),
  ]);
  expect(third.said()).toContain("The database of an earlier start");
  expect(isGone(left)).toBe(true);
  const made = await fetch(`${third.url}/api/jobs`, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify({ name: "After the backup" }),
  });
  expect(made.status).toBe(201);
  const stopped = app.serverPid();
  third.child.kill("SIGINT");
  await until(() => third.child.exitCode !== null);
  expect(isGone(stopped)).toBe(true);
  expect(fs.existsSync(path.join(home, "running.json"))).toBe(false);

  // A cut file restores nothing; the whole one brings back what was, and keeps what is.
  const cut = path.join(home, "cut.backup");
  fs.writeFileSync(cut, fs.readFileSync(file).subarray(0, fs.statSync(file).size / 2));
  expect(command("restore", cut)).toMatchObject({ status: 1, stderr: expect.stringContaining("Nothing was restored") });
  const restored = command("restore", file);
  expect([restored.status, restored.stdout]).toEqual([0, expect.stringContaining("2 jobs")]);
  expect(restored.stdout).toContain("kept as the database “before_");

  // The database's note is of a process of somebody else: that is left alone.
  const stranger = spawn("sleep", ["1000"], asDatabaseUser()),
    other = { pid: stranger.pid, began: "1" };
  fs.writeFileSync(path.join(home, "running.json"), JSON.stringify({ command: other, server: other, url: "x" }));
  fs.writeFileSync(path.join(cluster, "postmaster.pid"), `${stranger.pid}\n${cluster}\n1\n5432\n\n127.0.0.1\n`);
  const fourth = await begin();
  expect(await jobs(fourth.url)).toEqual(DEMO);
  expect(isGone(stranger.pid!)).toBe(false);
  stranger.kill();
});

/** The application as its commands run it, in a folder of its own: for tests and soaks of the whole. */
import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";

export interface Begun {
  child: ChildProcess;
  /** Its address; "" when it ended before it answered. */
  url: string;
  said: () => string;
}

export class Application {
  readonly home = fs.mkdtempSync(path.join(os.tmpdir(), "rough-bramble-home-"));
  readonly cluster = path.join(this.home, "postgresql/cluster");
  private readonly env: NodeJS.ProcessEnv;
  private readonly begun: ChildProcess[] = [];

  constructor(
    private readonly root: string,
    readonly port: number,
    more: Record<string, string> = {},
  ) {
    const { DATABASE_URL: _, ...plain } = process.env;
    this.env = { ...plain, BRAMBLE_DATA: this.home, PORT: String(port), ...more };
    // The database's own user must be able to enter it.
    fs.chmodSync(this.home, 0o755);
  }

  /** Begins the application; waits until it answers, or ends. */
  async begin(): Promise<Begun> {
    const child = spawn(process.execPath, [path.join(this.root, "scripts/start.mjs")], {
      env: this.env,
      cwd: this.root,
    });
    this.begun.push(child);
    let text = "";
    for (const stream of [child.stdout, child.stderr]) stream.on("data", (piece) => (text += String(piece)));
    await until(() => isOver(child) || /is at (\S+)/.test(text));
    return { child, url: /is at (\S+)/.exec(text)?.[1] ?? "", said: () => text };
  }

  /** Runs one of the commands to its end. */
  command(name: string, ...args: string[]) {
    return spawnSync(process.execPath, [path.join(this.root, `scripts/${name}.mjs`), ...args], {
      env: this.env,
      cwd: this.root,
      encoding: "utf8",
    });
  }

  serverPid(): number {
    return JSON.parse(fs.readFileSync(path.join(this.home, "running.json"), "utf8")).server.pid;
  }

  databasePid(): number {
    return Number(fs.readFileSync(path.join(this.cluster, "postmaster.pid"), "utf8").split("\n")[0]);
  }

  /** Stops what runs. */
  async stop(): Promise<void> {
    for (const child of this.begun) child.kill("SIGINT");
    await Promise.all(this.begun.map((c) => isOver(c) || new Promise((r) => c.once("exit", r))));
  }

  /** Stops what runs, and takes the folder away. */
  async remove(): Promise<void> {
    await this.stop();
    fs.rmSync(this.home, { recursive: true, force: true });
  }
}

const isOver = (child: ChildProcess) => child.exitCode !== null || child.signalCode !== null;

/** Waits until something holds; fails when it does not for minutes. */
export async function until(holds: () => boolean | Promise<boolean>): Promise<void> {
  for (const end = Date.now() + 240_000; Date.now() < end;) {
    if (await holds()) return;
    await new Promise((r) => setTimeout(r, 100));
  }
  throw new Error(`this did not come to be: ${holds}`);
}

/** Whether no process of a number is there. */
export const isGone = (pid: number) => spawnSync("kill", ["-0", String(pid)]).status !== 0;

/**
 * The process in which tasks are carried out, one at a time. It is told of each over its channel, and answers there;
 * the bytes of an answer go through a pipe of their own, or where they are many into a file.
 */
import fs from "node:fs";
import net from "node:net";
import { Worker } from "node:worker_threads";
import type { Refusal } from "@bramble/core";
import { asRefusal } from "../server/refusals";
import { LARGE_ANSWER } from "./answers";

/** What a task gives: a few facts about it, and its bytes. */
export interface Made<H = object> {
  head: H;
  bytes: Uint8Array;
}

export interface ToChild {
  task: string;
  asked: unknown;
  /** Where an answer of many bytes is put: a name of the server's, who takes it away whatever becomes of the process. */
  file: string;
}

/** An answer; its bytes come through the pipe, or are in the file. */
export type FromChild =
  { head: object; size: number; inFile?: true } | { refused: ReturnType<Refusal["toJSON"]> } | { unexpected: string };

/** The file descriptor that the bytes of answers go to. */
export const PIPE = 3;

type Task = (asked: never) => Promise<Made>;

/** Answers tasks by their names for as long as the server is there. */
export function serveTasks(tasks: Record<string, Task>): void {
  endWithServer();
  process.on("message", (message: ToChild) => {
    void carryOut(tasks[message.task]!, message).then((answer) => process.send!(answer));
  });
}

async function carryOut(task: Task, { asked, file }: ToChild): Promise<FromChild> {
  try {
    const { head, bytes } = await task(asked as never);
    if (bytes.length > LARGE_ANSWER) {
      fs.writeFileSync(file, bytes, { mode: 0o600, flag: "wx" });
      return { head, size: bytes.length, inFile: true };
    }
    // Written once it is told how many there are.
    setImmediate(() => writeAll(bytes));
    return { head, size: bytes.length };
  } catch (e) {
    const refused = asRefusal(e);
    return refused
      ? { refused: refused.toJSON() }
      : { unexpected: e instanceof Error ? (e.stack ?? e.message) : `${e}` };
  }
}

let pipe: net.Socket | undefined;

function writeAll(bytes: Uint8Array): void {
  pipe ??= new net.Socket({ fd: PIPE });
  if (bytes.length) pipe.write(bytes);
}

/** A task may be busy for long when the server is gone: a thread beside it sees that, and ends both. */
export function endWithServer(): void {
  const watch = `const { ppid } = process;
    setInterval(() => { if (process.ppid !== ppid) process.kill(process.pid, "SIGKILL"); }, 500);`;
  new Worker(watch, { eval: true }).unref();
  process.on("disconnect", () => process.exit());
}

/** What others see while something heavy goes on: how long a small answer takes, and how much memory the server holds. */
import fs from "node:fs";
import { Worker } from "node:worker_threads";

const EVERY = 50;

export interface Seen {
  count: number;
  /** Milliseconds. */
  median: number;
  longest: number;
  /** Most bytes that the server held. */
  memory: number;
}

/** In a thread of its own, which nothing of a soak holds up. */
const ASKING = `
  const { parentPort, workerData: { url, pid, every } } = require("node:worker_threads"), fs = require("node:fs");
  const took = [];
  let memory = 0, going = true;
  parentPort.once("message", () => (going = false));
  (async () => {
    while (going) {
      const began = performance.now(), answer = await fetch(url + "/api/jobs");
      await answer.arrayBuffer();
      if (!answer.ok) throw new Error("others were answered " + answer.status);
      took.push(performance.now() - began);
      memory = Math.max(memory, fs.readFileSync("/proc/" + pid + "/statm", "utf8").split(" ")[1] * 4096);
      await new Promise((r) => setTimeout(r, every));
    }
  })().then(() => parentPort.postMessage({ took, memory }), (e) => parentPort.postMessage({ failed: String(e.cause ?? e) }));
`;

/** Asks again and again until it is stopped. */
export class Others {
  private readonly asking: Worker;
  private readonly answer: Promise<{ took: number[]; memory: number; failed?: string }>;

  constructor(url: string, pid: number) {
    this.asking = new Worker(ASKING, { eval: true, workerData: { url, pid, every: EVERY } });
    this.answer = new Promise((resolve) => this.asking.once("message", resolve));
    this.asking.unref();
  }

  async stop(): Promise<Seen> {
    this.asking.postMessage("stop");
    const { took, memory, failed } = await this.answer;
    if (failed !== undefined) throw new Error(failed);
    const sorted = took.sort((x, y) => x - y);
    return { count: sorted.length, median: sorted[Math.floor(sorted.length / 2)]!, longest: sorted.at(-1)!, memory };
  }
}

/** Bytes of memory of a process. */
export const heldBy = (pid: number): number =>
  Number(fs.readFileSync(`/proc/${pid}/statm`, "utf8").split(" ")[1]) * 4096;

export const MB = (bytes: number) => `${(bytes / 1e6).toFixed(bytes < 1e6 ? 1 : 0)} MB`;
export const seconds = (ms: number) => `${(ms / 1000).toFixed(1)} s`;

export const told = ({ count, median, longest, memory }: Seen) =>
  `others: ${count} answers, ${median.toFixed(0)} ms at the median, ${longest.toFixed(0)} ms at most; ` +
  `the server held ${MB(memory)} at most`;

/** What somebody else waits for at most, in milliseconds. */
export const MOST_WAIT = 2000;

/** Fails where others waited, or the server grew. */
export function check(what: string, seen: Seen, memory = 1.5e9): void {
  console.log(`${what}: ${told(seen)}.`);
  if (seen.longest > MOST_WAIT) throw new Error(`${what}: others waited ${seen.longest.toFixed(0)} ms`);
  if (seen.memory > memory) throw new Error(`${what}: the server held ${MB(seen.memory)}`);
}

/** The time that something took, in milliseconds, with what came of it. */
export async function timed<T>(work: () => Promise<T>): Promise<[T, number]> {
  const began = performance.now();
  return [await work(), performance.now() - began];
}

/** Letters that no archive makes smaller than three quarters. */
export function letters(count: number): string {
  const bytes = new Uint8Array(Math.ceil((count * 3) / 4));
  for (let at = 0; at < bytes.length; at += 65_536) crypto.getRandomValues(bytes.subarray(at, at + 65_536));
  return Buffer.from(bytes).toString("base64url").slice(0, count);
}

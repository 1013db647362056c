/**
 * Processes beside the server, in which all is done that takes long or much memory. Each has one task at a time, within
 * limits of time and memory; one that exceeds them is ended and said, and the server lives on. Tasks of one kind wait
 * for one another in a lane, so that those of another kind need not.
 */
import { fork, type ChildProcess } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import type { Socket } from "node:net";
import { refusal, Refusal, type RefusalCode } from "@bramble/core";
import { PIPE, type FromChild, type ToChild } from "./child";
import type { AskedOf, HeadOf, TaskName } from "./tasks";

/**
 * Opening a job, making files of it, what is done soon, and what takes long: how many tasks of each are carried out at
 * once, and the seconds that one may take.
 */
const LANES = {
  open: { most: 2, seconds: 120 },
  make: { most: 1, seconds: 600 },
  quick: { most: 2, seconds: 120 },
  long: { most: 1, seconds: 600 },
};
export type Lane = keyof typeof LANES;

/** Tasks that may wait in one lane. */
const MOST_WAITING = 64;
/** Processes that are kept for the next task, and the memory in bytes up to which one is. */
const MOST_IDLE = 2,
  KEPT_MEMORY = 600e6;
/** Bytes of an answer that are taken from its process at once, so that it is free again. */
const AHEAD = 64e6;
/** Seconds that whoever asked may leave an answer lie. */
const STALLED = 60;
const LOOK_EVERY = 200;

export interface Limits {
  seconds: number;
  /** In bytes, of the process as a whole. */
  memory: number;
}

/**
 * From BRAMBLE_WORK_SECONDS (where shorter than the lane's) and BRAMBLE_WORK_MEMORY (in MB), else what this machine can
 * well bear.
 */
export const limitsHere = (): Limits => ({
  seconds: Number(process.env.BRAMBLE_WORK_SECONDS ?? Infinity),
  memory: process.env.BRAMBLE_WORK_MEMORY
    ? Number(process.env.BRAMBLE_WORK_MEMORY) * 1e6
    : Math.min(6e9, os.totalmem() / 3),
});

/** The answer to a task: a few facts, and its bytes as they come. */
export interface Answer<H = object> {
  head: H;
  size: number;
  body: ReadableStream<Uint8Array>;
}

/** Lets work be done when it is its turn. */
type Turn = <T>(work: () => Promise<T>) => Promise<T>;

interface Waiting {
  begin(): void;
}

export class Processes {
  private readonly all = new Set<ChildProcess>();
  private readonly idle: ChildProcess[] = [];
  private readonly busy: Record<Lane, number> = { open: 0, make: 0, quick: 0, long: 0 };
  private readonly waiting: Record<Lane, Waiting[]> = { open: [], make: [], quick: [], long: [] };

  constructor(
    private readonly program: string,
    private readonly limits: Limits,
  ) {}

  /**
   * Carries a task out in a lane; `what` names it in the sentence that is said when it must be ended. When the signal
   * says that nobody waits for it any more it is ended too. `turn` is waited for in the lane, so that nobody's turn is
   * held by a task that has not begun.
   */
  async run<T extends TaskName>(
    lane: Lane,
    task: T,
    asked: AskedOf<T>,
    what: string,
    { signal, turn = (work) => work() }: { signal?: AbortSignal; turn?: Turn } = {},
  ): Promise<Answer<HeadOf<T>>> {
    await this.enter(lane, signal);
    try {
      return (await turn(() => {
        const child = this.idle.pop() ?? this.begin();
        return this.carryOut(child, { task, asked }, { what, lane, signal });
      })) as Answer<HeadOf<T>>;
    } catch (e) {
      this.leave(lane);
      throw e;
    }
  }

  /** Ends all processes. */
  close(): void {
    for (const child of this.all) child.kill("SIGKILL");
  }

  private async enter(lane: Lane, signal: AbortSignal | undefined): Promise<void> {
    if (this.busy[lane] < LANES[lane].most) {
      this.busy[lane]++;
      return;
    }
    const queue = this.waiting[lane];
    if (queue.length >= MOST_WAITING) throw refusal("work-many", {});
    await new Promise<void>((resolve, reject) => {
      const waiting: Waiting = { begin: resolve };
      queue.push(waiting);
      signal?.addEventListener("abort", () => {
        const at = queue.indexOf(waiting);
        if (at < 0) return;
        queue.splice(at, 1);
        reject(refusal("work-many", {}));
      });
    });
  }

  private leave(lane: Lane): void {
    const next = this.waiting[lane].shift();
    if (next) next.begin();
    else this.busy[lane]--;
  }

  private begin(): ChildProcess {
    const child = fork(this.program, [], {
      execArgv: [`--max-old-space-size=${Math.ceil(this.limits.memory / 1e6)}`],
      // What it says when it runs out of memory is said in a sentence instead.
      stdio: ["ignore", "ignore", "ignore", "pipe", "ipc"],
      env: { ...process.env, BRAMBLE_CONNECTIONS: "2" },
    });
    const pipe = child.stdio[PIPE] as Socket;
    pipe.pause();
    pipe.on("error", () => undefined);
    // The pages come first.
    if (child.pid !== undefined) os.setPriority(child.pid, 5);
    this.all.add(child);
    child.on("exit", () => {
      this.all.delete(child);
      const at = this.idle.indexOf(child);
      if (at >= 0) this.idle.splice(at, 1);
    });
    return child;
  }

  private carryOut(
    child: ChildProcess,
    message: ToChild,
    { what, lane, signal }: { what: string; lane: Lane; signal?: AbortSignal },
  ): Promise<Answer> {
    const seconds = Math.min(LANES[lane].seconds, this.limits.seconds);
    return new Promise((resolve, reject) => {
      let why: Refusal | undefined;
      const end = (reason: Refusal) => {
        why = reason;
        child.kill("SIGKILL");
      };
      const began = Date.now();
      const watch = setInterval(() => {
        if (memoryOf(child) > this.limits.memory) end(refusal("work-large", { what, limit: this.limits.memory }));
        else if (Date.now() - began > seconds * 1000) end(refusal("work-long", { what, seconds }));
      }, LOOK_EVERY);
      const unwanted = () => end(refusal("work-ended", { what }));
      const settle = () => {
        clearInterval(watch);
        signal?.removeEventListener("abort", unwanted);
        child.off("message", answered).off("exit", ended).off("error", ended);
      };
      const answered = (answer: FromChild) => {
        settle();
        if ("head" in answer)
          return resolve({ ...answer, body: bytesOf(child, answer.size, () => (this.keep(child), this.leave(lane))) });
        this.keep(child);
        if ("refused" in answer) {
          const { code, data, message: sentence } = answer.refused;
          return reject(new Refusal(code as RefusalCode, data, sentence));
        }
        reject(new Error(answer.unexpected));
      };
      const ended = () => {
        settle();
        reject(why ?? refusal("work-ended", { what }));
      };
      child.on("message", answered).on("exit", ended).on("error", ended);
      signal?.addEventListener("abort", unwanted);
      if (signal?.aborted) unwanted();
      else child.send(message);
    });
  }

  /** A process is kept for the next task, unless enough are or it has grown large. */
  private keep(child: ChildProcess): void {
    if (child.killed || child.exitCode !== null || child.signalCode !== null) return;
    if (this.idle.length < MOST_IDLE && memoryOf(child) < KEPT_MEMORY) this.idle.push(child);
    else child.kill("SIGKILL");
  }
}

/** Bytes of memory that a process holds; 0 where that cannot be known. */
function memoryOf(child: ChildProcess): number {
  try {
    return Number(fs.readFileSync(`/proc/${child.pid}/statm`, "utf8").split(" ")[1]) * 4096;
  } catch {
    return 0;
  }
}

/** So many bytes of a process's pipe; a process whose bytes nobody takes is ended. */
function bytesOf(child: ChildProcess, size: number, done: () => void): ReadableStream<Uint8Array> {
  const pipe = child.stdio[PIPE] as Socket;
  let left = size,
    open = true,
    stalled: ReturnType<typeof setTimeout> | undefined;
  let close: (error?: Error) => void;
  return new ReadableStream<Uint8Array>(
    {
      start(controller) {
        close = (error) => {
          if (!open) return;
          open = false;
          clearTimeout(stalled);
          // What the next task gives must not run through before somebody listens.
          pipe.off("data", came);
          pipe.pause();
          child.off("exit", lost);
          if (error) controller.error(error);
          else controller.close();
          done();
        };
        const lost = () => close(new Error("the process that made the answer ended"));
        const came = (piece: Buffer) => {
          left -= piece.length;
          controller.enqueue(new Uint8Array(piece));
          clearTimeout(stalled);
          if (left <= 0) return close();
          if ((controller.desiredSize ?? 0) > 0) return;
          pipe.pause();
          stalled = setTimeout(() => child.kill("SIGKILL"), STALLED * 1000);
        };
        if (left <= 0) return close();
        child.on("exit", lost);
        pipe.on("data", came);
        pipe.resume();
      },
      pull() {
        clearTimeout(stalled);
        if (open) pipe.resume();
      },
      cancel() {
        if (!open) return;
        child.kill("SIGKILL");
        close(new Error("nobody takes the answer any more"));
      },
    },
    new ByteLengthQueuingStrategy({ highWaterMark: AHEAD }),
  );
}

/** One for the server, however often its modules are loaded. */
export function processes(): Processes {
  const kept = globalThis as { brambleProcesses?: Processes };
  const program = process.env.BRAMBLE_HEAVY;
  if (!program) throw new Error("BRAMBLE_HEAVY is not set; start the application with `npm start`");
  return (kept.brambleProcesses ??= new Processes(program, limitsHere()));
}

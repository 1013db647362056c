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
import { answerFile, Answers, LARGE_ANSWER } from "./answers";
import { PIPE, type FromChild, type ToChild } from "./child";
import type { AskedOf, HeadOf, TaskName } from "./tasks";

/**
 * Opening a job, making files of it, what is done soon, and what takes long: how many tasks of each are carried out at
 * once, and the seconds that one may take. What somebody waits for before the page goes before the rest; the pages
 * themselves come first.
 */
const LANES = {
  open: { most: 2, seconds: 120, nice: 5 },
  make: { most: 1, seconds: 600, nice: 15 },
  quick: { most: 2, seconds: 120, nice: 5 },
  long: { most: 1, seconds: 600, nice: 15 },
};
export type Lane = keyof typeof LANES;

/** Tasks that may wait in one lane. */
const MOST_WAITING = 64;
/** Processes of one kind that are kept for the next task, and the memory in bytes up to which one is. */
const MOST_IDLE = 2,
  KEPT_MEMORY = 600e6;
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
  /** Kept by how they give way to others: a process never comes before others again. */
  private readonly idle = new Map<number, ChildProcess[]>();
  private readonly answers = new Answers();
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
        const { nice } = LANES[lane],
          child = this.idleOf(nice).pop() ?? this.begin(nice);
        return this.carryOut(child, { task, asked, file: answerFile() }, { what, lane, signal });
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

  private idleOf(nice: number): ChildProcess[] {
    const kept = this.idle.get(nice) ?? [];
    this.idle.set(nice, kept);
    return kept;
  }

  private begin(nice: number): ChildProcess {
    const child = fork(this.program, [], {
      execArgv: [`--max-old-space-size=${Math.ceil(this.limits.memory / 1e6)}`],
      // What it says when it runs out of memory is said in a sentence instead.
      stdio: ["ignore", "ignore", "ignore", "pipe", "ipc"],
      env: { ...process.env, BRAMBLE_CONNECTIONS: "2" },
    });
    const pipe = child.stdio[PIPE] as Socket;
    pipe.pause();
    pipe.on("error", () => undefined);
    if (child.pid !== undefined) os.setPriority(child.pid, nice);
    this.all.add(child);
    child.on("exit", () => {
      this.all.delete(child);
      const kept = this.idleOf(nice),
        at = kept.indexOf(child);
      if (at >= 0) kept.splice(at, 1);
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
        const free = () => this.keep(child, LANES[lane].nice);
        if ("head" in answer) {
          const { head, size, inFile } = answer;
          if (!inFile) return resolve({ head, size, body: bytesOf(child, size, () => (free(), this.leave(lane))) });
          free();
          const leaving = this.answers.leaving(message.file, size);
          return resolve(leaving.then((body) => (this.leave(lane), { head, size, body })));
        }
        free();
        forget();
        if ("refused" in answer) {
          const { code, data, message: sentence } = answer.refused;
          return reject(new Refusal(code as RefusalCode, data, sentence));
        }
        reject(new Error(answer.unexpected));
      };
      // Where a disk is full, or a process ends while it writes, a part of it may be there.
      const forget = () => fs.rmSync(message.file, { force: true });
      const ended = () => {
        settle();
        forget();
        reject(why ?? refusal("work-ended", { what }));
      };
      child.on("message", answered).on("exit", ended).on("error", ended);
      signal?.addEventListener("abort", unwanted);
      if (signal?.aborted) unwanted();
      else child.send(message);
    });
  }

  /** A process is kept for the next task, unless enough are or it has grown large. */
  private keep(child: ChildProcess, nice: number): void {
    if (child.killed || child.exitCode !== null || child.signalCode !== null) return;
    const kept = this.idleOf(nice);
    if (kept.length < MOST_IDLE && memoryOf(child) < KEPT_MEMORY) kept.push(child);
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

/** So many bytes of a process's pipe, few enough to be held: the process is done when all came, whoever reads them. */
function bytesOf(child: ChildProcess, size: number, done: () => void): ReadableStream<Uint8Array> {
  const pipe = child.stdio[PIPE] as Socket;
  let left = size,
    open = true,
    taken = true;
  return new ReadableStream<Uint8Array>(
    {
      start(controller) {
        const close = (error?: Error) => {
          if (!open) return;
          open = false;
          // What the next task gives must not run through before somebody listens.
          pipe.off("data", came);
          pipe.pause();
          child.off("exit", lost);
          if (taken && error) controller.error(error);
          else if (taken) controller.close();
          done();
        };
        const lost = () => close(new Error("the process that made the answer ended"));
        const came = (piece: Buffer) => {
          left -= piece.length;
          if (taken) controller.enqueue(new Uint8Array(piece));
          if (left <= 0) close();
        };
        if (left <= 0) return close();
        child.on("exit", lost);
        pipe.on("data", came);
        pipe.resume();
      },
      cancel() {
        taken = false;
      },
    },
    new ByteLengthQueuingStrategy({ highWaterMark: LARGE_ANSWER }),
  );
}

/** One for the server, however often its modules are loaded. */
export function processes(): Processes {
  const kept = globalThis as { brambleProcesses?: Processes };
  const program = process.env.BRAMBLE_HEAVY;
  if (!program) throw new Error("BRAMBLE_HEAVY is not set; start the application with `npm start`");
  return (kept.brambleProcesses ??= new Processes(program, limitsHere()));
}

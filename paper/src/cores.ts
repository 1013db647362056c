/**
 * The threads of a program of Node: as many as cores are left. Each is the same program begun once more, whose entry calls
 * `serveForms` where `isMainThread` says so.
 */
import os from "node:os";
import {
  MessageChannel,
  parentPort,
  receiveMessageOnPort,
  Worker,
  workerData,
  type MessagePort,
} from "node:worker_threads";
import {
  buffersOf,
  formThread,
  giveThreads,
  type FromThread,
  type Thread,
  type ToThread,
} from "@bramble/core/checks/levels/threads";

/** More cores than this gain little. */
const MOST = 7;

/** Lets this program use its cores; `program` is its own file. Threads are begun when the first is asked for. */
export function giveCores(program: string | URL, count = Math.min(MOST, os.availableParallelism() - 1)): void {
  let threads: Thread[] | undefined;
  giveThreads(() => (threads ??= Array.from({ length: count }, () => threadOf(program))));
}

/** A thread of a program, begun. */
export function threadOf(program: string | URL): Thread {
  const { port1, port2 } = new MessageChannel(),
    worker = new Worker(program, { workerData: { forms: port2 }, transferList: [port2], stdout: true, stderr: true });
  // A program ends whether or not its threads have something to do; one that fails is not waited for.
  worker.unref();
  port1.unref();
  worker.on("error", () => undefined);
  return {
    tell: (message) => worker.postMessage(message),
    come: () => receiveMessageOnPort(port1)?.message as FromThread | undefined,
  };
}

/** In a thread: answers for as long as the program is there. */
export function serveForms(): void {
  const { forms } = workerData as { forms: MessagePort },
    answer = formThread();
  parentPort!.on("message", (message: ToThread) => {
    const made = answer(message);
    if (made) forms.postMessage(made, buffersOf(made));
  });
}

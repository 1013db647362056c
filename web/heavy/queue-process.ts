/** The process of the queue that belongs to this server: begun with it, begun again when it ends by itself. */
import { fork } from "node:child_process";
import os from "node:os";

const AGAIN = 2000;

export function beginQueue(): void {
  const program = process.env.BRAMBLE_QUEUE,
    kept = globalThis as { brambleQueue?: boolean };
  if (!program || kept.brambleQueue) return;
  kept.brambleQueue = true;
  begin(program);
}

function begin(program: string): void {
  const child = fork(program, [], {
    stdio: ["ignore", "ignore", "inherit", "ipc"],
    env: { ...process.env, BRAMBLE_CONNECTIONS: "2" },
  });
  if (child.pid !== undefined) os.setPriority(child.pid, 5);
  child.on("exit", () => setTimeout(() => begin(program), AGAIN));
  // The server does not wait for it.
  child.unref();
  child.channel?.unref();
}

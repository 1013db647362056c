/** A process of tasks that behave badly, each in its way; processes.test.ts bundles and asks it. */
import { refusal } from "@bramble/core";
import { serveTasks } from "../../heavy/child";

const nothing = new Uint8Array(0);

serveTasks({
  async echo({ text, size }: { text: string; size: number }) {
    return { head: { text, pid: process.pid }, bytes: Uint8Array.from({ length: size }, (_, i) => i % 251) };
  },
  async refuse() {
    throw refusal("file-empty", { file: "a.csv" });
  },
  async fail() {
    throw new Error("nobody foresaw this");
  },
  async forEver() {
    for (;;) Math.random();
  },
  async swallow() {
    for (const held: Float64Array[] = []; ;) held.push(new Float64Array(1e6).fill(1));
  },
  async swallowHeap() {
    for (const held: unknown[] = []; ;) held.push(Array.from({ length: 1000 }, (_, i) => ({ i })));
  },
  async crash() {
    process.kill(process.pid, "SIGKILL");
    return { head: {}, bytes: nothing };
  },
});

/** A process of tasks that behave badly, each in its way; processes.test.ts bundles and asks it. */
import fs from "node:fs";
import { refusal } from "@bramble/core";
import { createJob, storeChange, takeIntake } from "@bramble/db";
import { serveTasks } from "../../heavy/child";

const nothing = new Uint8Array(0);

serveTasks({
  async echo({ text, size }: { text: string; size: number }) {
    return { head: { text, pid: process.pid }, bytes: Uint8Array.from({ length: size }, (_, i) => i % 251) };
  },
  async endsWhileWriting() {
    const { writeFileSync } = fs;
    fs.writeFileSync = (file) => {
      writeFileSync(file, "a part");
      process.kill(process.pid, "SIGKILL");
    };
    return { head: {}, bytes: new Uint8Array(9e6) };
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
  /** Ends by force after it stored, or before. */
  async change({ job, author, name, path }: { job: number; author: string; name: string; path: string }) {
    if (path === "stores")
      await storeChange(job, author, { type: "setting", field: "client", old: null, new: "a client" }, name);
    process.kill(process.pid, "SIGKILL");
    return { head: {}, bytes: nothing };
  },
  async take({ job, author, name, path }: { job: number; author: string; name: string; path: string }) {
    const layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] as never };
    const row = new TextEncoder().encode("1,10,20,5,SPOT\n");
    if (path === "stores") await takeIntake(job, author, { file: "day1.csv", layout }, row, name);
    process.kill(process.pid, "SIGKILL");
    return { head: {}, bytes: nothing };
  },
  async create({ name, form }: { name: string; form: { name: string } }) {
    if (form.name === "stores") await createJob({ name: "Made", unit: "m", order: "EN", book: {} }, name);
    process.kill(process.pid, "SIGKILL");
    return { head: {}, bytes: nothing };
  },
  async crash() {
    process.kill(process.pid, "SIGKILL");
    return { head: {}, bytes: nothing };
  },
});

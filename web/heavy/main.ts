/** Where the process begins in which long tasks are carried out, and its threads. */
import { isMainThread } from "node:worker_threads";
import { serveForms, giveCores } from "@bramble/paper/cores";
import { serveTasks } from "./child";
import { TASKS } from "./tasks";

if (isMainThread) {
  giveCores(new URL(import.meta.url));
  serveTasks(TASKS);
} else serveForms();

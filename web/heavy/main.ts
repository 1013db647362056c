/** Where the process begins in which long tasks are carried out. */
import { serveTasks } from "./child";
import { TASKS } from "./tasks";

serveTasks(TASKS);

// Who a process is: nothing is ended, and nothing is believed to run, before that is known.
import fs from "node:fs";

/** What a process is called with, and when it began; undefined when there is none of that number. */
function processOf(pid) {
  try {
    if (!Number.isSafeInteger(pid) || pid <= 1) return undefined;
    const words = fs.readFileSync(`/proc/${pid}/cmdline`, "utf8").split("\0").filter(Boolean);
    // The name before it stands in brackets and may hold blanks; the state comes next, the beginning is the 20th.
    const rest = fs.readFileSync(`/proc/${pid}/stat`, "utf8").split(") ").at(-1).split(" ");
    // One that has ended and is not fetched yet runs no more.
    return rest[0] === "Z" ? undefined : { words, began: rest[19] };
  } catch {
    return undefined;
  }
}

/** Whether there is any process of a number. */
export const isThere = (pid) => processOf(pid) !== undefined;

/** What is written down of a process so that it can be known again: its number alone may come to be another's. */
export function markOf(pid) {
  return { pid, began: processOf(pid)?.began };
}

/** Whether the process that was written down still runs. */
export function runs(mark) {
  const found = mark && processOf(mark.pid);
  return found !== undefined && found.began === mark.began;
}

/** Whether a process is the database of this folder. */
export function isDatabaseOf(pid, data) {
  const words = processOf(pid)?.words ?? [];
  const real = (p) => (fs.existsSync(p) ? fs.realpathSync(p) : p);
  return /(^|\/)(postgres|postmaster)$/.test(words[0] ?? "") && words.some((w) => real(w) === real(data));
}

/** Processes of a database that work in this folder, with or without the one that began them. */
export function databaseProcessesIn(data) {
  const real = fs.realpathSync(data);
  return fs
    .readdirSync("/proc")
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => {
      try {
        return fs.readlinkSync(`/proc/${pid}/cwd`) === real && /postgres/.test(processOf(pid)?.words[0] ?? "");
      } catch {
        return false;
      }
    })
    .map(markOf);
}

/** Ends a process, kindly at first. */
export async function end(mark, seconds = 5) {
  for (const signal of ["SIGTERM", "SIGKILL"]) {
    if (!runs(mark)) return;
    process.kill(mark.pid, signal);
    for (const until = Date.now() + seconds * 1000; runs(mark) && Date.now() < until;)
      await new Promise((r) => setTimeout(r, 50));
  }
}

// The one instance of this checkout: a note of what runs, so that a second start finds it, and what was left over.
import fs from "node:fs";
import path from "node:path";
import { root } from "./bundle.mjs";
import { end, markOf, runs } from "./who.mjs";

/** Where the person's data is. */
export const dataHome = process.env.BRAMBLE_DATA ?? path.join(root, ".data");
const file = path.join(dataHome, "running.json");

/** What the note says; nothing where it is missing or cannot be read. */
function noted() {
  try {
    const note = JSON.parse(fs.readFileSync(file, "utf8"));
    return typeof note === "object" && note !== null ? note : {};
  } catch {
    return {};
  }
}

/** Where the application is being run now; undefined when it is not. */
export function runningNow() {
  const { command, url } = noted();
  return runs(command) ? { url: url ?? "", pid: command.pid } : undefined;
}

/** Takes away what a start that was ended by force has left; says what it found. */
export async function clearLeftovers(say) {
  const { server, url } = noted();
  if (runs(server)) {
    say(`A server of an earlier start (process ${server.pid}${url ? `, ${url}` : ""}) was still there; it is ended.`);
    await end(server);
  } else if (fs.existsSync(file)) say("An earlier start ended without stopping; what it left is cleared.");
  fs.rmSync(file, { force: true });
}

/** Notes that this process runs the application, and the server by which it answers. */
export function note(server, url) {
  fs.mkdirSync(dataHome, { recursive: true });
  const whole = { command: markOf(process.pid), ...(server ? { server: markOf(server.pid) } : {}), url };
  // Whole or not at all: a note cut short would say nothing.
  fs.writeFileSync(`${file}.new`, JSON.stringify(whole));
  fs.renameSync(`${file}.new`, file);
}

export function forget() {
  fs.rmSync(file, { force: true });
}

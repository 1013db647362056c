// Small helpers of the scripts: running programs, installing Debian packages, free ports.
import { spawn, spawnSync } from "node:child_process";
import fs from "node:fs";
import net from "node:net";
import path from "node:path";
import { root } from "./bundle.mjs";

export const isRoot = process.getuid?.() === 0;

/** Stops the script with one clear line. */
export function fail(line) {
  process.stderr.write(`${line}\n`);
  process.exit(1);
}

/** Runs a program to its end with its output shown; stops the script when it fails. */
export function must(program, args, options = {}) {
  const { status, error } = spawnSync(program, args, { stdio: "inherit", cwd: root, ...options });
  if (error || status !== 0)
    fail(`${options.what ?? `${program} ${args.join(" ")}`} failed${error ? `: ${error.message}` : ""}.`);
}

/** Runs a program quietly; its output is shown only when it fails. */
export function quietly(program, args, options = {}) {
  const { status, stdout, stderr, error } = spawnSync(program, args, { encoding: "utf8", cwd: root, ...options });
  if (error || status !== 0)
    fail(`${options.what ?? program} failed.\n${error?.message ?? ""}${stdout ?? ""}${stderr ?? ""}`);
  return stdout;
}

export function start(program, args, options = {}) {
  return spawn(program, args, { cwd: root, stdio: "inherit", ...options });
}

/** npm's packages, installed anew when the lock file is newer than what is installed. */
export function ensureNpm() {
  const time = (f) => fs.statSync(path.join(root, f), { throwIfNoEntry: false })?.mtimeMs ?? 0;
  if (time("node_modules/.package-lock.json") >= time("package-lock.json")) return;
  console.log("Installing npm packages …");
  must("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"]);
  // npm leaves the time stamp alone when nothing had to change.
  fs.utimesSync(path.join(root, "node_modules/.package-lock.json"), new Date(), new Date());
}

/** Debian packages, with apt when it may; otherwise one line that says what to install. */
export function ensureDebian(packages, isThere) {
  if (isThere()) return;
  const apt = spawnSync("apt-get", ["--version"]).status === 0;
  const sudo = isRoot ? [] : spawnSync("sudo", ["-n", "true"]).status === 0 ? ["sudo", "-n"] : undefined;
  if (apt && sudo) {
    console.log(`Installing ${packages.join(", ")} …`);
    const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
    const run = (args) =>
      spawnSync(sudo[0] ?? args[0], sudo[0] ? [...sudo.slice(1), ...args] : args.slice(1), { encoding: "utf8", env });
    run(["apt-get", "update"]);
    const { status, stderr } = run(["apt-get", "install", "-y", "--no-install-recommends", ...packages]);
    if (status === 0 && isThere()) return;
    process.stderr.write(stderr ?? "");
  }
  fail(`Missing on this machine: ${packages.join(" ")}. Install with: sudo apt-get install ${packages.join(" ")}`);
}

export function hasProgram(name) {
  return spawnSync("sh", ["-c", `command -v ${name}`]).status === 0;
}

/** A port of loopback that nobody listens on: the wanted one if it is free, else any. */
export function freePort(wanted = 0) {
  return new Promise((resolve) => {
    const server = net.createServer();
    server.once("error", () => resolve(freePort(0)));
    server.listen(wanted, "127.0.0.1", () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}

/** Waits until an address answers, by asking again; gives up when the process that should answer ends. */
export async function answers(url, child, seconds = 120) {
  const end = Date.now() + seconds * 1000;
  while (Date.now() < end) {
    if (child.exitCode !== null) return false;
    try {
      await fetch(url);
      return true;
    } catch {
      await new Promise((r) => setTimeout(r, 150));
    }
  }
  return false;
}

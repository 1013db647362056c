/**
 * npm run soak -- restores: a backup as each earlier version made it is restored by the command, and the application comes up with
 * its job.
 */
import { spawnSync } from "node:child_process";
import fs from "node:fs";
import path from "node:path";
import { filled } from "../../db/test/filled";
import { Application } from "../lib/application";

const root = path.join(import.meta.dirname, "../.."),
  folder = path.join(root, "db/migrations"),
  versions = fs.readdirSync(folder).filter((f) => f.endsWith(".sql")),
  { startCluster } = (await import(path.join(root, "scripts/lib/cluster.mjs"))) as {
    startCluster(
      how: object,
    ): Promise<{ bin: string; env: NodeJS.ProcessEnv; database(name: string): string; stop(): void }>;
  };
const app = new Application(root, 47_410, { BRAMBLE_DEMO: "no" });
let then: Awaited<ReturnType<typeof startCluster>> | undefined;
try {
  then = await startCluster({ folder: path.join(app.home, "then"), durable: false });
  const { bin, env } = then;
  const run = (program: string, args: string[], input?: string) => {
    const { status, stderr } = spawnSync(path.join(bin, program), args, { env, input, encoding: "utf8" });
    if (status !== 0) throw new Error(`${program}: ${stderr}`);
  };
  for (const [k, version] of versions.entries()) {
    const name = `v${k + 1}`,
      backup = path.join(app.home, `${name}.backup`),
      names = versions.slice(0, k + 1);
    then.database(name);
    const sql = [
      "CREATE TABLE migrations (name text PRIMARY KEY, applied timestamptz NOT NULL DEFAULT now());",
      ...names.flatMap((f) => [
        `BEGIN; ${fs.readFileSync(path.join(folder, f), "utf8")}`,
        `INSERT INTO migrations (name) VALUES ('${f}'); COMMIT;`,
      ]),
      filled(k + 1),
    ];
    run("psql", ["--quiet", "--set=ON_ERROR_STOP=1", name], sql.join("\n"));
    run("pg_dump", ["--format=custom", "--no-owner", "--no-privileges", `--file=${backup}`, name]);
    const { status, stdout, stderr } = app.command("restore", backup);
    if (status !== 0 || !/: 1 jobs\./.test(stdout)) throw new Error(`${version}: ${stdout}${stderr}`);
    const { url, said } = await app.begin();
    if (!url) throw new Error(said());
    const job = (await (await fetch(`${url}/api/jobs/1`)).json()) as {
      definition: { name: string };
      ledger: { seq: number }[];
    };
    if (job.definition.name !== "Old plot" || job.ledger.length !== 2)
      throw new Error(`${version}: ${JSON.stringify(job)}`);
    await app.stop();
    process.stdout.write(`${k + 1} `);
  }
  console.log(`\nBackups of ${versions.length} versions are restored, and the application comes up with each.`);
} finally {
  then?.stop();
  await app.remove();
}

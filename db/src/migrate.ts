/** Numbered migrations, each in its own transaction, in order, once. */
import { refusal } from "@bramble/core";
import fs from "node:fs";
import path from "node:path";
import { getPool, transaction, type Client } from "./pool.ts";
import { giveBriefs } from "./queries/ledger.ts";

const LOCK = 7_220_417;

/** What SQL cannot say of some migrations; a part of them. */
const MORE: Record<string, (client: Client) => Promise<void>> = { "000023_large_entries.sql": giveBriefs };

/**
 * Applies the migrations of a folder that the database does not have yet; returns their names. Refused, with nothing
 * touched, when the database has some that the folder does not know.
 */
export async function migrate(folder: string): Promise<string[]> {
  await getPool().query(
    "CREATE TABLE IF NOT EXISTS migrations (name text PRIMARY KEY, applied timestamptz NOT NULL DEFAULT now())",
  );
  const known = fs
      .readdirSync(folder)
      .filter((f) => /^\d{6}_.*\.sql$/.test(f))
      .sort(),
    { rows } = await getPool().query<{ name: string }>("SELECT name FROM migrations ORDER BY name"),
    names = rows.map((r) => r.name).filter((name) => !known.includes(name));
  if (names.length) throw refusal("database-newer", { names });
  const applied: string[] = [];
  for (const name of known) {
    await transaction(async (client) => {
      await client.query("SELECT pg_advisory_xact_lock($1)", [LOCK]);
      const { rowCount } = await client.query("INSERT INTO migrations (name) VALUES ($1) ON CONFLICT DO NOTHING", [
        name,
      ]);
      if (!rowCount) return;
      await client.query(fs.readFileSync(path.join(folder, name), "utf8"));
      await MORE[name]?.(client);
      applied.push(name);
    });
  }
  return applied;
}

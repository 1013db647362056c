/** What the office keeps for all jobs, by name: job templates, layouts of files and code books. */
import { refusal, type CodeBook, type Layout, type Format, type JobDefinition, type Unit } from "@bramble/core";
import { getPool } from "../pool.ts";

export type Template = Omit<JobDefinition, "name" | "date" | "setups" | "lines">;
/** A layout with what tells files like it: see core/src/intake/kept-layouts.ts. */
export interface KeptLayout {
  format: Format;
  layout: Layout;
  unit?: Unit;
  likeness: string;
}
export interface OfficeBodies {
  template: Template;
  layout: KeptLayout;
  book: CodeBook;
}

export async function listOffice<K extends keyof OfficeBodies>(
  kind: K,
): Promise<{ name: string; body: OfficeBodies[K] }[]> {
  return (await getPool().query("SELECT name, body FROM office WHERE kind = $1 ORDER BY name", [kind])).rows;
}

/** Keeps a thing under its name, in place of an earlier one. */
export async function keepInOffice<K extends keyof OfficeBodies>(
  kind: K,
  name: string,
  body: OfficeBodies[K],
): Promise<void> {
  await getPool().query(
    "INSERT INTO office (kind, name, body) VALUES ($1, $2, $3) ON CONFLICT (kind, name) DO UPDATE SET body = excluded.body",
    [kind, name, JSON.stringify(body)],
  );
}

export async function forgetInOffice(kind: keyof OfficeBodies, name: string): Promise<void> {
  const { rowCount } = await getPool().query("DELETE FROM office WHERE kind = $1 AND name = $2", [kind, name]);
  if (!rowCount) throw refusal("change-unknown", { what: `The ${kind} “${name}”` });
}

/** What the office keeps for all jobs, by name: job templates, layouts of files and code books. */
import { refusal, type CodeBook, type Layout, type Format, type JobDefinition, type Unit } from "@bramble/core";
import { getPool, transaction } from "../pool.ts";

export type Template = Omit<JobDefinition, "name" | "date" | "setups" | "lines">;
/** A layout with what tells files like it: see core/src/intake/recognise.ts. */
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

/** Keeps a thing under its name, in place of an earlier one; with it a file of a job that it needs. */
export function keepInOffice<K extends keyof OfficeBodies>(
  kind: K,
  name: string,
  body: OfficeBodies[K],
  needs?: { job: number; file: string },
): Promise<void> {
  return transaction(async (client) => {
    await client.query(
      "INSERT INTO office (kind, name, body) VALUES ($1, $2, $3) ON CONFLICT (kind, name) DO UPDATE SET body = excluded.body",
      [kind, name, JSON.stringify(body)],
    );
    await client.query("DELETE FROM office_files WHERE kind = $1 AND office_name = $2", [kind, name]);
    if (!needs) return;
    const { rowCount } = await client.query(
      `INSERT INTO office_files (kind, office_name, name, bytes)
       SELECT $1, $2, name, bytes FROM job_files WHERE job_id = $3 AND name = $4`,
      [kind, name, needs.job, needs.file],
    );
    if (!rowCount) throw refusal("change-unknown", { what: `The file “${needs.file}”` });
  });
}

/** The files of a thing that the office keeps are kept with a job. */
export async function bringOfficeFiles(kind: keyof OfficeBodies, name: string, job: number): Promise<void> {
  await transaction((client) =>
    client.query(
      `INSERT INTO job_files (job_id, name, bytes) SELECT $3, name, bytes FROM office_files WHERE kind = $1 AND office_name = $2
       ON CONFLICT (job_id, name) DO UPDATE SET bytes = excluded.bytes`,
      [kind, name, job],
    ),
  );
}

export async function forgetInOffice(kind: keyof OfficeBodies, name: string): Promise<void> {
  const { rowCount } = await getPool().query("DELETE FROM office WHERE kind = $1 AND name = $2", [kind, name]);
  if (!rowCount) throw refusal("change-unknown", { what: `The ${kind} “${name}”` });
}

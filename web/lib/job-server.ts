/** A job's state on the server, for what is made there: handover files and the recipe. */
import { openRecipe, openRecipeTables, writeRecipe, type JobState, type Recipe } from "@bramble/core";
import { intakeBytes, loadJob, loadJobState, reading } from "@bramble/db";

/** One consistent reading of everything stored. */
export function loadState(id: number): Promise<JobState> {
  return reading(async (client) => {
    return loadJobState(client, await loadJob(client, id));
  });
}

export interface RecipeFiles {
  recipe: Recipe;
  files: Map<string, Uint8Array>;
}

/** The job written down, with the files of its intakes by the names that the recipe gives them. */
export function loadRecipe(id: number): Promise<RecipeFiles> {
  return reading(async (client) => {
    const job = await loadJob(client, id);
    const state = await loadJobState(client, job);
    const files = new Map<string, Uint8Array>();
    const names: string[] = [];
    for (const [k, intake] of job.intakes.entries()) {
      const { bytes } = await intakeBytes(client, id, intake.id);
      const name = files.has(intake.file) ? `${k + 1}-${intake.file}` : intake.file;
      names.push(name);
      files.set(name, bytes);
    }
    if (state.geoid) {
      const { rows } = await client.query("SELECT bytes FROM job_files WHERE job_id = $1 AND name = $2", [
        id,
        state.geoid,
      ]);
      if (rows[0]) files.set(state.geoid, rows[0].bytes as Buffer);
    }
    const open = (name: string) => files.get(name)!;
    const plain = { ...writeRecipe(state, state.points, (i) => names[i]!), edits: [] };
    const received = openRecipe(plain, open, undefined, await openRecipeTables(plain, open)).state.points;
    return { recipe: writeRecipe(state, received, (i) => names[i]!), files };
  });
}

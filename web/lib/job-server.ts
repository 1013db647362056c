/** A job's state on the server, for what is made there: handover files and the recipe. */
import { openRecipe, writeRecipe, type JobState, type Recipe } from "@bramble/core";
import { intakeBytes, loadJob, loadPoints, transaction } from "@bramble/db";

/** One consistent reading of everything stored. */
export function loadState(id: number): Promise<JobState> {
  return transaction(async (client) => {
    await client.query("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY");
    const job = await loadJob(client, id);
    return { ...job.definition, intakes: job.intakes, points: await loadPoints(client, id) };
  });
}

export interface RecipeFiles { recipe: Recipe; files: Map<string, Uint8Array> }

/** The job written down, with the files of its intakes by the names that the recipe gives them. */
export function loadRecipe(id: number): Promise<RecipeFiles> {
  return transaction(async (client) => {
    await client.query("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ READ ONLY");
    const job = await loadJob(client, id);
    const state: JobState = { ...job.definition, intakes: job.intakes, points: await loadPoints(client, id) };
    const files = new Map<string, Uint8Array>();
    const names: string[] = [];
    for (const [k, intake] of job.intakes.entries()) {
      const { bytes } = await intakeBytes(client, id, intake.id);
      const name = files.has(intake.file) ? `${k + 1}-${intake.file}` : intake.file;
      names.push(name);
      files.set(name, bytes);
    }
    const plain = writeRecipe(state, state.points, (i) => names[i]!);
    const received = openRecipe({ ...plain, edits: [] }, (name) => files.get(name)!).state.points;
    return { recipe: writeRecipe(state, received, (i) => names[i]!), files };
  });
}

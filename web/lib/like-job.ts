/** What a new job takes from another of the same client: its book, its coordinate system, its control points. */
import { KINDS, type AddedPoints } from "@bramble/core";
import { addedOf } from "@bramble/core/points/add";
import { copyJobFile, getPool, loadJob, loadJobState, reading, reserveIds, storeChange } from "@bramble/db";

/** Refused when there is no such job. */
export async function likeJob(id: number, author: string) {
  const state = await reading(async (client) => loadJobState(client, await loadJob(client, id)));
  const { unit, order, book, system, geoid, scaleFactor, curvature, crews, client } = state;
  const given = Object.entries({ unit, order, book, system, geoid, scaleFactor, curvature, crews, client });
  const t = state.points,
    control: number[] = [];
  for (let i = 0; i < t.count; i++) if (!t.deleted[i] && t.kind[i] === KINDS.indexOf("control")) control.push(i);
  return {
    settings: Object.fromEntries(given.filter(([, v]) => v !== undefined)) as Partial<typeof state>,
    /** Brings what is not a setting: the geoid's grid, and the control points as the first entry of the ledger. */
    async bring(job: number): Promise<void> {
      if (geoid !== undefined) await copyJobFile(id, job, geoid);
      if (control.length === 0) return;
      const first = await reserveIds(getPool(), job, control.length);
      const points: AddedPoints = { ...addedOf(t, control), id: control.map((_, k) => first + k) };
      await storeChange(job, author, { type: "add", points });
    },
  };
}

/** Which points give way to which, stored: worked out again whenever a delivery comes, goes or is read again. */
import { refusal, type IntakeInfo } from "@bramble/core";
import { answersOf, givingWay, type Claimant } from "@bramble/core/points/giving-way";
import type { Client } from "../pool.ts";

/** Ids of points that give way from now on, and of those that are there again. */
export interface Settled {
  away: number[];
  back: number[];
}

interface Row {
  id: number;
  number: string;
  came: string;
  deleted: boolean;
  gaveWay: boolean;
  intake: number | null;
}

/**
 * Settles who gives way among the points of the standing deliveries. Only those come here whose number another has, came
 * with, or that gave way before. Refused where two would share a number with no answer for it.
 */
export async function settleNumbers(client: Client, jobId: number): Promise<Settled> {
  // In most jobs no number is there twice and nothing gives way: seen at a third of what all of it costs.
  const { rows: asked } = await client.query<{ any: boolean }>(
    `SELECT EXISTS (SELECT FROM points WHERE job_id = $1 AND (gave_way OR came_as IS NOT NULL))
         OR EXISTS (SELECT number FROM points
                     WHERE job_id = $1
                       AND (intake_id IS NULL OR intake_id IN (SELECT id FROM intakes WHERE job_id = $1 AND NOT withdrawn))
                     GROUP BY number HAVING count(*) > 1) AS any`,
    [jobId],
  );
  if (!asked[0]!.any) return { away: [], back: [] };
  const { rows: intakes } = await client.query<{ id: number; file: string; info: IntakeInfo }>(
    "SELECT id, file, info FROM intakes WHERE job_id = $1 AND NOT withdrawn ORDER BY sequence",
    [jobId],
  );
  const { rows } = await client.query<Row>(
    `WITH standing AS (
       SELECT p.id, p.number, coalesce(p.came_as, p.number) AS came, p.deleted, p.gave_way, i.id AS intake, i.sequence
         FROM points p LEFT JOIN intakes i ON i.id = p.intake_id
        WHERE p.job_id = $1 AND i.withdrawn IS NOT TRUE),
     shared AS (
       SELECT number FROM (SELECT number FROM standing UNION ALL SELECT came FROM standing WHERE came <> number) AS each
        GROUP BY number HAVING count(*) > 1)
     SELECT id, number, came, deleted, gave_way AS "gaveWay", intake FROM standing
      WHERE gave_way OR number IN (SELECT number FROM shared) OR came IN (SELECT number FROM shared)
      ORDER BY sequence NULLS FIRST, id`,
    [jobId],
  );
  const turnOf = new Map(intakes.map((k, turn) => [k.id, turn])),
    all = rows.map((r): Claimant => ({
      turn: r.intake === null ? -1 : turnOf.get(r.intake)!,
      number: r.number,
      came: r.came,
      isOut: r.deleted,
    }));
  const { away, open } = givingWay(all, answersOf(intakes.map((k) => k.info)));
  if (open.length) {
    const [later, earlier] = open[0]!,
      fileOf = (k: number) => intakes[all[k]!.turn]?.file ?? "what the office made";
    throw refusal("numbers-open", {
      numbers: [...new Set(open.map(([k]) => all[k]!.number))],
      earlier: fileOf(earlier),
      later: fileOf(later),
    });
  }
  const out: Settled = { away: [], back: [] };
  rows.forEach((r, k) => {
    if (away[k] === 1 && !r.gaveWay) out.away.push(r.id);
    if (away[k] === 0 && r.gaveWay) out.back.push(r.id);
  });
  for (const [ids, value] of [
    [out.away, true],
    [out.back, false],
  ] as const)
    if (ids.length)
      await client.query("UPDATE points SET gave_way = $3 WHERE job_id = $1 AND id = ANY($2)", [jobId, ids, value]);
  return out;
}

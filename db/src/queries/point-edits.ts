/** Edits and additions of points in the database, checked against what is stored now. */
import { addedOf, outdatedField, refusal, tableOfAdded, type AddedPoints, type PointsChange } from "@bramble/core";
import { EDIT_FIELDS, fieldOf, isPlain, type EditField } from "@bramble/core/records/fields";
import { encodeAttributes, type Attributes } from "@bramble/core/points/attributes";
import { OBSERVED, type EditValue } from "@bramble/core/points/edits";
import type { Client } from "../pool.ts";

/** Which bit of `follows` a coordinate has. */
function bitOf(field: EditField): number {
  const f = fieldOf(field);
  return (f.is === "length" && f.coordinate?.follows) || 0;
}

/** The type of a field's column. */
const TYPES = { length: "float8", deleted: "boolean" } as Record<string, string | undefined>;
const typeOf = (field: EditField) => TYPES[fieldOf(field).is] ?? "text";

/** A stored value as edits know it. */
const asEdited = (field: EditField, value: EditValue | Attributes): EditValue =>
  field === "attributes" ? encodeAttributes((value ?? {}) as Attributes) : (value as EditValue);

interface Present {
  id: number;
  number: string;
  value: EditValue;
  kind: string;
  follows: number;
  gaveWay: boolean;
}

export async function editPoints(client: Client, jobId: number, change: PointsChange): Promise<void> {
  for (const field of new Set(change.edits.map((e) => e.field))) {
    const edits = change.edits.filter((e) => e.field === field);
    const { stored: name } = fieldOf(field),
      type = typeOf(field),
      bit = bitOf(field);
    if (isPlain(field) && (await editPlainly(client, jobId, field, edits))) continue;
    const { rows } = await client.query<Present>(
      `SELECT p.id, p.number, p.${name} AS value, p.kind, p.follows, p.gave_way AS "gaveWay"
         FROM points p LEFT JOIN intakes i ON i.id = p.intake_id
        WHERE p.job_id = $1 AND p.id = ANY($2) AND i.withdrawn IS NOT TRUE`,
      [jobId, edits.map((e) => e.id)],
    );
    const now = new Map(rows.map((r) => [r.id, r]));
    for (const e of edits) {
      const present = now.get(e.id);
      if (!present) throw refusal("change-unknown", { what: "A point that you changed" });
      if (present.gaveWay)
        throw refusal("change-outdated", { what: `Point ${present.number}`, theirs: "giving way to another delivery" });
      if (present.kind === "reference" && field !== "deleted")
        throw refusal("change-reference", { number: present.number });
      const value = present.follows & bit ? OBSERVED : asEdited(field, present.value);
      if (value !== e.old) throw outdatedField(present.number, e, value, await authorOf(client, jobId, e.id, field));
    }
    const given = edits.filter((e) => !(bit && e.new === OBSERVED)),
      free = edits.filter((e) => bit && e.new === OBSERVED);
    // The first number stays known for as long as the point has another.
    const first = field === "number" ? ", came_as = nullif(coalesce(p.came_as, p.number), u.value)" : "";
    const value = field === "attributes" ? "nullif(u.value, '')::jsonb" : "u.value";
    await client.query(
      `UPDATE points p SET ${name} = ${value}, follows = p.follows & ~$4::int${first}
         FROM unnest($2::int[], $3::${type}[]) AS u(id, value) WHERE p.job_id = $1 AND p.id = u.id`,
      [jobId, given.map((e) => e.id), given.map((e) => e.new), bit],
    );
    if (free.length)
      await client.query("UPDATE points SET follows = follows | $3::int WHERE job_id = $1 AND id = ANY($2)", [
        jobId,
        free.map((e) => e.id),
        bit,
      ]);
  }
  const touched = change.edits
    .filter((e) => e.field === "number" || (e.field === "deleted" && e.new === false))
    .map((e) => e.id);
  if (touched.length) await refuseRepeated(client, jobId, touched);
}

/**
 * Edits of one field where every point has the old value still: one statement, without the values coming here. False,
 * with nothing done, where some have not: then it is looked up which, and why.
 */
async function editPlainly(
  client: Client,
  jobId: number,
  field: EditField,
  edits: PointsChange["edits"],
): Promise<boolean> {
  const { stored: name } = fieldOf(field),
    type = typeOf(field),
    bit = bitOf(field),
    ids = edits.map((e) => e.id);
  if (new Set(ids).size !== ids.length || edits.some((e) => e.old === OBSERVED || e.new === OBSERVED)) return false;
  await client.query("SAVEPOINT plainly");
  const { rowCount } = await client.query(
    `UPDATE points p SET ${name} = u.new
       FROM unnest($2::int[], $3::${type}[], $4::${type}[]) AS u(id, old, new)
      WHERE p.job_id = $1 AND p.id = u.id AND p.${name} IS NOT DISTINCT FROM u.old AND p.follows & $5::int = 0
        AND p.kind <> 'reference' AND NOT p.gave_way
        AND (p.intake_id IS NULL OR p.intake_id NOT IN (SELECT id FROM intakes WHERE job_id = $1 AND withdrawn))`,
    [jobId, ids, edits.map((e) => e.old), edits.map((e) => e.new), bit],
  );
  if (rowCount !== ids.length) await client.query("ROLLBACK TO SAVEPOINT plainly");
  await client.query("RELEASE SAVEPOINT plainly");
  return rowCount === ids.length;
}

/** Who changed a field of a point last. */
async function authorOf(client: Client, jobId: number, id: number, field: EditField): Promise<string | undefined> {
  const edit = { edits: [{ id, field }] };
  const { rows } = await client.query(
    "SELECT author FROM ledger WHERE job_id = $1 AND (change @> $2 OR change @> $3) ORDER BY seq DESC LIMIT 1",
    [jobId, JSON.stringify(edit), JSON.stringify({ changes: [edit] })],
  );
  return rows[0]?.author as string | undefined;
}

const FEW = 2000;

async function refuseRepeated(client: Client, jobId: number, ids: number[]): Promise<void> {
  const numbers =
    ids.length > FEW
      ? undefined
      : (await client.query("SELECT number FROM points WHERE job_id = $1 AND id = ANY($2)", [jobId, ids])).rows.map(
          (r) => r.number as string,
        );
  const [taken] = await repeatedNumbers(client, jobId, numbers);
  if (taken !== undefined) throw refusal("change-number-taken", { number: taken });
}

/**
 * Numbers that two living points have, of those given or of all; points are grouped once, whatever the planner knows of
 * them.
 */
export async function repeatedNumbers(client: Client, jobId: number, numbers?: string[]): Promise<string[]> {
  const { rows } = await client.query(
    `
    SELECT number FROM points
     WHERE job_id = $1 AND NOT deleted AND NOT gave_way ${numbers ? "AND number = ANY($2)" : ""}
       AND (intake_id IS NULL OR intake_id IN (SELECT id FROM intakes WHERE job_id = $1 AND NOT withdrawn))
     GROUP BY number HAVING count(*) > 1 ORDER BY number LIMIT 5`,
    numbers ? [jobId, numbers] : [jobId],
  );
  return rows.map((r) => r.number as string);
}

/** What a point that an office makes has of a field of which nothing is said. */
const NOT_SAID = { text: "''", choice: "'computed'" } as Record<string, string | undefined>;

/** Points of the office; their ids were reserved for the window that made them. */
export async function addPoints(client: Client, jobId: number, added: AddedPoints): Promise<void> {
  const { next_point: next } = (await client.query("SELECT next_point FROM jobs WHERE id = $1", [jobId])).rows[0];
  const taken = await client.query("SELECT 1 FROM points WHERE job_id = $1 AND id = ANY($2) LIMIT 1", [
    jobId,
    added.id,
  ]);
  if (taken.rowCount || added.id.some((id, k) => id >= next || (k > 0 && id <= added.id[k - 1]!))) {
    throw refusal("request-wrong", {
      why: "A point that is made needs an id that was reserved for it and is not taken",
    });
  }
  const fields = EDIT_FIELDS.filter((f) => fieldOf(f).added),
    given = fields.filter((f) => added[f as keyof AddedPoints]),
    stored = (f: EditField) => fieldOf(f).stored;
  const values = fields.map((f) => (given.includes(f) ? stored(f) : (NOT_SAID[fieldOf(f).is] ?? "NULL")));
  await client.query(
    `INSERT INTO points (job_id, id, intake_id, row, ${fields.map(stored).join(", ")})
     SELECT $1, id, NULL, 0, ${values.join(", ")}
       FROM unnest($2::int[], ${given.map((f, k) => `$${k + 3}::${typeOf(f)}[]`).join(", ")})
         AS u(id, ${given.map(stored).join(", ")})`,
    [jobId, added.id, ...given.map((f) => added[f as keyof AddedPoints])],
  );
  await refuseRepeated(client, jobId, added.id);
}

/** Takes added points out again, when they still are as they were added. */
export async function removePoints(client: Client, jobId: number, added: AddedPoints): Promise<void> {
  const { rows } = await client.query(
    `
    SELECT id, ${EDIT_FIELDS.map((f) => `${fieldOf(f).stored} AS "${f}"`).join(", ")}
      FROM points WHERE job_id = $1 AND id = ANY($2) AND intake_id IS NULL`,
    [jobId, added.id],
  );
  const now = new Map(rows.map((r) => [r.id as number, r]));
  const table = tableOfAdded(added),
    as = addedOf(
      table,
      added.id.map((_, k) => k),
    );
  const fields = EDIT_FIELDS.filter((f) => fieldOf(f).added);
  for (const [k, id] of added.id.entries()) {
    const r = now.get(id);
    if (!r) throw refusal("change-unknown", { what: `Point ${added.number[k]}` });
    const changed = fields.find((f) => r[f] !== as[f as keyof AddedPoints]![k]);
    if (changed || r.surface !== "auto" || r.cues !== "" || r.attributes !== null || r.deleted) {
      throw refusal("change-outdated", {
        what: `Point ${r.number}`,
        theirs: "different",
        author: await authorOf(
          client,
          jobId,
          id,
          changed ?? (r.deleted ? "deleted" : r.cues ? "cues" : r.attributes ? "attributes" : "surface"),
        ),
      });
    }
  }
  await client.query("DELETE FROM points WHERE job_id = $1 AND id = ANY($2) AND intake_id IS NULL", [jobId, added.id]);
}

/** Ids for points that a window is going to make: `count` of them from the first given back, for nobody else. */
export async function reserveIds(db: Pick<Client, "query">, jobId: number, count: number): Promise<number> {
  const { rows } = await db.query(
    "UPDATE jobs SET next_point = next_point + $2 WHERE id = $1 RETURNING next_point - $2 AS first",
    [jobId, count],
  );
  if (!rows[0]) throw refusal("job-unknown", { job: String(jobId) });
  return rows[0].first as number;
}

/** The present points of a job as a column table. */
import { KINDS } from "@bramble/core";
import { emptyTable, SURFACE_CHOICES, TextStore, type PointTable } from "@bramble/core/points/table";
import type { Client } from "../pool.ts";

const BATCH = 50_000;

type Row = [
  id: number, intake: number, row: number, number: string, e: number, n: number, z: number | null, precision: number | null,
  targetHeight: number | null, time: number | null, description: string, note: string, attributes: Record<string, string> | null,
  kind: string, surface: string, deleted: boolean, follows: number,
];

/** All points whose intake is not withdrawn, by id; `intake` is the place of the intake among those of loadJob. */
export async function loadPoints(db: Pick<Client, "query">, jobId: number): Promise<PointTable> {
  const keys = (await db.query("SELECT id FROM intakes WHERE job_id = $1 AND NOT withdrawn ORDER BY place", [jobId])).rows.map((r) => r.id as number);
  const placeOf = new Map(keys.map((id, i) => [id, i]));
  const count = (await db.query("SELECT count(*)::int AS n FROM points WHERE job_id = $1 AND intake_id = ANY($2)", [jobId, keys])).rows[0].n as number;
  const t: PointTable = {
    ...emptyTable(), count, id: new Int32Array(count), intake: new Int32Array(count), row: new Int32Array(count), number: Array.from({ length: count }, () => ""),
    e: new Float64Array(count), n: new Float64Array(count), z: new Float64Array(count), kind: new Uint8Array(count), surface: new Uint8Array(count),
    deleted: new Uint8Array(count), follows: new Uint8Array(count), precision: new Float64Array(count), targetHeight: new Float64Array(count), time: new Float64Array(count),
    description: new Uint32Array(count), note: new Uint32Array(count),
  };
  const store = new TextStore(t.texts);
  const attributes = new Map<string, Uint32Array>();
  let i = 0;
  for (let last = 0; i < count; ) {
    const { rows } = (await db.query({
      rowMode: "array",
      text: `SELECT id, intake_id, row, number, easting, northing, elevation, precision, target_height, time, description, note, attributes, kind, surface, deleted, follows
               FROM points WHERE job_id = $1 AND intake_id = ANY($2) AND id > $3 ORDER BY id LIMIT ${BATCH}`,
      values: [jobId, keys, last],
    })) as unknown as { rows: Row[] };
    if (rows.length === 0) break;
    for (const r of rows) {
      t.id[i] = last = r[0];
      t.intake[i] = placeOf.get(r[1])!;
      t.row[i] = r[2];
      t.number[i] = r[3];
      t.e[i] = r[4];
      t.n[i] = r[5];
      t.z[i] = r[6] ?? NaN;
      t.precision[i] = r[7] ?? NaN;
      t.targetHeight[i] = r[8] ?? NaN;
      t.time[i] = r[9] ?? NaN;
      t.description[i] = store.of(r[10]);
      t.note[i] = store.of(r[11]);
      if (r[12]) {
        for (const [name, value] of Object.entries(r[12])) {
          let column = attributes.get(name);
          if (!column) attributes.set(name, (column = new Uint32Array(count)));
          column[i] = store.of(value);
        }
      }
      t.kind[i] = KINDS.indexOf(r[13] as (typeof KINDS)[number]);
      t.surface[i] = SURFACE_CHOICES.indexOf(r[14] as (typeof SURFACE_CHOICES)[number]);
      t.deleted[i] = r[15] ? 1 : 0;
      t.follows[i] = r[16];
      i++;
    }
  }
  t.attributes = [...attributes].map(([name, values]) => ({ name, values }));
  return t;
}

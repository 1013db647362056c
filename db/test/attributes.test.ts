/** Attributes that the office gives, on a real PostgreSQL. */
import path from "node:path";
import { encodeAttributes, type Attributes } from "@bramble/core/points/attributes";
import { fieldValue } from "@bramble/core/points/edits";
import { measuredAt } from "@bramble/core/records/measured";
import { GENERAL_BOOK, type Column, type EditableChange } from "@bramble/core";
import {
  closePool,
  copyJob,
  createJob,
  getPool,
  loadPoints,
  migrate,
  storeChange,
  takeIntake,
  undoLast,
} from "../src/index";

beforeAll(() => migrate(path.join(__dirname, "../migrations")));
afterAll(closePool);

test("they are stored beside those of the file, checked against what is there, and taken back", async () => {
  const job = await createJob({ name: "Trees", unit: "m", order: "EN", book: GENERAL_BOOK });
  const columns = ["number", "easting", "northing", "elevation", "description", "attr:kind"] as const;
  const text = "1,0,0,5,TREE,oak\n2,9,0,5,TREE,\n";
  await takeIntake(
    job,
    "Ada",
    { file: "day1.csv", layout: { delimiter: ",", columns: [...columns] } },
    new TextEncoder().encode(text),
  );
  const now = async (row: number) => fieldValue(await loadPoints(getPool(), job), row, "attributes");
  const give = (id: number, old: Attributes, to: Attributes): EditableChange => ({
    type: "points",
    edits: [{ id, field: "attributes", old: encodeAttributes(old), new: encodeAttributes(to) }],
  });
  // PostgreSQL keeps names of objects in an order of its own.
  const tree = { kind: "oak", spread: "4", a: "1", "long name": "é “x”" };
  await storeChange(job, "Ada", give(1, { kind: "oak" }, tree));
  await storeChange(job, "Ada", give(2, {}, { spread: "3" }));
  expect([await now(0), await now(1)]).toEqual([encodeAttributes(tree), '{"spread":"3"}']);
  await expect(storeChange(job, "Ben", give(1, { kind: "oak" }, { kind: "ash" }))).rejects.toThrow(
    "The attributes of point 1 was changed meanwhile by Ada",
  );
  await storeChange(job, "Ben", give(1, tree, {}));
  expect(await now(0)).toBe("");
  await undoLast(job, "Ben");
  await undoLast(job, "Ada");
  expect([await now(0), await now(1)]).toEqual([encodeAttributes(tree), ""]);
});

test("what the field says of how points were measured is stored, loaded, and copied along", async () => {
  const job = await createJob({ name: "Rover", unit: "m", order: "EN", book: GENERAL_BOOK });
  const columns: Column[] = ["number", "easting", "northing", "elevation", "precisionPlan", "satellites", "fix"];
  const text = '1,0,0,5,0.0125,9,"fixed\tby ""two"""\n2,9,0,5,,,\n3,9,9,5,0.5,11,float\n';
  await takeIntake(
    job,
    "Ada",
    { file: "day1.csv", layout: { delimiter: ",", columns } },
    new TextEncoder().encode(text),
  );
  const said = async (of: number) => {
    const t = await loadPoints(getPool(), of);
    return Array.from({ length: t.count }, (_, i) => measuredAt(t.measured, i, t.texts));
  };
  const all = [
    { precisionPlan: 0.0125, satellites: 9, fix: 'fixed\tby "two"' },
    undefined,
    { precisionPlan: 0.5, satellites: 11, fix: "float" },
  ];
  expect(await said(job)).toEqual(all);
  expect(await said(await copyJob(job, "Rover again"))).toEqual(all);
});

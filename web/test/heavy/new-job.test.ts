/** New jobs: what comes from a template and from another job, in the unit that they are made in. */
import path from "node:path";
import { generalBook, type CodeBook } from "@bramble/core";
import { closePool, createJob, getPool, keepInOffice, listOffice, loadJob, migrate, type Template } from "@bramble/db";
import { makeJob } from "../../heavy/new-job";
import { readKept } from "../../server/edge";

beforeAll(() => migrate(path.join(__dirname, "../../../db/migrations")));
beforeEach(() => getPool().query("TRUNCATE office CASCADE"));
afterAll(closePool);

const definition = async (id: number) => (await loadJob(getPool(), id)).definition;
const made = async (asked: object) => definition(await makeJob(asked, "Ada", null));
const geoidOf = async (job: number) =>
  (await getPool().query("SELECT name, bytes FROM job_files WHERE job_id = $1", [job])).rows.map((r) => [
    r.name,
    (r.bytes as Buffer).toString(),
  ]);

/** A metric job with settings of every kind, and its geoid's grid. */
async function metricJob(): Promise<number> {
  const id = await createJob({
    name: "Gorsefold",
    unit: "m",
    order: "EN",
    book: { codes: [{ code: "KERB", kind: "line", maxSegment: 30.48 }] },
    angle: "bearing-dms",
    areaUnit: "acre",
    volumeUnit: "acft",
    geoid: "grid.gtx",
    levelPrecision: { shot: 0.03 },
    crew: "A",
    nextNumber: "500",
  } as never);
  await getPool().query("INSERT INTO job_files (job_id, name, bytes) VALUES ($1, 'grid.gtx', 'a grid')", [id]);
  return id;
}

test("a job without template or other job has the starter book in its own unit", async () => {
  for (const unit of ["m", "ft", "ftUS"] as const)
    expect((await made({ name: "Plot", unit })).book).toEqual(JSON.parse(JSON.stringify(generalBook(unit))));
  expect((await made({ name: "Plot", unit: "ft", book: "empty" })).book).toEqual({});
});

test("another job brings its settings with the geoid's grid, and not what belongs to its field work", async () => {
  const id = await makeJob({ name: "Next", like: await metricJob() }, "Ada", null),
    next = await definition(id);
  expect(next).toMatchObject({
    unit: "m",
    angle: "bearing-dms",
    areaUnit: "acre",
    volumeUnit: "acft",
    geoid: "grid.gtx",
    levelPrecision: { shot: 0.03 },
  });
  expect([next.crew, next.nextNumber]).toEqual([undefined, undefined]);
  expect(await geoidOf(id)).toEqual([["grid.gtx", "a grid"]]);
});

test("a template brings the same, the grid too; forgotten, its grid goes with it", async () => {
  const job = await metricJob(),
    { name: _, setups: __, lines: ___, crew, ...body } = (await definition(job)) as unknown as Record<string, unknown>,
    fields = Object.fromEntries(Object.entries(body).filter(([k]) => !["id", "states", "date"].includes(k)));
  const kept = await readKept("template", { name: "usual", body: pick(fields), from: job });
  await keepInOffice("template", "usual", kept.body as Template, { job: kept.from!, file: "grid.gtx" });
  const id = await makeJob({ name: "Next", template: "usual" }, "Ada", null);
  expect(await definition(id)).toMatchObject({ unit: "m", angle: "bearing-dms", areaUnit: "acre", geoid: "grid.gtx" });
  expect(await geoidOf(id)).toEqual([["grid.gtx", "a grid"]]);
  // In feet the book's lengths are converted, and no other length comes along.
  const feet = await made({ name: "Feet", template: "usual", unit: "ft" });
  expect(feet.unit).toBe("ft");
  expect(feet.book).toEqual({ codes: [{ code: "KERB", kind: "line", maxSegment: 100 }] });
  expect(feet.levelPrecision).toBeUndefined();
  expect(feet.angle).toBe("bearing-dms");
  // Kept again without one, the grid of before is gone.
  await keepInOffice("template", "usual", kept.body as Template);
  expect((await getPool().query("SELECT count(*)::int AS n FROM office_files")).rows[0].n).toBe(0);
  expect(crew).toBe("A");
});

/** What a template may say. */
function pick(all: Record<string, unknown>): Record<string, unknown> {
  const may = ["unit", "order", "book", "angle", "areaUnit", "volumeUnit", "geoid", "levelPrecision", "tolerance"];
  return Object.fromEntries(Object.entries(all).filter(([k]) => may.includes(k)));
}

test("a template whose grid nobody has is refused, and nothing is kept", async () => {
  const body = { unit: "m", geoid: "grid.gtx" } as never;
  await expect(readKept("template", { name: "x", body })).rejects.toThrow(/names the job from which its grid comes/);
  const job = await createJob({ name: "Plot", unit: "m", order: "EN", book: {} });
  await expect(keepInOffice("template", "x", body, { job, file: "grid.gtx" })).rejects.toThrow(/grid\.gtx/);
  expect((await listOffice("template")).filter((t) => t.name === "x")).toEqual([]);
});

test("a book that the office keeps in metres comes into a job of feet converted", async () => {
  const book: CodeBook = { unit: "m", codes: [{ code: "KERB", kind: "line", maxSegment: 30.48 }] },
    kept = await readKept("book", { name: "ours", body: book });
  await keepInOffice("book", "ours", kept.body as CodeBook);
  expect((await made({ name: "Plot", unit: "ft", officeBook: "ours" })).book).toEqual({
    codes: [{ code: "KERB", kind: "line", maxSegment: 100 }],
  });
  for (const body of [true, 0, "", "x", [], null])
    await expect(readKept("template", { name: "odd", body })).rejects.toThrow(/object|required/);
  await expect(readKept("book", { name: "odd", body: { unit: "yd" } })).rejects.toThrow(/unit/);
});

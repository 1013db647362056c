/** A process that ends by force when it has stored something, or just before: what is answered is what was stored. */
import path from "node:path";
import { GENERAL_BOOK } from "@bramble/core";
import { closePool, createJob, getPool, jobMadeFor, listLedger, loadJob, migrate, transaction } from "@bramble/db";
import { processes } from "../../heavy/processes";
import { madeBeside, storedBeside } from "../../server/stored";
import { bundledProgram } from "./bundle";

const program = bundledProgram();
let job: number;

beforeAll(async () => {
  process.env.BRAMBLE_HEAVY = program.path;
  await migrate(path.join(__dirname, "../../../db/migrations"));
});
beforeEach(async () => {
  job = await createJob({ name: "Plot", unit: "m", order: "EN", book: GENERAL_BOOK });
});
afterAll(async () => {
  processes().close();
  await closePool();
  program.remove();
});

const asked = (how: string) => ({ job, author: "Ada", name: `${how}-${job}-name`, path: how });

test("a change that was stored is answered as it is; one that was not says so", async () => {
  const answer = await storedBeside("long", "change", asked("stores"), "This change");
  expect(await answer.json()).toMatchObject({ seq: 1, author: "Ada", client: asked("stores").name });
  await expect(storedBeside("long", "change", asked("dies"), "This change")).rejects.toMatchObject({
    code: "work-ended",
    message: expect.stringContaining("This change ended unexpectedly. Nothing was stored"),
  });
  expect((await listLedger(job)).length).toBe(1);
});

test("so is a delivery, with what was read of it", async () => {
  const answer = await storedBeside("quick", "take", { ...asked("stores"), head: 2 }, "This file", 201);
  expect([answer.status, await answer.json()]).toMatchObject([
    201,
    { entry: { seq: 1, change: { intake: "day1" } }, info: { id: "day1", points: 1 } },
  ]);
  await expect(storedBeside("quick", "take", { ...asked("dies"), head: 2 }, "This file")).rejects.toMatchObject({
    code: "work-ended",
  });
  expect((await loadJob(getPool(), job)).intakes.length).toBe(1);
});

test("and a new job", async () => {
  const made = (how: string) =>
    madeBeside("create", { author: "Ada", name: `${how}-${job}-job`, form: { name: how } }, "This job");
  const { id } = (await (await made("stores")).json()) as { id: number };
  expect((await loadJob(getPool(), id)).definition.name).toBe("Made");
  await expect(made("dies")).rejects.toMatchObject({ code: "work-ended" });
  expect(await transaction((client) => jobMadeFor(client, `dies-${job}-job`))).toBeUndefined();
});

/** A job as one archive: it goes to another office and is the same job there, on a real PostgreSQL. */
import path from "node:path";
import type { EditField } from "@bramble/core/records/fields";
import { Chain, GENERAL_BOOK, type EditableChange, type PointEdit } from "@bramble/core";
import { fieldValue, type EditValue } from "@bramble/core/points/edits";
import {
  closePool,
  createJob,
  getPool,
  listJobs,
  listLedger,
  loadJob,
  migrate,
  reserveIds,
  storeChange,
  takeIntake,
  transaction,
} from "@bramble/db";
import { strFromU8, unzipSync, zipSync } from "fflate";
import { loadDemo } from "../../../demo/src/load";
import { loadState } from "../../heavy/job-state";
import { freeName, loadPackage, takePackage } from "../../heavy/package";

const utf8 = (text: string) => new TextEncoder().encode(text);
const layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] as never };
const named = (part: string, name: string, body: unknown) =>
  ({ type: "named", part, name, old: null, new: body }) as EditableChange;

beforeAll(() => migrate(path.join(__dirname, "../../../db/migrations")));
afterAll(closePool);

/** Edits of points by their numbers, on what is there now. */
async function edit(job: number, ...wanted: [string, EditField, EditValue][]): Promise<void> {
  const { points: t } = (await loadState(job)).state;
  const edits = wanted.map(([number, field, now]): PointEdit => {
    const i = t.number.findIndex((n, k) => n === number && !t.deleted[k]);
    return { id: t.id[i]!, field, old: fieldValue(t, i, field), new: now };
  });
  await storeChange(job, "Ada", { type: "points", edits });
}

/** A job with all that an office does to one, from two files of one name and one that is called like the recipe. */
async function worked(): Promise<number> {
  const job = await createJob({ name: "Plot", unit: "ft", order: "EN", book: GENERAL_BOOK, date: "2031-04-17" });
  await takeIntake(job, "Ada", { file: "a.csv", layout }, utf8("1,0,0,5,FENCE1\n2,10,0,6,FENCE1\n3,10,10,7,SPOT\n"));
  await takeIntake(
    job,
    "Ben",
    { file: "a.csv", layout, clash: "add", add: 100 },
    utf8("1,20,0,5,SPOT\n2,30,5,,TREE 4.5\n"),
  );
  await takeIntake(job, "Ben", { file: "recipe.json", layout, clash: "replace" }, utf8("3,11,10,7.5,SPOT\n"));
  await takeIntake(job, "Ben", { file: "__proto__", layout }, utf8("9,40,40,8,SPOT\n"));
  await edit(
    job,
    ["1", "elevation", 5.25],
    ["1", "note", "by hand"],
    ["101", "deleted", true],
    ["2", "surface", "out"],
  );
  const first = await transaction((client) => reserveIds(client, job, 2));
  // Two points exchange their numbers.
  await edit(job, ["1", "number", "2"], ["2", "number", "1"]);
  await storeChange(job, "Ada", {
    type: "add",
    points: {
      id: [first],
      number: ["900"],
      easting: [5],
      northing: [6.125],
      elevation: [null],
      description: ["SPOT"],
      note: ["made"],
    },
  });
  await edit(job, ["900", "surface", "in"], ["900", "attributes", '{"kind":"oak"}']);
  await storeChange(job, "Ada", named("sets", "high", { name: "high", rule: { elevation: [6, null] } }));
  await storeChange(job, "Ada", named("surfaces", "ground", { name: "ground" }));
  // One that follows a shot and a point of the office, and a surface; where it was made is not where it stands.
  await storeChange(job, "Ada", {
    type: "several",
    text: "Point 901 made",
    changes: [
      {
        type: "add",
        points: {
          id: [first + 1],
          number: ["901"],
          easting: [1],
          northing: [1],
          elevation: [null],
          description: ["ROD"],
        },
      },
      {
        type: "named",
        part: "computed",
        name: String(first + 1),
        old: null,
        new: {
          point: first + 1,
          by: { between: ["a:2\t2", `*made:${first}\t900`], ratio: 0.25 },
          elevation: { surface: "ground", up: 1 },
        },
      },
    ],
  });
  await storeChange(
    job,
    "Ada",
    named("lines", "by hand 1", { name: "by hand 1", code: "FENCE", points: ["a:1\t1", "a:2\t2", "recipe:1\t3"] }),
  );
  await storeChange(job, "Ada", named("handover", "p.csv", { file: "p.csv", format: "csv", guard: true }));
  return job;
}

const recipeIn = (zip: Uint8Array) => JSON.parse(strFromU8(unzipSync(zip)["recipe.json"]!)) as Record<string, never>;

test("what was done to a job is there in the job that its package becomes, and in that one's package", async () => {
  const job = await worked(),
    zip = await loadPackage(job, true);
  expect(Object.keys(unzipSync(zip)).sort()).toEqual([
    "2-__proto__",
    "2-a.csv",
    "2-recipe.json",
    "a.csv",
    "recipe.json",
  ]);
  const again = await takePackage(zip, "Cy", "request-0001");
  expect(recipeIn(await loadPackage(again, true))).toEqual(recipeIn(zip));
  expect([...(await loadPackage(again, true))]).toEqual([...zip]);

  const [was, is] = [(await loadState(job)).state, (await loadState(again)).state];
  const figures = (state: typeof was) => {
    const { points: t } = new Chain().run(state);
    return t.number
      .map((n, i) => [n, t.e[i], t.n[i], t.z[i], t.deleted[i], fieldValue(t, i, "note"), fieldValue(t, i, "surface")])
      .sort((a, b) => Number(a[1]) - Number(b[1]) || Number(a[3]) - Number(b[3]));
  };
  expect(figures(was)).toContainEqual(["901", 8.75, 1.53125, expect.any(Number), 0, "", "auto"]);
  expect(figures(is)).toEqual(figures(was));
  expect([is.name, is.unit, is.order, is.date, is.lines, is.sets]).toEqual([
    "Plot",
    "ft",
    "EN",
    "2031-04-17",
    was.lines,
    was.sets,
  ]);
  expect((await listLedger(again)).map((e) => [e.author, e.text]).reverse()).toEqual([
    ["Cy", "“a.csv” taken in"],
    ["Cy", "“2-a.csv” taken in"],
    ["Cy", "“2-recipe.json” taken in"],
    ["Cy", "“2-__proto__” taken in"],
    ["Cy", expect.stringContaining("of the package")],
  ]);
  // Asked for twice, made once.
  expect(await takePackage(zip, "Cy", "request-0001")).toBe(again);
});

test("the demo job, raw observations, accepted findings and all, goes from office to office as it is", async () => {
  await loadDemo();
  for (const { id, name } of (await listJobs()).filter((j) => j.name.startsWith("Gorsefold")).slice(0, 2)) {
    const zip = await loadPackage(id, true),
      again = await takePackage(zip, "Cy", null);
    expect((await loadJob(getPool(), again)).definition.name).toBe(name);
    expect(recipeIn(await loadPackage(again, true))).toEqual(recipeIn(zip));
  }
});

test.each([
  ["no archive", utf8("PK\x03\x04 not really"), "archive"],
  ["an archive without a recipe", zipSync({ "a.csv": utf8("1,2,3") }), "holds no “recipe.json”"],
  ["a recipe of no JSON", zipSync({ "recipe.json": utf8("{") }), "not JSON"],
  [
    "a recipe without its files",
    zipSync({ "recipe.json": utf8('{"recipe":1,"intakes":[{"id":"a","file":"a.csv"}]}') }),
    "holds no file “a.csv”",
  ],
  [
    "a file of no points behind one that has some",
    zipSync({
      "recipe.json": utf8('{"recipe":1,"intakes":[{"id":"a","file":"a.csv"},{"id":"b","file":"b.csv"}]}'),
      "a.csv": utf8("1,2,3,4,SPOT\n"),
      "b.csv": utf8("nothing\n"),
    }),
    "no column for easting",
  ],
])("%s is refused by a sentence, and no job is made", async (_, bytes, why) => {
  const before = (await listJobs()).length;
  await expect(takePackage(bytes, "Cy", null)).rejects.toMatchObject({ message: expect.stringContaining(why) });
  expect((await listJobs()).length).toBe(before);
});

test("names that are taken, by capitals too, are given a number", () => {
  const taken = new Map([
    ["A.csv", 0],
    ["2-a.csv", 0],
  ]);
  expect(["a.csv", "Recipe.JSON", "b.csv"].map((n) => freeName(n, taken))).toEqual([
    "3-a.csv",
    "2-Recipe.JSON",
    "b.csv",
  ]);
});

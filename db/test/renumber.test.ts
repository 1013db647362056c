/** Renumbering on a real PostgreSQL: what a point came with is known over undo, another reading and a copy of the job. */
import path from "node:path";
import { GENERAL_BOOK, renumber, runChain, type JobState } from "@bramble/core";
import {
  closePool,
  copyJob,
  createJob,
  getPool,
  loadJob,
  loadJobState,
  migrate,
  readIntakeAgain,
  storeChange,
  takeIntake,
  undoLast,
} from "../src/index";

beforeAll(() => migrate(path.join(__dirname, "../migrations")));
afterAll(closePool);
const stored = async (job: number): Promise<JobState> => loadJobState(getPool(), await loadJob(getPool(), job));
const linesOf = (s: JobState) => runChain(s).lines.map((l) => Array.from(l.shots, (i) => s.points.number[i]));

test("the field's cue means the point that came with the number, whatever it is called since", async () => {
  const job = await createJob({ name: "Pegs", unit: "m", order: "EN", book: GENERAL_BOOK });
  const columns = ["number", "easting", "northing", "elevation", "description"] as const;
  const layout = { delimiter: ",", columns: [...columns] };
  const text = "1,0,0,5,HEDGE\n2,9,0,5,HEDGE end\n3,5,5,5,WALL from=1\n4,9,9,5,WALL\n";
  await takeIntake(job, "Ada", { file: "day1.csv", layout }, new TextEncoder().encode(text));
  const before = await stored(job);
  expect(linesOf(before)).toEqual([
    ["1", "2"],
    ["1", "3", "4"],
  ]);
  const swap = [
    { id: 1, number: "9" },
    { id: 4, number: "1" },
  ];
  await storeChange(job, "Ada", renumber(before, swap).change);
  const after = await stored(job);
  expect(after.points.cameAs).toEqual({ 1: "1", 4: "4" });
  expect(linesOf(after)).toEqual([
    ["9", "2"],
    ["9", "3", "1"],
  ]);
  // The points of another reading, and of a copy, are others; what they came with is still known.
  await readIntakeAgain(job, "Ada", "day1", { layout, crew: "B", file: "day1.csv" } as never);
  expect(linesOf(await stored(job))).toEqual(linesOf(after));
  expect(linesOf(await stored(await copyJob(job, "Pegs again")))).toEqual(linesOf(after));
  await undoLast(job, "Ada", true);
  await undoLast(job, "Ada");
  const back = await stored(job);
  expect(back.points.cameAs).toBeUndefined();
  expect(linesOf(back)).toEqual(linesOf(before));
});

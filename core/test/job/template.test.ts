/** What a job gives the next one to begin with. */
import { checkPartShape, NAMED_PARTS, type JobState, type NamedPart } from "../../src";
import { templateFields } from "../../src/job/model/model";
import { templateOf } from "../../src/job/leave/template";
import { refsOfNumbers } from "../../src/points/refs";
import { stateOf } from "../job";

const rows = [1, 2, 3, 4].map((number) => ({ number, e: number % 2, n: number, z: 1, code: "SPOT" }));
const base = stateOf(rows, {
    surfaces: [{ name: "ground", swap: [["1", "2"]] }],
    lines: [{ name: "l", code: "WALL", points: "1-3" }],
    sets: [{ name: "by number", rule: { numbers: "1-3" } }],
  }),
  points = ["1", "4", "9"].map(refsOfNumbers(base.points, base.intakes)),
  job: JobState = {
    ...base,
    sets: [...base.sets, { name: "chosen", rule: { not: { points } } }],
    surfaces: [...base.surfaces, { name: "old", file: "old.dxf" }],
  };

test("points are known by their numbers alone; what belongs to the job alone stays behind", () => {
  const template = templateOf(job);
  expect(template.surfaces).toEqual([{ name: "ground", swap: [["*number:1", "*number:2"]] }]);
  expect(template.sets).toEqual([
    { name: "by number", rule: { numbers: "1-3" } },
    { name: "chosen", rule: { not: { points: ["*number:1", "*number:4", "*number:9"] } } },
  ]);
  expect(Object.keys(template)).toEqual(templateFields().filter((f) => job[f as keyof JobState] !== undefined));
  for (const part of NAMED_PARTS.filter((p): p is NamedPart => p in template))
    for (const thing of template[part] as unknown[]) expect(checkPartShape(part, thing)).toBeUndefined();
  expect(template).not.toHaveProperty("lines");
});

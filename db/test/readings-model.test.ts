import path from "node:path";
import fc from "fast-check";
import { closePool, migrate } from "../src/index";
import { checkSteps, steps } from "./readings-model";

beforeAll(() => migrate(path.join(__dirname, "../migrations")));
afterAll(closePool);

test(
  "deliveries, readings and edits in any order: what is there is what a plain model says",
  () => fc.assert(fc.asyncProperty(steps, checkSteps), { numRuns: 40 }),
  240_000,
);

test("a withdrawal is not taken back beside another reading of the file that stands meanwhile", () =>
  checkSteps([
    [0, 1, 1, 0, 0],
    [20, 1, 0, 0, 0],
    [0, 1, 0, 0, 1],
    [0, 1, 1, 0, 1],
    [0, 0, 0, 0, 0],
    [0, 0, 1, 0, 1],
    [75, 0, 0, 0, 0],
    [0, 0, 0, 0, 0],
  ]));

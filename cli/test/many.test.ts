// @long: left out of npm run test:quick.
/** Lists so long that they cannot be the arguments of one call: nothing may hand them over so. */
import { spawnSync } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";

const root = path.resolve(__dirname, "../.."),
  COUNT = 130_000;

/** Half a turn of a wide circle, moved to the north. */
function way(north: number): [number, number][] {
  return Array.from({ length: COUNT }, (_, k) => {
    const a = (Math.PI * k) / (COUNT - 1);
    return [400 + 400 * Math.cos(a), north + 400 * Math.sin(a)];
  });
}

test("lines of as many shots, straight, closed, an arc and a curve, and as many points at one position", () => {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), "many-")),
    rows: string[] = [];
  const add = (code: (k: number) => string, at: readonly (readonly [number, number])[]) =>
    at.forEach(([e, n], k) => rows.push(`${rows.length + 1},${e.toFixed(4)},${n.toFixed(4)},10.5,${code(k)}`));
  const last = COUNT - 1;
  add((k) => (k === last ? "TOP1 end" : "TOP1"), way(0));
  add((k) => (k === last ? "TOP2 loop" : "TOP2"), way(1000));
  add((k) => (k > 0 && k < last ? "TOP3 via" : "TOP3"), way(2000));
  add((k) => (k === 0 ? "TOP4 flow" : "TOP4"), way(3000));
  add(
    () => "SPOT",
    Array.from({ length: COUNT }, () => [5, 5]),
  );
  fs.writeFileSync(path.join(folder, "day1.csv"), rows.join("\n"));
  const recipe = {
    recipe: 1,
    name: "Many",
    codeBook: { codes: [{ code: "SPOT" }, { code: "TOP", kind: "line", breakline: "fixed" }] },
    intakes: [
      {
        id: "day1",
        file: "day1.csv",
        layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
      },
    ],
    surfaces: [{ name: "s", breaklines: { codes: ["*"] } }],
    // Levels are compared with those round about, not as lists.
    checks: { spike: false, "height-run": false },
  };
  fs.writeFileSync(path.join(folder, "recipe.json"), JSON.stringify(recipe));
  const run = spawnSync(path.join(root, "bramble"), ["run", path.join(folder, "recipe.json"), "--out", folder], {
    encoding: "utf8",
    timeout: 170_000,
  });
  expect(run.stderr).toBe("");
  expect(run.status).toBe(0);
  const summary = JSON.parse(fs.readFileSync(path.join(folder, "summary.json"), "utf8")) as {
    lines: { run: string; points: string[]; closed: boolean }[];
    surfaces: { points: number; breaklines: number }[];
    findings: { kind: string; points: string[] }[];
  };
  expect(summary.lines.map((l) => [l.run, l.points.length, l.closed])).toEqual([
    ["1", COUNT, false],
    ["2", COUNT, true],
    ["3", COUNT, false],
    ["4", COUNT, false],
  ]);
  expect(summary.surfaces[0]!.breaklines).toBe(4);
  // The points at one position are one vertex.
  expect(summary.findings.filter((f) => f.kind === "coincident").map((f) => f.points.length)).toContain(COUNT);
  fs.rmSync(folder, { recursive: true, force: true });
}, 180_000);

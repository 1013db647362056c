/** The look at a file before it is made says what the file will say. */
import type { HandoverFile, PlanFile } from "../../src/handover/files";
import { writeFile, type OwnFile } from "../../src/job/leave/handover";
import { previewOf, type Preview } from "../../src/job/leave/preview";
import { derive, type Row } from "../job";

const rows: Row[] = Array.from({ length: 15 }, (_, k) => ({
  number: String(k + 1),
  e: 3000 + 10 * (k % 5),
  n: 7000 + 10 * Math.floor(k / 5),
  z: 100.1234 + k,
  code: k < 3 ? "TOP1" : "SPOT",
}));
const { state, derived } = derive([...rows, { number: "99", e: 3001, n: 7001, z: 100, code: "ODD" }], {
  surfaces: [{ name: "ground" }],
  contours: [{ surface: "ground", interval: 1 }],
  volumes: [{ name: "to 105", surface: "ground", level: 105 }],
  handover: [
    { file: "p.csv", format: "csv" },
    { file: "a.zip", format: "package" },
  ],
});
const look = <A extends Preview["as"]>(file: HandoverFile, as: A) => {
  const seen = previewOf(file, state, derived);
  expect(seen.as).toBe(as);
  return seen as Extract<Preview, { as: A }>;
};

test.each<OwnFile>([
  { file: "p.csv", format: "csv", decimals: 2, delimiter: ";", decimal: "," },
  { file: "p.csv", format: "csv", columns: ["number", "code"], header: false },
  { file: "l.csv", format: "list", of: "lines" },
])("of text it is the file's own first lines: %j", async (file) => {
  const seen = look(file, "rows"),
    written = new TextDecoder()
      .decode((await writeFile(file, state, derived)).bytes)
      .trimEnd()
      .split("\n");
  expect(seen.text.split("\n")).toEqual(written.slice(0, seen.text.split("\n").length));
  const head = "header" in file && file.header === false ? 0 : 1;
  expect(seen.rows).toBe(written.length - head);
  expect(seen.text.split("\n").length).toBe(Math.min(10, seen.rows) + head);
});

test("of drawings it counts what is read back, and its plan keeps the shape of the job", async () => {
  const file = { file: "a.gpkg", format: "gpkg" } as const,
    { holds, plan } = look(file, "drawing"),
    { proof } = await writeFile(file, state, derived),
    count = (what: string) => holds.filter(([w]) => w.startsWith(what)).reduce((sum, [, n]) => sum + n, 0);
  expect([count("Points"), count("Contours"), count("Triangles")]).toEqual([
    proof.counts.points,
    proof.counts.contours,
    proof.counts.triangles,
  ]);
  expect([plan.width, plan.height]).toEqual([1, 0.5]);
  // The last point stands a fortieth of the width from the west, a fortieth from the south.
  expect(Array.from(plan.points.slice(-2))).toEqual([expect.closeTo(0.025, 6), expect.closeTo(0.025, 6)]);
  expect(look({ file: "a.kml", format: "kml", holds: ["points"] }, "drawing").holds).toEqual([["Points", 16]]);
});

test("of a plan it is the page, of a report what it tells of, of a package what it holds", () => {
  const { pages, scale } = look({ file: "a.pdf", format: "pdf", paper: "A4", several: true, scale: 100 }, "pages");
  expect(scale).toBe(100);
  expect(pages.length).toBeGreaterThanOrEqual(1);
  // A table that the plan will have is in the picture, unless it is too long to be read there.
  const withPoints: PlanFile = { file: "a.pdf", format: "pdf", tables: ["points"] },
    texts = look(withPoints, "pages").pages.flatMap((p) => p.marks.flatMap((m) => (m.is === "text" ? [m.text] : [])));
  expect(texts).toEqual(expect.arrayContaining(["Points, m", "99", "7001.000"]));
  const many = derive(
      Array.from({ length: 501 }, (_, k) => ({ number: `N${k}`, e: k % 25, n: k / 25, z: 1, code: "SPOT" })),
    ),
    seen = previewOf(withPoints, many.state, many.derived);
  expect(JSON.stringify(seen)).not.toContain("Points, m");
  expect(look({ file: "r.pdf", format: "report", as: "pdf" }, "facts").facts).toEqual([
    ["to 105", expect.stringContaining("105")],
  ]);
  expect(() =>
    previewOf({ file: "r.pdf", format: "report", as: "pdf", comparisons: ["gone"] }, state, derived),
  ).toThrow("None of the comparisons");
  expect(look({ file: "a.zip", format: "package" }, "facts").facts).toEqual([["p.csv", "points as text"]]);
  const [asked] = look({ file: "c.pdf", format: "report", as: "pdf", of: "crew" }, "sheets").sheets;
  expect(asked!.rows.some((r) => r[2]!.includes("ODD"))).toBe(true);
  expect(asked!.count).toBe(asked!.rows.length);
  const [points] = look({ file: "a.xlsx", format: "xlsx", decimals: 1 }, "sheets").sheets;
  expect(points!.rows[0]).toEqual(["1", "7000.0", "3000.0", "100.1", "TOP1"]);
});

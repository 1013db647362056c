// @long: left out of npm run test:quick.
/** The command as a person runs it: a process with files, exit codes and messages. */
import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";

const root = path.join(__dirname, "../..");
const bramble = (...args: string[]) => spawnSync(path.join(root, "bramble"), args, { encoding: "utf8" });
let folder: string;
beforeEach(() => (folder = fs.mkdtempSync(path.join(os.tmpdir(), "bramble-"))));
afterEach(() => fs.rmSync(folder, { recursive: true }));

const put = (name: string, content: string | object | Uint8Array) => {
  const file = path.join(folder, name);
  fs.writeFileSync(
    file,
    content instanceof Uint8Array || typeof content === "string" ? content : JSON.stringify(content),
  );
  return file;
};
const summary = () => JSON.parse(fs.readFileSync(path.join(folder, "out/summary.json"), "utf8"));
const run = (recipe: object) =>
  bramble("run", put("recipe.json", { recipe: 1, ...recipe }), "--out", path.join(folder, "out"));
const intake = {
  id: "day1",
  file: "day1.csv",
  layout: { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] },
};
const square = "1,0,0,10,\n2,10,0,10,\n3,10,10,12,\n4,0,10,12,\n";

describe("the worked cases that this version covers agree", () => {
  test.each([
    "01-line-codes",
    "02-curves",
    "03-companions",
    "04-two-elements",
    "05-text-oddities",
    "06-volumes",
    "07-storage",
    "08-crossing-breaklines",
    "09-raw-observations",
    "10-rounding",
    "11-awkward-numbers",
    "12-edge-and-hole",
    "13-green",
    "14-touching-corner",
  ])("%s", (name) => {
    const dir = path.join(__dirname, "cases", name);
    expect(bramble("run", path.join(dir, "recipe.json"), "--out", folder).stderr).toBe("");
    const { stdout } = spawnSync(process.execPath, [path.join(__dirname, "cases/compare.mjs"), dir, folder], {
      encoding: "utf8",
    });
    expect(stdout).toBe("agrees\n");
  });
});

test("run writes the summary and the files, the same bytes each time", () => {
  put("day1.csv", square);
  const recipe = {
    name: "Plot",
    date: "2031-04-17",
    intakes: [intake],
    surfaces: [{ name: "s" }],
    contours: [{ surface: "s", interval: 0.5 }],
    volumes: [{ name: "v", surface: "s", level: 11 }],
    handover: [
      { file: "sheet.pdf", format: "pdf", scale: 500 },
      { file: "a.gpkg", format: "gpkg" },
      { file: "a.xlsx", format: "xlsx" },
      { file: "{job}.zip", format: "package", files: ["sheet.pdf", "a.gpkg"] },
      { file: "points/all.csv", format: "csv" },
      { file: "plot.dxf", format: "dxf" },
    ],
  };
  expect(run(recipe)).toMatchObject({ status: 0, stdout: "", stderr: "" });
  const names = ["summary.json", "sheet.pdf", "a.gpkg", "a.xlsx", "plot.zip", "points/all.csv", "plot.dxf"],
    written = () => names.map((f) => fs.readFileSync(path.join(folder, "out", f))),
    first = written();
  const s = summary();
  expect(s.volumes[0]).toMatchObject({ area: 100, net: 0 });
  expect(s.volumes[0].cut).toBeCloseTo(25, 12);
  for (const [k, f] of s.files.entries()) {
    expect(f.sha256).toBe(
      createHash("sha256")
        .update(first[k + 1]!)
        .digest("hex"),
    );
    expect(f.bytes).toBe(first[k + 1]!.length);
  }
  run(recipe);
  expect(written()).toEqual(first);
  expect(fs.readdirSync(path.join(folder, "out")).filter((f) => f.endsWith(".part"))).toEqual([]);
});

describe("refused with exit 2 and one sentence, and nothing written", () => {
  test.each([
    ["no such recipe", {}, () => bramble("run", "/nowhere/recipe.json", "--out", folder), "there is no such file"],
    [
      "no such input",
      {},
      () => run({ intakes: [{ ...intake, file: "gone.csv" }] }),
      "“gone.csv” cannot be opened: there is no such file",
    ],
    ["an empty input", { "day1.csv": "" }, () => run({ intakes: [intake] }), "“day1.csv” is empty"],
    ["a binary input", { "day1.csv": new Uint8Array([1, 0, 2]) }, () => run({ intakes: [intake] }), "is not text"],
    [
      "a clash under stop",
      { "day1.csv": "1,0,0,1,\n1,1,1,1,\n" },
      () => run({ intakes: [intake] }),
      "Intake “day1”, row 2: point 1",
    ],
    [
      "points on one line",
      { "day1.csv": "1,0,0,1,\n2,1,1,1,\n3,2,2,1,\n" },
      () => run({ intakes: [intake], surfaces: [{ name: "s" }] }),
      "All 3 points of surface “s” lie on one line",
    ],
    [
      "a setting that is not finite",
      { "day1.csv": square, "recipe.json": '{"recipe":1,"scaleFactor":1e400}' },
      () => bramble("run", path.join(folder, "recipe.json"), "--out", path.join(folder, "out")),
      "scaleFactor",
    ],
    [
      "an output outside",
      { "day1.csv": square },
      () =>
        run({
          intakes: [intake],
          handover: [
            { file: "ok.csv", format: "csv" },
            { file: "../up.csv", format: "csv" },
          ],
        }),
      "outside the folder",
    ],
    [
      "an absolute output",
      { "day1.csv": square },
      () => run({ intakes: [intake], handover: [{ file: "/tmp/up.csv", format: "csv" }] }),
      "outside the folder",
    ],
    [
      "a set that is not there",
      { "day1.csv": square },
      () => run({ intakes: [intake], handover: [{ file: "a.csv", format: "csv", points: "no such set,," }] }),
      "there is no point set",
    ],
    ["no command", {}, () => bramble("walk"), "usage:"],
    ["no folder", {}, () => bramble("run", "recipe.json"), "usage:"],
    ["a folder that is not named", {}, () => bramble("run", "recipe.json", "--out"), "usage:"],
    ["two recipes", {}, () => bramble("run", "a.json", "b.json", "--out", "out"), "usage:"],
    ["an option that there is not", {}, () => bramble("run", "a.json", "--out", "out", "--loud"), "usage:"],
  ] as [string, Record<string, string | Uint8Array>, () => ReturnType<typeof bramble>, string][])(
    "%s",
    (_, files, act, message) => {
      for (const [name, content] of Object.entries(files)) put(name, content);
      const { status, stderr } = act();
      expect(stderr).toContain(message);
      expect(status).toBe(2);
      expect(stderr.trim().split("\n").length).toBeLessThanOrEqual(3);
      const out = path.join(folder, "out");
      expect(fs.existsSync(out) ? fs.readdirSync(out) : []).toEqual([]);
    },
  );

  test("a folder that is a link cannot lead outside", () => {
    put("day1.csv", square);
    fs.mkdirSync(path.join(folder, "out"));
    fs.mkdirSync(path.join(folder, "elsewhere"));
    fs.symlinkSync(path.join(folder, "elsewhere"), path.join(folder, "out/link"));
    expect(run({ intakes: [intake], handover: [{ file: "link/a.csv", format: "csv" }] })).toMatchObject({ status: 2 });
    expect(fs.readdirSync(path.join(folder, "elsewhere"))).toEqual([]);
  });
});

test("check validates only; schema prints the schema that holds for it", () => {
  put("day1.csv", square);
  const file = put("recipe.json", { recipe: 1, intakes: [intake] });
  expect(bramble("check", file)).toMatchObject({ status: 0, stdout: `${file}: can be run\n` });
  expect(bramble("check", put("bad.json", { recipe: 2 })).stderr).toContain("recipe: 2 is not one of 1");
  const schema = JSON.parse(bramble("schema").stdout);
  expect(Object.keys(schema.properties)).toEqual(
    expect.arrayContaining(["recipe", "intakes", "surfaces", "volumes", "handover"]),
  );
});

test("every format of the field is read headless, with the same counts", async () => {
  const { execFileSync } = await import("node:child_process");
  const { default: writeXlsx } = await import("write-excel-file/node");
  const features = [
    ["1", 3000.25, 7000.5, 95],
    ["2", 3010, 7000, 96],
    ["3", 3000, 7010, 97],
  ].map(([number, e, n, z]) => ({
    type: "Feature",
    properties: { number, code: "SPOT" },
    geometry: { type: "Point", coordinates: [e, n, z] },
  }));
  const json = put("p.geojson", { type: "FeatureCollection", features });
  execFileSync("ogr2ogr", ["-f", "GPKG", path.join(folder, "p.gpkg"), json]);
  execFileSync("ogr2ogr", [
    "-f",
    "DXF",
    path.join(folder, "p.dxf"),
    json,
    "-sql",
    "SELECT geometry FROM p",
    "-dialect",
    "SQLITE",
  ]);
  const rows = [
    ["number", "easting", "northing", "elevation", "code"],
    ...features.map((f) => [f.properties.number, ...f.geometry.coordinates, f.properties.code]),
  ];
  put("p.xlsx", new Uint8Array(await writeXlsx(rows.map((r) => r.map((value) => ({ value }))) as never).toBuffer()));
  put("p.txt", "1    3000.25   7000.500    95\n2    3010.00   7000.000    96\n3    3000.00   7010.000    97\n");
  put(
    "p.xml",
    `<LandXML><CgPoints>${features
      .map(
        ({
          properties: p,
          geometry: {
            coordinates: [e, n, z],
          },
        }) => `<CgPoint name="${p.number}" code="SPOT">${n} ${e} ${z}</CgPoint>`,
      )
      .join("")}</CgPoints></LandXML>`,
  );
  const fixed = {
    columns: [
      [0, 5, "number"],
      [5, 12, "easting"],
      [12, 23, "northing"],
      [23, 30, "elevation"],
    ].map(([from, to, is]) => ({ from, to, is })),
  };
  const files = [
    ["p.geojson"],
    ["p.gpkg"],
    ["p.xlsx"],
    ["p.xml"],
    ["p.dxf", { unit: "m" }],
    ["p.txt", { format: "fixed", layout: fixed }],
  ] as [string, object?][];
  // That writer's drawings say inches, whatever they hold.
  for (const [file, more] of files) {
    expect(run({ intakes: [{ id: "in", file, ...more }] })).toMatchObject({ status: 0, stderr: "" });
    expect([file, summary().intakes[0]]).toMatchObject([file, { rows: 3, points: 3, refused: [] }]);
    expect(summary().points.extent).toMatchObject({
      minE: 3000,
      maxE: 3010,
      minN: 7000,
      maxN: 7010,
      minZ: 95,
      maxZ: 97,
    });
  }
  expect(run({ intakes: [{ id: "in", file: "p.xlsx", layout: { table: "Other" } }] })).toMatchObject({
    status: 2,
    stderr: expect.stringContaining("has no table “Other”"),
  });
  expect(
    run({
      intakes: [
        { id: "in", file: "p.txt", layout: { delimiter: " ", columns: ["number", "station", "offset", "elevation"] } },
      ],
    }),
  ).toMatchObject({ status: 2, stderr: expect.stringContaining("Say which line they refer to") });
});

// @long: left out of npm run test:quick.
/**
 * Every format that the field delivers, made by independent writers where there is one, read back to the same numbers.
 */
import { runOf, told } from "../job";
import { execFileSync } from "node:child_process";
import fs from "node:fs";
import os from "node:os";
import path from "node:path";
import fc from "fast-check";
import initSqlJs from "sql.js";
import writeXlsx from "write-excel-file/node";
import { openRecipe, openRecipeTables, type JobState, type Recipe, type RecipeIntake } from "../../src";
import { guessFormat } from "../../src/intake/deliver";
import { undulation, writeGeoid, type Geoid } from "../../src/intake/geoid";
import { METRES } from "../../src/math/units";
import { runChain } from "../../src/job/chain/chain";

const utf8 = (text: string) => new TextEncoder().encode(text);
const folder = fs.mkdtempSync(path.join(os.tmpdir(), "formats-"));
afterAll(() => fs.rmSync(folder, { recursive: true }));

async function take(
  bytes: Uint8Array,
  given: Partial<RecipeIntake> = {},
  more: Partial<Recipe> = {},
  files: Record<string, Uint8Array> = {},
): Promise<JobState> {
  const recipe: Recipe = { recipe: 1, intakes: [{ id: "in", file: "in", ...given }], ...more };
  const open = (name: string) => files[name] ?? bytes;
  return openRecipe(recipe, open, undefined, await openRecipeTables(recipe, open)).state;
}
const points = ({ points: t }: JobState) =>
  Array.from(t.number, (number, i) => [number, t.e[i], t.n[i], t.z[i], t.texts[t.description[i]!]]);
const COLLECTION = {
  type: "FeatureCollection",
  features: [
    {
      type: "Feature",
      properties: { number: "12", code: "SPOT", elevation: 9 },
      geometry: { type: "Point", coordinates: [3000.125, 7000.0625, 101.5] },
    },
    {
      type: "Feature",
      properties: { number: "12A", code: "TREE; old" },
      geometry: { type: "Point", coordinates: [3001, 7001] },
    },
    {
      type: "Feature",
      properties: { number: "", code: "WALL" },
      geometry: {
        type: "LineString",
        coordinates: [
          [3000, 7000, 1],
          [3010, 7000, 2],
          [3010, 7010, 3],
        ],
      },
    },
  ],
};

test("GeoJSON: points with their properties, lines as reference", async () => {
  const data = {
    ...COLLECTION,
    features: COLLECTION.features.map((f) => ({ ...f, properties: { ...f.properties, elevation: undefined } })),
  };
  const s = await take(utf8(JSON.stringify(data)));
  expect(points(s)).toEqual([
    ["12", 3000.125, 7000.0625, 101.5, "SPOT"],
    ["12A", 3001, 7001, NaN, "TREE; old"],
  ]);
  expect(s.intakes[0]).toMatchObject({ format: "geojson", rows: 2, points: 2, reference: { lines: 1, surfaces: [] } });
  expect([...s.delivered[0]!.reference!.lines[0]!.xyz]).toEqual([3000, 7000, 1, 3010, 7000, 2, 3010, 7010, 3]);
});

test("a GeoPackage written by GDAL, and a plain SQLite table", async () => {
  const json = path.join(folder, "p.geojson"),
    gpkg = path.join(folder, "p.gpkg");
  fs.writeFileSync(
    json,
    JSON.stringify({
      ...COLLECTION,
      features: COLLECTION.features
        .slice(0, 2)
        .map((f) => ({ ...f, properties: { ...f.properties, elevation: undefined } })),
    }),
  );
  execFileSync("ogr2ogr", ["-f", "GPKG", gpkg, json, "-dim", "XYZ"]);
  const s = await take(fs.readFileSync(gpkg));
  expect(points(s).slice(0, 1)).toEqual([["12", 3000.125, 7000.0625, 101.5, "SPOT"]]);
  expect(s.intakes[0]).toMatchObject({ format: "sqlite", points: 2, layout: { table: "p" } });

  const SQL = await initSqlJs(),
    db = new SQL.Database();
  db.run(
    `CREATE TABLE "notes" (x); CREATE TABLE "shots; two" (pt TEXT, n REAL, e REAL, z REAL, code TEXT);
     INSERT INTO "shots; two" VALUES ('1', 7000.1, 3000.3, NULL, 'SPOT "x"'), ('2', NULL, 1, 2, NULL)`,
  );
  const plain = await take(db.export(), { layout: { table: "shots; two" } });
  expect(points(plain)).toEqual([["1", 3000.3, 7000.1, NaN, 'SPOT "x"']]);
  expect(plain.intakes[0]!.refused).toEqual([{ row: 2, reason: "the northing is missing" }]);
  await expect(take(db.export(), { layout: { table: "shot" } })).rejects.toThrow("It has “notes”, “shots; two”");
});

test("a GeoPackage's own count names no point: a name does, else whatever column tells the rows apart, else the count", async () => {
  const write = (properties: (k: number) => object, name: string) => {
    const json = path.join(folder, `${name}.geojson`),
      gpkg = path.join(folder, `${name}.gpkg`);
    fs.writeFileSync(
      json,
      JSON.stringify({
        type: "FeatureCollection",
        features: [0, 1, 2].map((k) => ({
          type: "Feature",
          properties: properties(k),
          geometry: { type: "Point", coordinates: [3000 + k, 7000, 5] },
        })),
      }),
    );
    execFileSync("ogr2ogr", ["-f", "GPKG", gpkg, json, "-dim", "XYZ"]);
    return take(fs.readFileSync(gpkg));
  };
  expect(points(await write((k) => ({ crew: "A", name: `P${k}` }), "named")).map((p) => p.slice(0, 2))).toEqual([
    ["P0", 3000],
    ["P1", 3001],
    ["P2", 3002],
  ]);
  expect(points(await write((k) => ({ crew: "A", mark: `M${k}` }), "marked")).map((p) => p[0])).toEqual([
    "M0",
    "M1",
    "M2",
  ]);
  expect(points(await write(() => ({ crew: "A" }), "counted")).map((p) => p.slice(0, 2))).toEqual([
    ["1", 3000],
    ["2", 3001],
    ["3", 3002],
  ]);
});

test("beside latitude and longitude a plain height is above the ellipsoid", async () => {
  const guess = async (head: string) =>
    (
      await take(utf8(`pt,lat,lon,${head}\n1,52.1,9.1,100\n`), {}, { system: "EPSG:25832" })
    ).intakes[0]!.layout!.columns!.at(-1);
  expect([await guess("h"), await guess("Height"), await guess("elev"), await guess("ellipsoidal height")]).toEqual([
    "height",
    "height",
    "elevation",
    "height",
  ]);
  for (const head of ["Ellip Height", "Ellip. Ht", "ellipsoidal_height (ft)", "ELL HGT", "Height (ellip.)", "h ell"])
    expect([head, await guess(head)]).toEqual([head, "height"]);
  expect((await take(utf8("pt,n,e,h\n1,5,6,100\n"))).intakes[0]!.layout!.columns!.at(-1)).toBe("elevation");
});

test("a drawing's own unit holds, unless the person says another; one that says nothing is in the job's", async () => {
  const drawing = (unit?: number) =>
    utf8(
      [
        ...(unit === undefined ? [] : [0, "SECTION", 2, "HEADER", 9, "$INSUNITS", 70, unit, 0, "ENDSEC"]),
        0,
        "SECTION",
        2,
        "ENTITIES",
        0,
        "POINT",
        8,
        "OLD",
        10,
        1000,
        20,
        2000,
        30,
        500,
        0,
        "LINE",
        8,
        "EDGE",
        10,
        0,
        20,
        0,
        30,
        0,
        11,
        1000,
        21,
        0,
        31,
        0,
        0,
        "ENDSEC",
        0,
        "EOF",
      ].join("\n"),
    );
  const place = async (bytes: Uint8Array, more: Partial<RecipeIntake> = {}) => {
    const s = await take(bytes, more);
    return [
      s.points.e[0],
      s.points.z[0],
      s.delivered[0]!.reference!.lines[0]!.xyz[3],
      s.intakes[0]!.notes.some((n) => n.includes("was converted")),
    ];
  };
  expect(await place(drawing(4))).toEqual([1, 0.5, 1, true]);
  const [e, , line] = await place(drawing(21));
  expect([e, line]).toEqual([1000 * METRES.ftUS, 1000 * METRES.ftUS]);
  expect(await place(drawing(6))).toEqual([1000, 500, 1000, false]);
  expect(await place(drawing(0))).toEqual([1000, 500, 1000, false]);
  expect(await place(drawing())).toEqual([1000, 500, 1000, false]);
  expect((await place(drawing(4), { unit: "ft" }))[0]).toBeCloseTo(304.8, 9);
});

test("a spreadsheet with a title and a head, its rows as numbered in the sheet", async () => {
  const head = ["Point", "Easting", "Northing", "Elevation", "Code"];
  const rows = [
    ["Site list"],
    [],
    head,
    ["1", 3000.25, 7000.5, 100.125, "SPOT"],
    [2, 3001, "seven", 100, "SPOT"],
    [3, 3002, 7002, null, "TREE"],
  ];
  const bytes = await writeXlsx(rows.map((r) => r.map((value) => ({ value }))) as never).toBuffer();
  const s = await take(new Uint8Array(bytes));
  expect(points(s)).toEqual([
    ["1", 3000.25, 7000.5, 100.125, "SPOT"],
    ["3", 3002, 7002, NaN, "TREE"],
  ]);
  expect(s.intakes[0]).toMatchObject({
    format: "xlsx",
    refused: [{ row: 5, reason: "the northing is “seven”, which is not a number" }],
  });
});

test("a DXF written by GDAL: points are reference, lines stand under the job, a point cannot be edited", async () => {
  const json = path.join(folder, "d.geojson"),
    dxf = path.join(folder, "d.dxf");
  fs.writeFileSync(
    json,
    JSON.stringify({
      ...COLLECTION,
      features: COLLECTION.features.map((f) => ({ ...f, properties: { Layer: "OLD" } })),
    }),
  );
  execFileSync("ogr2ogr", ["-f", "DXF", dxf, json]);
  const s = await take(fs.readFileSync(dxf));
  expect(s.intakes[0]).toMatchObject({ format: "dxf", points: 2, reference: { lines: 1 } });
  expect(s.points.number.every((n) => n.endsWith("-1") || n.endsWith("-2"))).toBe(true);
  expect(runChain(s).coded.ground[0]).toBe(0);
});

test("DXF: arcs of polylines and 3D faces", async () => {
  const pairs = (...p: (string | number)[]) => p.join("\n");
  const text = pairs(
    0,
    "SECTION",
    2,
    "ENTITIES",
    0,
    "LWPOLYLINE",
    8,
    "KERB",
    90,
    2,
    70,
    0,
    10,
    0,
    20,
    0,
    42,
    1,
    10,
    10,
    20,
    0,
    42,
    0,
    0,
    "3DFACE",
    8,
    "OLD",
    10,
    0,
    20,
    0,
    30,
    1,
    11,
    10,
    21,
    0,
    31,
    1,
    12,
    10,
    22,
    10,
    32,
    1,
    13,
    0,
    23,
    10,
    33,
    3,
    0,
    "ENDSEC",
    0,
    "EOF",
  );
  const s = await take(utf8(text), {}, { surfaces: [{ name: "old", file: "in", surface: "OLD" }] });
  const { lines, surfaces } = s.delivered[0]!.reference!;
  expect(lines[0]!.sweep[0]).toBeCloseTo(-Math.PI, 12);
  expect(surfaces[0]!.faces).toHaveLength(6);
  const [old] = runChain(s).surfaces;
  expect(old).toMatchObject({ ok: true, value: { report: { triangles: 2, area: 100, maxZ: 3 } } });
});

const XML = (body: string, units = 'linearUnit="meter" angularUnit="decimal degrees"') =>
  utf8(
    `<?xml version="1.0"?>\n<LandXML xmlns="http://www.landxml.org/schema/LandXML-1.2" version="1.2">\n` +
      `<Units><Metric ${units}/></Units>\n${body}\n</LandXML>`,
  );

test("LandXML: points, a surface with its breakline, an alignment with an arc, in the unit of the file", async () => {
  const body = `<CgPoints>
<CgPoint name="1" code="SPOT" desc="by the gate">7000 3000 100</CgPoint>
<CgPoint name="2" pntSurv="control">7010 3000</CgPoint>
<CgPoint name="3">here</CgPoint></CgPoints>
<Surfaces><Surface name="design">
<SourceData><Breaklines><Breakline desc="crest"><PntList3D>0 0 1 0 10 2</PntList3D></Breakline></Breaklines></SourceData>
<Definition surfType="TIN">
<Pnts><P id="a">0 0 1</P><P id="b">0 10 1</P><P id="c">10 0 3</P><P id="d">10 10 1</P></Pnts>
<Faces><F>a b c</F><F i="1">b d c</F></Faces>
</Definition></Surface></Surfaces>
<Alignments><Alignment name="road" length="0" staStart="100"><CoordGeom><Line><Start>0 0</Start><End>0 10</End></Line>
<Curve rot="cw" radius="10"><Start>0 10</Start><Center>-10 10</Center><End>-10 20</End></Curve></CoordGeom></Alignment></Alignments>`;
  const s = await take(XML(body), {}, { surfaces: [{ name: "d", file: "in" }] });
  expect(points(s)).toEqual([
    ["1", 3000, 7000, 100, "SPOT"],
    ["2", 3000, 7010, NaN, ""],
  ]);
  expect(s.points.kind[1]).toBe(1);
  expect(s.intakes[0]).toMatchObject({ rows: 3, refused: [{ row: 7 }], reference: { lines: 2, surfaces: ["design"] } });
  expect(runChain(s).surfaces[0]).toMatchObject({ ok: true, value: { report: { triangles: 1, area: 50 } } });
  const road = s.delivered[0]!.reference!.lines.find((l) => l.name === "road")!;
  expect(road.sweep[1]).toBeCloseTo(Math.PI / 2, 12);
  const feet = await take(XML(body, 'linearUnit="USSurveyFoot"'));
  expect(feet.points.e[0]).toBeCloseTo(3000 * METRES.ftUS, 9);

  const stations = await take(
    utf8("1,105,2,50\n2,110,0,51\n3,110,2,52\n4,90,0,53\n"),
    {
      id: "s",
      file: "s.csv",
      layout: { columns: ["number", "station", "offset", "elevation"] },
      line: { file: "in", alignment: "road" },
    },
    {
      intakes: [
        { id: "in", file: "in" },
        {
          id: "s",
          file: "s.csv",
          layout: { delimiter: ",", columns: ["number", "station", "offset", "elevation"] },
          clash: "add",
          line: { file: "in", alignment: "road" },
        },
      ],
    },
    { in: XML(body) },
  );
  const at = (n: string) => {
    const i = stations.points.number.indexOf(n);
    return [stations.points.e[i]!, stations.points.n[i]!];
  };
  expect(at("1001")).toEqual([5, -2]);
  expect(at("4")).toEqual([-10, 0]);
  const onArc = at("3");
  expect(onArc[0]).toBeCloseTo(10, 9);
  expect(onArc[1]).toBeCloseTo(-2, 9);
  expect(
    told(runOf(stations))
      .filter((f) => f.kind === "far-away")
      .map((f) => f.points),
  ).toEqual([["4"]]);
});

test("fixed-width text by characters, and its columns guessed by the gutters", async () => {
  const text =
    "Höhe   North     East    Elev Code\n  1 7000.25  3000.50  100.1 SPOT\n" +
    "  2 7001.25  3001.50   99.0 TREE ä\n 10 7002.00  3002.00        SPOT\n";
  const columns = [
    [0, 3, "number"],
    [3, 11, "northing"],
    [11, 20, "easting"],
    [20, 27, "elevation"],
    [27, 60, "description"],
  ].map(([from, to, is]) => ({ from, to, is })) as never;
  const s = await take(utf8(text), { format: "fixed", layout: { skipRows: 1, columns } });
  expect(points(s)).toEqual([
    ["1", 3000.5, 7000.25, 100.1, "SPOT"],
    ["2", 3001.5, 7001.25, 99, "TREE ä"],
    ["10", 3002, 7002, NaN, "SPOT"],
  ]);
  const guessed = await take(utf8(text), { format: "fixed", layout: { skipRows: 1 } });
  expect(points(guessed)).toEqual(points(s));
});

describe("latitude and longitude", () => {
  const layout = { delimiter: ",", columns: ["number", "latitude", "longitude", "height", "targetHeight"] as never };
  test("agree with GDAL's own transformation", async () => {
    const rows = [
      [51.2, 9.5],
      [50.9, 8.1],
      [52.0004, 11.99],
    ];
    const s = await take(
      utf8(rows.map(([lat, lon], i) => `${i},${lat},${lon},150,2`).join("\n")),
      { layout },
      { system: "EPSG:25832" },
    );
    const out = execFileSync("gdaltransform", ["-s_srs", "EPSG:4258", "-t_srs", "EPSG:25832", "-output_xy"], {
      input: rows.map(([lat, lon]) => `${lon} ${lat}`).join("\n"),
      encoding: "utf8",
    });
    out
      .trim()
      .split("\n")
      .forEach((line, i) => {
        const [e, n] = line.split(" ").map(Number);
        expect(Math.hypot(s.points.e[i]! - e!, s.points.n[i]! - n!)).toBeLessThan(0.001);
      });
  });
  test("heights less undulation less antenna; outside the grid none; without a system a refusal that says where to set it", async () => {
    const grid: Geoid = {
      south: 51,
      west: 9,
      stepLat: 1,
      stepLon: 1,
      rows: 2,
      columns: 2,
      metres: Float32Array.of(40, 44, 42, 46),
    };
    const s = await take(
      utf8("1,51.5,9.5,150,2\n2,60,9,150,2\n3,91,9,150,2\n"),
      { layout, heightAt: "antenna" },
      { system: "EPSG:25832", geoid: "g.gtx" },
      { "g.gtx": writeGeoid(grid) },
    );
    expect(s.points.z[0]).toBeCloseTo(150 - 43 - 2, 9);
    expect(s.points.z[1]).toBeNaN();
    expect(s.intakes[0]!.refused[0]!.reason).toContain("has no position in EPSG:25832");
    await expect(take(utf8("1,51,9,1,1\n"), { layout })).rejects.toThrow("no coordinate system");
    await expect(take(utf8("1,51,9,1,1\n"), { layout }, { system: "EPSG:1" })).rejects.toThrow(
      "not a coordinate system that is known here",
    );
  });
});

describe("hostile files are refused in a sentence, quickly", () => {
  const cases: [string, Uint8Array, string][] = [
    [
      "entity bomb",
      utf8('<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;">]><LandXML>&b;</LandXML>'),
      "document type",
    ],
    [
      "external entity",
      utf8('<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/passwd">]><LandXML>&e;</LandXML>'),
      "document type",
    ],
    ["deep nesting", utf8(`<LandXML>${"<a>".repeat(100000)}`), "nested more than 100 deep"],
    ["deep JSON", utf8(`{"type":"FeatureCollection","features":${"[".repeat(200000)}`), "cannot be read as GeoJSON"],
    ["zero bytes in XML", Uint8Array.from([...utf8("<LandXML>"), 0, 60]), "is not text"],
    ["half a file", XML("<CgPoints><CgPoint").subarray(0, 150), "row"],
    ["another XML", utf8("<svg/>"), "it starts with <svg>"],
    ["no database", utf8("SQLite format 3\0 and then nothing"), "SQLite database"],
    ["no archive", utf8("PK\x03\x04 and then nothing"), "archive"],
  ];
  test.each(cases)("%s", async (_, bytes, message) => {
    const start = Date.now();
    await expect(take(bytes)).rejects.toThrow(message);
    expect(Date.now() - start).toBeLessThan(5000);
  });

  test("a zip bomb is not unpacked", async () => {
    const { zipSync } = await import("fflate");
    const bomb = zipSync({ "xl/a.xml": new Uint8Array(30e6), "../up": new Uint8Array(1) });
    const { checkZip } = await import("../../src/intake/archive");
    await expect(checkZip("b.xlsx", bomb, 10e6)).rejects.toThrow("would unpack to 30 MB");
    await expect(checkZip("b.xlsx", bomb, 512e6)).rejects.toThrow("points outside it");
  });

  test("any bytes after any format's first bytes give a reading or a refusal, never a crash", async () => {
    const heads = ["", "<LandXML>", "{", "SQLite format 3\0", "PK\x03\x04", "0\nSECTION\n2\nENTITIES\n"].map(utf8);
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...heads), fc.uint8Array({ maxLength: 400 }), async (head, rest) => {
        const bytes = Uint8Array.from([...head, ...rest]);
        try {
          await take(bytes);
        } catch (e) {
          if ((e as Error).name !== "Refusal") throw new Error(`${guessFormat(bytes)}: ${(e as Error).stack}`);
        }
      }),
      { numRuns: 200 },
    );
  });
});

test("LandXML: numbers are decimals; what a program would take for one is refused", async () => {
  const point = (text: string, k: number) => `<CgPoint name="${k}">${text}</CgPoint>`;
  const texts = [
    "1 2 3",
    "+1. .5 -2E-1",
    "0x10 2 3",
    "1 0b11 3",
    "1 2 0o7",
    "1 Infinity 3",
    "1 2 NaN",
    "1 2 1_000",
    "1 2",
  ];
  const s = await take(XML(`<CgPoints>${texts.map(point).join("")}</CgPoints>`));
  expect(points(s).map((p) => p.slice(0, 4))).toEqual([
    ["0", 2, 1, 3],
    ["1", 0.5, 1, -0.2],
    ["8", 2, 1, NaN],
  ]);
  expect([s.intakes[0]!.rows, s.intakes[0]!.refused.map((r) => r.reason)]).toEqual([
    texts.length,
    [
      "point 2: its northing and easting cannot be read",
      "point 3: its northing and easting cannot be read",
      "point 4: its elevation is no decimal",
      "point 5: its northing and easting cannot be read",
      "point 6: its elevation is no decimal",
      "point 7: its elevation is no decimal",
    ],
  ]);
});

test("LandXML points: written, read, the same doubles", () => {
  // A text does not tell −0 from 0.
  const number = fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e7, max: 1e7 }).map((x) => x + 0);
  return fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(number, number, number), { minLength: 1, maxLength: 30 }), async (list) => {
      const s = await take(
        XML(
          `<CgPoints>${list.map(([e, n, z], i) => `<CgPoint name="${i}">${n} ${e} ${z}</CgPoint>`).join("")}</CgPoints>`,
        ),
      );
      expect(points(s).map(([, e, n, z]) => [e, n, z])).toEqual(list);
    }),
    { numRuns: 50 },
  );
});

describe("a geoid grid", () => {
  const made = (more: Partial<Geoid>, value: (row: number, column: number) => number): Geoid => {
    const g = { south: 50, west: 9, stepLat: 0.5, stepLon: 1, rows: 3, columns: 4, ...more };
    return {
      ...g,
      metres: Float32Array.from({ length: g.rows * g.columns }, (_, i) =>
        value(Math.floor(i / g.columns), i % g.columns),
      ),
    };
  };
  const plane = made({}, (r, c) => 40 + 2 * r + c);

  test("is linear between its values, and all four edges belong to it", () => {
    expect(undulation(plane, 50.25, 9.5)).toBeCloseTo(41.5, 12);
    expect([
      undulation(plane, 50, 9),
      undulation(plane, 51, 9),
      undulation(plane, 50, 12),
      undulation(plane, 51, 12),
      undulation(plane, 50.75, 12),
    ]).toEqual([40, 44, 43, 47, 46]);
    // Steps that are no binary fractions put the last column a hair beyond.
    const tenth = made({ stepLat: 0.1, stepLon: 0.1, west: 8.1, south: 50.1 }, (r, c) => r + c);
    expect(undulation(tenth, 50.1 + 0.2, 8.1 + 0.3)).toBeCloseTo(5, 6);
    for (const [lat, lon] of [
      [49.99, 10],
      [51.01, 10],
      [50.5, 8.99],
      [50.5, 12.01],
    ] as const)
      expect(undulation(plane, lat, lon)).toBeNaN();
  });

  test("that goes round the earth joins its last column to its first, however longitudes are counted", () => {
    const world = made(
      { south: -90, west: 0, stepLat: 90, stepLon: 90, rows: 3, columns: 4 },
      (_, c) => [10, 20, 30, 40][c]!,
    );
    expect(
      [
        undulation(world, 0, 315),
        undulation(world, 0, -45),
        undulation(world, 0, 359.9999999999),
        undulation(world, 0, -0.0000000001),
        undulation(world, 90, 45),
      ].map((x) => Math.round(x * 1e6) / 1e6),
    ).toEqual([25, 25, 10, 10, 15]);
  });

  test("a value that is none spoils only what it has weight in", () => {
    const hole = made({}, (r, c) => (r === 2 && c === 3 ? -88.8888 : 1));
    expect([undulation(hole, 51, 11), undulation(hole, 50.5, 12), undulation(hole, 50.75, 11.5)]).toEqual([1, 1, NaN]);
  });

  test("its metres are in the job's unit when they lower a height", async () => {
    const heights = async (unit: "m" | "ft") =>
      (
        await take(
          utf8("pt,lat,lon,h\n1,50.5,10.5,100\n"),
          {},
          { system: "EPSG:25832", geoid: "g.gtx", unit },
          { "g.gtx": writeGeoid(made({}, () => 32)) },
        )
      ).points.z[0];
    expect(await heights("m")).toBeCloseTo(68, 9);
    expect(await heights("ft")).toBeCloseTo(100 - 32 / 0.3048, 9);
  });
});

// @long: left out of npm run test:quick, since it reads with programs that it does not install.
/** Every format that leaves, read by readers that are not ours: GDAL, sqlite3, xmllint, Python's json and csv, unzip. */
import { createHash } from "node:crypto";
import fs from "node:fs";
import path from "node:path";
import { XMLParser } from "fast-xml-parser";
import type { HandoverFile } from "../../src/handover/files";
import { writeFile, type OwnFile } from "../../src/job/leave/handover";
import { leavingName } from "../../src/handover/names";
import { writeHandover } from "../../src/job/leave/leave";
import { runChain } from "../../src/job/chain/chain";
import { derive } from "../job";

import {
  at,
  CONTOURS,
  derived,
  folder,
  gdal,
  made,
  mesh,
  ORIGIN,
  rows,
  run,
  state,
  TRIANGLES,
  type GdalFeature,
} from "./yard";

describe("GeoPackage", () => {
  test("GDAL and sqlite3 find every point, line, area, contour and triangle, with its coordinate system", async () => {
    const file = await made({ file: "a.gpkg", format: "gpkg" });
    const points = gdal(file, "points");
    expect(points.map((f) => [f.properties.number, ...f.geometry.coordinates])).toEqual(
      rows.map((r) => [r.number, r.e, r.n, ...(r.z === undefined ? [] : [r.z])]),
    );
    expect(points[3]!.properties).toMatchObject({ code: "SPOT", description: rows[3]!.code, elevation: 99 });
    expect(points[6]!.properties.elevation).toBeNull();
    expect(gdal(file, "lines").map((f) => [f.properties.code, f.geometry.type])).toEqual([
      ["TOP", "LineString"],
      ["HEDGE", "LineString"],
    ]);
    const [bed] = gdal(file, "areas");
    expect(bed!.geometry.coordinates[0]).toEqual([
      [rows[4]!.e, rows[4]!.n, 97.5],
      [rows[5]!.e, rows[5]!.n, 96.5],
      // Taken from its neighbours: half of the way in plan.
      [rows[6]!.e, rows[6]!.n, expect.any(Number)],
      [rows[4]!.e, rows[4]!.n, 97.5],
    ]);
    expect([gdal(file, "contours").length, gdal(file, "triangles").length]).toEqual([CONTOURS, TRIANGLES]);
    expect(run("ogrinfo", "-so", file, "points")).toContain("UTM zone 32N");
    const sql = (query: string) => run("sqlite3", file, query).trim();
    expect(sql("PRAGMA integrity_check; PRAGMA foreign_key_check;")).toBe("ok");
    expect(
      sql("SELECT table_name, round(min_x,3), round(max_y,3) FROM gpkg_contents WHERE table_name = 'points'"),
    ).toBe(`points|${ORIGIN.e + 0.125}|${ORIGIN.n + 52}.0`);
    expect(run("ogrinfo", "-so", "-al", file)).not.toMatch(/warning|error/i);
  });
});

describe("LandXML", () => {
  test("is well formed; a published reader finds points, arcs, the mesh, its edge and breaklines, contours", async () => {
    const file = await made({ file: "a.xml", format: "landxml" });
    expect(run("xmllint", "--noout", file)).toBe("");
    const parser = new XMLParser({ ignoreAttributes: false, parseTagValue: false, attributeNamePrefix: "" });
    const { LandXML: x } = parser.parse(fs.readFileSync(file, "utf8"));
    expect([x.version, x.date, x.Project.name]).toEqual(["1.2", "2031-04-18", state.name]);
    expect(x.Units.Metric).toMatchObject({ linearUnit: "meter", angularUnit: "decimal degrees" });
    const text = (p: unknown) => String((p as { "#text"?: string })["#text"] ?? p);
    expect(x.CgPoints.CgPoint.map((p: { name: string }) => [p.name, ...text(p).split(" ").map(Number)])).toEqual(
      rows.map((r) => [r.number, r.n, r.e, ...(r.z === undefined ? [] : [r.z])]),
    );
    const [top, bed, hedge] = x.PlanFeatures.PlanFeature.map((f: { CoordGeom: object }) => f.CoordGeom);
    const curves = [top.Curve].flat() as { rot: string; radius: string; Start: string; Center: string; End: string }[];
    // Divided at the shot on its way, whose level the format could not hold between the ends.
    expect(curves.map((c) => c.rot)).toEqual(["cw", "cw"]);
    for (const c of curves) {
      const [sn, se] = c.Start.split(" ").map(Number),
        [cn, ce] = c.Center.split(" ").map(Number);
      expect(Math.hypot(sn! - cn!, se! - ce!)).toBeCloseTo(Number(c.radius), 6);
    }
    expect(curves[0]!.End.split(" ").map(Number)).toEqual([rows[1]!.n, rows[1]!.e, rows[1]!.z]);
    expect(bed.Line).toHaveLength(3);
    expect([hedge.IrregularLine].flat()).toHaveLength(2);
    const { Definition: tin, SourceData: source } = x.Surfaces.Surface;
    expect(tin.surfType).toBe("TIN");
    expect(tin.Faces.F).toHaveLength(TRIANGLES);
    // Plan areas of the faces together are the surface's own.
    const position = new Map(
      tin.Pnts.P.map((p: { id: string }) => [p.id, text(p).split(" ").map(Number)] as [string, number[]]),
    ) as Map<string, number[]>;
    const area = (tin.Faces.F as string[]).reduce((sum, face) => {
      const [a, b, c] = face.split(" ").map((id) => position.get(id)!);
      return sum + ((b![1]! - a![1]!) * (c![0]! - a![0]!) - (c![1]! - a![1]!) * (b![0]! - a![0]!)) / 2;
    }, 0);
    expect(area).toBeCloseTo(mesh.value.report.area, 6);
    expect([source.Boundaries.Boundary].flat().map((b: { bndType: string }) => b.bndType)).toEqual(["outer"]);
    // Breaklines run along TOP's chords and BED's sides, each side once.
    const ways = [source.Breaklines.Breakline]
        .flat()
        .map((b: { PntList3D: string }) => b.PntList3D.split(" ").map(Number)),
      length = (way: number[]) => {
        let sum = 0;
        for (let k = 3; k < way.length; k += 3) sum += Math.hypot(way[k]! - way[k - 3]!, way[k + 1]! - way[k - 2]!);
        return sum;
      };
    const breaks = derived.lines.filter((l) => (l.entry.breakline ?? "none") !== "none");
    expect(breaks.length).toBeGreaterThan(0);
    expect(ways.reduce((sum: number, way: number[]) => sum + length(way), 0)).toBeCloseTo(
      breaks.reduce((sum, l) => {
        const k = derived.lines.indexOf(l),
          { xyz, starts } = derived.chains,
          flat = Array.from({ length: starts[k + 1]! - starts[k]! }, (_, v) => [
            xyz[3 * (starts[k]! + v)]!,
            xyz[3 * (starts[k]! + v) + 1]!,
            0,
          ]).flat();
        return sum + length(flat);
      }, 0),
      6,
    );
    expect([source.Contours.Contour].flat()).toHaveLength(CONTOURS);
  });
});

describe("GeoJSON", () => {
  test("Python reads what the contract names; GDAL its coordinates and system", async () => {
    const file = await made({ file: "a.geojson", format: "geojson" });
    const read = JSON.parse(
      run("/usr/bin/python3", "-c", "import json,sys; print(json.dumps(json.load(open(sys.argv[1]))))", file),
    ) as { features: GdalFeature[] };
    expect(read.features.slice(0, rows.length).map((f) => [f.properties.number, ...f.geometry.coordinates])).toEqual(
      rows.map((r) => [r.number, r.e, r.n, ...(r.z === undefined ? [] : [r.z])]),
    );
    const lines = read.features.filter((f) => "run" in f.properties);
    expect(lines.map((f) => [f.properties.code, f.geometry.type])).toEqual([
      ["TOP", "LineString"],
      ["BED", "Polygon"],
      ["HEDGE", "LineString"],
    ]);
    const of = read.features.filter((f) => "level" in f.properties);
    expect(of).toHaveLength(CONTOURS);
    for (const c of of) for (const p of c.geometry.coordinates) expect(p[2]).toBe(c.properties.level);
    expect(read.features.at(-1)!.geometry.coordinates).toHaveLength(TRIANGLES);
    expect(run("ogrinfo", "-so", "-al", file)).toContain("UTM zone 32N");
  });

  test("in latitude and longitude GDAL's own projection brings every point back to a hundredth of a millimetre", async () => {
    const file = await made({ file: "ll.geojson", format: "geojson", coordinates: "latitude-longitude" });
    const back = JSON.parse(
      run(
        "ogr2ogr",
        "-f",
        "GeoJSON",
        "-lco",
        "COORDINATE_PRECISION=9",
        "-s_srs",
        "EPSG:4258",
        "-t_srs",
        "EPSG:25832",
        "-where",
        "number is not null",
        "/vsistdout/",
        file,
      ),
    ) as { features: GdalFeature[] };
    expect(back.features).toHaveLength(rows.length);
    back.features.forEach((f, k) => {
      expect(f.geometry.coordinates[0]).toBeCloseTo(rows[k]!.e, 5);
      expect(f.geometry.coordinates[1]).toBeCloseTo(rows[k]!.n, 5);
    });
    const local = { ...state, system: undefined };
    await expect(
      writeFile({ file: "ll.geojson", format: "geojson", coordinates: "latitude-longitude" }, local, derived),
    ).rejects.toThrow("the job has no coordinate system");
  });
});

test("a job in feet hands its levels over in metres where there are degrees, and its lists in its feet", async () => {
  const feet = 1 / 0.3048,
    far = rows.map((r) => ({ ...r, e: r.e * feet, n: r.n * feet, z: r.z === undefined ? r.z : r.z * feet })),
    job = derive(far, { unit: "ft", system: "EPSG:25832" });
  const kml = fs.readFileSync(
      await made({ file: "ft.kml", format: "kml", holds: ["points"] }, job.state, job.derived),
      "utf8",
    ),
    coordinates = /<name>1<\/name>.*?<coordinates>([^<]+)</.exec(kml)![1]!.split(",").map(Number);
  expect(coordinates[2]).toBeCloseTo(92.5, 9);
  // The yard lies in the zone's west: its degrees are those of the same yard in metres.
  const metric = fs.readFileSync(await made({ file: "m.kml", format: "kml", holds: ["points"] }), "utf8"),
    same = /<name>1<\/name>.*?<coordinates>([^<]+)</.exec(metric)![1]!.split(",").map(Number);
  expect(coordinates[0]).toBeCloseTo(same[0]!, 9);
  expect(coordinates[1]).toBeCloseTo(same[1]!, 9);
  const list = fs.readFileSync(
    await made({ file: "ft.csv", format: "list", of: "areas" }, job.state, job.derived),
    "utf8",
  );
  expect(list).toContain("area ft²");
  expect(list.split("\n")[1]).toContain(`,${(50 * feet * feet).toFixed(1)},`);
  const square = fs.readFileSync(
    await made({ file: "sm.csv", format: "list", of: "areas", unit: "m" }, job.state, job.derived),
    "utf8",
  );
  expect(square.split("\n")[1]).toContain(",50.0,");
});

describe("KML", () => {
  test("GDAL reads folders by layer and every point in its position; hidden layers are not shown, or left out", async () => {
    const file = await made({ file: "a.kml", format: "kml" });
    const read = JSON.parse(
      run("ogr2ogr", "-f", "GeoJSON", "-t_srs", "EPSG:25832", "-s_srs", "EPSG:4258", "/vsistdout/", file, "SPOT"),
    ) as { features: GdalFeature[] };
    expect(read.features.map((f) => f.properties.Name)).toEqual(["4", "=11"]);
    expect(read.features[1]!.geometry.coordinates[0]).toBeCloseTo(rows[10]!.e, 3);
    expect(read.features[1]!.geometry.coordinates[2]).toBe(101);
    const red = derive(rows.slice(0, 4), {
      system: "EPSG:25832",
      codeBook: { codes: [{ code: "TOP", kind: "line", color: "#cc1100" }] },
    });
    const colored = fs.readFileSync(await made({ file: "c.kml", format: "kml" }, red.state, red.derived), "utf8");
    // From the last to the first: opacity, blue, green, red.
    expect(colored).toContain("<LineStyle><color>ff0011cc</color>");
    const hidden = { ...state, drawing: { hidden: { layers: ["HEDGE"] } } };
    const text = fs.readFileSync(await made({ file: "h.kml", format: "kml" }, hidden, runChain(hidden)), "utf8");
    expect(text).toMatch(/<name>HEDGE<\/name><visibility>0<\/visibility>/);
    const out = { ...hidden, hiddenLayers: "out" as const };
    const without = fs.readFileSync(await made({ file: "o.kml", format: "kml" }, out, runChain(out)), "utf8");
    expect(without).not.toContain("HEDGE");
    expect(without).toContain("<name>BED</name>");
  });
});

describe("workbook", () => {
  test("Python unzips it and reads the cells; numbers are numbers, rounded to their decimals", async () => {
    const file = await made({
      file: "a.xlsx",
      format: "xlsx",
      columns: ["number", "elevation", "description"],
      decimals: 2,
    });
    const script = `
import zipfile, sys, re, json
z = zipfile.ZipFile(sys.argv[1]); assert z.testzip() is None
strings = re.findall(r"<si><t[^>]*>(.*?)</t></si>", z.read("xl/sharedStrings.xml").decode())
names = re.findall(r'<sheet [^>]*name="([^"]+)"', z.read("xl/workbook.xml").decode())
sheet = z.read("xl/worksheets/sheet1.xml").decode()
value = lambda a, v: strings[int(v)] if 't="s"' in a else float(v)
rows = [[value(a, v) for a, v in re.findall(r"<c ([^>]*)><v>(.*?)</v>", r)]
  for r in re.findall(r"<row.*?</row>", sheet, re.S)]
print(json.dumps([names, rows]))`;
    const [names, cells] = JSON.parse(run("/usr/bin/python3", "-c", script, file)) as [string[], unknown[][]];
    expect(names).toEqual(["points", "lines", "areas"]);
    expect(cells[0]).toEqual(["number", "elevation", "description"]);
    expect(cells[8]).toEqual(["8", 98.12, "HEDGE flow"]);
    // A missing level is no cell.
    expect(cells[7]).toEqual(["7", "BED loop"]);
  });
});

describe("text", () => {
  test("decimals of single columns, line ends, a mark and the smaller encoding are as asked for", async () => {
    const file: OwnFile = {
      file: "t.csv",
      format: "csv",
      columns: ["number", "elevation", "easting", "code", "name", "surface"],
      decimals: 3,
      decimalsOf: { elevation: 1 },
      points: "7, 8",
      lineEnd: "crlf",
      encoding: "utf-8-mark",
    };
    const bytes = fs.readFileSync(await made(file));
    expect(bytes.toString("utf8")).toBe(
      "\ufeffnumber,elevation,easting,code,name,surface\r\n7,,512040.000,BED,Planting bed,out\r\n8,98.1,512010.000,HEDGE,Hedge,in\r\n",
    );
    const latin = await writeFile(
      { file: "l.csv", format: "csv", columns: ["description"], points: "4", header: false, encoding: "latin1" },
      state,
      derived,
    );
    expect(Buffer.from(latin.bytes).toString("latin1")).toBe('"SPOT; by the ""gate"", é ? <&>"\n');
    expect(latin.proof.unwritten).toBe(1);
    const signs = derive([{ number: "1", e: 0, n: 0, z: 0, code: "SPOT; § € ÿ ‘x’ ¡" }]);
    const wide = await writeFile(
      { file: "w.csv", format: "csv", columns: ["note"], header: false, encoding: "latin1" },
      signs.state,
      signs.derived,
    );
    fs.writeFileSync(path.join(folder, "w.csv"), wide.bytes);
    const western = "import sys,json; print(json.dumps(open(sys.argv[1], encoding='cp1252').read()))";
    expect(JSON.parse(run("/usr/bin/python3", "-c", western, path.join(folder, "w.csv")))).toBe("§ € ÿ ‘x’ ¡\n");
    expect(wide.proof.unwritten).toBeUndefined();
    const python = run(
      "/usr/bin/python3",
      "-c",
      "import csv,sys,json; print(json.dumps(list(csv.reader(open(sys.argv[1], encoding='utf-8-sig', newline='')))))",
      await made({ file: "all.csv", format: "csv", columns: ["number", "description"] }),
    );
    expect(JSON.parse(python)).toEqual([["number", "description"], ...rows.map((r) => [r.number, r.code])]);
  });

  test("only what reads otherwise than the last time: moved points, new ones, none that merely kept its row", async () => {
    const file: OwnFile = {
      file: "c.csv",
      format: "csv",
      columns: ["number", "easting"],
      decimals: 2,
      header: false,
      only: "changed",
    };
    const now = derive([
      ...rows.map((r, k) => ({ ...r, e: r.e + (k === 2 ? 0.02 : k === 3 ? 0.001 : 0) })),
      at(1, 1, 1, "99", "SPOT"),
    ]);
    const { bytes } = await writeFile(file, now.state, now.derived, { state, derived });
    expect(new TextDecoder().decode(bytes)).toBe("3,512040.52\n99,512001.00\n");
    // Where it was never made before all is new.
    expect(new TextDecoder().decode((await writeFile(file, state, derived)).bytes).split("\n")).toHaveLength(12);
  });

  test("lists of lines and areas are in the units asked for", async () => {
    const list = async (file: OwnFile) =>
      fs
        .readFileSync(await made(file), "utf8")
        .trim()
        .split("\n");
    const bed = derived.lines.find((l) => l.code === "BED")!;
    // Half of the cross product of its sides.
    expect(bed.area).toBeCloseTo(50, 9);
    expect(await list({ file: "areas.csv", format: "list", of: "areas", areaUnit: "ha" })).toEqual([
      "code,run,name,layer,area ha,perimeter m,points",
      `BED,,Planting bed,BED,0.0050,${bed.length.toFixed(3)},5 6 7`,
    ]);
    const feet = await list({ file: "lines.csv", format: "list", of: "lines", unit: "ft", decimals: 1 });
    expect(feet[0]).toBe("code,run,name,layer,closed,length ft,slope length ft,points");
    expect(feet[2]).toBe(`BED,,Planting bed,BED,yes,${(bed.length / 0.3048).toFixed(1)},,5 6 7`);
  });
});

describe("package", () => {
  const handover: HandoverFile[] = [
    { file: "{job}-points-{date}.csv", format: "csv" },
    { file: "a.dxf", format: "dxf" },
    { file: "book.json", format: "codebook" },
    { file: "all.zip", format: "package" },
  ];
  const host = { sha256: (bytes: Uint8Array) => createHash("sha256").update(bytes).digest("hex"), entry: 7 };

  test("an archive that opens to other bytes than went in does not leave", async () => {
    let asked = 0;
    // The second file's checksum is another when the archive is opened again.
    const twice = { ...host, sha256: (bytes: Uint8Array) => (++asked === 5 ? "0" : host.sha256(bytes)) };
    await expect(writeHandover(handover[3]!, { ...state, handover }, derived, twice)).rejects.toThrow(
      "“a.dxf” in it is another",
    );
    expect(asked).toBe(5);
  });

  test("sha256sum agrees with the manifest, whose counts are those of the job; the same bytes each time", async () => {
    const now = { ...state, handover };
    const zip = path.join(folder, "all.zip"),
      first = await writeHandover(handover[3]!, now, derived, host);
    fs.writeFileSync(zip, first.bytes);
    const inside = path.join(folder, "inside");
    run("unzip", "-q", zip, "-d", inside);
    // Of the job's date, whenever it is made.
    expect(run("unzip", "-l", zip).match(/2031-04-18 00:00/g)).toHaveLength(4);
    const manifest = JSON.parse(fs.readFileSync(path.join(inside, "manifest.json"), "utf8"));
    expect(manifest).toMatchObject({ job: state.name, date: "2031-04-18", unit: "m", entry: 7, points: rows.length });
    const files = manifest.files as { file: string; sha256: string; bytes: number; counts: Record<string, number> }[];
    expect(files.map((f) => f.file)).toEqual(["plot-a-yard-points-2031-04-18.csv", "a.dxf", "book.json"]);
    for (const f of files) {
      expect(run("sha256sum", path.join(inside, f.file)).split(" ")[0]).toBe(f.sha256);
      expect(fs.statSync(path.join(inside, f.file)).size).toBe(f.bytes);
    }
    expect(files[1]!.counts).toMatchObject({ points: rows.length, contours: CONTOURS, triangles: TRIANGLES });
    expect(Buffer.from((await writeHandover(handover[3]!, now, derived, host)).bytes)).toEqual(
      Buffer.from(first.bytes),
    );
  });

  test("what it cannot hold is refused: another package, a file that is not there, nothing at all", async () => {
    const of = (files: string[] | undefined, all = handover) =>
      writeHandover({ file: "x.zip", format: "package", files }, { ...state, handover: all }, derived, host);
    await expect(of(["all.zip"])).rejects.toMatchObject({ code: "handover-circle" });
    await expect(of(["gone.csv"])).rejects.toMatchObject({ code: "reference-missing" });
    const globe: HandoverFile[] = [{ file: "a.kml", format: "kml" }];
    const local = { ...state, system: undefined, handover: globe };
    await expect(writeHandover({ file: "x.zip", format: "package" }, local, derived, host)).rejects.toThrow(
      "“x.zip” cannot be made because of “a.kml”: “a.kml” is in latitude and longitude",
    );
    await expect(of(undefined, [])).rejects.toMatchObject({ code: "handover-empty" });
    const twice: HandoverFile[] = [
      { file: "{job}.csv", format: "csv" },
      { file: "plot-a-yard.csv", format: "csv" },
    ];
    await expect(of(undefined, twice)).rejects.toThrow("“plot-a-yard.csv” would be in it twice");
    for (const file of ["../up.csv", "/etc/p.csv", "a/../../p.csv", "c:p.csv", "a\\p.csv", ".", "a//b.csv"])
      await expect(of(undefined, [{ file, format: "csv" }])).rejects.toMatchObject({ code: "recipe-outside" });
    await expect(of(undefined, [{ file: "plans/yard 1..csv", format: "csv" }])).resolves.toBeDefined();
  });

  test("names follow their pattern", () => {
    const name = (file: string) => leavingName(file, { ...state, client: "Müller & Co." }, 12);
    expect(name("{client}-{job}-{date}-{entry}.json")).toBe("muller-co-plot-a-yard-2031-04-18-12.json");
    expect(name("{other}.json")).toBe("{other}.json");
  });
});

/** A file that does not say what it should is not handed over: whatever is damaged in it is found when it is read back. */
import type { ListFile, FileOf } from "../../src/handover/files";
import { handoverSource } from "../../src/job/leave/handover-source";
import { writeFile, type OwnFile } from "../../src/job/leave/handover";
import { listTable } from "../../src/handover/lists";
import { pointsTable } from "../../src/handover/columns";
import { proveDxf, proveGeoJson, proveGeoPackage, proveKml, proveLandXml } from "../../src/handover/proof/geometry";
import { proveGpx } from "../../src/handover/proof/gpx";
import { proveDelimited, proveWorkbook } from "../../src/handover/proof/tables";
import { derive, type Row } from "../job";

const rows: Row[] = [
  { number: "1", e: 512_000.125, n: 5_640_000.25, z: 92.5, code: "TOP" },
  { number: "2", e: 512_020.5, n: 5_640_004, z: 93.25, code: "TOP" },
  { number: "3", e: 512_040.5, n: 5_640_000.75, z: 94, code: "TOP" },
  { number: "4", e: 512_005, n: 5_640_030, z: 99, code: "SPOT" },
  { number: "5", e: 512_035, n: 5_640_032, code: "SPOT" },
];
const { state, derived } = derive(rows, {
  system: "EPSG:25832",
  surfaces: [{ name: "ground" }],
  contours: [{ surface: "ground", interval: 0.5 }],
});

const bytesOf = async (file: OwnFile) => (await writeFile(file, state, derived)).bytes;
/** The file with one text in it replaced, the first time it comes. */
function damaged(bytes: Uint8Array, from: string | RegExp, to: string): Uint8Array {
  const text = new TextDecoder().decode(bytes),
    other = text.replace(from, to);
  expect(other).not.toBe(text);
  return new TextEncoder().encode(other);
}
const refusedWith = (why: RegExp) =>
  expect.objectContaining({ code: "handover-proof", message: expect.stringMatching(why) });
function refusal(act: () => unknown): unknown {
  try {
    act();
  } catch (e) {
    return e;
  }
  throw new Error("nothing was refused");
}

test("text: a row that is missing, a number that is cut, a word that is another", async () => {
  const file: FileOf<"csv"> = { file: "a.csv", format: "csv", decimals: 2 },
    s = handoverSource(file, state, derived),
    table = pointsTable(file, s, s.rows),
    bytes = await bytesOf(file),
    prove = (b: Uint8Array) => proveDelimited("a.csv", b, table, file);
  expect(prove(bytes)).toEqual({ counts: { rows: 5 }, difference: expect.closeTo(0.005, 9) });
  expect(refusal(() => prove(damaged(bytes, /^2,.*\n/m, "")))).toEqual(refusedWith(/holds 4 rows instead of 5/));
  // 0.125 rounded is 0.13: cut off it would be 0.12.
  expect(prove(damaged(bytes, "512000.13", "512000.12")).difference).toBeCloseTo(0.005, 9);
  expect(refusal(() => prove(damaged(bytes, "512020.50", "512020.49")))).toEqual(
    refusedWith(/row 2, easting is 512020.49 instead of 512020.5/),
  );
  expect(refusal(() => prove(damaged(bytes, "SPOT", "SPOD")))).toEqual(refusedWith(/is “SPOD” instead of “SPOT”/));
  // A level that is missing is not 0.
  expect(refusal(() => prove(damaged(bytes, /,,SPOT/, ",0.00,SPOT")))).toEqual(refusedWith(/elevation is 0/));
  const list: ListFile = { file: "l.csv", format: "list", of: "lines" },
    lines = await bytesOf(list);
  expect(refusal(() => proveDelimited("l.csv", damaged(lines, "TOP,", "TOE,"), listTable(list, s), list))).toEqual(
    refusedWith(/“TOE” instead of “TOP”/),
  );
});

test("drawings and data: a coordinate in its last digit, a point, a line, a contour, a triangle", async () => {
  const landxml = { file: "a.xml", format: "landxml" as const },
    xml = await bytesOf(landxml),
    s = handoverSource(landxml, state, derived),
    proveXml = (b: Uint8Array) => proveLandXml(landxml, b, s);
  expect(proveXml(xml).difference).toBe(0);
  for (const [from, to, why] of [
    [/<CgPoint name="4"[^]*?<\/CgPoint>\n/, "", /4 points instead of 5/],
    ["512020.5 93.25", "512020.50001 93.25", /point 2 is/],
    [/<PlanFeature [^]*?<\/PlanFeature>/, "", /0 lines instead of 1/],
    [/<Contour [^]*?<\/Contour>/, "", /contours instead of/],
    [/<F>(\d+) (\d+) (\d+)<\/F>/, "<F>$2 $3 $1</F>", /a triangle of “ground” is/],
    [/<F>.*<\/F>\n/, "", /triangles instead of/],
  ] as const)
    expect(refusal(() => proveXml(damaged(xml, from, to)))).toEqual(refusedWith(why));

  const geojson = { file: "a.geojson", format: "geojson" as const },
    json = await bytesOf(geojson),
    g = handoverSource(geojson, state, derived);
  for (const [from, to, why] of [
    ["[512020.5,5640004,93.25]", "[512020.5,5640004,93.26]", /point 2 is 93.26/],
    ['"number":"3"', '"number":"33"', /“33” instead of “3”/],
    [/,\n\{"type":"Feature","properties":\{"surface":"ground","level".*\n/, ",\n", /./],
  ] as const)
    expect(refusal(() => proveGeoJson(geojson, damaged(json, from, to), g))).toEqual(refusedWith(why));

  const kml = { file: "a.kml", format: "kml" as const },
    earth = await bytesOf(kml),
    k = handoverSource(kml, state, derived);
  // A ten-thousandth of a degree is some metres.
  expect(refusal(() => proveKml(kml, damaged(earth, /<coordinates>9\.17/, "<coordinates>9.18"), k))).toEqual(
    refusedWith(/ is /),
  );
  expect(refusal(() => proveKml(kml, damaged(earth, /<Placemark><name>5[^]*?<\/Placemark>/, ""), k))).toEqual(
    refusedWith(/instead of/),
  );

  const gpx = { file: "a.gpx", format: "gpx" as const },
    marks = await bytesOf(gpx),
    x = handoverSource(gpx, state, derived);
  for (const [from, to, why] of [
    [' lon="9.17', ' lon="9.18', / is /],
    ["<ele>93.25</ele>", "<ele>93.26</ele>", /is 93.26/],
    ["<name>3</name>", "<name>33</name>", /“33” instead of “3”/],
    [/<wpt[^\n]*<name>5<[^\n]*\n/, "", /./],
    [/<trk>(?![^]*<trk>)[^]*<\/trk>/, "", /ends before/],
    ["</gpx>", '<wpt lat="1" lon="2"><name>x</name></wpt></gpx>', /more than was written/],
  ] as const)
    expect(refusal(() => proveGpx(gpx, damaged(marks, from, to), x))).toEqual(refusedWith(why));

  const dxf = { file: "a.dxf", format: "dxf" as const },
    drawing = await bytesOf(dxf),
    d = handoverSource(dxf, state, derived);
  expect(refusal(() => proveDxf(dxf, damaged(drawing, "512020.5", "512020.6"), d))).toEqual(refusedWith(/ is /));
  expect(refusal(() => proveDxf(dxf, damaged(drawing, "\r\n3DFACE\r\n", "\r\nNOTHING\r\n"), d))).toEqual(
    refusedWith(/triangles instead of/),
  );
  expect(refusal(() => proveDxf(dxf, damaged(drawing, "\r\nPOINT\r\n", "\r\nNOTHING\r\n"), d))).toEqual(
    refusedWith(/4 points instead of 5/),
  );
});

test("containers: the contents of another job", async () => {
  const other = derive(rows.map((r) => (r.number === "2" ? { ...r, e: r.e + 0.01 } : r)));
  const gpkg = { file: "a.gpkg", format: "gpkg" as const, holds: ["points" as const] },
    packed = await bytesOf(gpkg);
  await expect(proveGeoPackage(gpkg, packed, handoverSource(gpkg, other.state, other.derived))).rejects.toEqual(
    refusedWith(/point 2 is 512020.5 instead of 512020.51/),
  );
  const fewer = derive(rows.slice(0, 4));
  await expect(proveGeoPackage(gpkg, packed, handoverSource(gpkg, fewer.state, fewer.derived))).rejects.toEqual(
    refusedWith(/holds 5 points instead of 4/),
  );
  const xlsx: FileOf<"xlsx"> = { file: "a.xlsx", format: "xlsx" },
    book = await bytesOf(xlsx),
    s = handoverSource(xlsx, other.state, other.derived),
    table = pointsTable(xlsx, s, s.rows);
  await expect(proveWorkbook("a.xlsx", book, [table])).rejects.toEqual(refusedWith(/sheets instead of 1/));
  const own = handoverSource(xlsx, state, derived),
    sheets = [pointsTable(xlsx, own, own.rows), ...(["lines"] as const).map((of) => listTable({ of }, own))];
  expect((await proveWorkbook("a.xlsx", book, sheets)).counts).toEqual({ sheets: 2, points: 5, lines: 1 });
  await expect(proveWorkbook("a.xlsx", book, [table, sheets[1]!])).rejects.toEqual(
    refusedWith(/sheet points, row 3, easting/),
  );
});

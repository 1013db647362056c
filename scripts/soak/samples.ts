/** A small sound file of every format that comes in. */
import fs from "node:fs";
import path from "node:path";
import { strToU8, zipSync } from "fflate";
import initSqlJs from "sql.js";
import writeXlsx from "write-excel-file/node";
import { GENERAL_BOOK, openRecipe, runChain, writeFile, type Recipe } from "../../core/src/index";

const demo = path.join(process.env.BRAMBLE_ROOT ?? ".", "demo/gorsefold");
const ROWS = 40;

const rows = Array.from({ length: ROWS }, (_, i) => ({
  number: String(i + 1),
  e: 3000 + (i % 8) * 5.25,
  n: 7000 + Math.floor(i / 8) * 4.75,
  z: 50 + ((i * 7) % 13) / 10,
  code: ["SPOT", "HEDGE1", "TOP1 [", "TOP1", "TREE 4.5 6", 'KERB2; "by the gate"', "SPOT; wet"][i % 7]!,
}));
const quoted = (s: string) => (/[",;]/.test(s) ? `"${s.replaceAll('"', '""')}"` : s);
const csv =
  `number,easting,northing,elevation,description\n` +
  `${rows.map((r) => `${r.number},${r.e},${r.n},${r.z},${quoted(r.code)}`).join("\n")}\n`;
const fixed = rows
  .map(
    (r) =>
      `${r.number.padEnd(8)}${r.e.toFixed(3).padStart(12)}${r.n.toFixed(3).padStart(12)}${r.z.toFixed(3).padStart(10)}  ${r.code}`,
  )
  .join("\n");

/** A survey's first observations, closed again. */
function shortened(survey: string): string {
  const last = "</RawObservation>",
    end = survey.lastIndexOf(last, 9000) + last.length;
  return `${survey.slice(0, end)}</ObservationGroup></Survey></LandXML>`;
}

async function database(): Promise<Uint8Array> {
  const SQL = await initSqlJs(),
    db = new SQL.Database();
  db.run("CREATE TABLE shots (number TEXT, easting REAL, northing REAL, elevation REAL, description TEXT)");
  for (const r of rows) db.run("INSERT INTO shots VALUES (?, ?, ?, ?, ?)", [r.number, r.e, r.n, r.z, r.code]);
  const bytes = db.export();
  db.close();
  return bytes;
}

function geoJson(): string {
  const points = rows.map((r) => ({
    type: "Feature",
    properties: { number: r.number, description: r.code },
    geometry: { type: "Point", coordinates: [r.e, r.n, r.z] },
  }));
  const line = {
    type: "Feature",
    properties: { name: "kerb" },
    geometry: { type: "LineString", coordinates: rows.slice(0, 5).map((r) => [r.e, r.n, r.z]) },
  };
  return JSON.stringify({ type: "FeatureCollection", features: [...points, line] });
}

/** A drawing of our own, with what others put into theirs. */
async function drawing(): Promise<Uint8Array> {
  const recipe: Recipe = {
    recipe: 1,
    codeBook: GENERAL_BOOK,
    intakes: [{ id: "a", file: "a.csv" }],
    surfaces: [{ name: "ground" }],
    contours: [{ surface: "ground", interval: 0.5 }],
  };
  const { state } = openRecipe(recipe, () => strToU8(csv)),
    { bytes } = await writeFile({ file: "a.dxf", format: "dxf" }, state, runChain(state)),
    text = new TextDecoder().decode(bytes);
  const old =
    "0\nPOLYLINE\n8\nOLD\n66\n1\n70\n8\n0\nVERTEX\n8\nOLD\n10\n3001.5\n20\n7002.5\n30\n51\n" +
    "0\nVERTEX\n8\nOLD\n10\n3011.5\n20\n7012.5\n30\n52\n42\n0.5\n0\nSEQEND\n8\nOLD\n" +
    "0\n3DFACE\n8\nOLD\n10\n0\n20\n0\n30\n1\n11\n10\n21\n0\n31\n2\n12\n0\n22\n10\n32\n3\n13\n0\n23\n10\n33\n3\n" +
    "0\nPOINT\n8\nOLD\n10\n3003\n20\n7003\n30\n50\n";
  // Short enough that most damage hits what is read: the entities, without tables and blocks, up to a whole one.
  const entities = text.slice(text.indexOf("ENTITIES") + 9),
    end = entities.lastIndexOf("\n  0\n", 12_000);
  return strToU8(`0\nSECTION\n2\nENTITIES\n${old}${entities.slice(0, end < 0 ? 0 : end + 1)}0\nENDSEC\n0\nEOF\n`);
}

export async function samples(): Promise<Record<string, Uint8Array>> {
  const survey = fs.readFileSync(path.join(demo, "gorsefold-day1.xml"), "utf8"),
    design = fs.readFileSync(path.join(demo, "gorsefold-design.xml"), "utf8"),
    recipe: Recipe = {
      recipe: 1,
      unit: "m",
      codeBook: GENERAL_BOOK,
      intakes: [{ id: "a", file: "a.csv" }],
      edits: [{ points: "1-5, 9", set: { elevation: 51.25 } }],
      sets: [{ name: "low", rule: { elevation: [null, 50.5] } }],
      surfaces: [{ name: "ground", points: "low" }],
      contours: [{ surface: "ground", interval: 0.5 }],
      lines: [{ name: "by hand 1", code: "KERB", points: "1, 2, 3" }],
    } as Recipe;
  const text = JSON.stringify(recipe);
  return {
    "a.csv": strToU8(csv),
    "b.csv": strToU8(csv.replaceAll(",", ";").replaceAll(".", ",")),
    "a.txt": strToU8(fixed),
    "survey.xml": strToU8(survey),
    "short.xml": strToU8(shortened(survey)),
    "design.xml": strToU8(design),
    "a.geojson": strToU8(geoJson()),
    "a.dxf": await drawing(),
    "a.sqlite": await database(),
    "a.xlsx": await writeXlsx(
      rows.map((r) => [r.number, r.e, r.n, r.z, r.code].map((value) => ({ value }))),
    ).toBuffer(),
    "a.gtx": fs.readFileSync(path.join(demo, "gorsefold-geoid.gtx")),
    "recipe.json": strToU8(text),
    "recipe.zip": zipSync({ "recipe.json": strToU8(text), "a.csv": strToU8(csv) }),
  };
}

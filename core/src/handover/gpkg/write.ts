/**
 * GeoPackage 1.3 (OGC 12-128r17): points, lines, areas, contours and triangles of surfaces as tables of features in an
 * SQLite database, made by sql.js. Positions are the job's own doubles; a level not known on a line is taken from its
 * neighbours. Without a coordinate system the undefined Cartesian one of the standard holds.
 */
import type { Database, SqlValue } from "sql.js";
import { attributeNames, attributeOf, codeOf } from "../../codes/read";
import { KINDS } from "../../records/kinds";
import { descriptionOf } from "../../points/table";
import {
  areaOfLine,
  contourFeatures,
  fieldOfAttribute,
  filledLevels,
  lineFeatures,
  pointRows,
  vertexOf,
} from "../features";
import { heldBy, type FileOf } from "../files";
import type { HandoverSource } from "../source";
import { boxOf, pointGeometry, wayGeometry, type Box } from "./geometry";

const APPLICATION = 0x47504b47,
  VERSION = 10300;

const CONTENTS = `
CREATE TABLE gpkg_spatial_ref_sys (srs_name TEXT NOT NULL, srs_id INTEGER NOT NULL PRIMARY KEY, organization TEXT NOT NULL,
  organization_coordsys_id INTEGER NOT NULL, definition TEXT NOT NULL, description TEXT);
CREATE TABLE gpkg_contents (table_name TEXT NOT NULL PRIMARY KEY, data_type TEXT NOT NULL, identifier TEXT UNIQUE,
  description TEXT DEFAULT '', last_change DATETIME NOT NULL, min_x DOUBLE, min_y DOUBLE, max_x DOUBLE, max_y DOUBLE, srs_id INTEGER,
  CONSTRAINT fk_gc_r_srs_id FOREIGN KEY (srs_id) REFERENCES gpkg_spatial_ref_sys(srs_id));
CREATE TABLE gpkg_geometry_columns (table_name TEXT NOT NULL, column_name TEXT NOT NULL, geometry_type_name TEXT NOT NULL,
  srs_id INTEGER NOT NULL, z TINYINT NOT NULL, m TINYINT NOT NULL, CONSTRAINT pk_geom_cols PRIMARY KEY (table_name, column_name),
  CONSTRAINT uk_gc_table_name UNIQUE (table_name), CONSTRAINT fk_gc_tn FOREIGN KEY (table_name) REFERENCES gpkg_contents(table_name),
  CONSTRAINT fk_gc_srs FOREIGN KEY (srs_id) REFERENCES gpkg_spatial_ref_sys (srs_id));`;

const WGS84 =
  'GEOGCS["WGS 84",DATUM["WGS_1984",SPHEROID["WGS 84",6378137,298.257223563,AUTHORITY["EPSG","7030"]],' +
  'AUTHORITY["EPSG","6326"]],PRIMEM["Greenwich",0],UNIT["degree",0.0174532925199433],AUTHORITY["EPSG","4326"]]';

type Row = SqlValue[];

export async function writeGeoPackage(file: FileOf<"gpkg">, s: HandoverSource): Promise<Uint8Array> {
  const holds = new Set(heldBy(file)),
    { default: initSqlJs } = await import("sql.js/dist/sql-wasm-inline.js"),
    SQL = await initSqlJs(),
    db = new SQL.Database();
  try {
    db.run(`PRAGMA application_id = ${APPLICATION}; PRAGMA user_version = ${VERSION};`);
    db.run(CONTENTS);
    const srs = s.system ? Number(s.system.replace("EPSG:", "")) : -1;
    for (const row of systems(s)) db.run("INSERT INTO gpkg_spatial_ref_sys VALUES (?,?,?,?,?,?)", row);
    const tables = new Tables(db, srs, `${s.date ?? "1970-01-01"}T00:00:00.000Z`);
    db.run("BEGIN");
    if (holds.has("points")) writePoints(tables, s, srs);
    if (holds.has("lines")) writeLines(tables, s, srs);
    if (holds.has("contours"))
      tables.write("contours", "LINESTRING", ["surface TEXT", "level DOUBLE", '"index" BOOLEAN'], contourRows(s, srs));
    if (holds.has("surfaces")) tables.write("triangles", "POLYGON", ["surface TEXT"], triangleRows(s, srs));
    db.run("COMMIT");
    return db.export();
  } finally {
    db.close();
  }
}

function systems(s: HandoverSource): Row[] {
  const own: Row[] =
    s.system && s.system !== "EPSG:4326"
      ? [
          [
            s.system,
            Number(s.system.replace("EPSG:", "")),
            "EPSG",
            Number(s.system.replace("EPSG:", "")),
            "undefined",
            s.system,
          ],
        ]
      : [];
  return [
    ["Undefined Cartesian", -1, "NONE", -1, "undefined", "undefined Cartesian coordinate reference system"],
    ["Undefined geographic", 0, "NONE", 0, "undefined", "undefined geographic coordinate reference system"],
    ["WGS 84 geodetic", 4326, "EPSG", 4326, WGS84, "longitude and latitude in degrees on the WGS 84 ellipsoid"],
    ...own,
  ];
}

/** Tables of features; the extent of each is told with its contents. */
class Tables {
  constructor(
    private readonly db: Database,
    private readonly srs: number,
    private readonly changed: string,
  ) {}

  /** Rows begin with their geometry. */
  write(name: string, type: string, columns: readonly string[], rows: Iterable<{ row: Row; box: Box }>): void {
    this.db.run(
      `CREATE TABLE ${name} (fid INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL, geom ${type}${columns.map((c) => `, ${c}`).join("")})`,
    );
    const all: Box = { minE: Infinity, minN: Infinity, maxE: -Infinity, maxN: -Infinity },
      insert = this.db.prepare(`INSERT INTO ${name} VALUES (NULL,?${",?".repeat(columns.length)})`);
    for (const { row, box } of rows) {
      insert.run(row);
      all.minE = Math.min(all.minE, box.minE);
      all.minN = Math.min(all.minN, box.minN);
      all.maxE = Math.max(all.maxE, box.maxE);
      all.maxN = Math.max(all.maxN, box.maxN);
    }
    insert.free();
    const extent = all.minE <= all.maxE ? [all.minE, all.minN, all.maxE, all.maxN] : [null, null, null, null];
    this.db.run("INSERT INTO gpkg_contents VALUES (?,?,?,?,?,?,?,?,?,?)", [
      name,
      "features",
      name,
      "",
      this.changed,
      ...extent,
      this.srs,
    ]);
    // Levels may be there or not: not all are known.
    this.db.run("INSERT INTO gpkg_geometry_columns VALUES (?,'geom',?,?,2,0)", [name, type, this.srs]);
  }
}

const quoted = (name: string) => `"${name.replaceAll('"', '""').replaceAll("\0", "")}"`;

function writePoints(tables: Tables, s: HandoverSource, srs: number): void {
  const { table: t } = s,
    // Names of columns differ by more than the size of their letters.
    seen = new Set<string>(),
    attributes = attributeNames(t, s.coded).filter((written) => {
      const name = fieldOfAttribute(written).toLowerCase();
      return name !== "" && !seen.has(name) && seen.add(name);
    });
  const columns = [
    "number TEXT",
    "code TEXT",
    "elevation DOUBLE",
    "description TEXT",
    "note TEXT",
    "kind TEXT",
    "label TEXT",
    ...attributes.map((name) => `${quoted(fieldOfAttribute(name))} TEXT`),
  ];
  tables.write(
    "points",
    "POINT",
    columns,
    (function* () {
      for (const i of pointRows(s)) {
        const [e, n, z] = [t.e[i]!, t.n[i]!, t.z[i]!];
        yield {
          box: { minE: e, maxE: e, minN: n, maxN: n },
          row: [
            pointGeometry(srs, e, n, z),
            t.number[i]!,
            codeOf(s.coded, i),
            Number.isNaN(z) ? null : z,
            descriptionOf(t, i),
            t.texts[t.note[i]!] || null,
            KINDS[t.kind[i]!]!,
            s.labels.get(i) ?? null,
            ...attributes.map((name) => attributeOf(t, s.coded, i, name) || null),
          ],
        };
      }
    })(),
  );
}

/** A row of a way: its geometry, then its facts. */
function wayRow(srs: number, xyz: ArrayLike<number>, area: boolean, facts: Row): { row: Row; box: Box } {
  const box = boxOf(xyz);
  return { box, row: [wayGeometry(srs, xyz, filledLevels(xyz), area, box), ...facts] };
}

function writeLines(tables: Tables, s: HandoverSource, srs: number): void {
  const features = lineFeatures(s),
    common = ["code TEXT", "run TEXT", "name TEXT", "layer TEXT", "length DOUBLE"];
  const rows = (areas: boolean) =>
    features
      .filter((f) => f.isArea === areas)
      .map(({ line, meaning, layer, xyz }) => {
        const facts = [line.code, line.run, meaning ?? null, layer, line.length];
        return wayRow(srs, xyz, areas, areas ? [...facts, areaOfLine(line)] : facts);
      });
  tables.write("lines", "LINESTRING", common, rows(false));
  tables.write("areas", "POLYGON", [...common, "area DOUBLE"], rows(true));
}

function* contourRows(s: HandoverSource, srs: number): Generator<{ row: Row; box: Box }> {
  for (const c of contourFeatures(s.contours)) yield wayRow(srs, c.xyz, false, [c.surface, c.level, c.index ? 1 : 0]);
}

function* triangleRows(s: HandoverSource, srs: number): Generator<{ row: Row; box: Box }> {
  const xyz = new Float64Array(12);
  for (const surface of s.surfaces)
    for (let h = 0; h < surface.tri.length; h += 3) {
      for (let k = 0; k < 4; k++) xyz.set(vertexOf(surface, surface.tri[h + (k % 3)]!), 3 * k);
      yield wayRow(srs, xyz, true, [surface.name]);
    }
}

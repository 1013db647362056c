/** Drawings and data files read back: by the readers of the intake, JSON and SQLite, against the job's own geometry. */
import { readDxf } from "../../intake/dxf";
import { readGeometryBlob } from "../../intake/geometry-blob";
import { readLandXml } from "../../intake/landxml";
import { numbersOf, readXml } from "../../intake/xml";
import { METRES } from "../../math/units";
import { contourFeatures, lineFeatures, pointRows, vertexOf } from "../features";
import { kmlPlacemarks } from "../kml";
import { fromDegrees } from "../degrees";
import { legsOf } from "../landxml/lines";
import { heldBy, type FileOf } from "../files";
import type { HandoverSource } from "../source";
import { Found, type Proof } from "./found";

export function proveDxf(file: FileOf<"dxf">, bytes: Uint8Array, s: HandoverSource): Proof {
  const found = new Found(file.file, 0),
    { records, reference } = readDxf(file.file, bytes, s.unit),
    rows = pointRows(s);
  found.count("points", rows.length, records.count);
  rows.forEach((i, k) => {
    const z = s.table.z[i]!;
    found.position(
      `point ${s.table.number[i]}`,
      [s.table.e[i]!, s.table.n[i]!, Number.isNaN(z) ? 0 : z],
      [records.e[k]!, records.n[k]!, records.z[k]!],
    );
  });
  // Contours come first, then the lines as they are in space, then as they are drawn in plan.
  const contours = file.contours === false ? [] : [...contourFeatures(leaving(s, s.contours, (c) => c.surface))],
    lines = lineFeatures(s),
    ways = [
      ...contours.map((c) => ({ ...c, name: `contour ${c.level}` })),
      ...lines.map(({ name, closed, xyz }) => ({ name, closed, xyz })),
    ];
  if (reference.lines.length < ways.length) found.refuse(`it holds ${reference.lines.length} ways`);
  ways.forEach(({ name, closed, xyz }, k) =>
    found.way(name, closed ? xyz.subarray(0, xyz.length - 3) : xyz, reference.lines[k]!.xyz),
  );
  found.count("contours", contours.length, contours.length);
  found.count("lines", lines.length, lines.length);
  const surfaces = file.triangles === false ? [] : leaving(s, s.surfaces, (x) => x.name);
  found.count("surfaces", surfaces.length, reference.surfaces.length);
  surfaces.forEach((surface, k) => {
    const read = reference.surfaces[k]!;
    found.count("triangles", surface.tri.length / 3, read.faces.length / 3);
    surface.tri.forEach((v, h) =>
      found.position(`a corner of “${surface.name}”`, vertexOf(surface, v), read.points, 0, 3 * read.faces[h]!),
    );
  });
  return found.proof;
}

/** Those of surfaces that are not left out because they are hidden. */
function leaving<T>(s: HandoverSource, all: readonly T[], nameOf: (x: T) => string): T[] {
  const hidden = new Set((s.drawing.surfaces ?? []).filter((x) => x.hidden).map((x) => x.surface));
  return all.filter((x) => s.hidden === "off" || !hidden.has(nameOf(x)));
}

export function proveLandXml(file: FileOf<"landxml">, bytes: Uint8Array, s: HandoverSource): Proof {
  const found = new Found(file.file, 0),
    holds = new Set(heldBy(file));
  const { records, reference, survey } = readLandXml(file.file, bytes, s.unit, undefined, () => false);
  if (holds.has("points")) {
    const rows = pointRows(s),
      at = new Map(records.number.all().map((number, k) => [number, k]));
    let there = 0;
    for (const i of rows) {
      const k = at.get(s.table.number[i]!.trim());
      if (k === undefined || records.observed?.[k]) continue;
      there++;
      found.position(
        `point ${s.table.number[i]}`,
        [s.table.e[i]!, s.table.n[i]!, s.table.z[i]!],
        [records.e[k]!, records.n[k]!, records.z[k]!],
      );
    }
    found.count("points", rows.length, there);
  }
  if (holds.has("lines")) {
    const lines = lineFeatures(s),
      read = (reference?.lines ?? []).filter((l) => l.kind === "feature");
    found.count("lines", lines.length, read.length);
    lines.forEach((f, k) => {
      const corners: number[] = [],
        sweeps: number[] = [];
      for (const leg of legsOf(f)) {
        if (corners.length === 0) corners.push(...leg.from);
        if (leg.type === "chords") for (const x of leg.xyz.subarray(3)) corners.push(x);
        else corners.push(...leg.to);
        sweeps.push(...(leg.type === "chords" ? Array.from({ length: leg.xyz.length / 3 - 1 }, () => 0) : []));
        if (leg.type !== "chords") sweeps.push(leg.type === "arc" ? leg.sweep : 0);
      }
      const { xyz, sweep, closed } = read[k]!;
      if (closed) corners.splice(-3);
      found.way(f.name, corners, xyz);
      // Angles come from positions: what their digits leave of them at this radius is far below a micrometre.
      sweeps.forEach((x, j) => found.number(`an arc of ${f.name}`, x, sweep[j]!, 1e-7));
    });
  }
  if (holds.has("surfaces")) {
    const read = reference?.surfaces ?? [];
    found.count("surfaces", s.surfaces.length, read.length);
    s.surfaces.forEach((surface, k) => {
      const { points, faces } = read[k]!;
      found.count("triangles", surface.tri.length / 3, faces.length / 3);
      surface.tri.forEach((v, h) => found.number(`a triangle of “${surface.name}”`, v, faces[h]!));
      for (let v = 0; v < surface.x.length; v++)
        found.position(`a vertex of “${surface.name}”`, vertexOf(surface, v), points, 0, 3 * v);
    });
  }
  if (holds.has("contours")) {
    const wanted = [...contourFeatures(s.contours)],
      read: number[] = [];
    readXml(file.file, bytes, {
      close(x) {
        if (x.name === "Contour") read.push(Number(x.attributes.elev));
        x.text = "";
      },
    });
    found.count("contours", wanted.length, read.length);
    wanted.forEach((c, k) => found.number("a contour's level", c.level, read[k]!));
  }
  if (holds.has("survey")) {
    const of = (read: (x: NonNullable<typeof survey>) => number) =>
      s.delivered.reduce((sum, d) => sum + (d.survey ? read(d.survey) : 0), 0);
    found.count(
      "setups",
      of((x) => x.setups.length),
      survey?.setups.length ?? 0,
    );
    found.count(
      "observations",
      of((x) => x.observations.count),
      survey?.observations.count ?? 0,
    );
  }
  return found.proof;
}

interface Feature {
  properties: Record<string, unknown>;
  geometry: { type: string; coordinates: unknown };
}
type Position = number[];

export function proveGeoJson(file: FileOf<"geojson">, bytes: Uint8Array, s: HandoverSource): Proof {
  const holds = new Set(heldBy(file)),
    { features } = JSON.parse(new TextDecoder().decode(bytes)) as { features: Feature[] },
    inDegrees = file.coordinates === "latitude-longitude";
  // A ten-millionth of a metre is what the way there and back costs.
  const found = new Found(file.file, inDegrees ? 1e-5 / METRES[s.unit] : 0),
    back = inDegrees ? fromDegrees(s) : (x: Position) => [x[0]!, x[1]!, x[2] ?? NaN];
  const flat = (ways: Position[]) => ways.flatMap(back);
  let at = 0;
  const next = () => features[at++] ?? found.refuse("features are missing");
  if (holds.has("points")) {
    const rows = pointRows(s);
    for (const i of rows) {
      const f = next();
      found.text("a number", s.table.number[i]!, String(f.properties.number));
      const wanted = [s.table.e[i]!, s.table.n[i]!, s.table.z[i]!];
      found.position(`point ${s.table.number[i]}`, wanted, back(f.geometry.coordinates as Position));
    }
    found.count("points", rows.length, at);
  }
  if (holds.has("lines")) {
    const lines = lineFeatures(s),
      from = at;
    for (const f of lines) {
      const { geometry } = next(),
        way = geometry.type === "Polygon" ? (geometry.coordinates as Position[][])[0]! : geometry.coordinates;
      found.way(f.name, f.xyz, flat(way as Position[]));
    }
    found.count("lines", lines.length, at - from);
  }
  if (holds.has("contours")) {
    const from = at;
    let wanted = 0;
    for (const c of contourFeatures(s.contours)) {
      wanted++;
      found.way(`contour ${c.level}`, c.xyz, flat(next().geometry.coordinates as Position[]));
    }
    found.count("contours", wanted, at - from);
  }
  if (holds.has("surfaces")) {
    const from = at;
    for (const surface of s.surfaces) {
      const triangles = next().geometry.coordinates as Position[][][];
      found.count("triangles", surface.tri.length / 3, triangles.length);
      surface.tri.forEach((v, h) =>
        found.position(
          `a corner of “${surface.name}”`,
          vertexOf(surface, v),
          back(triangles[Math.floor(h / 3)]![0]![h % 3]!),
        ),
      );
    }
    found.count("surfaces", s.surfaces.length, at - from);
  }
  found.count("features", features.length, at);
  return found.proof;
}

export function proveKml(file: FileOf<"kml">, bytes: Uint8Array, s: HandoverSource): Proof {
  const found = new Found(file.file, 1e-5 / METRES[s.unit]),
    back = fromDegrees(s),
    wanted = kmlPlacemarks(file, s);
  let at = 0,
    name = "";
  readXml(file.file, bytes, {
    close(x) {
      if (x.name === "name") name = x.text;
      if (x.name === "coordinates") {
        const w = wanted[at++] ?? found.refuse("it holds more than was written");
        found.text("a name", w.name, name);
        const xyz = x.text
          .trim()
          .split(/\s+/)
          .flatMap((tuple) => back(numbersOf(tuple.replaceAll(",", " "))));
        found.way(w.name, w.xyz, xyz);
      }
      x.text = "";
    },
  });
  found.count("placemarks", wanted.length, at);
  return found.proof;
}

export async function proveGeoPackage(file: FileOf<"gpkg">, bytes: Uint8Array, s: HandoverSource): Promise<Proof> {
  const found = new Found(file.file, 0),
    holds = new Set(heldBy(file)),
    { default: initSqlJs } = await import("sql.js/dist/sql-wasm-inline.js"),
    db = new (await initSqlJs()).Database(bytes);
  const prove = (table: string, called: string, wanted: Iterable<readonly [string, ArrayLike<number>]>) => {
    const statement = db.prepare(`SELECT geom FROM ${table} ORDER BY fid`);
    let count = 0,
      read = 0;
    for (const [what, xyz] of wanted) {
      count++;
      if (!statement.step()) continue;
      read++;
      const blob = readGeometryBlob(statement.get()[0] as Uint8Array);
      found.way(what, xyz, blob?.ways[0] ?? []);
    }
    while (statement.step()) read++;
    statement.free();
    found.count(called, count, read);
  };
  try {
    const { table: t } = s;
    if (holds.has("points"))
      prove(
        "points",
        "points",
        Array.from(pointRows(s), (i) => [`point ${t.number[i]}`, [t.e[i]!, t.n[i]!, t.z[i]!]] as const),
      );
    if (holds.has("lines"))
      for (const [table, areas] of [
        ["lines", false],
        ["areas", true],
      ] as const)
        prove(
          table,
          "lines",
          lineFeatures(s)
            .filter((f) => f.isArea === areas)
            .map((f) => [f.name, f.xyz] as const),
        );
    if (holds.has("contours"))
      prove(
        "contours",
        "contours",
        (function* () {
          for (const c of contourFeatures(s.contours)) yield [`contour ${c.level}`, c.xyz] as const;
        })(),
      );
    if (holds.has("surfaces")) prove("triangles", "triangles", triangles(s));
  } finally {
    db.close();
  }
  return found.proof;
}

function* triangles(s: HandoverSource): Generator<readonly [string, ArrayLike<number>]> {
  for (const surface of s.surfaces)
    for (let h = 0; h < surface.tri.length; h += 3)
      yield [
        `a triangle of “${surface.name}”`,
        [0, 1, 2, 0].flatMap((k) => vertexOf(surface, surface.tri[h + k]!)),
      ] as const;
}

/**
 * GeoJSON (RFC 7946): points, lines, areas, contours and surfaces as features. Coordinates are the job's own unless
 * latitude and longitude are asked for, as the standard would have it; each is the shortest decimal that reads back as
 * the same number. A level that is not known is left out.
 */
import { attributeNames, codeOf } from "../codes/read";
import { ByteText } from "../math/byte-text";
import { KINDS } from "../records/kinds";
import { descriptionOf } from "../points/table";
import { toDegrees, type ToDegrees } from "./degrees";
import {
  areaOfLine,
  attributesOfPoint,
  contourFeatures,
  lineFeatures,
  pointRows,
  vertexOf,
  type Way,
} from "./features";
import { heldBy, type FileOf } from "./files";
import type { HandoverSource } from "./source";

type Properties = Record<string, string | number | boolean | undefined>;

export function writeGeoJson(file: FileOf<"geojson">, s: HandoverSource): Uint8Array {
  const holds = new Set(heldBy(file)),
    inDegrees = file.coordinates === "latitude-longitude",
    at: ToDegrees = inDegrees ? toDegrees(file.file, s) : (e, n, z) => [e, n, z];
  const out = new ByteText(),
    names = attributeNames(s.table, s.coded);
  const position = (e: number, n: number, z: number) => {
    const [x, y, h] = at(e, n, z);
    return Number.isNaN(h) ? `[${x},${y}]` : `[${x},${y},${h}]`;
  };
  const way = ({ xyz }: Way) => {
    const all: string[] = [];
    for (let k = 0; k < xyz.length; k += 3) all.push(position(xyz[k]!, xyz[k + 1]!, xyz[k + 2]!));
    return `[${all.join(",")}]`;
  };
  let count = 0;
  const begin = (type: string, properties: Properties) =>
    out.add(
      `${count++ ? ",\n" : ""}{"type":"Feature","properties":${JSON.stringify(properties)},"geometry":{"type":"${type}","coordinates":`,
    );
  const feature = (type: string, coordinates: string, properties: Properties) => {
    begin(type, properties);
    out.add(`${coordinates}}}`);
  };
  const system = s.system && !inDegrees ? `,"crs":{"type":"name","properties":{"name":"${crsName(s.system)}"}}` : "";
  out.line(`{"type":"FeatureCollection","name":${JSON.stringify(s.name)}${system},"features":[`);
  if (holds.has("points"))
    for (const i of pointRows(s))
      feature("Point", position(s.table.e[i]!, s.table.n[i]!, s.table.z[i]!), ofPoint(s, i, names));
  if (holds.has("lines"))
    for (const f of lineFeatures(s))
      feature(f.isArea ? "Polygon" : "LineString", f.isArea ? `[${way(f)}]` : way(f), {
        code: f.line.code,
        run: f.line.run,
        name: f.line.entry.name,
        line: f.ownName,
        layer: f.layer,
        length: f.line.length,
        area: f.closed ? areaOfLine(f.line) : undefined,
      });
  if (holds.has("contours"))
    for (const c of contourFeatures(s.contours))
      feature("LineString", way(c), { surface: c.surface, level: c.level, index: c.index });
  if (holds.has("surfaces"))
    for (const surface of s.surfaces) {
      begin("MultiPolygon", { surface: surface.name });
      const { tri } = surface,
        corner = (h: number) => position(...vertexOf(surface, tri[h]!));
      for (let h = 0; h < tri.length; h += 3) {
        const first = corner(h);
        out.add(`${h ? ",\n" : "["}[[${first},${corner(h + 1)},${corner(h + 2)},${first}]]`);
      }
      out.add("]}}");
    }
  out.line("\n]}");
  return out.bytes();
}

/** `EPSG:25832` as a name that programs read which know systems in GeoJSON. */
const crsName = (system: string) => `urn:ogc:def:crs:${system.replace(":", "::")}`;

function ofPoint(s: HandoverSource, i: number, names: readonly string[]): Properties {
  const { table: t } = s,
    label = s.labels.get(i);
  return {
    number: t.number[i]!,
    code: codeOf(s.coded, i),
    elevation: Number.isNaN(t.z[i]!) ? undefined : t.z[i]!,
    description: descriptionOf(t, i),
    kind: KINDS[t.kind[i]!]!,
    ...(label ? { label } : {}),
    ...attributesOfPoint(s, i, names),
  };
}

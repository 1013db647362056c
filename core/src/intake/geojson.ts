/** GeoJSON (RFC 7946) → a table of its points, and its lines and areas as reference. Coordinates are east, north, level as they stand. */
import { parseJson } from "../math/json";
import { refusal } from "../errors";
import { plural } from "../math/words";
import type { ReferenceLine } from "../records/reference";
import type { Table, Tables } from "./tables";

const LARGEST = 400e6;

interface Geometry {
  type?: unknown;
  coordinates?: unknown;
  geometries?: unknown;
}
interface Feature {
  type?: unknown;
  id?: unknown;
  geometry?: Geometry | null;
  properties?: Record<string, unknown> | null;
}

export function openGeoJson(file: string, bytes: Uint8Array): Tables {
  const wrong = (why: string) => refusal("file-format", { file, what: "GeoJSON", why });
  if (bytes.length > LARGEST) throw refusal("file-too-large", { file, bytes: bytes.length, limit: LARGEST });
  let data: { type?: unknown; features?: unknown; name?: unknown; crs?: unknown };
  try {
    data = parseJson(new TextDecoder().decode(bytes)) as typeof data;
  } catch (e) {
    throw wrong((e as Error).message.replace(/\s+/g, " ").slice(0, 120));
  }
  const features: Feature[] | undefined =
    data?.type === "FeatureCollection" && Array.isArray(data.features)
      ? (data.features as Feature[])
      : data?.type === "Feature"
        ? [data as Feature]
        : typeof data?.type === "string" && "coordinates" in data
          ? [{ type: "Feature", geometry: data as Geometry, properties: null }]
          : undefined;
  if (!features) throw wrong("it has no list of features");
  const keys: string[] = [],
    seen = new Set<string>();
  for (const f of features)
    for (const key of Object.keys(f?.properties ?? {}))
      if (!seen.has(key) && seen.size < 200) {
        seen.add(key);
        keys.push(key);
      }
  const hasNumber = keys.some((k) => /^(no|nr|num|number|pt|point|name|id)$/i.test(k));
  const head = [...(hasNumber ? [] : ["number"]), ...keys, "easting", "northing", "elevation"];
  const rows: Table["rows"] = [],
    lines: ReferenceLine[] = [],
    notes: string[] = [];
  let others = 0,
    broken = 0;
  features.forEach((f, k) => {
    const g = f?.geometry;
    const cells = () => [
      ...(hasNumber ? [] : [typeof f.id === "string" || typeof f.id === "number" ? f.id : k + 1]),
      ...keys.map((key) => cellOf(f.properties?.[key])),
    ];
    const line = (coordinates: unknown, closed: boolean) => {
      const positions = Array.isArray(coordinates) ? coordinates.map(positionOf) : [];
      if (positions.length < 2 || positions.some((p) => p === undefined)) return void broken++;
      const list = positions as [number, number, number][];
      if (closed && list.length > 3) list.pop();
      const name = f.properties?.name ?? f.properties?.code ?? f.id ?? `line ${lines.length + 1}`;
      lines.push({
        name: String(name),
        layer: String(f.properties?.code ?? f.properties?.layer ?? ""),
        kind: "polyline",
        closed,
        xyz: Float64Array.from(list.flat()),
        sweep: new Float64Array(closed ? list.length : list.length - 1),
        start: 0,
      });
    };
    // Features keep their order: the row of a point is its feature's, from 1.
    rows.push([]);
    const many = (coordinates: unknown) => (Array.isArray(coordinates) ? coordinates : []) as unknown[];
    switch (g?.type) {
      case "Point": {
        const at = positionOf(g.coordinates);
        rows[k] = at ? [...cells(), at[0], at[1], Number.isNaN(at[2]) ? null : at[2]] : [...cells(), null, null, null];
        break;
      }
      case "LineString":
        line(g.coordinates, false);
        break;
      case "MultiLineString":
        many(g.coordinates).forEach((c) => line(c, false));
        break;
      case "Polygon":
        many(g.coordinates).forEach((c) => line(c, true));
        break;
      case "MultiPolygon":
        many(g.coordinates).forEach((p) => many(p).forEach((c) => line(c, true)));
        break;
      default:
        others++;
    }
  });
  if (others)
    notes.push(
      `${plural(others, "feature")} without a geometry that is read here (points, lines, areas) ${others === 1 ? "was" : "were"} passed over.`,
    );
  if (broken) notes.push(`${plural(broken, "line")} could not be read.`);
  return {
    tables: [{ name: typeof data.name === "string" ? data.name : "features", head, rows }],
    notes,
    ...(lines.length ? { reference: { lines, surfaces: [] } } : {}),
  };
}

function cellOf(v: unknown): string | number | null {
  if (typeof v === "number" || typeof v === "string") return v;
  return v === null || v === undefined ? null : typeof v === "boolean" ? String(v) : JSON.stringify(v).slice(0, 1000);
}

function positionOf(c: unknown): [number, number, number] | undefined {
  if (!Array.isArray(c) || typeof c[0] !== "number" || typeof c[1] !== "number") return undefined;
  return [c[0], c[1], typeof c[2] === "number" ? c[2] : NaN];
}

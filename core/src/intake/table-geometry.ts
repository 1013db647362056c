/** Lines and areas of a table's rows as reference; a table of nothing but triangles with levels as surfaces. */
import type { Reference, ReferenceSurface } from "../records/reference";
import type { BlobGeometry } from "./geometry-blob";
import type { Table } from "./table";

/** A geometry and the index of its row. */
export interface GeometryOfRow {
  geometry: BlobGeometry;
  row: number;
}

export function addReference(reference: Reference, table: Table, all: readonly GeometryOfRow[]): void {
  const text = (row: number, ...names: string[]) => {
    for (const name of names) {
      const cell = table.rows[row]![table.head!.findIndex((h) => h.toLowerCase() === name)];
      if (cell !== undefined && cell !== null && cell !== "") return String(cell);
    }
    return "";
  };
  if (isSurface(table.head!, all)) {
    reference.surfaces.push(...surfacesOf(all, (row) => text(row, "surface", "name") || table.name));
    return;
  }
  for (const { geometry, row } of all)
    for (const way of geometry.ways) {
      if (way.length < 6) continue;
      const closed = geometry.kind === "area",
        xyz = closed ? way.subarray(0, way.length - 3) : way,
        count = xyz.length / 3,
        code = text(row, "code", "layer"),
        run = text(row, "run");
      reference.lines.push({
        name: code ? `${code}${run ? ` ${run}` : ""}` : text(row, "name") || `${table.name} ${row + 1}`,
        layer: code || table.name,
        kind: "polyline",
        closed,
        xyz,
        sweep: new Float64Array(closed ? count : count - 1),
        start: 0,
      });
    }
}

/** Several triangles that go by no code; where a column names their surface one is enough. */
function isSurface(head: readonly string[], all: readonly GeometryOfRow[]): boolean {
  const has = (name: string) => head.some((h) => h.toLowerCase() === name),
    least = has("surface") ? 1 : has("code") ? Infinity : 2;
  return all.length >= least && all.every(({ geometry }) => isTriangle(geometry));
}

/** An area of three corners that all have a level. */
function isTriangle({ kind, ways }: BlobGeometry): boolean {
  const ring = ways[0];
  return kind === "area" && ways.length === 1 && ring!.length === 12 && !ring!.some(Number.isNaN);
}

/** Corners at the very same position are one vertex. */
function surfacesOf(all: readonly GeometryOfRow[], nameOf: (row: number) => string): ReferenceSurface[] {
  const made = new Map<string, { points: number[]; faces: number[]; index: Map<string, number> }>();
  for (const { geometry, row } of all) {
    const name = nameOf(row);
    let s = made.get(name);
    if (!s) made.set(name, (s = { points: [], faces: [], index: new Map() }));
    const ring = geometry.ways[0]!;
    for (let k = 0; k < 9; k += 3) {
      const key = `${ring[k]} ${ring[k + 1]} ${ring[k + 2]}`;
      let v = s.index.get(key);
      if (v === undefined) {
        s.index.set(key, (v = s.points.length / 3));
        s.points.push(ring[k]!, ring[k + 1]!, ring[k + 2]!);
      }
      s.faces.push(v);
    }
  }
  return [...made].map(([name, { points, faces }]) => ({
    name,
    points: Float64Array.from(points),
    faces: Uint32Array.from(faces),
  }));
}

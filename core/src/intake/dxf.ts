/** DXF as reference: points, lines, polylines with arcs, 3D faces. Nothing of it can be edited. */
import { KINDS } from "../records/kinds";
import { refusal } from "../errors";
import { plural } from "../math/words";
import { checkText } from "./delimited";
import { readEntities, type DxfDrawing, type DxfVertex } from "./dxf-entities";
import { unitFactor, UNIT_NAMES, type Unit } from "../math/units";
import { scaleReference, type Reference, type ReferenceLine, type ReferenceSurface } from "../records/reference";
import { scaleRecords, RecordList, type Records } from "../records/records";

const LARGEST = 200e6;

/** What $INSUNITS stands for: a unit of ours, or metres. 0 and unknown codes say nothing. */
const DRAWING_UNITS: Record<number, Unit | number> = {
  1: 0.0254,
  2: "ft",
  3: 1609.344,
  4: 0.001,
  5: 0.01,
  6: "m",
  7: 1000,
  10: 0.9144,
  14: 0.1,
  15: 10,
  16: 100,
  21: "ftUS",
};

/** Values that are no numbers are told one by one up to so many. */
const MOST_TOLD = 10;

/**
 * Points get numbers made from their layer and a count. The rows are the entities' order in the drawing, from 1. Lengths
 * are in the job's unit; `given` is the drawing's where the person says it, else the drawing's own word holds, else the
 * job's.
 */
export function readDxf(
  file: string,
  bytes: Uint8Array,
  jobUnit: Unit,
  given?: Unit,
): { records: Records; reference: Reference } {
  if (bytes.length > LARGEST) throw refusal("file-too-large", { file, bytes: bytes.length, limit: LARGEST });
  const wrong = (why: string) => refusal("file-format", { file, what: "DXF", why });
  // The binary form has zero bytes from its first line on.
  checkText(file, bytes);
  const text = new TextDecoder().decode(bytes);
  let drawing: DxfDrawing;
  try {
    drawing = readEntities(text);
  } catch (e) {
    throw wrong((e as Error).message);
  }
  const list = new RecordList();
  const lines: ReferenceLine[] = [],
    faces = new Map<string, { points: number[]; faces: number[]; index: Map<string, number> }>();
  const counts = new Map<string, number>(),
    left = new Map<string, number>();
  const named = (layer: string) => {
    counts.set(layer, (counts.get(layer) ?? 0) + 1);
    return `${layer}-${counts.get(layer)}`;
  };
  const surfaceOf = (layer: string) => {
    let s = faces.get(layer);
    if (!s) faces.set(layer, (s = { points: [], faces: [], index: new Map() }));
    return s;
  };
  const leave = (type: string) => void left.set(type, (left.get(type) ?? 0) + 1);
  const isPlaced = (v: DxfVertex) => Number.isFinite(v.x) && Number.isFinite(v.y);
  let told = 0;
  drawing.entities.forEach((x, k) => {
    const { type, layer, vertices } = x;
    if (x.inPaperSpace) return;
    if (x.wrong) {
      if (told++ < MOST_TOLD)
        list.notes.push(
          `Line ${x.wrong.line}: “${x.wrong.value}” is no number; the ${type} of layer ${layer} was left out.`,
        );
      return leave(type);
    }
    switch (type) {
      case "POINT": {
        const [v] = vertices;
        if (!v || !isPlaced(v)) return leave(type);
        list.add(k + 1, named(layer), v.x, v.y, v.z, { kind: KINDS.indexOf("reference"), note: `layer ${layer}` });
        break;
      }
      case "LINE":
      case "LWPOLYLINE":
      case "POLYLINE": {
        const way = vertices.filter(isPlaced);
        if (way.length < 2 || x.isMesh) return leave(type);
        const closed = x.closed && way.length > 2,
          legs = closed ? way.length : way.length - 1;
        lines.push({
          name: `${layer} ${lines.length + 1}`,
          layer,
          kind: "polyline",
          closed,
          start: 0,
          xyz: Float64Array.from(way.flatMap((v) => [v.x, v.y, v.z])),
          // A bulge is the tangent of a quarter of the swept angle, positive to the left.
          sweep: Float64Array.from({ length: legs }, (_, i) => -4 * Math.atan(way[i]!.bulge)),
        });
        break;
      }
      case "3DFACE": {
        if (vertices.length < 3 || vertices.some((v) => !isPlaced(v) || Number.isNaN(v.z))) return leave(type);
        const s = surfaceOf(layer);
        const at = vertices.map((v) => {
          const key = `${v.x} ${v.y} ${v.z}`;
          let i = s.index.get(key);
          if (i === undefined) {
            s.index.set(key, (i = s.points.length / 3));
            s.points.push(v.x, v.y, v.z);
          }
          return i;
        });
        s.faces.push(at[0]!, at[1]!, at[2]!);
        // The fourth corner repeats the third in a triangle.
        if (at[3] !== undefined && at[3] !== at[2] && at[3] !== at[0]) s.faces.push(at[0]!, at[2]!, at[3]);
        break;
      }
      default:
        leave(type);
    }
  });
  const surfaces = [...faces].map(([name, s]): ReferenceSurface => ({
    name,
    points: Float64Array.from(s.points),
    faces: Uint32Array.from(s.faces),
  }));
  for (const [type, count] of left)
    list.notes.push(
      `${plural(count, "entity", "entities")} of the kind ${type} ${count === 1 ? "was" : "were"} not read.`,
    );
  const parts = [
    lines.length && plural(lines.length, "line"),
    surfaces.length && plural(surfaces.length, "surface"),
  ].filter(Boolean);
  if (parts.length) list.notes.push(`It brings ${parts.join(" and ")} as reference.`);
  const own = given ?? DRAWING_UNITS[drawing.units ?? 0] ?? jobUnit,
    factor = typeof own === "string" ? unitFactor(own, jobUnit) : own * unitFactor("m", jobUnit);
  if (given === undefined && factor !== 1) {
    const said = typeof own === "string" ? `its unit is the ${UNIT_NAMES[own]}` : `one of its units is ${own} m`;
    list.notes.push(`The drawing says that ${said}: it was converted.`);
  }
  return {
    records: scaleRecords(list.records(KINDS.indexOf("reference")), factor),
    reference: scaleReference({ lines, surfaces }, factor),
  };
}

/**
 * A geoid grid in the open GTX format: 40 bytes of head (south, west, step in latitude, step in longitude as doubles,
 * rows and columns as 32-bit integers, all big endian), then the undulations row by row from south to north as 32-bit
 * floats in metres; −88.8888 is "none".
 */
import { refusal } from "../errors";

export interface Geoid {
  south: number;
  west: number;
  stepLat: number;
  stepLon: number;
  rows: number;
  columns: number;
  metres: Float32Array;
}

const HEAD = 40;
const NONE = -88.8888;

export function readGeoid(file: string, bytes: Uint8Array): Geoid {
  if (bytes.length < HEAD + 16)
    throw refusal("file-geoid", { file, why: "it is too short to be a grid in the GTX format" });
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const [south, west, stepLat, stepLon] = [0, 8, 16, 24].map((at) => view.getFloat64(at)) as [
    number,
    number,
    number,
    number,
  ];
  const rows = view.getInt32(32),
    columns = view.getInt32(36);
  const sound =
    [south, west, stepLat, stepLon].every(Number.isFinite) &&
    Math.abs(south) <= 90 &&
    Math.abs(west) <= 360 &&
    stepLat > 0 &&
    stepLon > 0 &&
    rows >= 2 &&
    columns >= 2;
  if (!sound) throw refusal("file-geoid", { file, why: "its head is not that of a grid in the GTX format" });
  if (bytes.length !== HEAD + 4 * rows * columns)
    throw refusal("file-geoid", {
      file,
      why: `its head promises ${rows} × ${columns} values, and it holds another count`,
    });
  const metres = new Float32Array(rows * columns);
  for (let i = 0; i < metres.length; i++) metres[i] = view.getFloat32(HEAD + 4 * i);
  return { south, west, stepLat, stepLon, rows, columns, metres };
}

/** Part of a step within which a position counts as on the edge of the grid, which belongs to it. */
const EDGE = 1e-6;

/**
 * Undulation in metres by bilinear interpolation; NaN outside the grid or beside a value that is none. Degrees. All
 * four edges belong to the grid; one that goes round the earth joins its last column to its first.
 */
export function undulation(g: Geoid, latitude: number, longitude: number): number {
  // A grid may run from 0 to 360 degrees east.
  const round = 360 / g.stepLon,
    wraps = Math.abs(round - g.columns) < EDGE,
    last = wraps ? g.columns : g.columns - 1;
  const turned = ((((longitude - g.west) / g.stepLon) % round) + round) % round,
    x = onGrid(round - turned < EDGE ? 0 : turned, last),
    y = onGrid((latitude - g.south) / g.stepLat, g.rows - 1);
  if (Number.isNaN(x) || Number.isNaN(y)) return NaN;
  const c = Math.min(Math.floor(x), last - 1),
    r = Math.min(Math.floor(y), g.rows - 2),
    u = x - c,
    v = y - r,
    east = (c + 1) % g.columns;
  const at = (row: number, column: number) => {
    const value = g.metres[row * g.columns + column]!;
    return Math.abs(value - NONE) < 1e-3 ? NaN : value;
  };
  // A corner of no weight need not be there.
  const part = (weight: number, row: number, column: number) => (weight === 0 ? 0 : weight * at(row, column));
  return (
    part((1 - u) * (1 - v), r, c) + part(u * (1 - v), r, east) + part((1 - u) * v, r + 1, c) + part(u * v, r + 1, east)
  );
}

/** A position in steps along one side, drawn onto the grid where rounding puts it just outside; NaN beyond. */
function onGrid(x: number, last: number): number {
  if (x < 0) return x > -EDGE ? 0 : NaN;
  return x <= last ? x : x < last + EDGE ? last : NaN;
}

/** A grid as bytes, for tests and for the one that ships with the demo. */
export function writeGeoid(g: Geoid): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(HEAD + 4 * g.metres.length),
    view = new DataView(out.buffer);
  [g.south, g.west, g.stepLat, g.stepLon].forEach((x, i) => view.setFloat64(8 * i, x));
  view.setInt32(32, g.rows);
  view.setInt32(36, g.columns);
  g.metres.forEach((x, i) => view.setFloat32(HEAD + 4 * i, x));
  return out;
}

/** A finished surface: a constrained Delaunay mesh, compact and ready to be sent, drawn and measured. */
import type { Noticed, Word } from "../finding";

export interface SurfaceRecipe {
  name: string;
  points?: string;
  breaklines?: { codes?: string[]; crossing?: "mean" | "higher" | "lower" };
  edge?: "hull";
  triangles?: { points: [number, number, number][]; faces: [number, number, number][] };
  /** A surface that a file brings, by the file's name and the surface's name in it. */
  file?: string;
  surface?: string;
}

export interface ContoursRecipe {
  surface: string;
  interval: number;
  index?: number;
  base?: number;
}

export interface Surface {
  name: string;
  /** East and north of the origin from which `x` and `y` count. */
  origin: [number, number];
  x: Float64Array;
  y: Float64Array;
  z: Float64Array;
  /** Vertices of the triangles, three each, counter-clockwise. */
  tri: Int32Array;
  /** The same side seen from the neighbour; −1 on the outline. */
  twin: Int32Array;
  /** 1 where a side belongs to a breakline. */
  fixed: Uint8Array;
  /** Table row of the point at each vertex; −1 where none stands. */
  point: Int32Array;
}

export interface Refused {
  what: Word<number, number>[];
  why: Word<number, number>[];
}

export interface SurfaceReport {
  name: string;
  /** Vertices of the mesh. */
  points: number;
  triangles: number;
  area: number;
  slopeArea: number;
  minZ: number;
  maxZ: number;
  /** Breaklines used, at least in part. */
  breaklines: number;
  /** What could not be used, and why: points by their rows in the table, lines by their indices in the list. */
  refused: Refused[];
}

export interface BuiltSurface {
  surface: Surface;
  report: SurfaceReport;
  findings: Noticed[];
}

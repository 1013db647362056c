/** A finished surface: a constrained Delaunay mesh, compact and ready to be sent, drawn and measured. */
import type { Noticed, Word } from "../finding";
import type { PointRef } from "../points/refs";

/** A line by its code, run and intake (all of it that is said), or a line that a file brought along. */
export type LineWanted = { code: string; run?: string; intake?: string } | { file: string; line?: string };
/** Pieces of breaklines between two consecutive shots: drawn, not breaklines. */
export interface PiecesLeftOut {
  pieces: [PointRef, PointRef][];
}
/** A drawn ring (E, N), or the closed lines of a code. */
export type RingWanted = { ring: [number, number][] } | { code: string };

export interface SurfaceRecipe {
  name: string;
  points?: string;
  breaklines?: {
    codes?: string[];
    crossing?: "mean" | "higher" | "lower";
    /** Vertices of a breakline within this distance of its straight way are left out; 0 for none. */
    thin?: number;
    /** The longest piece of a breakline; 0 for any. */
    densify?: number;
    also?: LineWanted[];
    except?: (LineWanted | PiecesLeftOut)[];
  };
  edge?: "hull" | { fit: number } | RingWanted;
  holes?: RingWanted[];
  /** The longest side that a triangle may have on the outline. */
  longestSide?: number;
  /** Sides that give way to the other diagonal, and triangles taken out, by the points at their corners. */
  swap?: [PointRef, PointRef][];
  drop?: [PointRef, PointRef, PointRef][];
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
  /** Vertices of breaklines left out as nearly straight, with how far their levels were off at most; vertices added. */
  thinned: { count: number; most: number };
  densified: number;
  /** Points that lie outside the edge or in a hole. */
  outside: number;
  /** What could not be used, and why: points by their rows in the table, lines by their indices in the list. */
  refused: Refused[];
}

export interface BuiltSurface {
  surface: Surface;
  report: SurfaceReport;
  findings: Noticed[];
}

/** Read-only geometry that a file brings along: drawn under the job, used as surfaces and reference lines, never edited. */

/** A line of legs. East, north, level in the job's unit; a missing level is NaN. */
export interface ReferenceLine {
  name: string;
  layer: string;
  kind: "feature" | "alignment" | "breakline" | "boundary" | "polyline";
  closed: boolean;
  /** Corners: east, north, level triples. */
  xyz: Float64Array;
  /** Angle each leg sweeps, in radians, positive to the right; 0 for a straight. As many as legs. */
  sweep: Float64Array;
  /** Station of the first corner. */
  start: number;
}

export interface ReferenceSurface {
  name: string;
  /** East, north, level triples. */
  points: Float64Array;
  /** Three places in `points` for each triangle. */
  faces: Uint32Array;
}

export interface Reference { lines: ReferenceLine[]; surfaces: ReferenceSurface[] }

/** A reference with its lengths multiplied. */
export function scaleReference(r: Reference, factor: number): Reference {
  if (factor === 1) return r;
  const times = (a: Float64Array) => a.map((x) => x * factor);
  return {
    lines: r.lines.map((l) => ({ ...l, xyz: times(l.xyz), start: l.start * factor })),
    surfaces: r.surfaces.map((s) => ({ ...s, points: times(s.points) })),
  };
}

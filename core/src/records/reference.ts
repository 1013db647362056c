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
  /** Three indices into `points` for each triangle. */
  faces: Uint32Array;
}

export interface Reference {
  lines: ReferenceLine[];
  surfaces: ReferenceSurface[];
}

type Position = readonly [number, number];

/** The corners of the chords of one leg, E and N, both its ends included. */
export function chordsOfLeg({ xyz, sweep }: ReferenceLine, k: number): Position[] {
  const corners = xyz.length / 3,
    at = (c: number): Position => [xyz[3 * (c % corners)]!, xyz[3 * (c % corners) + 1]!];
  const [a, b] = [at(k), at(k + 1)],
    turn = sweep[k]!,
    steps = Math.max(1, Math.ceil(Math.abs(turn) / (Math.PI / 36)));
  // The centre lies beside the middle of the chord: to the right when the arc turns right.
  const half = turn === 0 ? 0 : 1 / (2 * Math.tan(turn / 2)),
    c: Position = [(a[0] + b[0]) / 2 + half * (b[1] - a[1]), (a[1] + b[1]) / 2 - half * (b[0] - a[0])],
    [de, dn] = [a[0] - c[0], a[1] - c[1]];
  const way = [a];
  for (let s = 1; s < steps; s++) {
    const [cos, sin] = [Math.cos((turn * s) / steps), Math.sin((turn * s) / steps)];
    way.push([c[0] + de * cos + dn * sin, c[1] + dn * cos - de * sin]);
  }
  return [...way, b];
}

/** A reference with its lengths multiplied. */
export function scaleReference(r: Reference, factor: number): Reference {
  if (factor === 1) return r;
  const times = (a: Float64Array) => a.map((x) => x * factor);
  return {
    lines: r.lines.map((l) => ({ ...l, xyz: times(l.xyz), start: l.start * factor })),
    surfaces: r.surfaces.map((s) => ({ ...s, points: times(s.points) })),
  };
}

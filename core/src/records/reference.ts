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

/** A line's legs as chords for drawing; an arc in steps of at most five degrees. */
export function chordsOf(l: ReferenceLine): [Position, Position][] {
  const out: [Position, Position][] = [],
    corners = l.xyz.length / 3;
  const at = (k: number): Position => [l.xyz[3 * (k % corners)]!, l.xyz[3 * (k % corners) + 1]!];
  for (let k = 0; k < l.sweep.length; k++) {
    const a = at(k),
      b = at(k + 1),
      turn = l.sweep[k]!,
      steps = Math.max(1, Math.ceil(Math.abs(turn) / (Math.PI / 36)));
    // The centre lies beside the middle of the chord: to the right when the arc turns right.
    const half = turn === 0 ? 0 : 1 / (2 * Math.tan(turn / 2));
    const c: Position = [(a[0] + b[0]) / 2 + half * (b[1] - a[1]), (a[1] + b[1]) / 2 - half * (b[0] - a[0])];
    let last = a;
    for (let s = 1; s <= steps; s++) {
      const angle = (turn * s) / steps,
        de = a[0] - c[0],
        dn = a[1] - c[1];
      const next: Position =
        s === steps
          ? b
          : [c[0] + de * Math.cos(angle) + dn * Math.sin(angle), c[1] + dn * Math.cos(angle) - de * Math.sin(angle)];
      out.push([last, next]);
      last = next;
    }
  }
  return out;
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

/** What symbols and marks are drawn of: paths and circles in a small frame of their own, x to the right (or ahead), y up (or left). */

export type Stroke = PathStroke | RoundStroke;

export interface PathStroke {
  /** x, y, x, y, … */
  path: readonly number[];
  closed?: boolean;
  filled?: boolean;
}

/** A circle, or with `from` and `to` an arc of it, degrees turning left from the x axis. */
export interface RoundStroke {
  at: readonly [number, number];
  radius: number;
  from?: number;
  to?: number;
  filled?: boolean;
}

export function isPath(s: Stroke): s is PathStroke {
  return "path" in s;
}

/** A stroke larger by `factor`, turned left by `angle` radians and moved to x, y. Circles stay circles. */
export function placed(s: Stroke, factor: number, angle = 0, x = 0, y = 0): Stroke {
  const cos = Math.cos(angle) * factor,
    sin = Math.sin(angle) * factor;
  const at = (px: number, py: number): [number, number] => [x + px * cos - py * sin, y + px * sin + py * cos];
  if (isPath(s)) {
    const path: number[] = [];
    for (let i = 0; i < s.path.length; i += 2) path.push(...at(s.path[i]!, s.path[i + 1]!));
    return { ...s, path };
  }
  const degrees = (angle * 180) / Math.PI;
  return {
    ...s,
    at: at(...s.at),
    radius: s.radius * factor,
    ...(s.from !== undefined ? { from: s.from + degrees, to: s.to! + degrees } : {}),
  };
}

/** Strokes wider by `ratio` than they are long; what is round becomes a way of chords, since it is round no more. */
export function stretched(strokes: readonly Stroke[], ratio: number): Stroke[] {
  return strokes.map((s): Stroke => {
    if (isPath(s)) return { ...s, path: s.path.map((v, i) => (i % 2 === 0 ? v * ratio : v)) };
    const from = s.from ?? 0,
      to = s.to ?? 360,
      whole = s.from === undefined,
      chords = Math.max(2, Math.ceil((to - from) / 7.5)),
      path: number[] = [];
    for (let k = 0; k < chords + (whole ? 0 : 1); k++) {
      const a = ((from + ((to - from) * k) / chords) * Math.PI) / 180;
      path.push((s.at[0] + s.radius * Math.cos(a)) * ratio, s.at[1] + s.radius * Math.sin(a));
    }
    return { path, ...(whole ? { closed: true } : {}), ...(s.filled ? { filled: true } : {}) };
  });
}

/** Largest distance of any part from the frame's origin. */
export function reach(strokes: readonly Stroke[]): number {
  let most = 0;
  for (const s of strokes) {
    if (isPath(s))
      for (let i = 0; i < s.path.length; i += 2) most = Math.max(most, Math.hypot(s.path[i]!, s.path[i + 1]!));
    else most = Math.max(most, Math.hypot(...s.at) + s.radius);
  }
  return most;
}

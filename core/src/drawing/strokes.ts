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

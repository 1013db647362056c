/** Station and offset along a line of straight and circular legs → east, north. Offset is to the right. */
export interface StationLine {
  /** Corners: east, north, level triples, as in records/reference.ts; levels are not used. */
  xyz: Float64Array;
  /** Swept angle of each leg, positive to the right. */
  sweep: Float64Array;
  start: number;
}

export interface Stationed {
  e: number;
  n: number;
  /** How far the station lies beyond an end of the line; 0 within it. */ beyond: number;
}

/** Makes the function for one line. Undefined when the line has no length. */
export function stationing(line: StationLine): ((station: number, offset: number) => Stationed) | undefined {
  const { xyz, sweep, start } = line;
  const legs: {
    from: number;
    length: number;
    e: number;
    n: number;
    de: number;
    dn: number;
    radius: number;
    turn: number;
  }[] = [];
  let along = start;
  for (let k = 0; 3 * k + 5 < xyz.length && k < sweep.length; k++) {
    const e = xyz[3 * k]!,
      n = xyz[3 * k + 1]!,
      ce = xyz[3 * k + 3]! - e,
      cn = xyz[3 * k + 4]! - n,
      chord = Math.hypot(ce, cn);
    if (chord === 0) continue;
    const turn = sweep[k]!;
    // A chord of an arc lies half the swept angle to the right of the tangent at its start.
    const tangent = Math.atan2(ce, cn) - turn / 2;
    const radius = turn === 0 ? Infinity : chord / (2 * Math.sin(Math.abs(turn) / 2));
    const length = turn === 0 ? chord : radius * Math.abs(turn);
    legs.push({
      from: along,
      length,
      e,
      n,
      de: turn === 0 ? ce / chord : Math.sin(tangent),
      dn: turn === 0 ? cn / chord : Math.cos(tangent),
      radius,
      turn: Math.sign(turn),
    });
    along += length;
  }
  if (legs.length === 0) return undefined;
  const end = along;
  return (station, offset) => {
    // At a bend the leg that starts there counts.
    let lo = 0,
      hi = legs.length - 1;
    while (lo < hi) {
      const mid = (lo + hi + 1) >> 1;
      if (legs[mid]!.from <= station) lo = mid;
      else hi = mid - 1;
    }
    const leg = legs[lo]!,
      s = station - leg.from;
    const beyond = Math.max(0, start - station, station - end);
    // Beyond an end the leg goes on straight, along its tangent there.
    if (leg.turn === 0 || s < 0)
      return { e: leg.e + leg.de * s + leg.dn * offset, n: leg.n + leg.dn * s - leg.de * offset, beyond };
    const inside = Math.min(s, leg.length),
      angle = (leg.turn * inside) / leg.radius;
    const e0 = leg.e + leg.turn * leg.radius * leg.dn,
      n0 = leg.n - leg.turn * leg.radius * leg.de;
    const de = leg.de * Math.cos(angle) + leg.dn * Math.sin(angle),
      dn = leg.dn * Math.cos(angle) - leg.de * Math.sin(angle);
    const r = leg.turn * leg.radius - offset,
      more = s - inside;
    return { e: e0 - dn * r + de * more, n: n0 + de * r + dn * more, beyond };
  };
}

/** A line given by its corners alone. */
export function straightLine(points: readonly (readonly [number, number])[], start = 0): StationLine {
  return {
    xyz: Float64Array.from(points.flatMap(([e, n]) => [e, n, NaN])),
    sweep: new Float64Array(Math.max(0, points.length - 1)),
    start,
  };
}

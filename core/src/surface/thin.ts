/** Breaklines with fewer vertices where they are nearly straight, and with more where their pieces are long. */
/** A position of a breakline: `own` where the level is the shot's, else it was taken linearly from its neighbours. */
export interface BreakPosition {
  e: number;
  n: number;
  z: number;
  shot: number;
  own: boolean;
}

/** Of so many vertices in a row one stays whatever it says: the time for a line is theirs squared at worst. */
const MOST_AT_ONCE = 500;

/** What thinning left out: how many vertices, the rows of their shots, and how far a level was off at most. */
export interface Thinned {
  rows: Set<number>;
  count: number;
  most: number;
}

/**
 * Leaves vertices out that lie within a distance, in space, of the straight way between those kept (Douglas, Peucker
 * 1973); both ends stay. Told in `out`.
 */
export function thinned(positions: readonly BreakPosition[], within: number, out: Thinned): BreakPosition[] {
  const kept = new Uint8Array(positions.length);
  const last = positions.length - 1,
    work: [number, number][] = [];
  for (let from = 0; from < last; from += MOST_AT_ONCE) work.push([from, Math.min(last, from + MOST_AT_ONCE)]);
  for (const [a, b] of work) kept[a] = kept[b] = 1;
  while (work.length) {
    const [a, b] = work.pop()!;
    let worst = -1,
      far = within * within;
    for (let k = a + 1; k < b; k++) {
      const d = awaySquared(positions[k]!, positions[a]!, positions[b]!);
      if (d > far) [worst, far] = [k, d];
    }
    if (worst >= 0) {
      kept[worst] = 1;
      work.push([a, worst], [worst, b]);
      continue;
    }
    for (let k = a + 1; k < b; k++) {
      const p = positions[k]!;
      out.count++;
      out.most = Math.max(out.most, Math.abs(levelOff(p, positions[a]!, positions[b]!)));
      if (p.shot >= 0) out.rows.add(p.shot);
    }
  }
  return positions.filter((_, k) => kept[k] === 1);
}

/** How far a position is from the straight piece a–b in space, squared. */
function awaySquared(p: BreakPosition, a: BreakPosition, b: BreakPosition): number {
  const ex = b.e - a.e,
    ny = b.n - a.n,
    zz = b.z - a.z,
    whole = ex * ex + ny * ny + zz * zz,
    share = (p.e - a.e) * ex + (p.n - a.n) * ny + (p.z - a.z) * zz,
    t = whole > 0 ? Math.max(0, Math.min(1, share / whole)) : 0;
  const de = p.e - a.e - t * ex,
    dn = p.n - a.n - t * ny,
    dz = p.z - a.z - t * zz;
  return de * de + dn * dn + dz * dz;
}

/** How much a position lies above the piece a–b at its position in plan. */
function levelOff(p: BreakPosition, a: BreakPosition, b: BreakPosition): number {
  const [ex, ny] = [b.e - a.e, b.n - a.n],
    whole = ex * ex + ny * ny,
    share = (p.e - a.e) * ex + (p.n - a.n) * ny;
  return p.z - a.z - (whole > 0 ? Math.max(0, Math.min(1, share / whole)) : 0) * (b.z - a.z);
}

/** How many vertices densifying adds. */
export function addedBy(positions: readonly BreakPosition[], longest: number): number {
  let added = 0;
  for (let k = 1; k < positions.length; k++) added += partsOf(positions[k - 1]!, positions[k]!, longest) - 1;
  return added;
}

const partsOf = (a: BreakPosition, b: BreakPosition, longest: number) =>
  Math.max(1, Math.ceil(Math.hypot(b.e - a.e, b.n - a.n) / longest - 1e-9));

/** Divides pieces longer in plan than `longest` evenly; levels are linear on them. */
export function densified(positions: readonly BreakPosition[], longest: number): BreakPosition[] {
  const out = positions.slice(0, 1);
  for (let k = 1; k < positions.length; k++) {
    const [a, b] = [positions[k - 1]!, positions[k]!],
      parts = partsOf(a, b, longest);
    for (let j = 1; j < parts; j++) {
      const t = j / parts;
      out.push({ e: a.e + t * (b.e - a.e), n: a.n + t * (b.n - a.n), z: a.z + t * (b.z - a.z), shot: -1, own: false });
    }
    out.push(b);
  }
  return out;
}

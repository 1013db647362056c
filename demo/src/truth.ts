/**
 * Gorsefold Quarry as known mathematics: an invented sandstone quarry whose every level has a formula.
 * Frame: local metric grid, e east, n north, levels in metres.
 */
export type Position = readonly [number, number];

/** The floor's outline, counter-clockwise; benches are its mitred offsets. */
const FLOOR: Position[] = [
  [3110, 7075],
  [3270, 7065],
  [3310, 7120],
  [3290, 7185],
  [3150, 7195],
  [3095, 7140],
];
/** Between two contours, so that noise on the floor draws none. */
export const FLOOR_LEVEL = 92.4;
/** Offsets from the floor's outline at which faces begin and end. */
export const STEPS = { toe1: 0, top1: 3, toe2: 15, top2: 18, toe3: 28, crest: 31 } as const;
const BENCHES = [102.4, 112.4] as const;

export const HEAP = { e: 3150, n: 7140, base: 14, top: 5, height: 6 };
export const STACK = { e: 3205, n: 7165, length: 12, width: 6, topLength: 9, topWidth: 3, height: 2.4, turn: 0.35 };
export const SUMP = { e: 3250, n: 7105, rim: 10, bed: 4, depth: 6 };
export const RAMP = {
  e: 3128,
  n: 7091,
  along: [0.9981, -0.0616] as Position,
  length: 60,
  rise: 0.1,
  top: 5,
  half: 4,
  batter: 1.5,
};

export const EXTENT = { minE: 3000, maxE: 3380, minN: 7000, maxN: 7290 };

/** Smooth natural ground, 116 to 131 m. */
export function naturalGround(e: number, n: number): number {
  return (
    117.2 + 0.035 * (n - 7000) + 2.2 * Math.sin((e - 3040) / 42) + 1.6 * Math.cos((n - 7060) / 38 + (e - 3000) / 120)
  );
}

interface Edge {
  a: Position;
  normal: Position;
}
const EDGES: Edge[] = FLOOR.map((a, i) => {
  const b = FLOOR[(i + 1) % FLOOR.length]!,
    length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  return { a, normal: [(b[1] - a[1]) / length, -(b[0] - a[0]) / length] };
});

/** Mitred distance outside the floor, negative inside. */
export function outsideFloor(e: number, n: number): number {
  return Math.max(...EDGES.map(({ a, normal }) => (e - a[0]) * normal[0] + (n - a[1]) * normal[1]));
}

/** The outline at an offset: corners where the shifted edges meet. */
export function outline(offset: number): Position[] {
  return EDGES.map((edge, i) => {
    const before = EDGES[(i + EDGES.length - 1) % EDGES.length]!;
    const c1 = before.normal[0] * before.a[0] + before.normal[1] * before.a[1] + offset;
    const c2 = edge.normal[0] * edge.a[0] + edge.normal[1] * edge.a[1] + offset;
    const det = before.normal[0] * edge.normal[1] - before.normal[1] * edge.normal[0];
    return [(c1 * edge.normal[1] - c2 * before.normal[1]) / det, (before.normal[0] * c2 - edge.normal[0] * c1) / det];
  });
}

/** Position on the ramp's own axes: u along it, v to its left. */
export function rampPosition(u: number, v: number): Position {
  const [ae, an] = RAMP.along;
  return [RAMP.e + u * ae - v * an, RAMP.n + u * an + v * ae];
}

function rampHeight(e: number, n: number): number {
  const [ae, an] = RAMP.along,
    de = e - RAMP.e,
    dn = n - RAMP.n;
  const u = de * ae + dn * an,
    v = dn * ae - de * an;
  if (u < 0) return 0;
  const top = Math.min(RAMP.rise * Math.min(u, RAMP.length), RAMP.top);
  return Math.max(0, top - Math.max(Math.abs(v) - RAMP.half, u - RAMP.length, 0) / RAMP.batter);
}

/** The true level at a position. */
export function level(e: number, n: number): number {
  const s = outsideFloor(e, n);
  const { toe1, top1, toe2, top2, toe3, crest } = STEPS;
  if (s >= crest) return naturalGround(e, n);
  if (s >= toe3) return BENCHES[1] + ((naturalGround(e, n) - BENCHES[1]) * (s - toe3)) / (crest - toe3);
  if (s >= top2) return BENCHES[1];
  if (s >= toe2) return BENCHES[0] + ((BENCHES[1] - BENCHES[0]) * (s - toe2)) / (top2 - toe2);
  if (s >= top1) return BENCHES[0];
  if (s >= toe1) return FLOOR_LEVEL + ((BENCHES[0] - FLOOR_LEVEL) * (s - toe1)) / (top1 - toe1);
  return (
    FLOOR_LEVEL +
    rampHeight(e, n) +
    cone(e, n, HEAP, HEAP.height) -
    cone(e, n, { ...SUMP, base: SUMP.rim, top: SUMP.bed }, SUMP.depth) +
    stack(e, n)
  );
}

function cone(e: number, n: number, c: { e: number; n: number; base: number; top: number }, height: number): number {
  const r = Math.hypot(e - c.e, n - c.n);
  return r >= c.base ? 0 : r <= c.top ? height : (height * (c.base - r)) / (c.base - c.top);
}

function stack(e: number, n: number): number {
  const { turn, length, width, topLength, height } = STACK;
  const u = (e - STACK.e) * Math.cos(turn) + (n - STACK.n) * Math.sin(turn),
    v = -(e - STACK.e) * Math.sin(turn) + (n - STACK.n) * Math.cos(turn);
  const run = (length - topLength) / 2;
  const inside = Math.min(length / 2 - Math.abs(u), width / 2 - Math.abs(v));
  return Math.min(height, Math.max(0, (inside * height) / run));
}

export function stackPosition(u: number, v: number): Position {
  const { turn } = STACK;
  return [STACK.e + u * Math.cos(turn) - v * Math.sin(turn), STACK.n + u * Math.sin(turn) + v * Math.cos(turn)];
}

/** Closed formulas of the objects on the floor, in cubic metres. */
export const VOLUMES = {
  heap: (Math.PI * HEAP.height * (HEAP.base ** 2 + HEAP.base * HEAP.top + HEAP.top ** 2)) / 3,
  sump: (Math.PI * SUMP.depth * (SUMP.rim ** 2 + SUMP.rim * SUMP.bed + SUMP.bed ** 2)) / 3,
  // Prismoidal formula: both ends and four times the middle.
  stack:
    (STACK.height *
      (STACK.length * STACK.width +
        STACK.topLength * STACK.topWidth +
        4 * ((STACK.length + STACK.topLength) / 2) * ((STACK.width + STACK.topWidth) / 2))) /
    6,
};

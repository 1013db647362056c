/** What the two crews observed at Gorsefold Quarry: shots with codes, cues, noise and the built-in blunders. */
import { Chance } from "./random.ts";
import {
  EXTENT,
  HEAP,
  level,
  outline,
  outsideFloor,
  RAMP,
  rampPosition,
  STACK,
  stackPosition,
  STEPS,
  SUMP,
  type Position,
} from "./truth.ts";

export interface Shot {
  number: string;
  e: number;
  n: number;
  z: number;
  description: string;
  precision?: number;
  attributes?: Record<string, string>;
}

/** Their deliveries. */
export const CREW_A = { id: "crew-a", file: "gorsefold-day1.xml", crew: "A" } as const;
export const CREW_B = { id: "crew-b", file: "gorsefold-day2.csv", crew: "B" } as const;

/** The marks that the total station stands on and sights. */
export const CONTROL = [
  { number: "K1", e: 3148.215, n: 7121.47, z: 0 },
  { number: "K2", e: 3256.83, n: 7098.155, z: 0 },
  { number: "K3", e: 3062.4, n: 7254.92, z: 0 },
].map((k) => ({ ...k, z: Number(level(k.e, k.n).toFixed(3)) }));

export interface Blunder {
  kind: string;
  crew: "A" | "B";
  points: string[];
  what: string;
  repair?: Record<string, unknown>;
}

export interface Crews {
  a: Shot[];
  b: Shot[];
  blunders: Blunder[];
}

const ORDINARY_SIZE = 2600;
const LATTICE = 8;

/** `size` is about the number of points; the lattice and the spacing along lines follow from it. */
export const SEED = 20310417;

export function observe(size = ORDINARY_SIZE, seed = SEED): Crews {
  // Of larger jobs nearly all points are on the lattice, four fifths of whose positions are open.
  const spacing = size <= ORDINARY_SIZE ? LATTICE : Math.sqrt((380 * 290 * 0.8) / (size - 900));
  const scale = spacing / LATTICE,
    along = Math.max(6 * Math.min(1, scale * 2), 0.5);
  const chance = new Chance(seed);
  const a: Shot[] = [],
    b: Shot[] = [];
  const blunders: Blunder[] = [];
  const shoot = (list: Shot[], [e, n]: Position, description: string, sigma: number, more: Partial<Shot> = {}) => {
    list.push({ number: "", e, n, z: level(e, n) + chance.normal(sigma), description, ...more });
    return list.at(-1)!;
  };

  // ---- Crew A: the excavation, object by object, then levels on the lattice.
  const ring = (code: string, positions: Position[], sigma: number) =>
    positions.forEach((p, i) => shoot(a, p, `${code}${i === positions.length - 1 ? " loop" : ""}`, sigma));
  const closed = (corners: Position[], step: number) =>
    corners.flatMap((p, i) => divide(p, corners[(i + 1) % corners.length]!, step));
  ring("TOE1", closed(outline(STEPS.toe1), along), 0.004);
  ring("TOP1", closed(outline(STEPS.top1), along), 0.004);
  ring("TOE2", closed(outline(STEPS.toe2), along), 0.004);
  ring("TOP2", closed(outline(STEPS.top2), along), 0.004);
  ring("TOE3", closed(outline(STEPS.toe3), along), 0.004);
  ring("CREST", closed(outline(STEPS.crest), along), 0.004);
  const round = (c: { e: number; n: number }, r: number) =>
    Array.from({ length: 48 }, (_, k): Position => [
      c.e + r * Math.cos((2 * Math.PI * k) / 48),
      c.n + r * Math.sin((2 * Math.PI * k) / 48),
    ]);
  ring("HEAPTOE", round(HEAP, HEAP.base), 0.003);
  ring("HEAPTOP", round(HEAP, HEAP.top), 0.003);
  ring("SUMPRIM", round(SUMP, SUMP.rim), 0.003);
  ring("SUMPBED", round(SUMP, SUMP.bed), 0.003);
  const box = (length: number, width: number) => {
    const corners = [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ].map(([u, v]) => stackPosition((u! * length) / 2, (v! * width) / 2));
    return corners.flatMap((p, i) =>
      Array.from({ length: 12 }, (_, k): Position => mix(p, corners[(i + 1) % 4]!, k / 12)),
    );
  };
  // The four hips run from a corner below to one above: without them triangles would cut across.
  for (const [code, length, width, end] of [
    ["STACKTOE", STACK.length, STACK.width, ""],
    ["STACKTOP", STACK.topLength, STACK.topWidth, " end"],
  ] as const) {
    box(length, width).forEach((p, i) =>
      shoot(a, p, `${code}${i === 47 ? " loop" : ""}${i % 12 === 0 ? `/TOP${10 + i / 12}${end}` : ""}`, 0.003),
    );
  }
  // The ramp: its corners belong to several lines at once.
  for (const side of [1, -1]) {
    const [road, toe, back] = side > 0 ? ["ROAD1", "TOE4", "TOP8"] : ["ROAD2", "TOE5", "TOP9"];
    const shared = side > 0 ? "" : " end";
    for (let u = 0; u <= RAMP.length; u += 10) {
      shoot(
        a,
        rampPosition(u, side * RAMP.half),
        u === 0 ? `${road}/${toe}` : u === RAMP.length ? `${road} end/TOP6${shared}/${back}` : road,
        0.004,
      );
    }
    const reach = RAMP.half + RAMP.top * RAMP.batter;
    shoot(a, rampPosition(25, side * (RAMP.half + 3.75)), toe, 0.004);
    shoot(a, rampPosition(50, side * reach), toe, 0.004);
    shoot(a, rampPosition(60, side * reach), toe, 0.004);
    shoot(a, rampPosition(67.5, side * reach), `${toe} end/TOE7${shared}/${back} end`, 0.004);
  }
  // Weighbridge slab from two corners and a width, hut from three corners.
  shoot(a, [3222, 7130], "SLAB1", 0.004);
  shoot(a, [3240, 7132], "SLAB1 box=-3.5", 0.004);
  shoot(a, [3262, 7150], "HUT1", 0.004);
  shoot(a, [3270, 7148], "HUT1", 0.004);
  shoot(a, [3271.5, 7154], "HUT1 quad", 0.004);
  // A curved kerb with its companion: an arc through one shot; paving through several.
  const kerb = arcPositions([3215, 7110], 9, -0.2, 1.5, 3);
  shoot(a, [3200, 7118], "KERB1", 0.004);
  kerb.forEach((p, i) => shoot(a, p, i === 1 ? "KERB1 via" : "KERB1", 0.004));
  shoot(a, [3212, 7142], "KERB1 end", 0.004);
  arcPositions([3185, 7125], 8, 0.3, 3.4, 7).forEach((p, i) =>
    shoot(a, p, `PAVING1${i > 0 && i < 6 ? " via" : i === 6 ? " end" : ""}`, 0.004),
  );
  for (let k = 0; k < 8; k++) shoot(a, [3165 + 12 * k, 7183 - k], `COLLAR ${12 + k}.5`, 0.01);
  lattice(spacing, chance)
    .filter(([e, n]) => outsideFloor(e, n) < STEPS.crest && isOpen(e, n))
    .forEach((p) => shoot(a, p, "SPOT", 0.015));
  a.forEach((s, i) => (s.number = String(i + 1)));

  // ---- Crew B: the land around it.
  const rover = (p: Position, description: string, sigma = 0.008, more: Partial<Shot> = {}) =>
    shoot(b, p, description, sigma, { precision: chance.between(0.008, 0.018), ...more });
  const hedge: Position[] = [
    [3010, 7268],
    [3050, 7262],
    [3092, 7266],
    [3096, 7266.5],
    [3140, 7262],
    [3190, 7266],
    [3240, 7260],
  ];
  rover(hedge[0]!, "HEDGE1");
  rover(hedge[1]!, "HEDGE1");
  rover(hedge[2]!, "HEDGE1 end/GATE1");
  rover(hedge[3]!, "GATE1 end/HEDGE1 new");
  hedge.slice(4).forEach((p, i) => rover(p, i === 2 ? "HEDGE1 end" : "HEDGE1"));
  rover([3012, 7030], "WALL1");
  rover([3040, 7018], "WALL1");
  rover([3085, 7014], "WALL1/WALL2");
  rover([3140, 7010], "WALL1 end");
  rover([3088, 7028], "WALL2 end");
  [
    [3020, 7048],
    [3026, 7090],
    [3022, 7140],
    [3030, 7190],
    [3044, 7240],
  ].forEach((p, i) => rover(p as unknown as Position, i === 4 ? "TRACK1 end" : "TRACK1"));
  [
    [3034, 7047],
    [3040, 7090],
    [3036, 7140],
    [3043, 7186],
    [3056, 7236],
  ].forEach((p, i) => rover(p as unknown as Position, i === 4 ? "TRACK2 end" : "TRACK2"));
  const pond = Array.from({ length: 12 }, (_, k): Position => {
    const t = (2 * Math.PI * k) / 12;
    return [3352 + (12 + 2 * Math.sin(3 * t)) * Math.cos(t), 7240 + (18 + 3 * Math.cos(2 * t)) * Math.sin(t)];
  });
  pond.forEach((p, i) => rover(p, `WATER1${i === 0 ? " flow" : i === pond.length - 1 ? " loop" : ""}`));
  const kinds = ["birch", "oak", "rowan", "ash"];
  for (let k = 0; k < 26; k++) {
    const p: Position =
      k % 2 ? [3064 + 11.5 * k, 7252 + chance.between(-6, 4)] : [3008 + chance.between(0, 40), 7060 + 8 * k];
    if (outsideFloor(...p) < STEPS.crest + 3) continue;
    rover(p, "TREE", 0.01, {
      attributes: {
        spread: chance.between(2.5, 8).toFixed(1),
        height: chance.between(4, 14).toFixed(1),
        kind: kinds[k % 4]!,
      },
    });
  }
  rover([3360, 7030], 'SHRUB; two, by the "old" post');
  rover([3060, 7275], "COVER 0.6");
  rover([3120, 7278], "LAMP");
  lattice(spacing, chance)
    .filter(([e, n]) => outsideFloor(e, n) > STEPS.crest + 1.2 && Math.hypot(e - 3352, n - 7240) > 24)
    .forEach((p) => rover(p, "SPOT", 0.015));
  b.forEach((s, i) => (s.number = String(a.length < 3000 ? 5001 + i : a.length + 1 + i)));
  plantBlunders(a, b, blunders);
  return { a, b, blunders };
}

/** The dozen mistakes of DEMO.md, each noted with the points concerned. */
function plantBlunders(a: Shot[], b: Shot[], blunders: Blunder[]): void {
  const spots = (list: Shot[]) => list.filter((s) => s.description === "SPOT");
  const note = (kind: string, crew: "A" | "B", shots: Shot[], what: string, repair?: Record<string, unknown>) =>
    blunders.push({ kind, crew, points: shots.map((s) => s.number), what, ...(repair ? { repair } : {}) });
  const floor = spots(a),
    land = spots(b);
  let last = Number(b.at(-1)!.number);
  const nextNumber = () => String(++last);

  const run = floor.slice(60, 84);
  for (const s of run) s.z += 0.4;
  note("height-run", "A", run, "24 shots in a row taken with a target 0.40 m higher than written", {
    targetHeight: "1.65 → 2.05",
  });
  const zero = land[130]!;
  note("zero-elevation", "B", [zero], "the device wrote 0 for a level it did not have", { elevation: zero.z });
  zero.z = 0;
  const misspelt = floor[20]!;
  misspelt.description = "SOPT";
  note("unknown-code", "A", [misspelt], "SPOT misspelt", { description: "SPOT" });
  const strange = land[40]!;
  strange.description = "PYLON";
  note("unknown-code", "B", [strange], "a code that the book does not have");
  const twice = land[55]!;
  twice.number = "118";
  note("number-clash", "B", [twice], "a number that crew A has used");
  const exchanged = [land[90]!, land[91]!];
  note("axes-swapped", "B", exchanged, "northing and easting exchanged");
  for (const s of exchanged) [s.e, s.n] = [s.n, s.e];
  const ditch: Shot[] = [
    [3016, 7112],
    [3048, 7108],
  ].map(([e, n], i) => ({
    number: nextNumber(),
    e: e!,
    n: n!,
    z: level(e!, n!) + 0.55,
    description: i ? "DITCH1 end" : "DITCH1",
    precision: 0.012,
  }));
  b.push(...ditch);
  note("breaklines-cross", "B", ditch, "a ditch that crosses the track 0.55 m too high", { elevation: "−0.55" });
  const mark: Shot = {
    number: nextNumber(),
    e: 3370,
    n: 7070,
    z: level(3370, 7070) + 1.42,
    description: "MARK; shot on top of its rod",
    precision: 0.01,
  };
  b.push(mark);
  note("rod-top", "B", [mark], "a mark shot on the top of its rod, 1.42 m above the ground", { surface: "out" });
  land[70]!.precision = 0.38;
  note("precision", "B", [land[70]!], "one shot of poor precision");
  const alone: Shot = {
    number: nextNumber(),
    e: 3330,
    n: 7020,
    z: level(3330, 7020),
    description: "FENCE4",
    precision: 0.011,
  };
  b.push(alone);
  note("single-point-line", "B", [alone], "a line of a single shot");
  const bare: Shot = {
    number: nextNumber(),
    e: 3345,
    n: 7015,
    z: level(3345, 7015),
    description: "TREE",
    precision: 0.012,
  };
  b.push(bare);
  note("attribute-missing", "B", [bare], "a tree without its spread");
  const [, , k3] = CONTROL;
  const repeat: Shot = { number: k3!.number, e: k3!.e + 0.05, n: k3!.n + 0.049, z: k3!.z, description: "MARK" };
  a.push(repeat);
  note("control-differs", "A", [repeat], "a repeat shot on a mark that disagrees by 0.07 m");
}

/** A rough lattice over the whole extent. */
function lattice(spacing: number, chance: Chance): Position[] {
  const positions: Position[] = [];
  for (let n = EXTENT.minN + spacing / 2; n < EXTENT.maxN; n += spacing) {
    for (let e = EXTENT.minE + spacing / 2; e < EXTENT.maxE; e += spacing) {
      positions.push([e + chance.between(-0.15, 0.15) * spacing, n + chance.between(-0.15, 0.15) * spacing]);
    }
  }
  return positions;
}

/** Off the faces, the edges and the objects on the floor, where levels come from their own shots. */
function isOpen(e: number, n: number): boolean {
  const s = outsideFloor(e, n);
  const { toe1, top1, toe2, top2, toe3, crest } = STEPS;
  const onFace = [
    [toe1, top1],
    [toe2, top2],
    [toe3, crest],
  ].some(([lo, hi]) => s > lo! - 0.8 && s < hi! + 0.8);
  const [ae, an] = RAMP.along,
    u = (e - RAMP.e) * ae + (n - RAMP.n) * an,
    v = (n - RAMP.n) * ae - (e - RAMP.e) * an;
  const onRamp = u > -2 && u < 69 && Math.abs(v) < 13;
  return (
    !onFace &&
    !onRamp &&
    Math.hypot(e - HEAP.e, n - HEAP.n) > HEAP.base + 1 &&
    Math.hypot(e - SUMP.e, n - SUMP.n) > SUMP.rim + 1 &&
    Math.hypot(e - STACK.e, n - STACK.n) > 8
  );
}

function mix(a: Position, b: Position, t: number): Position {
  return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
}

function divide(a: Position, b: Position, step: number): Position[] {
  const parts = Math.max(1, Math.round(Math.hypot(b[0] - a[0], b[1] - a[1]) / step));
  return Array.from({ length: parts }, (_, k) => mix(a, b, k / parts));
}

function arcPositions([e, n]: Position, radius: number, from: number, to: number, count: number): Position[] {
  return Array.from({ length: count }, (_, k): Position => {
    const t = from + ((to - from) * k) / (count - 1);
    return [e + radius * Math.cos(t), n + radius * Math.sin(t)];
  });
}

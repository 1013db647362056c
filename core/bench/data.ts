/** Fixed-seed jobs of any size: points on rolling ground, a tenth of them in chains of breaklines. */
import type { CodeEntry } from "../src/codes/model";
import type { Chains } from "../src/lines/flatten";
import type { Line } from "../src/lines/model";
import { emptyTable, type PointTable } from "../src/points/table";

export function chance(seed: number): () => number {
  return () => {
    seed = (seed + 0x6d2b79f5) | 0;
    let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

export interface Ground {
  table: PointTable;
  points: Int32Array;
  lines: Line[];
  chains: Chains;
  coords: Float64Array;
}

/** About one point in each square of 4 m; chains of 20 shots 1.5 m apart, that cross now and then. */
export function ground(count: number, seed = 7, rise: (e: number, n: number) => number = () => 0): Ground {
  const random = chance(seed),
    side = Math.sqrt(count) * 4;
  const level = (e: number, n: number) => 100 + 8 * Math.sin(e / 90) + 5 * Math.cos(n / 70 + e / 300) + rise(e, n);
  const table: PointTable = {
    ...emptyTable(),
    count,
    id: Int32Array.from({ length: count }, (_, i) => i + 1),
    e: new Float64Array(count),
    n: new Float64Array(count),
    z: new Float64Array(count),
    intake: new Int32Array(count),
    row: Int32Array.from({ length: count }, (_, i) => i + 1),
    kind: new Uint8Array(count),
    surface: new Uint8Array(count),
    deleted: new Uint8Array(count),
    precision: new Float64Array(count).fill(NaN),
    targetHeight: new Float64Array(count).fill(NaN),
    time: new Float64Array(count).fill(NaN),
    description: new Uint32Array(count),
    note: new Uint32Array(count),
    number: Array.from({ length: count }, (_, i) => String(i + 1)),
  };
  const inLines = Math.floor(count / 10),
    chain = 20;
  const lines: Line[] = [];
  const entry: CodeEntry = { code: "TOP", kind: "line", breakline: "fixed" };
  let e = 0,
    n = 0,
    heading = 0;
  for (let i = 0; i < count; i++) {
    if (i < inLines) {
      if (i % chain === 0) {
        e = random() * side;
        n = random() * side;
        heading = random() * 6.28;
        lines.push({
          key: String(lines.length),
          code: "TOP",
          entry,
          run: String(lines.length),
          intake: 0,
          shots: [],
          closed: false,
          pieces: [],
          length: 0,
          slopeLength: 0,
        });
      } else {
        heading += (random() - 0.5) * 0.5;
        e += 1.5 * Math.cos(heading);
        n += 1.5 * Math.sin(heading);
      }
      lines.at(-1)!.shots.push(i);
    } else {
      e = random() * side;
      n = random() * side;
    }
    table.e[i] = Math.round(e * 1000) / 1000 + 3000;
    table.n[i] = Math.round(n * 1000) / 1000 + 7000;
    table.z[i] = Math.round(level(e, n) * 1000) / 1000;
  }
  const xyz = new Float64Array(3 * inLines),
    starts = new Uint32Array(lines.length + 1);
  lines.forEach((l, k) => (starts[k + 1] = starts[k]! + l.shots.length));
  for (let i = 0; i < inLines; i++) xyz.set([table.e[i]!, table.n[i]!, table.z[i]!], 3 * i);
  const coords = new Float64Array(2 * count);
  for (let i = 0; i < count; i++) {
    coords[2 * i] = table.e[i]! - 3000;
    coords[2 * i + 1] = table.n[i]! - 7000;
  }
  return {
    table,
    points: Int32Array.from({ length: count }, (_, i) => i),
    lines,
    chains: { xyz, starts, shot: Int32Array.from({ length: inLines }, (_, i) => i) },
    coords,
  };
}

/** Rows as a crew's device writes them. */
export function deliveredText(t: PointTable): string {
  const codes = ["SPOT", "TREE 4.2 7 birch", "HEDGE2", "TOP1 new", "KERB1 via", "COVER 0.6"];
  const rows: string[] = [];
  for (let i = 0; i < t.count; i++)
    rows.push(
      `${t.number[i]},${t.n[i]!.toFixed(3)},${t.e[i]!.toFixed(3)},${t.z[i]!.toFixed(3)},${codes[(i * 7) % codes.length]}`,
    );
  return rows.join("\n");
}

/** Ten shots for each line, with an arc and a smooth curve in it, all coded in words of their own run. */
export function coded(count: number): PointTable {
  const { table } = ground(count),
    texts = new Map([["", 0]]),
    description = new Uint32Array(count),
    e = new Float64Array(count),
    n = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const l = Math.floor(i / 10),
      k = i % 10,
      text = `WALL${l}${["", "", "", " via", "", " flow", "", "", " still", " end"][k]}`;
    let at = texts.get(text);
    if (at === undefined) texts.set(text, (at = texts.size));
    description[i] = at;
    e[i] = (l % 200) * 50 + k * 4 + Math.sin(i);
    n[i] = Math.floor(l / 200) * 50 + 3 * Math.cos(3 * i);
  }
  return {
    ...table,
    e,
    n,
    description,
    cues: new Uint32Array(count),
    follows: new Uint8Array(count),
    texts: [...texts.keys()],
  };
}

/** Geometries of a GeoPackage: its header, then well-known binary (OGC 12-128r19, 2.1.3; OGC 06-103r4). */

/** A growing piece of memory for one geometry at a time. */
let memory = new DataView(new ArrayBuffer(1 << 16));

const POINT = 1,
  LINE = 2,
  POLYGON = 3,
  WITH_LEVEL = 1000;

export interface Box {
  minE: number;
  minN: number;
  maxE: number;
  maxN: number;
}

/** Bytes of a point. */
export function pointGeometry(srs: number, e: number, n: number, z: number): Uint8Array {
  const level = !Number.isNaN(z);
  const at = header(srs, 8 + 5 + 24, undefined);
  return finish(put(geometryType(at, POINT, level), e, n, z, level));
}

/** Bytes of a line, or of an area whose way repeats its first vertex; `levels` where they are known. */
export function wayGeometry(
  srs: number,
  xyz: ArrayLike<number>,
  levels: readonly number[] | undefined,
  area: boolean,
  box: Box,
): Uint8Array {
  const count = xyz.length / 3,
    level = levels !== undefined;
  let at = geometryType(header(srs, 64 + 24 * count, box), area ? POLYGON : LINE, level);
  if (area) at = count32(at, 1);
  at = count32(at, count);
  for (let k = 0; k < count; k++) at = put(at, xyz[3 * k]!, xyz[3 * k + 1]!, levels?.[k] ?? NaN, level);
  return finish(at);
}

export function boxOf(xyz: ArrayLike<number>): Box {
  const box: Box = { minE: Infinity, minN: Infinity, maxE: -Infinity, maxN: -Infinity };
  for (let k = 0; k < xyz.length; k += 3) {
    box.minE = Math.min(box.minE, xyz[k]!);
    box.maxE = Math.max(box.maxE, xyz[k]!);
    box.minN = Math.min(box.minN, xyz[k + 1]!);
    box.maxN = Math.max(box.maxN, xyz[k + 1]!);
  }
  return box;
}

/** "GP", version 0, flags: little-endian, with the envelope where there is one; the reference system. */
function header(srs: number, room: number, box: Box | undefined): number {
  if (memory.byteLength < room) memory = new DataView(new ArrayBuffer(2 * room));
  memory.setUint16(0, 0x4750);
  memory.setUint8(2, 0);
  memory.setUint8(3, box ? 0b11 : 0b1);
  memory.setInt32(4, srs, true);
  if (!box) return 8;
  [box.minE, box.maxE, box.minN, box.maxN].forEach((x, k) => memory.setFloat64(8 + 8 * k, x, true));
  return 40;
}

function geometryType(at: number, type: number, level: boolean): number {
  memory.setUint8(at, 1);
  memory.setUint32(at + 1, type + (level ? WITH_LEVEL : 0), true);
  return at + 5;
}

function count32(at: number, count: number): number {
  memory.setUint32(at, count, true);
  return at + 4;
}

function put(at: number, e: number, n: number, z: number, level: boolean): number {
  memory.setFloat64(at, e, true);
  memory.setFloat64(at + 8, n, true);
  if (!level) return at + 16;
  memory.setFloat64(at + 16, z, true);
  return at + 24;
}

const finish = (end: number) => new Uint8Array(memory.buffer.slice(0, end));

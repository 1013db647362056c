/**
 * Geometries of a GeoPackage (OGC 12-128r17: its header, then well-known binary): points, lines and areas, also several
 * in one. Bytes are not trusted: a count that its bytes cannot hold gives nothing.
 */

export interface BlobGeometry {
  kind: "point" | "line" | "area";
  /** East, north, level triples of each way; a level that is not there is NaN. Rings repeat their first vertex. */
  ways: Float64Array[];
}

const ENVELOPES = [0, 32, 48, 48, 64];

/** Undefined for bytes that are no geometry which is read here. */
export function readGeometryBlob(b: Uint8Array): BlobGeometry | undefined {
  if (b.length < 8 || b[0] !== 0x47 || b[1] !== 0x50) return undefined;
  const envelope = ENVELOPES[(b[3]! >> 1) & 7];
  if (envelope === undefined) return undefined;
  const reader = new Reader(new DataView(b.buffer, b.byteOffset, b.byteLength), 8 + envelope);
  try {
    return reader.geometry(0);
  } catch (e) {
    if (e instanceof RangeError) return undefined;
    throw e;
  }
}

class Reader {
  private little = true;

  constructor(
    private readonly view: DataView,
    private at: number,
  ) {}

  geometry(depth: number): BlobGeometry | undefined {
    this.little = this.view.getUint8(this.at++) === 1;
    const type = this.count32(),
      plain = type % 1000,
      // Levels, measures, both; some programs say levels by the highest bit.
      size = 2 + [0, 1, 1, 2][Math.floor(type / 1000) % 4]!,
      hasLevel = size > 2 && Math.floor(type / 1000) !== 2;
    if (type >= 4000) return undefined;
    if (plain === 1) return { kind: "point", ways: [this.positions(1, size, hasLevel)] };
    if (plain === 2) return { kind: "line", ways: [this.positions(this.fitting(8 * size), size, hasLevel)] };
    if (plain === 3) {
      const rings = this.fitting(4),
        ways: Float64Array[] = [];
      for (let k = 0; k < rings; k++) ways.push(this.positions(this.fitting(8 * size), size, hasLevel));
      return { kind: "area", ways };
    }
    if (plain < 4 || plain > 6 || depth > 0) return undefined;
    const parts: BlobGeometry[] = [];
    for (let left = this.fitting(5); left > 0; left--) {
      const part = this.geometry(depth + 1);
      if (!part) return undefined;
      parts.push(part);
    }
    return parts[0] && { kind: parts[0].kind, ways: parts.flatMap((p) => p.ways) };
  }

  private count32(): number {
    this.at += 4;
    return this.view.getUint32(this.at - 4, this.little);
  }

  /** A count of things of so many bytes at least, all of which the bytes that are left must hold. */
  private fitting(bytes: number): number {
    const count = this.count32();
    if (count * bytes > this.view.byteLength - this.at) throw new RangeError();
    return count;
  }

  private positions(count: number, size: number, hasLevel: boolean): Float64Array {
    const xyz = new Float64Array(3 * count);
    for (let k = 0; k < count; k++) {
      xyz[3 * k] = this.view.getFloat64(this.at, this.little);
      xyz[3 * k + 1] = this.view.getFloat64(this.at + 8, this.little);
      xyz[3 * k + 2] = hasLevel ? this.view.getFloat64(this.at + 16, this.little) : NaN;
      this.at += 8 * size;
    }
    return xyz;
  }
}

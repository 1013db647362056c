/** A point table as bytes, for the way from server to browser: columns, not an object per point. */
import { pack, unpack } from "../math/pack";
import type { PointTable } from "./table";

export function encodeTable(t: PointTable): Uint8Array<ArrayBuffer> {
  return pack(t);
}

export function decodeTable(buffer: ArrayBuffer): PointTable {
  return unpack<PointTable>(buffer);
}

/**
 * A point table as bytes, for the way from server to browser: columns, not an object per point.
 *
 * Layout: 8 bytes head (byte length of the JSON index, little endian, then zero), the index, then each block at the next
 * multiple of 8. Lists of texts are UTF-8 joined by zero bytes, which no text of a job can hold.
 */
import type { PointTable } from "./table";

const ARRAYS = [
  "id", "intake", "row", "e", "n", "z", "kind", "surface", "deleted", "precision", "targetHeight", "time", "description", "note",
] as const;
const TYPES = {
  id: Int32Array, intake: Int32Array, row: Int32Array, e: Float64Array, n: Float64Array, z: Float64Array, kind: Uint8Array, surface: Uint8Array,
  deleted: Uint8Array, precision: Float64Array, targetHeight: Float64Array, time: Float64Array, description: Uint32Array, note: Uint32Array,
} as const;

interface Index { count: number; attributes: string[]; blocks: [number, number][] }

const padded = (n: number) => Math.ceil(n / 8) * 8;

export function encodeTable(t: PointTable): Uint8Array<ArrayBuffer> {
  const utf8 = new TextEncoder();
  const blocks: Uint8Array[] = [
    ...ARRAYS.map((key) => bytesOf(t[key])), ...t.attributes.map((a) => bytesOf(a.values)),
    utf8.encode(t.number.join("\0")), utf8.encode(t.texts.join("\0")),
  ];
  const index: Index = { count: t.count, attributes: t.attributes.map((a) => a.name), blocks: [] };
  let at = 0;
  for (const b of blocks) {
    index.blocks.push([at, b.byteLength]);
    at += padded(b.byteLength);
  }
  const head = utf8.encode(JSON.stringify(index));
  const begin = 8 + padded(head.length);
  const out = new Uint8Array(begin + at);
  new DataView(out.buffer).setUint32(0, head.length, true);
  out.set(head, 8);
  blocks.forEach((b, i) => out.set(b, begin + index.blocks[i]![0]));
  return out;
}

export function decodeTable(buffer: ArrayBuffer): PointTable {
  const text = new TextDecoder();
  const length = new DataView(buffer).getUint32(0, true);
  const index = JSON.parse(text.decode(new Uint8Array(buffer, 8, length))) as Index;
  const begin = 8 + padded(length);
  const block = (k: number) => ({ at: begin + index.blocks[k]![0], bytes: index.blocks[k]![1] });
  const list = (k: number, count: number) => {
    const { at, bytes } = block(k);
    return count === 0 ? [] : text.decode(new Uint8Array(buffer, at, bytes)).split("\0");
  };
  const t = { count: index.count } as PointTable;
  ARRAYS.forEach((key, k) => {
    const Type = TYPES[key];
    (t as unknown as Record<string, unknown>)[key] = new Type(buffer, block(k).at, block(k).bytes / Type.BYTES_PER_ELEMENT);
  });
  t.attributes = index.attributes.map((name, a) => {
    const { at, bytes } = block(ARRAYS.length + a);
    return { name, values: new Uint32Array(buffer, at, bytes / 4) };
  });
  t.number = list(ARRAYS.length + index.attributes.length, t.count);
  t.texts = list(ARRAYS.length + index.attributes.length + 1, 1);
  return t;
}

function bytesOf(a: { buffer: ArrayBufferLike; byteOffset: number; byteLength: number }): Uint8Array {
  return new Uint8Array(a.buffer, a.byteOffset, a.byteLength);
}

/**
 * Plain data with typed arrays as bytes and back: for the way from server to browser and for the database.
 *
 * Layout: 8 bytes head (byte length of the JSON index, little endian, then zero), the index, then each block at the next
 * multiple of 8. In the index a typed array stands as `{"$":[type, byte offset, length]}` and a long list of texts
 * as `{"$":["texts", byte offset, bytes, count]}`, UTF-8 joined by zero bytes, which no text of a job can hold.
 * A number that JSON does not have stands as `{"$":["number", "NaN"]}`.
 */
const TYPES = {
  Int8Array,
  Uint8Array,
  Int16Array,
  Uint16Array,
  Int32Array,
  Uint32Array,
  Float32Array,
  Float64Array,
} as const;
type TypeName = keyof typeof TYPES;
const LONG_LIST = 64;

const padded = (n: number) => Math.ceil(n / 8) * 8;

export function pack(value: unknown): Uint8Array<ArrayBuffer> {
  const utf8 = new TextEncoder();
  const blocks: Uint8Array[] = [];
  let at = 0;
  const offsetOf = (bytes: Uint8Array) => {
    const here = at;
    blocks.push(bytes);
    at += padded(bytes.byteLength);
    return here;
  };
  const index = (v: unknown): unknown => {
    if (ArrayBuffer.isView(v)) {
      const a = v as Float64Array;
      return { $: [a.constructor.name, offsetOf(new Uint8Array(a.buffer, a.byteOffset, a.byteLength)), a.length] };
    }
    if (Array.isArray(v)) {
      if (v.length >= LONG_LIST && v.every((x) => typeof x === "string" && !x.includes("\0"))) {
        const bytes = utf8.encode(v.join("\0"));
        return { $: ["texts", offsetOf(bytes), bytes.length, v.length] };
      }
      return v.map(index);
    }
    if (v && typeof v === "object") return Object.fromEntries(Object.entries(v).map(([k, x]) => [k, index(x)]));
    return typeof v === "number" && !Number.isFinite(v) ? { $: ["number", String(v)] } : v;
  };
  const head = utf8.encode(JSON.stringify(index(value) ?? null));
  const begin = 8 + padded(head.length);
  const out = new Uint8Array(begin + at);
  new DataView(out.buffer).setUint32(0, head.length, true);
  out.set(head, 8);
  let to = begin;
  for (const b of blocks) {
    out.set(b, to);
    to += padded(b.byteLength);
  }
  return out;
}

/** What pack() was given. Typed arrays are views into the buffer, which must start at a multiple of 8. */
export function unpack<T>(buffer: ArrayBuffer): T {
  const text = new TextDecoder();
  const length = new DataView(buffer).getUint32(0, true);
  const begin = 8 + padded(length);
  const read = (v: unknown): unknown => {
    if (Array.isArray(v)) return v.map(read);
    if (!v || typeof v !== "object") return v;
    const block = (v as { $?: [string, number, number] }).$;
    if (!block) return Object.fromEntries(Object.entries(v).map(([k, x]) => [k, read(x)]));
    const [type, at, size] = block;
    if (type === "number") return Number(at);
    if (type === "texts") return text.decode(new Uint8Array(buffer, begin + at, size)).split("\0");
    return new TYPES[type as TypeName](buffer, begin + at, size);
  };
  return read(JSON.parse(text.decode(new Uint8Array(buffer, 8, length)))) as T;
}

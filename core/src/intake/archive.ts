/**
 * Zip archives (APPNOTE 6.3, without encryption, several disks and 64-bit sizes), unpacked with every size and check sum
 * that they declare held against what comes out: an archive may say one thing and be another.
 */
import crc32 from "crc-32";
import { refusal } from "../errors";

interface Entry {
  name: string;
  method: number;
  packed: Uint8Array;
  size: number;
  /** CRC-32 of what comes out. */
  sum: number;
}

const END = 0x06054b50,
  CENTRAL = 0x02014b50,
  LOCAL = 0x04034b50;
/** The end's record has 22 bytes and a comment of 65,535 at most. */
const END_SIZE = 22,
  LONGEST_COMMENT = 65_535;
const STORED = 0,
  DEFLATED = 8;
/** Packed bytes that are given to the unpacking at once: what comes out of them is held to the size each time. */
const PIECE = 1 << 14;

/**
 * Refuses an archive that would unpack to more than the limit in bytes, whose entries lie outside it or unpack to more
 * than they say; nothing of it is kept. Returns the names of its entries.
 */
export async function checkZip(file: string, bytes: Uint8Array, limit: number): Promise<string[]> {
  const entries = entriesOf(file, bytes, limit);
  for (const entry of entries) await unpack(file, entry);
  return entries.map((e) => e.name);
}

/** The files of an archive by their names; refused as checkZip says, and where two have one name. */
export async function openZip(file: string, bytes: Uint8Array, limit: number): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  for (const entry of entriesOf(file, bytes, limit)) {
    if (entry.name.endsWith("/")) continue;
    if (files.has(entry.name)) throw wrong(file, `two of its entries are called “${entry.name}”`);
    const out = new Uint8Array(entry.size);
    let at = 0;
    await unpack(file, entry, (part) => {
      out.set(part, at);
      at += part.length;
    });
    files.set(entry.name, out);
  }
  return files;
}

const wrong = (file: string, why: string) => refusal("file-container", { file, what: "an archive", why });

function entriesOf(file: string, bytes: Uint8Array, limit: number): Entry[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength),
    cut = () => wrong(file, "it is cut off");
  let end = bytes.length - END_SIZE;
  const first = Math.max(0, end - LONGEST_COMMENT);
  while (end >= first && view.getUint32(end, true) !== END) end--;
  if (end < first) throw wrong(file, "it has no list of its entries");
  const count = view.getUint16(end + 10, true),
    text = new TextDecoder(),
    entries: Entry[] = [];
  let at = view.getUint32(end + 16, true),
    total = 0;
  for (let k = 0; k < count; k++) {
    if (at + 46 > bytes.length || view.getUint32(at, true) !== CENTRAL) throw cut();
    const flags = view.getUint16(at + 8, true),
      method = view.getUint16(at + 10, true),
      packedSize = view.getUint32(at + 20, true),
      size = view.getUint32(at + 24, true),
      nameLength = view.getUint16(at + 28, true),
      local = view.getUint32(at + 42, true);
    const name = text.decode(bytes.subarray(at + 46, at + 46 + nameLength)),
      from = at;
    at += 46 + nameLength + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
    if (name.startsWith("/") || name.split(/[/\\]/).includes(".."))
      throw wrong(file, `its entry “${name}” points outside it`);
    if (flags & 1) throw wrong(file, `its entry “${name}” is encrypted`);
    if (method !== STORED && method !== DEFLATED)
      throw wrong(file, `its entry “${name}” is packed in a way that is not known here`);
    total += size;
    if (total > limit) throw refusal("file-unpacks", { file, bytes: total, limit });
    if (local + 30 > bytes.length || view.getUint32(local, true) !== LOCAL) throw cut();
    const begin = local + 30 + view.getUint16(local + 26, true) + view.getUint16(local + 28, true);
    if (begin + packedSize > bytes.length) throw cut();
    const own = text.decode(bytes.subarray(local + 30, local + 30 + view.getUint16(local + 26, true)));
    if (own !== name || view.getUint16(local + 8, true) !== method)
      throw wrong(file, `its entry “${name}” is damaged: it is not what the list of entries says`);
    const sum = view.getInt32(from + 16, true);
    entries.push({ name, method, packed: bytes.subarray(begin, begin + packedSize), size, sum });
  }
  const listed = view.getUint32(end + 16, true) + view.getUint32(end + 12, true);
  if (at !== listed || view.getUint16(end + 8, true) !== count) throw wrong(file, "its list of entries is damaged");
  return entries;
}

/** Unpacks one entry piece by piece; refused as soon as more comes out than it says, and where less does. */
async function unpack(file: string, entry: Entry, take: (part: Uint8Array) => void = () => undefined): Promise<void> {
  const { name, packed, size } = entry;
  let came = 0,
    sum = 0;
  const got = (part: Uint8Array) => {
    came += part.length;
    if (came > size) throw wrong(file, `its entry “${name}” is larger than it says`);
    sum = crc32.buf(part, sum);
    take(part);
  };
  if (entry.method === STORED) got(packed);
  else {
    const { Inflate } = await import("fflate"),
      inflate = new Inflate(got);
    try {
      for (let at = 0; at < packed.length; at += PIECE)
        inflate.push(packed.subarray(at, at + PIECE), at + PIECE >= packed.length);
    } catch (e) {
      if (e instanceof Error && "code" in e && e.code === "file-container") throw e;
      throw wrong(file, `its entry “${name}” is damaged: ${(e as Error).message}`);
    }
  }
  if (came !== size) throw wrong(file, `its entry “${name}” is smaller than it says`);
  if (sum !== entry.sum) throw wrong(file, `its entry “${name}” is damaged: its check sum is another`);
}

/** Rows as COPY's binary form has them. */

/** Its head: 11 bytes that say what it is, 4 of flags, 4 with the length of what else is in the head. */
const HEAD = 19;

/** Calls for each whole row; a row cut by the end of a piece waits for the next piece. */
export async function readRows(pieces: AsyncIterable<Buffer>, row: (b: BinaryRow) => void): Promise<void> {
  let rest: Buffer | undefined,
    headRead = false;
  for await (const piece of pieces) {
    const bytes = rest ? Buffer.concat([rest, piece]) : piece;
    const b = new BinaryRow(bytes);
    if (!headRead) {
      if (bytes.length < HEAD) {
        rest = bytes;
        continue;
      }
      b.at = HEAD + bytes.readInt32BE(HEAD - 4);
      headRead = true;
    }
    while (b.wholeRow()) row(b);
    rest = b.at < bytes.length ? bytes.subarray(b.at) : undefined;
  }
}

/** The one field of the one row; undefined where there is no row. Much smaller work than a text of its digits. */
export async function onlyField(pieces: AsyncIterable<Buffer>): Promise<Buffer | undefined> {
  const all: Buffer[] = [];
  for await (const piece of pieces) all.push(piece);
  const b = new BinaryRow(Buffer.concat(all));
  b.at = HEAD + b.intAt(HEAD - 4);
  return b.wholeRow() ? b.field() : undefined;
}

/** Fields of a row one after another: a 4-byte length, −1 for null, then the value, big endian. */
export class BinaryRow {
  at = 0;

  constructor(private readonly bytes: Buffer) {}

  /** Whether a whole row stands here; if so the next field is its first. A count of −1 is the end. */
  wholeRow(): boolean {
    const { bytes } = this;
    let at = this.at;
    if (at + 2 > bytes.length) return false;
    const fields = bytes.readInt16BE(at);
    if (fields < 0) return false;
    at += 2;
    for (let k = 0; k < fields; k++) {
      if (at + 4 > bytes.length) return false;
      at += 4 + Math.max(0, bytes.readInt32BE(at));
    }
    if (at > bytes.length) return false;
    this.at += 2;
    return true;
  }

  private next(): number {
    const length = this.bytes.readInt32BE(this.at);
    this.at += 4;
    return length;
  }

  private fixed(size: number): number {
    this.next();
    const at = this.at;
    this.at += size;
    return at;
  }

  intAt(at: number): number {
    return this.bytes.readInt32BE(at);
  }
  /** The bytes as they are. */
  field(): Buffer {
    const length = this.next();
    this.at += length;
    return this.bytes.subarray(this.at - length, this.at);
  }
  int(): number {
    return this.bytes.readInt32BE(this.fixed(4));
  }
  short(): number {
    return this.bytes.readInt16BE(this.fixed(2));
  }
  truth(): boolean {
    return this.bytes[this.fixed(1)] === 1;
  }

  bigintOr(otherwise: number): number {
    if (this.next() < 0) return otherwise;
    this.at += 8;
    return Number(this.bytes.readBigInt64BE(this.at - 8));
  }

  /** NaN for null. */
  double(): number {
    if (this.next() < 0) return NaN;
    this.at += 8;
    return this.bytes.readDoubleBE(this.at - 8);
  }

  /** "" for null. */
  text(): string {
    const length = this.next();
    if (length <= 0) return "";
    this.at += length;
    return this.bytes.toString("utf8", this.at - length, this.at);
  }
}

/** Text that grows piece by piece and is kept as bytes: the whole of it may be longer than one string can be. */
import { encodeWestern } from "./western";

const PIECE = 1 << 20;

export class ByteText {
  private readonly done: Uint8Array[] = [];
  private waiting: string[] = [];
  private length = 0;

  constructor(private readonly encoding: "utf-8" | "latin1" = "utf-8") {}

  add(text: string): void {
    this.waiting.push(text);
    this.length += text.length;
    if (this.length >= PIECE) this.flush();
  }

  line(text: string): void {
    this.add(`${text}\n`);
  }

  /** All that another holds, which must be of the same encoding, after what is here. */
  append(other: ByteText): void {
    this.flush();
    other.flush();
    for (const part of other.done) this.done.push(part);
  }

  /** All of it in the encoding asked for; a character that it does not have is a question mark. */
  bytes(): Uint8Array {
    this.flush();
    const all = new Uint8Array(this.done.reduce((sum, part) => sum + part.length, 0));
    let at = 0;
    for (const part of this.done) {
      all.set(part, at);
      at += part.length;
    }
    return all;
  }

  private flush(): void {
    const text = this.waiting.join("");
    this.done.push(this.encoding === "utf-8" ? new TextEncoder().encode(text) : encodeWestern(text));
    this.waiting = [];
    this.length = 0;
  }
}

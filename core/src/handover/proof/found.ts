/** What a file was found to hold when it was read back, held against what was to be in it. */
import { refusal } from "../../errors";

export interface Proof {
  /** How many of each were read back. */
  counts: Record<string, number>;
  /** The largest difference of a coordinate, length or level from the job's own, in the job's unit. */
  difference: number;
  /** Characters that the file's encoding does not have. */
  unwritten?: number;
}

/** Collects what is read back, in the order in which it was written. */
export class Found {
  private readonly counts: Record<string, number> = {};
  private difference = 0;
  private unwritten = 0;

  /** A difference up to `allowed` is what writing costs: half of the last decimal, or nothing. */
  constructor(
    private readonly file: string,
    private readonly allowed: number,
  ) {}

  count(what: string, wanted: number, found: number): void {
    if (wanted !== found) this.refuse(`it holds ${found} ${what} instead of ${wanted}`);
    this.counts[what] = (this.counts[what] ?? 0) + found;
  }

  /** A number against the one that was to be written; both may be missing. */
  number(what: string, wanted: number, found: number, allowed = this.allowed): void {
    if (Number.isNaN(wanted) && Number.isNaN(found)) return;
    const off = Math.abs(wanted - found);
    // What reading and writing cost in the last digit of a double.
    if (!(off <= allowed + 4e-16 * Math.abs(wanted))) this.refuse(`${what} is ${found} instead of ${wanted}`);
    if (off > this.difference) this.difference = off;
  }

  text(what: string, wanted: string, found: string): void {
    if (wanted !== found) this.refuse(`${what} is “${found}” instead of “${wanted}”`);
  }

  /** Easting, northing and level; a level that was not known may have been taken from others. */
  position(what: string, wanted: ArrayLike<number>, found: ArrayLike<number>, at = 0, foundAt = at): void {
    for (let k = 0; k < 3; k++) {
      if (k === 2 && Number.isNaN(wanted[at + 2])) continue;
      this.number(what, wanted[at + k]!, found[foundAt + k]!);
    }
  }

  /** Triples of all vertices of a way. */
  way(what: string, wanted: ArrayLike<number>, found: ArrayLike<number>): void {
    if (wanted.length !== found.length)
      this.refuse(`${what} has ${found.length / 3} vertices instead of ${wanted.length / 3}`);
    for (let k = 0; k < wanted.length; k += 3) this.position(what, wanted, found, k);
  }

  lost(characters: number): void {
    this.unwritten += characters;
  }

  refuse(why: string): never {
    throw refusal("handover-proof", { file: this.file, why });
  }

  get proof(): Proof {
    const { counts, difference, unwritten } = this;
    return { counts, difference, ...(unwritten ? { unwritten } : {}) };
  }
}

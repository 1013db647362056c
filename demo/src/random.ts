/** A small repeatable source of chance: the same seed gives the same bytes. */
export class Chance {
  constructor(private seed: number) {}

  /** Uniform in [0, 1) (mulberry32). */
  next(): number {
    this.seed = (this.seed + 0x6d2b79f5) | 0;
    let t = Math.imul(this.seed ^ (this.seed >>> 15), 1 | this.seed);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  between(a: number, b: number): number {
    return a + (b - a) * this.next();
  }

  /** Normal with the given sigma (Box-Muller). */
  normal(sigma: number): number {
    return sigma * Math.sqrt(-2 * Math.log(1 - this.next())) * Math.cos(2 * Math.PI * this.next());
  }
}

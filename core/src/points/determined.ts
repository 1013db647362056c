/** Every determination of every point's position, chained for each point from its first to its last. */
import type { Position } from "./table";

export class Determinations {
  private readonly e: Float64Array;
  private readonly n: Float64Array;
  private readonly z: Float64Array;
  /** Index of the setup that made each. */
  private readonly by: Int32Array;
  private readonly next: Int32Array;
  private readonly first: Int32Array;
  private readonly last: Int32Array;
  private count = 0;

  /** At most so many, of points of so many rows. */
  constructor(most: number, rows: number) {
    [this.e, this.n, this.z] = [new Float64Array(most), new Float64Array(most), new Float64Array(most)];
    [this.by, this.next] = [new Int32Array(most), new Int32Array(most).fill(-1)];
    [this.first, this.last] = [new Int32Array(rows).fill(-1), new Int32Array(rows).fill(-1)];
  }

  add(row: number, setup: number, e: number, n: number, z: number): void {
    const d = this.count++;
    [this.e[d], this.n[d], this.z[d], this.by[d]] = [e, n, z, setup];
    if (this.first[row]! < 0) this.first[row] = d;
    else this.next[this.last[row]!] = d;
    this.last[row] = d;
  }

  has(row: number): boolean {
    return this.first[row]! >= 0;
  }

  hasSeveral(row: number): boolean {
    return this.has(row) && this.next[this.first[row]!]! >= 0;
  }

  *of(row: number): Generator<{ e: number; n: number; z: number; setup: number }> {
    for (let d = this.first[row]!; d >= 0; d = this.next[d]!)
      yield { e: this.e[d]!, n: this.n[d]!, z: this.z[d]!, setup: this.by[d]! };
  }

  /** The setup of a row's last determination. */
  lastSetup(row: number): number {
    return this.by[this.last[row]!]!;
  }

  mean(row: number): Position {
    const { e, n, z, next } = this,
      f = this.first[row]!;
    // Means of differences from the first keep every digit of large coordinates.
    let se = 0,
      sn = 0,
      sz = 0,
      count = 0;
    for (let d = f; d >= 0; d = next[d]!, count++) {
      se += e[d]! - e[f]!;
      sn += n[d]! - n[f]!;
      sz += z[d]! - z[f]!;
    }
    return [e[f]! + se / count, n[f]! + sn / count, z[f]! + sz / count];
  }

  /** The largest distances in plan and in level between two determinations of a row. */
  spread(row: number): { plan: number; level: number } {
    let plan = 0,
      level = 0;
    // Of very many the first stand for all: the pairs of a thousand shots on one point tell nothing more.
    const some = [...this.of(row)].slice(0, 200);
    for (const [k, a] of some.entries())
      for (const b of some.slice(k + 1)) {
        plan = Math.max(plan, Math.hypot(a.e - b.e, a.n - b.n));
        if (Math.abs(a.z - b.z) > level) level = Math.abs(a.z - b.z);
      }
    return { plan, level };
  }
}

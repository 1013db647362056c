/** The sides of a mesh's outline by where they are: what is within it, also where it has hollows and several parts. */
import { boxIndex, type BoxIndex } from "../math/near";
import { side } from "../math/predicates";
import { next, prev } from "./mesh";
import type { Surface } from "./model";

type Mesh = Pick<Surface, "x" | "y" | "tri" | "twin">;

export class OutlineSides {
  /** Half-edges of the outline. */
  private readonly sides: Int32Array;
  private readonly index: BoxIndex;

  constructor(private readonly mesh: Mesh) {
    const { x, y, tri, twin } = mesh,
      sides: number[] = [];
    for (let h = 0; h < tri.length; h++) if (twin[h] === -1) sides.push(h);
    this.sides = Int32Array.from(sides);
    this.index = boxIndex(sides.length, (k) => {
      const a = tri[sides[k]!]!,
        b = tri[next(sides[k]!)]!;
      return [Math.min(x[a]!, x[b]!), Math.min(y[a]!, y[b]!), Math.max(x[a]!, x[b]!), Math.max(y[a]!, y[b]!)];
    });
  }

  /** Half-edges of the outline whose boxes meet a rectangle, rising. */
  near(west: number, south: number, east: number, north: number): number[] {
    return this.index
      .search(west, south, east, north)
      .map((k) => this.sides[k]!)
      .sort((a, b) => a - b);
  }

  /** The ends x, y, x, y of each side of the outline. */
  *ends(): Generator<readonly [number, number, number, number]> {
    const { x, y, tri } = this.mesh;
    for (const h of this.sides) {
      const [a, b] = [tri[h]!, tri[next(h)]!];
      yield [x[a]!, y[a]!, x[b]!, y[b]!];
    }
  }

  /** Whether a position is within the outline or on it. */
  covers(px: number, py: number): boolean {
    return this.toTheEast(px, py) >= 0;
  }

  /**
   * The first half-edge of the triangle that holds a position; −1 where it is outside. From the side of the outline that is
   * met first on the way due east one goes back west, through triangles all the way.
   */
  holding(px: number, py: number): number {
    const { x, y, tri, twin } = this.mesh,
      from = this.toTheEast(px, py);
    if (from < 0) return -1;
    let h = from;
    for (let steps = 0; steps < tri.length; steps++) {
      const t = h - (h % 3);
      let inside = true;
      for (let g = t; g < t + 3; g++) {
        const a = tri[g]!,
          b = tri[next(g)]!;
        if (side(x[a]!, y[a]!, x[b]!, y[b]!, px, py) < 0) inside = false;
      }
      if (inside) return t;
      // The side that was entered runs across the way; of the two others the one that does so too.
      const apex = y[tri[prev(h)]!]! <= py,
        start = y[tri[h]!]! <= py;
      const through: number = apex === start ? next(h) : prev(h);
      h = twin[through]!;
      if (h < 0) break;
    }
    return -1;
  }

  /**
   * The side of the outline that the position lies on, or that is met first on the way due east when it is within; −1 when
   * it is outside: the way then leaves the ground before it enters, or meets none. Each side holds its southern end and
   * not its northern, so that a corner counts once: the way runs just north of it.
   */
  private toTheEast(px: number, py: number): number {
    const { x, y, tri } = this.mesh;
    // The outline itself is ground, from wherever one asks.
    for (const h of this.near(px, py, px, py)) {
      const a = tri[h]!,
        b = tri[next(h)]!;
      if (side(x[a]!, y[a]!, x[b]!, y[b]!, px, py) === 0) return h;
    }
    let nearest = -1,
      within = 0;
    for (const h of this.near(px, py, Infinity, py)) {
      const a = tri[h]!,
        b = tri[next(h)]!,
        up = y[b]! > y[a]!;
      if (y[a]! <= py === y[b]! <= py) continue;
      const on = side(x[a]!, y[a]!, x[b]!, y[b]!, px, py);
      // West of the side: on its left when it goes up.
      if (up ? on < 0 : on > 0) continue;
      within += up ? 1 : -1;
      if (up && (nearest < 0 || this.isWestOf(h, nearest))) nearest = h;
    }
    return within > 0 ? nearest : -1;
  }

  /** Of two sides that both go up past one height and do not cross: whether the first is west of the second. Exact. */
  private isWestOf(g: number, h: number): boolean {
    const { x, y, tri } = this.mesh,
      [a, b, c, d] = [tri[g]!, tri[next(g)]!, tri[h]!, tri[next(h)]!],
      ofFirst = (v: number) => side(x[c]!, y[c]!, x[d]!, y[d]!, x[v]!, y[v]!),
      ofSecond = (v: number) => -side(x[a]!, y[a]!, x[b]!, y[b]!, x[v]!, y[v]!);
    // At the higher of the lower ends, and where that lies on both, at the lower of the upper ones.
    const low = y[a]! >= y[c]! ? ofFirst(a) : ofSecond(c),
      high = y[b]! <= y[d]! ? ofFirst(b) : ofSecond(d);
    return (low === 0 ? high : low) > 0;
  }
}

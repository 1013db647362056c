/**
 * What stands on the paper already, in mm, so that texts can keep clear of it: text boxes, symbols, and lines that
 * texts had better not cross.
 */

/** A text's box: its centre, half its width and height, turned left by an angle. */
export interface TextBox {
  x: number;
  y: number;
  halfWidth: number;
  halfHeight: number;
  angle: number;
}
/** A symbol: solid, or hollow when it is so large that a text may stand within it. */
export interface RoundThing {
  x: number;
  y: number;
  radius: number;
  hollow: boolean;
}

const CELL = 6;
/** What reaches over more cells than these is looked at directly: one odd size or offset must not fill the memory. */
const MOST_CELLS = 10_000;
/** Room kept between texts, and between texts and symbols. */
const GAP = 0.25;

export class Crowd {
  private readonly boxes = new Cells<TextBox>();
  private readonly rounds = new Cells<RoundThing>();
  private readonly segments = new Cells<number>();
  private readonly walls = new Cells<number>();
  private readonly ends: number[] = [];
  private readonly reach: number[] = [];

  addBox(b: TextBox): void {
    this.boxes.add(around(b), b);
  }

  addRound(r: RoundThing): void {
    this.rounds.add([r.x - r.radius, r.y - r.radius, r.x + r.radius, r.y + r.radius], r);
  }

  /** `reach` is how far the line's marks stand out on either side. */
  addSegment(ax: number, ay: number, bx: number, by: number, reach = 0): void {
    this.addStraight(this.segments, ax, ay, bx, by, reach);
  }

  /** A straight that no text may stand across, such as the edge of a sheet. */
  addWall(ax: number, ay: number, bx: number, by: number): void {
    this.addStraight(this.walls, ax, ay, bx, by, 0);
  }

  private addStraight(to: Cells<number>, ax: number, ay: number, bx: number, by: number, reach: number): void {
    const s = this.ends.push(ax, ay, bx, by) / 4 - 1;
    this.reach.push(reach);
    // A long segment would fill the cells of its whole box: it is put in parts.
    const parts = Math.max(1, Math.ceil(Math.max(Math.abs(bx - ax), Math.abs(by - ay)) / (2 * CELL)));
    if (parts > MOST_CELLS) return to.addLarge(s);
    for (let k = 0; k < parts; k++) {
      const x0 = ax + ((bx - ax) * k) / parts,
        y0 = ay + ((by - ay) * k) / parts,
        x1 = ax + ((bx - ax) * (k + 1)) / parts,
        y1 = ay + ((by - ay) * (k + 1)) / parts;
      to.add(
        [Math.min(x0, x1) - reach, Math.min(y0, y1) - reach, Math.max(x0, x1) + reach, Math.max(y0, y1) + reach],
        s,
      );
    }
  }

  /** Whether a text may stand here: it meets no other text, covers no symbol and crosses no wall. */
  isFree(b: TextBox): boolean {
    const area = around(b, GAP);
    return (
      !this.boxes.some(area, (o) => boxesMeet(b, o)) &&
      !this.rounds.some(area, (r) => covers(b, r)) &&
      !this.walls.some(area, (w) => segmentMeetsBox(this.ends, 4 * w, b))
    );
  }

  /** Whether a text may stand here that speaks of a position: no wall stands between them. */
  isFreeBeside(b: TextBox, x: number, y: number): boolean {
    if (!this.isFree(b)) return false;
    const way: TextBox = {
      x: (b.x + x) / 2,
      y: (b.y + y) / 2,
      halfWidth: Math.hypot(b.x - x, b.y - y) / 2,
      halfHeight: 0,
      angle: Math.atan2(b.y - y, b.x - x),
    };
    return !this.walls.some(around(way), (w) => segmentMeetsBox(this.ends, 4 * w, way));
  }

  /** A text here before that this one would meet. */
  textMet(b: TextBox): TextBox | undefined {
    let met: TextBox | undefined;
    this.boxes.some(around(b, GAP), (o) => {
      if (boxesMeet(b, o)) met = o;
      return met !== undefined;
    });
    return met;
  }

  /** How many lines a text here would cross. */
  crossings(b: TextBox): number {
    const seen = new Set<number>();
    this.segments.some(around(b), (s) => {
      const wide = { ...b, halfWidth: b.halfWidth + this.reach[s]!, halfHeight: b.halfHeight + this.reach[s]! };
      if (!seen.has(s) && segmentMeetsBox(this.ends, 4 * s, wide)) seen.add(s);
      return false;
    });
    return seen.size;
  }

  /** Whether a straight stroke passes through a text. */
  strikesText(ax: number, ay: number, bx: number, by: number): boolean {
    const ends = [ax, ay, bx, by],
      area: Area = [Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by)];
    return this.boxes.some(area, (b) => segmentMeetsBox(ends, 0, b));
  }
}

type Area = readonly [x0: number, y0: number, x1: number, y1: number];

/** Things by the cells of the paper that they reach into. */
class Cells<T> {
  private readonly cells = new Map<number, T[]>();
  /** In every cell. */
  private readonly large: T[] = [];

  add(area: Area, thing: T): void {
    if (cellsOf(area) > MOST_CELLS) return this.addLarge(thing);
    eachCell(area, (key) => {
      const list = this.cells.get(key);
      // What is put in parts is in a cell once.
      if (!list) this.cells.set(key, [thing]);
      else if (list.at(-1) !== thing) list.push(thing);
      return false;
    });
  }

  addLarge(thing: T): void {
    this.large.push(thing);
  }

  /** Whether it holds for something in the cells of an area; one thing may be asked for more than once. */
  some(area: Area, holds: (thing: T) => boolean): boolean {
    if (this.cells.size === 0 && this.large.length === 0) return false;
    if (this.large.some(holds)) return true;
    if (cellsOf(area) > MOST_CELLS) {
      for (const list of this.cells.values()) if (list.some(holds)) return true;
      return false;
    }
    return eachCell(area, (key) => this.cells.get(key)?.some(holds) ?? false);
  }
}

const cellsOf = ([x0, y0, x1, y1]: Area) =>
  (Math.floor(x1 / CELL) - Math.floor(x0 / CELL) + 1) * (Math.floor(y1 / CELL) - Math.floor(y0 / CELL) + 1);

/** Cell by cell until one says that it is enough. */
function eachCell([x0, y0, x1, y1]: Area, enough: (key: number) => boolean): boolean {
  for (let i = Math.floor(x0 / CELL); i <= Math.floor(x1 / CELL); i++)
    for (let j = Math.floor(y0 / CELL); j <= Math.floor(y1 / CELL); j++) if (enough(i * 2 ** 21 + j)) return true;
  return false;
}

/** The upright box round a turned one, and `gap` more. */
function around(b: TextBox, gap = 0): Area {
  const [w, h] = extent(b);
  return [b.x - w - gap, b.y - h - gap, b.x + w + gap, b.y + h + gap];
}

/** Half the width and height of the upright box round a turned one. */
function extent(b: TextBox): [number, number] {
  const c = Math.abs(Math.cos(b.angle)),
    s = Math.abs(Math.sin(b.angle));
  return [b.halfWidth * c + b.halfHeight * s, b.halfWidth * s + b.halfHeight * c];
}

/** Two turned boxes meet when none of their four sides' directions separates them. */
export function boxesMeet(a: TextBox, b: TextBox, gap = GAP): boolean {
  const dx = b.x - a.x,
    dy = b.y - a.y;
  for (const { angle } of [a, b]) {
    for (const turn of [angle, angle + Math.PI / 2]) {
      const ux = Math.cos(turn),
        uy = Math.sin(turn);
      if (Math.abs(dx * ux + dy * uy) > shadow(a, ux, uy) + shadow(b, ux, uy) + gap - 1e-9) return false;
    }
  }
  return true;
}

/** Half the length of a box's shadow on a direction. */
function shadow(b: TextBox, ux: number, uy: number): number {
  const c = Math.cos(b.angle),
    s = Math.sin(b.angle);
  return b.halfWidth * Math.abs(c * ux + s * uy) + b.halfHeight * Math.abs(c * uy - s * ux);
}

/** Whether a text's box meets a symbol; of a hollow one only its outline counts. */
export function covers(b: TextBox, r: RoundThing, gap = GAP): boolean {
  const c = Math.cos(b.angle),
    s = Math.sin(b.angle),
    dx = r.x - b.x,
    dy = r.y - b.y;
  const u = Math.abs(dx * c + dy * s),
    v = Math.abs(dy * c - dx * s);
  const nearest = Math.hypot(Math.max(0, u - b.halfWidth), Math.max(0, v - b.halfHeight));
  if (nearest > r.radius + gap) return false;
  return !r.hollow || Math.hypot(u + b.halfWidth, v + b.halfHeight) > r.radius - gap;
}

/** Whether a segment, given as four numbers of a list, meets a box: clipped in the box's own frame. */
function segmentMeetsBox(ends: readonly number[], at: number, b: TextBox): boolean {
  const c = Math.cos(b.angle),
    s = Math.sin(b.angle);
  const local = (x: number, y: number): [number, number] => [
    (x - b.x) * c + (y - b.y) * s,
    (y - b.y) * c - (x - b.x) * s,
  ];
  const [ax, ay] = local(ends[at]!, ends[at + 1]!),
    [bx, by] = local(ends[at + 2]!, ends[at + 3]!);
  let from = 0,
    to = 1;
  for (const [p, d, half] of [
    [ax, bx - ax, b.halfWidth],
    [ay, by - ay, b.halfHeight],
  ] as const) {
    if (d === 0) {
      if (Math.abs(p) > half) return false;
      continue;
    }
    const t0 = (-half - p) / d,
      t1 = (half - p) / d;
    from = Math.max(from, Math.min(t0, t1));
    to = Math.min(to, Math.max(t0, t1));
  }
  return from <= to;
}

/**
 * Where additions stand on the paper: dimensions and words where they were put, measures beside their pieces; and where
 * texts stand that were moved by hand. Positions on paper in mm, y upwards; texts that collide are told, not moved.
 */
import { Crowd, type TextBox } from "../crowd";
import type { About, DrawnText, Layout } from "../drawn-text";
import { besideSymbol, halfSize, insideRing, upright, type Stand, type Wanted } from "../stand";
import type { MeasureText } from "./measures";
import type { ByHand, ResolvedAdded } from "./resolve";

type At = readonly [number, number];

export interface Paper {
  /** East and north → the paper. */
  mm(at: At): [number, number];
  /** The paper → east and north. */
  back(x: number, y: number): [number, number];
  unitsPerMm: number;
  crowd: Crowd;
  layout: Layout;
  /** How far a line's marks stand out to either side. */
  reachOf(line: number): number;
  /** Whether what stands here is looked at: of a vast job only what its window shows. */
  isInSight(at: At): boolean;
  take(stand: Stand, w: Wanted, is: DrawnText["is"], color: string | undefined, layer: string, about: About): void;
}

/** Which of the measures of a line it is: that of which piece, or after them that of the whole. */
interface MeasureAbout {
  added: string;
  line: number;
  time: number;
}

export const ADDED_LAYER = "ADDED";

/** Height of texts of additions that say none, mm, and of the ticks of dimensions to either side. */
const HEIGHT = 2,
  TICK = 0.8,
  /** Between a measure and its line: clear of a shot in the middle of an arc. */
  BESIDE = 0.8;

export class HandPlacer {
  /** Texts placed by hand, and whose they are. */
  private readonly placed = new Crowd();
  private readonly ownerOf = new Map<TextBox, string>();

  constructor(
    private readonly added: ResolvedAdded,
    private readonly paper: Paper,
  ) {}

  /** All that a person added, dimensions and words first: they stand where they were put. */
  placeAdditions(): void {
    for (const d of this.added.dimensions) this.dimension(d);
    for (const w of this.added.words) this.words(w);
    for (const m of this.added.measures)
      m.texts.forEach((text, time) => this.measure({ added: m.name, line: m.line, time }, text, m.height ?? HEIGHT));
  }

  /**
   * A text that the drawing has anyway, placed by hand from where it belongs; false where nobody did. One that is hidden
   * is placed nowhere.
   */
  place(
    by: ByHand | undefined,
    w: Wanted,
    base: At,
    angle: number,
    is: DrawnText["is"],
    color: string | undefined,
    layer: string,
    about: About,
  ): boolean {
    if (!by) return false;
    if (by.hidden) return true;
    const wanted = { ...w, height: by.height ?? w.height },
      [de, dn] = by.by ?? [0, 0],
      { unitsPerMm } = this.paper;
    this.put(
      by.name,
      wanted,
      base[0] + de / unitsPerMm,
      base[1] + dn / unitsPerMm,
      by.turn === undefined ? angle : radians(by.turn),
      { is, color, layer, about },
    );
    return true;
  }

  private put(
    added: string,
    w: Wanted,
    x: number,
    y: number,
    angle: number,
    text: { is: DrawnText["is"]; color: string | undefined; layer: string; about: About },
    leader?: Stand["leader"],
  ): void {
    const [halfWidth, halfHeight] = halfSize(w),
      box = { x, y, halfWidth, halfHeight, angle },
      { layout, take } = this.paper;
    const met = this.placed.textMet(box);
    if (met) layout.collisions.push([this.ownerOf.get(met)!, added]);
    this.placed.addBox(box);
    this.ownerOf.set(box, added);
    take({ ...box, align: 0, ...(leader ? { leader } : {}) }, w, text.is, text.color, text.layer, {
      ...text.about,
      added,
    });
  }

  /** The distance between two positions: a line beside them with a tick at each end, and its length in its middle. */
  private dimension({ name, from, to, right, text, height = HEIGHT }: ResolvedAdded["dimensions"][number]): void {
    const { mm, unitsPerMm } = this.paper,
      [ax, ay] = mm(from),
      [bx, by] = mm(to),
      length = Math.hypot(bx - ax, by - ay);
    if (length < 1e-9) return;
    const [dx, dy] = [(bx - ax) / length, (by - ay) / length],
      off = right / unitsPerMm,
      // To the right of the way.
      [ox, oy] = [dy * off, -dx * off];
    const line = (x0: number, y0: number, x1: number, y1: number) => this.stroke(name, x0, y0, x1, y1);
    line(ax + ox, ay + oy, bx + ox, by + oy);
    for (const [x, y] of [
      [ax, ay],
      [bx, by],
    ] as const) {
      // From the position to a little beyond the line.
      if (Math.abs(off) > 0.1) line(x, y, x + ox * (1 + TICK / Math.abs(off)), y + oy * (1 + TICK / Math.abs(off)));
      const [tx, ty] = [((dx + dy) * TICK) / Math.SQRT2, ((dy - dx) * TICK) / Math.SQRT2];
      line(x + ox - tx, y + oy - ty, x + ox + tx, y + oy + ty);
    }
    const w = wanted([text], height),
      angle = upright(Math.atan2(dy, dx)),
      up = halfSize(w)[1] + BESIDE;
    this.put(
      name,
      w,
      (ax + bx) / 2 + ox - Math.sin(angle) * up,
      (ay + by) / 2 + oy + Math.cos(angle) * up,
      angle,
      OF_ADDITIONS,
    );
  }

  private words({ name, lines, at, by, turn, height = HEIGHT, leader }: ResolvedAdded["words"][number]): void {
    const { mm, unitsPerMm } = this.paper,
      [x, y] = mm(at),
      [tx, ty] = [x + by[0] / unitsPerMm, y + by[1] / unitsPerMm],
      w = wanted(lines, height),
      angle = turn === undefined ? 0 : radians(turn);
    const of = { ...OF_ADDITIONS, about: { base: [...at] as [number, number] } };
    this.put(name, w, tx, ty, angle, of, leader ? leaderTo(w, tx, ty, angle, x, y) : undefined);
  }

  /** Along its piece, above it if there is room; where the piece is too short, near its middle. */
  private measure(about: MeasureAbout, { text, from, middle, to, ring }: MeasureText, height: number): void {
    if (!this.paper.isInSight(middle)) return;
    const { mm, crowd, layout } = this.paper,
      w = wanted([text], height),
      reach = this.paper.reachOf(about.line);
    const settle = (stand: Stand | undefined) =>
      stand
        ? this.paper.take(stand, w, "added", undefined, ADDED_LAYER, about)
        : void layout.unplaced.push({ text, is: "note", point: -1, line: about.line });
    layout.notes++;
    if (ring)
      return settle(
        insideRing(
          w,
          ring.flatMap((at) => mm(at)),
          crowd,
        ),
      );
    const [mx, my] = mm(middle);
    settle(
      besidePiece(w, mm(from), mm(to), [mx, my], reach + BESIDE, crowd) ?? besideSymbol(w, mx, my, 0.4, crowd, true),
    );
  }

  private stroke(added: string, x0: number, y0: number, x1: number, y1: number): void {
    const { back, layout, crowd } = this.paper;
    crowd.addSegment(x0, y0, x1, y1);
    layout.strokes.push({ added, way: [...back(x0, y0), ...back(x1, y1)] });
  }
}

const OF_ADDITIONS = { is: "added" as const, color: undefined, layer: ADDED_LAYER, about: {} };

const wanted = (lines: readonly string[], height: number): Wanted => ({
  lines,
  height,
  place: "auto",
  align: "middle",
});

const radians = (degreesRight: number) => (-degreesRight * Math.PI) / 180;

/** Positions that are tried from the middle of a piece to each of its ends. */
const TRIES = 6;

/** Along a piece where it has room and crosses least, from the middle outwards; an arc only at its middle. */
function besidePiece(w: Wanted, from: At, to: At, middle: At, beside: number, crowd: Crowd): Stand | undefined {
  const [halfWidth, halfHeight] = halfSize(w),
    [dx, dy] = [to[0] - from[0], to[1] - from[1]],
    length = Math.hypot(dx, dy);
  if (length < 1.9 * halfWidth) return undefined;
  const angle = upright(Math.atan2(dy, dx)),
    isStraight = Math.hypot((from[0] + to[0]) / 2 - middle[0], (from[1] + to[1]) / 2 - middle[1]) < 0.01,
    room = isStraight ? Math.max(0, length / 2 - halfWidth) : 0;
  let best: Stand | undefined,
    least = Infinity;
  for (let k = 0; k <= (room > 0 ? TRIES : 0); k++)
    for (const way of k ? [1, -1] : [0])
      for (const side of [1, -1]) {
        const along = (way * k * room) / TRIES,
          up = side * (halfHeight + beside),
          stand = {
            x: middle[0] + Math.cos(angle) * along - Math.sin(angle) * up,
            y: middle[1] + Math.sin(angle) * along + Math.cos(angle) * up,
            halfWidth,
            halfHeight,
            angle,
          },
          cost = (2 * k + (side < 0 ? 1 : 0)) / (4 * TRIES);
        if (cost >= least || !crowd.isFree(stand)) continue;
        const whole = cost + crowd.crossings(stand);
        if (whole < least) [best, least] = [stand, whole];
      }
  return best;
}

/** From the position to the nearest side of the text; none where the text covers it. */
function leaderTo(w: Wanted, tx: number, ty: number, angle: number, x: number, y: number): Stand["leader"] {
  const [hw, hh] = halfSize(w),
    [cos, sin] = [Math.cos(angle), Math.sin(angle)],
    // The position as the text sees it.
    [px, py] = [(x - tx) * cos + (y - ty) * sin, (y - ty) * cos - (x - tx) * sin],
    [nx, ny] = [Math.max(-hw - 0.4, Math.min(hw + 0.4, px)), Math.max(-hh - 0.4, Math.min(hh + 0.4, py))];
  if (nx === px && ny === py) return undefined;
  return [x, y, tx + nx * cos - ny * sin, ty + nx * sin + ny * cos];
}

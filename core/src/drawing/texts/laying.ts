/** What the phases of a layout share: the paper, what texts keep clear of, and what was placed so far. */
import type { PointTable } from "../../points/table";
import { HandPlacer } from "../added/place";
import { NOTHING_ADDED, type ResolvedAdded } from "../added/resolve";
import { Crowd } from "../crowd";
import type { About, DrawnText, Layout } from "../drawn-text";
import { lineStyle, styleReach } from "../line-styles";
import { isDrawn } from "../order";
import type { Stand, Wanted } from "../stand";
import { symbolOf, symbolReach } from "../symbols";
import { isWithin, meetsWindow } from "../window";
import { sizeOnPaper, type LayoutSource } from "./source";

/** Symbols of a whole job above which its plain ones are passed over. */
const VAST = 200_000;
/** From this size on a measured symbol is an outline within which texts may stand, mm. */
export const HOLLOW = 3;

export class Laying {
  readonly crowd = new Crowd();
  readonly layout: Layout;
  readonly added: ResolvedAdded;
  readonly byHand: HandPlacer;
  /** How far each symbol reaches on paper, mm; 0 for those that are not drawn. */
  readonly reach: Float32Array;
  readonly drawnLine: readonly boolean[];
  /** Of a vast job looked at whole only what has a symbol of its own is kept clear of, and points have no labels. */
  readonly vast: boolean;
  private readonly oe: number;
  private readonly on: number;

  constructor(
    readonly s: LayoutSource,
    readonly unitsPerMm: number,
  ) {
    const { table: t, symbols, drawing } = s;
    [this.oe, this.on] = originOf(t);
    this.added = s.added ?? NOTHING_ADDED;
    this.layout = {
      unitsPerMm,
      texts: [],
      unplaced: [],
      notes: 0,
      labels: 0,
      strokes: [],
      collisions: [],
      lost: this.added.lost,
      crowded: false,
    };
    this.reach = new Float32Array(symbols.point.length);
    this.vast = !s.within && symbols.point.length > VAST;
    this.drawnLine = s.lines.map((l, k) => isDrawn(l, drawing.hidden) && meetsWindow(s.within, s.chains, k));
    this.byHand = new HandPlacer(this.added, {
      mm: ([e, n]) => [this.x(e), this.y(n)],
      back: (px, py) => this.back(px, py),
      unitsPerMm,
      crowd: this.crowd,
      layout: this.layout,
      reachOf: (line) => (line < 0 ? 0 : this.reachOfLine(line)),
      isInSight: ([e, n]) => isWithin(s.within, e, n),
      take: (...text) => this.take(...text),
    });
  }

  /** East on the paper, mm from its origin. */
  x(e: number): number {
    return (e - this.oe) / this.unitsPerMm;
  }

  /** North on the paper, mm from its origin. */
  y(n: number): number {
    return (n - this.on) / this.unitsPerMm;
  }

  /** The paper → east and north. */
  back(px: number, py: number): [number, number] {
    return [px * this.unitsPerMm + this.oe, py * this.unitsPerMm + this.on];
  }

  /** A position east and north → by how much it is off the origin of the paper. */
  fromOrigin([e, n]: readonly [number, number]): [number, number] {
    return [e - this.oe, n - this.on];
  }

  reachOfLine(line: number): number {
    return styleReach(lineStyle(this.s.lines[line]!.style));
  }

  /** Whether a symbol is an outline within which texts may stand. */
  isHollow(k: number): boolean {
    return !Number.isNaN(this.s.symbols.ground[k]!) && this.reach[k]! > HOLLOW;
  }

  /** Edges of sheets, which texts do not cross. */
  addFrames(): void {
    for (const { minE, minN, maxE, maxN } of this.s.frames ?? []) {
      const [x0, y0, x1, y1] = [this.x(minE), this.y(minN), this.x(maxE), this.y(maxN)];
      this.crowd.addWall(x0, y0, x1, y0);
      this.crowd.addWall(x1, y0, x1, y1);
      this.crowd.addWall(x1, y1, x0, y1);
      this.crowd.addWall(x0, y1, x0, y0);
    }
  }

  addSymbols(): void {
    const { table: t, symbols, drawing, within } = this.s,
      { crowd, reach, vast } = this;
    const isLookDrawn = symbols.looks.map(
      (l) => isDrawn(l, drawing.hidden) && !(vast && (l.shot || l.symbol === "spot")),
    );
    for (let k = 0; k < symbols.point.length; k++) {
      const look = symbols.looks[symbols.look[k]!]!,
        i = symbols.point[k]!,
        symbol = symbolOf(look.symbol);
      if (!isLookDrawn[symbols.look[k]!] || !isWithin(within, t.e[i]!, t.n[i]!)) continue;
      const size = sizeOnPaper(symbols, k, this.unitsPerMm),
        radius = look.shot || !symbol ? 0.5 : symbolReach(symbol, size, symbols.aspect?.get(k));
      reach[k] = radius;
      const hollow = !Number.isNaN(symbols.ground[k]!) && radius > HOLLOW;
      crowd.addRound({ x: this.x(t.e[i]!), y: this.y(t.n[i]!), radius, hollow });
      if (hollow && symbol?.heart)
        crowd.addRound({ x: this.x(t.e[i]!), y: this.y(t.n[i]!), radius: 0.45, hollow: false });
    }
  }

  addLines(): void {
    const { xyz, starts } = this.s.chains;
    this.s.lines.forEach((_, l) => {
      if (!this.drawnLine[l]) return;
      const out = this.reachOfLine(l);
      for (let v = starts[l]! + 1; v < starts[l + 1]!; v++)
        this.crowd.addSegment(
          this.x(xyz[3 * v - 3]!),
          this.y(xyz[3 * v - 2]!),
          this.x(xyz[3 * v]!),
          this.y(xyz[3 * v + 1]!),
          out,
        );
    });
  }

  /** Writes a text where it stands; those after it keep clear of it. */
  take(stand: Stand, w: Wanted, is: DrawnText["is"], color: string | undefined, layer = "", about: About = {}): void {
    this.crowd.addBox(stand);
    const [e, n] = this.back(stand.x, stand.y);
    this.layout.texts.push({
      lines: [...w.lines],
      e,
      n,
      angle: stand.angle,
      align: stand.align ?? 0,
      halfWidth: stand.halfWidth,
      height: w.height,
      color,
      is,
      layer,
      point: about.point ?? -1,
      line: about.line ?? -1,
      ...(about.added === undefined ? {} : { added: about.added }),
      ...(about.time === undefined ? {} : { time: about.time }),
      ...(about.base === undefined ? {} : { base: about.base }),
      ...(about.code === undefined ? {} : { code: about.code }),
      ...(stand.leader
        ? {
            leader: [
              ...this.back(stand.leader[0], stand.leader[1]),
              ...this.back(stand.leader[2], stand.leader[3]),
            ] as DrawnText["leader"],
          }
        : {}),
    });
    if (stand.leader) this.crowd.addSegment(...stand.leader);
  }
}

/** Where notes or labels are too many to be written, what a person added or placed is written still. */
export const isByPerson = (text: DrawnText) => text.added !== undefined;

function originOf(t: PointTable): [number, number] {
  for (let i = 0; i < t.count; i++) if (!t.deleted[i]) return [t.e[i]!, t.n[i]!];
  return [0, 0];
}

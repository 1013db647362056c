/**
 * The drawing at one scale: which symbols and lines are drawn, and where every text stands. One definition for the
 * sheet, for plans and for drawing files. Places are E, N in the job's unit; sizes mm on paper.
 */
import { append } from "../math/many";
import type { CodeKind } from "../codes/model";
import type { DrawingSettings, PointLabels } from "./model";
import type { Chains } from "../lines/flatten";
import { formatFixed } from "../math/round";
import { extentOf, type PointTable } from "../points/table";
import { LABELS_APART, lookOfSurface } from "./surface-look";
import { labelContours, type Contours } from "../surface/contour";
import type { DrawnSymbols, Note } from "./content";
import { Crowd } from "./crowd";
import { lineStyle, styleReach } from "./line-styles";
import type { About, DrawnText, Layout, Unplaced } from "./drawn-text";
import { HandPlacer } from "./added/place";
import { NOTHING_ADDED, type ResolvedAdded } from "./added/resolve";
import { positionsAlong, wayLength, type OnWay } from "./along";
import { alongWay, besideSymbol, halfSize, insideRing, upright, type Stand, type Wanted } from "./stand";
import { symbolOf, symbolReach } from "./symbols";
import { isDrawn } from "./order";
import { isWithin, meetsWindow, type Extent } from "./window";

export type { DrawnText, Layout, Unplaced } from "./drawn-text";

export interface LayoutSource {
  table: PointTable;
  symbols: DrawnSymbols;
  notes: readonly Note[];
  lines: readonly { code: string; kind?: CodeKind; group: string; layer: string; style?: string; closed: boolean }[];
  chains: Chains;
  contours: readonly Contours[];
  drawing: DrawingSettings;
  /** Table rows of each set that `drawing.points` names. */
  sets: ReadonlyMap<string, Int32Array>;
  /** What a person added to the drawing; nothing where it is not said. */
  added?: ResolvedAdded;
  /** Which texts are wanted. */
  want: TextsWanted;
  /**
   * Notes, and labels of points, are left out when less than half of them finds a place beside its point; no leaders.
   */
  mostOrNone?: boolean;
  /** Edges of sheets, which texts do not cross. */
  frames?: readonly Extent[];
  /** Only what stands in this rectangle is looked at: for jobs too large to lay out whole. */
  within?: Extent;
}

export interface TextsWanted {
  notes: boolean;
  points: boolean;
  contours: boolean;
}

export const TEXT_HEIGHT = 1.8;
export const DEFAULT_POINT_LABELS: PointLabels[] = [{ set: "*", number: true, elevation: true }];

/**
 * Size of a symbol on paper, mm. One that is measured is drawn to scale, but no smaller than half of its own size;
 * spots close together are small.
 */
export function sizeOnPaper(symbols: DrawnSymbols, k: number, unitsPerMm: number): number {
  const own = symbolOf(symbols.looks[symbols.look[k]!]!.symbol)?.size ?? 1.2,
    fixed = symbols.paper[k]!,
    ground = symbols.ground[k]!;
  if (!Number.isNaN(ground)) return Math.max(ground / unitsPerMm, own / 2);
  if (!Number.isNaN(fixed)) return fixed;
  return symbols.looks[symbols.look[k]!]!.symbol === "spot"
    ? Math.max(0.4, Math.min(own, symbols.spacing / unitsPerMm / 4))
    : own;
}

/** Where notes or labels are too many to be written, what a person added or placed is written still. */
const isByPerson = (text: DrawnText) => text.added !== undefined;

/** Symbols of a whole job above which its plain ones are passed over. */
const VAST = 200_000;
/** From this size on a measured symbol is an outline within which texts may stand, mm. */
const HOLLOW = 3;

export function layOutTexts(s: LayoutSource, unitsPerMm: number): Layout {
  const { table: t, symbols, drawing } = s;
  const [oe, on] = originOf(t);
  const x = (e: number) => (e - oe) / unitsPerMm,
    y = (n: number) => (n - on) / unitsPerMm;
  const crowd = new Crowd();
  for (const { minE, minN, maxE, maxN } of s.frames ?? []) {
    const [x0, y0, x1, y1] = [x(minE), y(minN), x(maxE), y(maxN)];
    crowd.addWall(x0, y0, x1, y0);
    crowd.addWall(x1, y0, x1, y1);
    crowd.addWall(x1, y1, x0, y1);
    crowd.addWall(x0, y1, x0, y0);
  }
  const added = s.added ?? NOTHING_ADDED;
  const layout: Layout = {
    unitsPerMm,
    texts: [],
    unplaced: [],
    notes: 0,
    labels: 0,
    strokes: [],
    collisions: [],
    lost: added.lost,
    crowded: false,
  };
  const reach = new Float32Array(symbols.point.length);
  // Of a vast job looked at whole only what has a symbol of its own is kept clear of, and points have no labels.
  const vast = !s.within && symbols.point.length > VAST;
  const drawnLook = symbols.looks.map((l) => isDrawn(l, drawing.hidden) && !(vast && (l.shot || l.symbol === "spot")));
  for (let k = 0; k < symbols.point.length; k++) {
    const look = symbols.looks[symbols.look[k]!]!,
      i = symbols.point[k]!,
      symbol = symbolOf(look.symbol);
    if (!drawnLook[symbols.look[k]!] || !isInside(i)) continue;
    const size = sizeOnPaper(symbols, k, unitsPerMm),
      radius = look.shot || !symbol ? 0.5 : symbolReach(symbol, size, symbols.aspect?.get(k));
    reach[k] = radius;
    const hollow = !Number.isNaN(symbols.ground[k]!) && radius > HOLLOW;
    crowd.addRound({ x: x(t.e[i]!), y: y(t.n[i]!), radius, hollow });
    if (hollow && symbol?.heart) crowd.addRound({ x: x(t.e[i]!), y: y(t.n[i]!), radius: 0.45, hollow: false });
  }
  const { xyz, starts } = s.chains;
  const drawnLine = s.lines.map((l, k) => isDrawn(l, drawing.hidden) && meetsWindow(s.within, s.chains, k));
  s.lines.forEach((line, l) => {
    if (!drawnLine[l]) return;
    const out = styleReach(lineStyle(line.style));
    for (let v = starts[l]! + 1; v < starts[l + 1]!; v++)
      crowd.addSegment(x(xyz[3 * v - 3]!), y(xyz[3 * v - 2]!), x(xyz[3 * v]!), y(xyz[3 * v + 1]!), out);
  });

  const take = (
    stand: Stand,
    w: Wanted,
    is: DrawnText["is"],
    color: string | undefined,
    layer = "",
    about: About = {},
  ) => {
    crowd.addBox(stand);
    const back = (px: number, py: number): [number, number] => [px * unitsPerMm + oe, py * unitsPerMm + on];
    const [e, n] = back(stand.x, stand.y);
    layout.texts.push({
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
              ...back(stand.leader[0], stand.leader[1]),
              ...back(stand.leader[2], stand.leader[3]),
            ] as DrawnText["leader"],
          }
        : {}),
    });
    if (stand.leader) crowd.addSegment(...stand.leader);
  };

  // What stands where a person put it comes first: all else keeps clear of it.
  const byHand = new HandPlacer(added, {
    mm: ([e, n]) => [x(e), y(n)],
    back: (px, py) => [px * unitsPerMm + oe, py * unitsPerMm + on],
    unitsPerMm,
    crowd,
    layout,
    reachOf: (line) => (line < 0 ? 0 : styleReach(lineStyle(s.lines[line]!.style))),
    isInSight: ([e, n]) => isWithin(s.within, e, n),
    take,
  });
  if (s.want.notes) byHand.placeAdditions();
  if (s.want.notes) placeNotes();
  if (s.want.points && vast) layout.crowded = true;
  else if (s.want.points) placePointLabels();
  if (s.want.contours) placeContourLabels();
  return layout;

  /** Notes of lines first: they have fewer places to stand. Of symbols those in a crowd come before those with room. */
  function placeNotes(): void {
    const placed: Unplaced[] = [],
      before = { notes: layout.notes, unplaced: layout.unplaced.length },
      /** Placed by hand, or hidden. */
      done = new Set<Note>();
    const handNote = (note: Note) => {
      const i = symbols.point[note.symbol]!,
        own = added.notes.get(`${i} ${note.code}`) ?? added.notes.get(String(i)),
        at: [number, number] = [x(t.e[i]!), y(t.n[i]!)];
      if (!byHand.place(own, wanted(note), at, 0, "note", note.color, note.layer, aboutNote(note, i))) return;
      done.add(note);
      layout.notes++;
    };
    const settle = (note: Note, stand: Stand | undefined, point = -1, time?: number, base?: [number, number]) => {
      const one: Unplaced = { text: note.text, is: "note", point, line: note.line };
      layout.notes++;
      (stand ? placed : layout.unplaced).push(one);
      const about = {
        ...aboutNote(note, point),
        line: note.line,
        ...(time ? { time } : {}),
        ...(base ? { base } : {}),
      };
      if (stand) take(stand, wanted(note), "note", note.color, note.layer, about);
    };
    for (const note of s.notes) if (note.symbol >= 0 && reach[note.symbol]! > 0) handNote(note);
    for (const note of s.notes) if (note.line >= 0 && drawnLine[note.line]) noteOfLine(note, settle);
    const beside = s.notes.filter((note) => note.symbol >= 0 && reach[note.symbol]! > 0 && !done.has(note));
    for (const note of inCrowdsFirst(beside, (n) => symbols.point[n.symbol]!)) {
      const k = note.symbol,
        i = symbols.point[k]!,
        w = wanted(note),
        px = x(t.e[i]!),
        py = y(t.n[i]!);
      const hollow = !Number.isNaN(symbols.ground[k]!) && reach[k]! > HOLLOW;
      // Beside the stem while the crown has room for it, else outside the crown.
      settle(
        note,
        (hollow ? besideSymbol(w, px, py, 0.5, crowd, false) : undefined) ??
          besideSymbol(w, px, py, reach[k]!, crowd, !s.mostOrNone),
        i,
      );
    }
    if (!s.mostOrNone || 2 * (layout.unplaced.length - before.unplaced) <= layout.notes - before.notes) return;
    layout.texts = layout.texts.filter(isByPerson);
    append(layout.unplaced, placed);
    layout.crowded = true;
  }

  function noteOfLine(
    note: Note,
    settle: (note: Note, stand: Stand | undefined, point?: number, time?: number, base?: [number, number]) => void,
  ): void {
    const w = wanted(note),
      way: number[] = [];
    for (let v = starts[note.line]!; v < starts[note.line + 1]!; v++) way.push(x(xyz[3 * v]!), y(xyz[3 * v + 1]!));
    if (way.length < 4) return;
    const isByHand = (time: number, middle: OnWay) =>
      byHand.place(
        added.lineNotes.get(`${note.line} ${time}`),
        w,
        [middle.x, middle.y],
        upright(middle.angle),
        "note",
        note.color,
        note.layer,
        { line: note.line, time, code: note.code, base: backOf(middle) },
      );
    if (s.lines[note.line]!.closed && (note.place === "centre" || (note.place === "auto" && note.kind === "area"))) {
      let isPlaced = false,
        base: [number, number] | undefined;
      positionsAlong(way, [wayLength(way) / 2], (middle) => {
        base = backOf(middle);
        isPlaced = isByHand(0, { ...middle, angle: 0 });
      });
      if (isPlaced) return void layout.notes++;
      return settle(note, insideRing(w, way, crowd), -1, 0, base);
    }
    const { stands, missed, done } = alongWay(
      w,
      way,
      note.every / unitsPerMm,
      crowd,
      Math.max(0.8, styleReach(lineStyle(s.lines[note.line]!.style)) + 0.5),
      isByHand,
    );
    layout.notes += done;
    for (const { stand, time, middle } of stands) settle(note, stand, -1, time, backOf(middle));
    if (stands.length || done) {
      for (let k = 0; k < missed; k++) settle(note, undefined);
      return;
    }
    // A line too short for its note has it beside its middle.
    const middle = 2 * Math.floor(way.length / 4);
    settle(note, besideSymbol({ ...w, place: "auto" }, way[middle]!, way[middle + 1]!, 0.3, crowd, !s.mostOrNone));
  }

  function placePointLabels(): void {
    const rules = drawing.points ?? DEFAULT_POINT_LABELS;
    const rule = new Uint8Array(t.count);
    rules.forEach((r, k) => {
      const places = r.set === "*" ? undefined : s.sets.get(r.set);
      if (r.set !== "*" && !places) return;
      if (!places) for (let i = 0; i < t.count; i++) rule[i] ||= k + 1;
      else for (const i of places) rule[i] ||= k + 1;
    });
    const labelled: { k: number; i: number; w: Wanted }[] = [];
    const done = new Uint8Array(t.count);
    let area = 0;
    for (let k = 0; k < symbols.point.length; k++) {
      const i = symbols.point[k]!,
        r = rules[rule[i]! - 1];
      if (!r || done[i] || reach[k] === 0) continue;
      done[i] = 1;
      const lines = [
        ...(r.number ? [t.number[i]!] : []),
        ...(r.code && symbols.looks[symbols.look[k]!]!.code ? [symbols.looks[symbols.look[k]!]!.code] : []),
        ...(r.elevation && !Number.isNaN(t.z[i]!) ? [formatFixed(t.z[i]!, r.decimals ?? 2)] : []),
      ];
      if (lines.length === 0) continue;
      const w: Wanted = { lines, height: r.height ?? TEXT_HEIGHT, place: "auto", align: "middle" };
      const [hw, hh] = halfSize(w);
      area += 4 * hw * hh;
      labelled.push({ k, i, w });
    }
    layout.labels = labelled.length;
    // Twice as much text as paper: nearly nothing would find a place, and looking for it would take long.
    if (labelled.length > 2000 && area > 2 * paperArea()) return void (layout.crowded = true);
    const before = { texts: layout.texts.length, unplaced: layout.unplaced.length };
    for (const { i, w } of labelled)
      byHand.place(added.labels.get(i), w, [x(t.e[i]!), y(t.n[i]!)], 0, "point", undefined, "", {
        point: i,
        base: [t.e[i]!, t.n[i]!],
      });
    for (const { k, i, w } of labelled) {
      if (added.labels.has(i)) continue;
      const stand = besideSymbol(w, x(t.e[i]!), y(t.n[i]!), Math.min(reach[k]!, HOLLOW), crowd, false);
      if (stand) take(stand, w, "point", undefined, "", { point: i, base: [t.e[i]!, t.n[i]!] });
      else layout.unplaced.push({ text: w.lines.join(" "), is: "point", point: i, line: -1 });
    }
    // A few labels here and there say less than none. The boxes of those taken back only cost contour labels some
    // places.
    if (s.mostOrNone && 2 * (layout.texts.length - before.texts) < labelled.length) {
      append(layout.texts, layout.texts.splice(before.texts).filter(isByPerson));
      layout.unplaced.length = before.unplaced;
      layout.crowded = true;
    }
  }

  function placeContourLabels(): void {
    for (const c of s.contours) {
      const de = c.origin[0] - oe,
        dn = c.origin[1] - on;
      const look = lookOfSurface(s.drawing, c.surface);
      if (look.hidden) continue;
      const moved = movedByLevel(c.surface);
      // A label goes by where it stood: at another scale it is the one that stands nearest there.
      const near = ((look.labelEvery ?? LABELS_APART) * unitsPerMm) / 2;
      labelContours(c, (look.labelEvery ?? LABELS_APART) * unitsPerMm, TEXT_HEIGHT * unitsPerMm, (label) => {
        const w: Wanted = { lines: [label.text], height: TEXT_HEIGHT, place: "centre", align: "middle" },
          [halfWidth, halfHeight] = halfSize(w);
        const stand: Stand = {
          x: (label.x + de) / unitsPerMm,
          y: (label.y + dn) / unitsPerMm,
          halfWidth,
          halfHeight,
          angle: label.angle,
        };
        const [e, n] = [label.x + c.origin[0], label.y + c.origin[1]],
          own = moved.get(Number(label.text))?.find((a) => Math.hypot(a.near[0] - e, a.near[1] - n) < near);
        if (byHand.place(own, w, [stand.x, stand.y], stand.angle, "contour", undefined, c.surface, { base: [e, n] }))
          return true;
        if (!crowd.isFree(stand)) return false;
        take(stand, w, "contour", undefined, c.surface, { base: [e, n] });
        return true;
      });
    }
  }

  function movedByLevel(surface: string): Map<number, ResolvedAdded["contours"][number][]> {
    const of = new Map<number, ResolvedAdded["contours"][number][]>();
    for (const a of added.contours) {
      if (a.surface !== surface) continue;
      const list = of.get(a.level);
      if (list) list.push(a);
      else of.set(a.level, [a]);
    }
    return of;
  }

  function aboutNote({ code }: Note, i: number): About {
    return { point: i, code, ...(i >= 0 ? { base: [t.e[i]!, t.n[i]!] as [number, number] } : {}) };
  }

  function backOf({ x: px, y: py }: { x: number; y: number }): [number, number] {
    return [px * unitsPerMm + oe, py * unitsPerMm + on];
  }

  function isInside(i: number): boolean {
    return isWithin(s.within, t.e[i]!, t.n[i]!);
  }

  function wanted(note: Note): Wanted {
    return { lines: [note.text], height: note.height ?? TEXT_HEIGHT, place: note.place, align: note.align };
  }

  function paperArea(): number {
    const x = extentOf(t);
    return x ? ((x.maxE - x.minE) * (x.maxN - x.minN)) / unitsPerMm ** 2 : 0;
  }

  /** Things with many neighbours within a centimetre and a half first; equals keep their order. */
  function inCrowdsFirst<T>(list: readonly T[], pointOf: (x: T) => number): T[] {
    const cell = 15,
      counts = new Map<number, number>();
    const key = (item: T) =>
      Math.floor(x(t.e[pointOf(item)]!) / cell) * 2 ** 21 + Math.floor(y(t.n[pointOf(item)]!) / cell);
    for (const item of list) counts.set(key(item), (counts.get(key(item)) ?? 0) + 1);
    return list
      .map((item, k) => ({ item, k, n: counts.get(key(item))! }))
      .sort((a, b) => b.n - a.n || a.k - b.k)
      .map((o) => o.item);
  }
}

function originOf(t: PointTable): [number, number] {
  for (let i = 0; i < t.count; i++) if (!t.deleted[i]) return [t.e[i]!, t.n[i]!];
  return [0, 0];
}

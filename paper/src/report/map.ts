/** A map of cut and fill to a round scale: classes as a picture, their lines, the outline, areas and sections as lines. */
import { PNG } from "pngjs";
import type { MapBlock } from "@bramble/core/report/model";
import { plainNumber } from "@bramble/core/math/round";
import { className, mapClasses, type MapClass } from "@bramble/core/volumes/map";
import { BRAMBLE, INK, MM, RULE, SOFT, type Pages } from "../page";

const CUT = [200, 99, 43] as const,
  FILL = [59, 126, 166] as const,
  HATCH = [31, 74, 99] as const,
  /** Millimetres of a pixel, and pixels between two strokes of the hatch. */
  PIXEL = 0.15,
  STROKES = 14;
const HEIGHT = 118 * MM,
  LEGEND = 44 * MM,
  GAP = 6 * MM,
  /** Beside the map, for its northings. */
  SIDE = 14 * MM;

interface Frame {
  west: number;
  south: number;
  east: number;
  north: number;
}

export function drawMap(pages: Pages, block: MapBlock): void {
  const { doc } = pages,
    { map, unit } = block;
  if (map.triangles.length === 0) return;
  const frame = frameOf(block),
    room = pages.width - LEGEND - GAP - SIDE,
    perMetre = MM * 1000 * METRES[unit]!,
    denominator = roundUp(Math.max((frame.east - frame.west) / room, (frame.north - frame.south) / HEIGHT) * perMetre),
    scale = perMetre / denominator,
    width = (frame.east - frame.west) * scale,
    height = (frame.north - frame.south) * scale;
  pages.need(Math.max(height, 60 * MM) + 34);
  pages.write(`${block.title}, 1:${plainNumber(denominator)}`, 9, { bold: true, gap: 4 });
  const top = pages.y,
    left = pages.left + SIDE,
    x = (e: number) => left + (e - frame.west) * scale,
    y = (n: number) => top + height - (n - frame.south) * scale;
  const classes = mapClasses(map);
  doc.image(picture(block, classes, frame, width / MM, height / MM), left, top, { width, height });
  const [oe, on] = map.origin;
  map.lines.forEach((xy, k) => {
    for (let i = 0; i < xy.length; i += 4) {
      doc.moveTo(x(xy[i]! + oe), y(xy[i + 1]! + on)).lineTo(x(xy[i + 2]! + oe), y(xy[i + 3]! + on));
    }
    const isZero = map.edges[k] === 0;
    doc.lineWidth(isZero ? 0.9 : 0.3).stroke(isZero ? INK : SOFT);
  });
  const ring = (way: readonly number[]) => {
    for (let i = 0; i < way.length; i += 2) {
      if (i === 0) doc.moveTo(x(way[0]!), y(way[1]!));
      else doc.lineTo(x(way[i]!), y(way[i + 1]!));
    }
  };
  doc.save().rect(left, top, width, height).clip();
  block.outline.forEach(ring);
  doc.lineWidth(0.7).stroke(INK);
  for (const area of block.areas) {
    for (const way of area.ring) {
      ring(way);
      doc.closePath();
    }
    doc.dash(4, { space: 2 }).lineWidth(0.9).stroke(BRAMBLE).undash();
  }
  for (const { name, way } of block.ways) {
    ring(way);
    doc.dash(8, { space: 2 }).lineWidth(0.5).stroke(SOFT).undash();
    pages.label(name, x(way[0]!) + 2, y(way[1]!) - 10, 8, { bold: true, color: SOFT });
  }
  doc.restore();
  grid(pages, frame, x, y);
  legend(pages, block, classes, left + width + GAP, top, scale);
  pages.y = top + Math.max(height, 60 * MM) + 14;
}

const METRES: Record<string, number> = { m: 1, ft: 0.3048, ftUS: 1200 / 3937 };

/** Round numbers within a power of ten. */
const ROUND = [1, 1.25, 1.5, 2, 2.5, 3, 4, 5, 7.5, 10];

/** The largest round number that is not more. */
export function roundDown(most: number): number {
  const power = 10 ** Math.floor(Math.log10(most));
  return ROUND.findLast((m) => m * power <= most * (1 + 1e-9))! * power;
}

/** The smallest round number that is not less. */
function roundUp(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least));
  return ROUND.find((m) => m * power >= least * (1 - 1e-9))! * power;
}

/** What the map and the areas need, with some room round it. */
function frameOf({ map, areas }: MapBlock): Frame {
  const [oe, on] = map.origin;
  let [west, south, east, north] = [Infinity, Infinity, -Infinity, -Infinity];
  const hold = (e: number, n: number) => {
    if (e < west) west = e;
    if (e > east) east = e;
    if (n < south) south = n;
    if (n > north) north = n;
  };
  for (const v of map.triangles) hold(map.corners[3 * v]! + oe, map.corners[3 * v + 1]! + on);
  for (const { ring } of areas)
    for (const way of ring) for (let i = 0; i < way.length; i += 2) hold(way[i]!, way[i + 1]!);
  const room = 0.03 * Math.max(east - west, north - south, 1e-6);
  return { west: west - room, south: south - room, east: east + room, north: north + room };
}

/** Classes as pixels; fill is hatched, so that a grey print tells it from cut. */
function picture(
  { map, deadband }: MapBlock,
  classes: MapClass[],
  frame: Frame,
  mmWide: number,
  mmHigh: number,
): Buffer {
  const [wide, high] = [Math.ceil(mmWide / PIXEL), Math.ceil(mmHigh / PIXEL)],
    png = new PNG({ width: wide, height: high }),
    { data } = png,
    { corners: c, triangles, edges, origin } = map;
  data.fill(255);
  const px = (x: number) => ((x + origin[0] - frame.west) / (frame.east - frame.west)) * wide,
    py = (y: number) => ((frame.north - y - origin[1]) / (frame.north - frame.south)) * high;
  const paint = (i: number, j: number, d: number) => {
    if (Math.abs(d) <= deadband) return;
    let k = 0;
    while (k < edges.length && d >= edges[k]!) k++;
    const { isFill, strength } = classes[k]!,
      isHatch = isFill && (i + j) % STROKES < 2,
      color = isHatch ? HATCH : isFill ? FILL : CUT,
      share = isHatch ? 0.6 : strength,
      at = 4 * (j * wide + i);
    for (let n = 0; n < 3; n++) data[at + n] = Math.round(255 + (color[n]! - 255) * share);
  };
  for (let t = 0; t < triangles.length; t += 3) {
    const [p, q, r] = [3 * triangles[t]!, 3 * triangles[t + 1]!, 3 * triangles[t + 2]!],
      [ax, ay, bx, by, cx, cy] = [px(c[p]!), py(c[p + 1]!), px(c[q]!), py(c[q + 1]!), px(c[r]!), py(c[r + 1]!)],
      twice = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
    if (twice === 0) continue;
    const [i0, i1] = [
        Math.max(0, Math.floor(Math.min(ax, bx, cx))),
        Math.min(wide - 1, Math.ceil(Math.max(ax, bx, cx))),
      ],
      [j0, j1] = [Math.max(0, Math.floor(Math.min(ay, by, cy))), Math.min(high - 1, Math.ceil(Math.max(ay, by, cy)))];
    for (let j = j0; j <= j1; j++)
      for (let i = i0; i <= i1; i++) {
        const [x, y] = [i + 0.5, j + 0.5],
          v = ((x - ax) * (cy - ay) - (cx - ax) * (y - ay)) / twice,
          w = ((bx - ax) * (y - ay) - (x - ax) * (by - ay)) / twice;
        if (v < 0 || w < 0 || v + w > 1) continue;
        paint(i, j, c[p + 2]! + v * (c[q + 2]! - c[p + 2]!) + w * (c[r + 2]! - c[p + 2]!));
      }
  }
  return PNG.sync.write(png, { colorType: 2 });
}

/** Crosses at round coordinates, with the coordinates at the frame's edge. */
function grid(
  pages: Pages,
  { west, south, east, north }: Frame,
  x: (e: number) => number,
  y: (n: number) => number,
): void {
  const { doc } = pages,
    step = roundUp(Math.max(east - west, north - south) / 4),
    from = (low: number) => Math.ceil(low / step) * step;
  doc
    .rect(x(west), y(north), x(east) - x(west), y(south) - y(north))
    .lineWidth(0.5)
    .stroke(RULE);
  for (let e = from(west); e < east; e += step)
    for (let n = from(south); n < north; n += step)
      doc
        .moveTo(x(e) - 3, y(n))
        .lineTo(x(e) + 3, y(n))
        .moveTo(x(e), y(n) - 3)
        .lineTo(x(e), y(n) + 3);
  doc.lineWidth(0.4).stroke(SOFT);
  for (let e = from(west); e < east; e += step)
    pages.label(`${plainNumber(e)} E`, x(e) - 30, y(south) + 2, 6.5, { color: SOFT, width: 60, align: "center" });
  for (let n = from(south); n < north; n += step)
    pages.label(`${plainNumber(n)} N`, x(west) - SIDE, y(n) - 4, 6.5, { color: SOFT, width: SIDE - 3, align: "right" });
}

/** Classes with their areas, what the lines are, a bar of length, and where north is. */
function legend(pages: Pages, block: MapBlock, classes: MapClass[], left: number, top: number, scale: number): void {
  const { doc } = pages,
    { map, unit } = block;
  const whole = classes.reduce((sum, c) => sum + (c.area ?? 0), 0);
  let y = top;
  for (const c of classes.toReversed()) {
    // A trifle that a flat side leaves is no class.
    if (c.area !== undefined && c.area < 1e-6 * whole) continue;
    const [r, g, b] = (c.isFill ? FILL : CUT).map((n) => Math.round(255 + (n - 255) * c.strength));
    doc.rect(left, y, 16, 8).fill([r!, g!, b!] as unknown as string);
    if (c.isFill) {
      doc.save().rect(left, y, 16, 8).clip();
      for (let k = -8; k < 16; k += 6) doc.moveTo(left + k, y + 8).lineTo(left + k + 8, y);
      doc.lineWidth(0.7).stroke([...HATCH] as unknown as string);
      doc.restore();
    }
    pages.label(className(c, map.step, unit), left + 20, y - 0.5, 7);
    y += 9.5;
    if (c.area !== undefined) {
      pages.label(block.areaText(c.area), left + 20, y - 0.5, 7, { color: SOFT });
      y += 10.5;
    }
  }
  const line = (name: string, color: string, width: number, dash?: number) => {
    doc.moveTo(left, y + 4).lineTo(left + 16, y + 4);
    if (dash) doc.dash(dash, { space: 2 });
    doc.lineWidth(width).stroke(color).undash();
    pages.label(name, left + 20, y, 7);
    y += 10;
  };
  y += 4;
  if (map.edges.includes(0)) line("no difference", INK, 0.9);
  line(`every ${plainNumber(map.step)} ${unit}`, SOFT, 0.3);
  line("outline", INK, 0.7);
  if (block.areas.length)
    line(
      block.areas
        .map((a) => a.name)
        .join(", ")
        .slice(0, 40),
      BRAMBLE,
      0.9,
      4,
    );
  if (block.ways.length) line("sections", SOFT, 0.5, 5);
  if (map.coarse) pages.label("at the first surface’s corners", left, y, 7, { color: SOFT });
  y += 14;
  const length = roundUp((20 * MM) / scale);
  doc
    .rect(left, y, length * scale, 3)
    .lineWidth(0.5)
    .stroke(INK);
  doc.rect(left, y, (length * scale) / 2, 3).fill(INK);
  pages.label(`${plainNumber(length)} ${unit}`, left, y + 5, 7);
  y += 22;
  doc
    .moveTo(left + 6, y + 22)
    .lineTo(left + 6, y)
    .lineTo(left + 2.5, y + 7)
    .moveTo(left + 6, y)
    .lineTo(left + 9.5, y + 7);
  doc.lineWidth(0.8).stroke(INK);
  pages.label("North", left + 14, y + 7, 7);
}

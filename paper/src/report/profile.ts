/** Upright drawings of a report: sections with both surfaces and the lines that they cross, and a curve of storage. */
import type { Block, SectionBlock } from "@bramble/core/report/model";
import { formatGrouped, plainNumber } from "@bramble/core/math/round";
import { stepFor } from "@bramble/core/volumes/map";
import { roundDown } from "./map";
import { BRAMBLE, INK, MM, RULE, SOFT, type Pages } from "../page";

const HEIGHT = 42 * MM,
  AXIS = 18 * MM,
  NAMES = 16 * MM;

interface Axes {
  x(value: number): number;
  y(value: number): number;
}

export function drawSection(pages: Pages, block: SectionBlock): void {
  const { doc } = pages,
    levels = [...block.profiles.flatMap((p) => p.section.level), ...block.crossed.map((c) => c.level)].filter(
      (z) => !Number.isNaN(z),
    );
  const [low, high] = levels.reduce(([a, b], z) => [Math.min(a, z), Math.max(b, z)], [Infinity, -Infinity]),
    names = block.crossed.length > 0 ? NAMES : 0;
  if (!(low <= high)) return;
  const width = pages.width - AXIS,
    reach = Math.max(high - low, 1e-3 * block.length),
    times = roundDown((HEIGHT * block.length) / (reach * width)),
    height = (times * reach * width) / block.length;
  pages.need(height + names + 40);
  pages.write(`${block.title}, heights ${plainNumber(times)} times the lengths`, 9, { bold: true, gap: 2 });
  keys(
    pages,
    block.profiles.map((p) => p.name),
  );
  pages.y += names;
  const axes = frame(pages, [0, block.length], [low, low + reach], block.unit, block.unit, height);
  block.profiles.forEach(({ section }, k) => {
    polyline(doc, axes, section.station, section.level);
    stroke(doc, k);
  });
  let last = -Infinity;
  for (const { name, station, level } of block.crossed) {
    const x = axes.x(station);
    doc.circle(x, axes.y(level), 1.4).fill(BRAMBLE);
    // Names that would lie on one another are left out; their dots stay.
    if (x - last < 8) continue;
    last = x;
    doc
      .moveTo(x, axes.y(level))
      .lineTo(x, pages.y - 1)
      .lineWidth(0.25)
      .stroke(RULE);
    doc.save().rotate(-90, { origin: [x, pages.y] });
    pages.label(name.slice(0, 14), x + 2, pages.y - 3.5, 6.5, { color: BRAMBLE });
    doc.restore();
  }
  pages.y += height + 24;
}

export function drawCurve(pages: Pages, { title, x, y, points }: Extract<Block, { kind: "curve" }>): void {
  if (points.length < 2) return;
  pages.need(HEIGHT + 40);
  pages.write(`${title}: ${y.toLowerCase()} by ${x.toLowerCase()}`, 9, { bold: true, gap: 4 });
  const most = Math.max(...points.map((p) => p[1]), 1e-9),
    axes = frame(pages, [points[0]![0], points.at(-1)![0]], [0, most], "", "");
  polyline(
    pages.doc,
    axes,
    points.map((p) => p[0]),
    points.map((p) => p[1]),
  );
  stroke(pages.doc, 0);
  pages.y += HEIGHT + 24;
}

/** Lines at round values of both axes, with the values; the place for what is drawn. */
function frame(
  pages: Pages,
  xs: [number, number],
  ys: [number, number],
  xUnit: string,
  yUnit: string,
  height = HEIGHT,
): Axes {
  const { doc } = pages,
    left = pages.left + AXIS,
    width = pages.width - AXIS,
    top = pages.y;
  const x = (v: number) => left + ((v - xs[0]) / (xs[1] - xs[0] || 1)) * width,
    y = (v: number) => top + height - ((v - ys[0]) / (ys[1] - ys[0] || 1)) * height;
  const steps = ([from, to]: [number, number]) => {
    const step = stepFor(0, to - from),
      list: number[] = [];
    for (let v = Math.ceil(from / step - 1e-9) * step; v <= to + 1e-9 * step; v += step)
      list.push(Number(v.toPrecision(12)));
    return list;
  };
  const say = (v: number, unit: string) =>
    `${formatGrouped(v, 3)
      .replace(/\.?0{1,3}$/, "")
      .replace("-", "−")}${unit && ` ${unit}`}`;
  for (const v of steps(ys)) {
    doc
      .moveTo(left, y(v))
      .lineTo(left + width, y(v))
      .lineWidth(0.3)
      .stroke(RULE);
    pages.label(say(v, yUnit), pages.left, y(v) - 4, 6.5, { color: SOFT, width: AXIS - 4, align: "right" });
  }
  for (const v of steps(xs)) {
    doc
      .moveTo(x(v), top + height)
      .lineTo(x(v), top + height + 3)
      .lineWidth(0.5)
      .stroke(SOFT);
    pages.label(say(v, xUnit), x(v) - 30, top + height + 5, 6.5, { color: SOFT, width: 60, align: "center" });
  }
  doc
    .moveTo(left, top + height)
    .lineTo(left + width, top + height)
    .lineWidth(0.6)
    .stroke(SOFT);
  return { x, y };
}

/** Broken where it is not known. */
function polyline(doc: PDFKit.PDFDocument, { x, y }: Axes, xs: readonly number[], ys: readonly number[]): void {
  let open = false;
  for (let k = 0; k < xs.length; k++) {
    const isKnown = !Number.isNaN(ys[k]!);
    if (isKnown && open) doc.lineTo(x(xs[k]!), y(ys[k]!));
    else if (isKnown) doc.moveTo(x(xs[k]!), y(ys[k]!));
    open = isKnown;
  }
}

/** The first surface is a full line, the second a broken one: told apart in grey too. */
function stroke(doc: PDFKit.PDFDocument, k: number): void {
  if (k > 0) doc.dash(5, { space: 2 });
  doc
    .lineWidth(k === 0 ? 1.1 : 0.9)
    .stroke(k === 0 ? INK : "#3b7ea6")
    .undash();
}

function keys(pages: Pages, names: readonly string[]): void {
  let x = pages.left;
  names.forEach((name, k) => {
    pages.doc.moveTo(x, pages.y + 5).lineTo(x + 20, pages.y + 5);
    stroke(pages.doc, k);
    pages.label(name, x + 24, pages.y + 0.5, 8);
    x += 24 + pages.widthOf(name, 8) + 16;
  });
  pages.y += 14;
}

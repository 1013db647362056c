/** The coordinate grid of a field: crosses within, labels where its lines meet the field's sides. */
import { roundStep } from "../../math/round-step";
import { label, line, RULE, SOFT, type Mark, type Rectangle } from "./page";
import { fromPaper, onPaper, type Turned } from "./sheets";

/** Between lines of the grid at least, mm. */
const APART = 50,
  CROSS = 2,
  TICK = 1.6;

export function gridStep(unitsPerMm: number): number {
  return roundStep(APART * unitsPerMm);
}

export function gridMarks(
  turned: Turned,
  at: { x: number; y: number },
  field: Rectangle,
  unitsPerMm: number,
  step = gridStep(unitsPerMm),
): Mark[] {
  const put = onPaper(turned),
    back = fromPaper(turned),
    [width, height] = [field.width * unitsPerMm, field.height * unitsPerMm];
  const corners = [
    back(at.x, at.y),
    back(at.x + width, at.y),
    back(at.x, at.y + height),
    back(at.x + width, at.y + height),
  ];
  const lines = (k: 0 | 1) => {
    const all = corners.map((c) => c[k]),
      first = Math.ceil(Math.min(...all) / step),
      last = Math.floor(Math.max(...all) / step);
    return Array.from({ length: Math.max(0, last - first + 1) }, (_, j) => (first + j) * step);
  };
  const [eastings, northings] = [lines(0), lines(1)],
    marks: Mark[] = [];
  const paper = (e: number, n: number): [number, number] => {
    const [x, y] = put(e, n);
    return [field.x + (x - at.x) / unitsPerMm, field.y + (y - at.y) / unitsPerMm];
  };
  const [right, top] = [field.x + field.width, field.y + field.height],
    isIn = (x: number, y: number) => x > field.x && x < right && y > field.y && y < top;
  // Along an easting's line one goes north, along a northing's line east.
  const up: [number, number] = [Math.sin(turned.turn), Math.cos(turned.turn)],
    along: [number, number] = [Math.cos(turned.turn), -Math.sin(turned.turn)];
  for (const e of eastings)
    for (const n of northings) {
      const [x, y] = paper(e, n);
      if (!isIn(x, y)) continue;
      for (const [dx, dy] of [up, along])
        marks.push(line(x - CROSS * dx, y - CROSS * dy, x + CROSS * dx, y + CROSS * dy, 0.1, RULE));
    }
  const sides = (text: string, through: [number, number], d: [number, number]) => {
    // A line that runs rather up the paper is labelled at the bottom and top, one that runs across at the sides.
    const upwards = Math.abs(d[1]) >= Math.abs(d[0]);
    for (const high of [false, true]) {
      const edge = upwards ? (high ? top : field.y) : high ? right : field.x,
        t = upwards ? (edge - through[1]) / d[1] : (edge - through[0]) / d[0],
        [x, y] = [through[0] + t * d[0], through[1] + t * d[1]];
      const inside = upwards ? x > field.x + 4 && x < right - 4 : y > field.y + 4 && y < top - 4;
      if (!inside) continue;
      const out = high ? 1 : -1;
      if (upwards) {
        marks.push(line(x, y, x + (out * TICK * d[0]) / Math.abs(d[1]), y + out * TICK, 0.13, SOFT));
        marks.push(label(text, x, high ? y + TICK + 0.6 : y - TICK - 2.2, 2, { align: 0, color: SOFT }));
      } else {
        marks.push(line(x, y, x + out * TICK, y + (out * TICK * d[1]) / Math.abs(d[0]), 0.13, SOFT));
        const angle = Math.PI / 2;
        marks.push(label(text, high ? x + TICK + 2.2 : x - TICK - 0.6, y, 2, { align: 0, angle, color: SOFT }));
      }
    }
  };
  const [ce, cn] = back(at.x + width / 2, at.y + height / 2);
  for (const e of eastings) sides(`${figure(e, step)} E`, paper(e, cn), up);
  for (const n of northings) sides(`${figure(n, step)} N`, paper(ce, n), along);
  return marks;
}

/** Coordinates of the grid have as many decimals as its step. */
function figure(x: number, step: number): string {
  const decimals = Math.max(0, -Math.floor(Math.log10(step) + 1e-9));
  return x.toFixed(decimals);
}

/** Tables of points and areas: beside the plan where they are short, else as pages after it. */
import { formatFixed } from "../../math/round";
import type { OutTable } from "../table";
import { textWidth } from "../../drawing/text-width";
import { fitted } from "./aside";
import { label, line, RULE, SOFT, type Mark, type Rectangle } from "./page";

const SIZE = 2.3,
  ROW = 3.8,
  GAP = 6,
  PAD = 1.6,
  /** Title and titles of columns. */
  HEAD = 14,
  /** Left and right of a table beside a plan. */
  EDGE = 2.5;

/** Pages of a table within a rectangle, beside one another as often as it is narrow: the marks of each. */
export function* tablePages(table: OutTable, title: string, r: Rectangle): Generator<Mark[]> {
  const { cells, widths, width } = measured(table),
    isNumber = table.columns.map((c) => "number" in c),
    columns = Math.max(1, Math.floor((r.width + GAP) / (width + GAP))),
    perColumn = Math.max(1, Math.floor((r.height - HEAD) / ROW + 1e-9));
  for (let from = 0; from < table.count; from += columns * perColumn) {
    const marks: Mark[] = [label(title, r.x, r.y + r.height - 4, 3.4, { bold: true })];
    for (let c = 0; c < columns && from + c * perColumn < table.count; c++) {
      let x = r.x + c * (width + GAP);
      const top = r.y + r.height - 10,
        first = from + c * perColumn,
        last = Math.min(table.count, first + perColumn);
      marks.push(line(x, top - 1.2, x + width, top - 1.2, 0.25));
      for (const [j, column] of table.columns.entries()) {
        const edge = isNumber[j] ? x + widths[j]! - PAD : x + PAD,
          align = isNumber[j] ? 1 : -1;
        marks.push(label(column.title, edge, top, 2, { align, color: SOFT }));
        for (let k = first; k < last; k++)
          marks.push(
            label(fitted(cells[j]!(k), widths[j]! - PAD, SIZE), edge, top - ROW * (k - first + 1) - 0.2, SIZE, {
              align,
            }),
          );
        x += widths[j]!;
      }
      for (let k = first; k < last; k++) {
        const y = top - ROW * (k - first + 1) - 1.4;
        marks.push(line(x - width, y, x, y, 0.07, RULE));
      }
    }
    yield marks;
  }
}

/** The whole of a table at the top of a rectangle, and its height; undefined where it has no room there. */
export function tableWithin(
  table: OutTable,
  title: string,
  r: Rectangle,
): { marks: Mark[]; height: number } | undefined {
  const height = HEAD + table.count * ROW;
  if (table.count === 0 || height > r.height) return undefined;
  const { width } = measured(table);
  if (width > r.width - 2 * EDGE) return undefined;
  const [marks] = tablePages(table, title, { x: r.x + EDGE, y: r.y + r.height - height, width, height });
  return marks && { marks, height };
}

function measured(table: OutTable) {
  const cells = table.columns.map((c) =>
    "number" in c ? (k: number) => formatFixed(c.number(k), c.decimals) : (k: number) => c.text(k),
  );
  const widths = table.columns.map((c, j) => {
    let most = textWidth(c.title);
    for (let k = 0; k < table.count; k++) most = Math.max(most, textWidth(cells[j]!(k)));
    return Math.min(60, most * SIZE + 2 * PAD);
  });
  return { cells, widths, width: widths.reduce((sum, w) => sum + w, 0) };
}

/** A report as PDF: texts that can be searched, drawings as lines, pages with head and foot. */
import type { Block, Report, TableBlock } from "@bramble/core/report/model";
import { formatGrouped } from "@bramble/core/math/round";
import { drawMap } from "./map";
import { BOLD, BRAMBLE, INK, MM, Pages, PLAIN, RULE, SOFT } from "../page";
import { drawCurve, drawSection } from "./profile";

export async function reportPdf(report: Report, progress: (share: number) => Promise<void>): Promise<Uint8Array> {
  const fact = (name: string) => report.facts.find(([what]) => what === name)?.[1] ?? "";
  const pages = new Pages({ title: report.title, job: fact("Job"), made: fact("Made") });
  pages.write(report.title, 22, { bold: true, gap: 2 });
  pages.write(fact("Job"), 13, { color: BRAMBLE, gap: 10 });
  facts(pages, report.facts);
  for (const [k, chapter] of report.chapters.entries()) {
    // A heading stays with what follows it.
    pages.need(40 * MM);
    pages.y += 12;
    pages.write(chapter.title, 14, { bold: true, gap: 3 });
    pages.doc
      .moveTo(pages.left, pages.y)
      .lineTo(pages.left + pages.width, pages.y)
      .lineWidth(0.8)
      .stroke(BRAMBLE);
    pages.y += 7;
    for (const block of chapter.blocks) write(pages, block);
    await progress((k + 1) / report.chapters.length);
  }
  return pages.end();
}

function write(pages: Pages, block: Block): void {
  switch (block.kind) {
    case "heading":
      pages.need(20 * MM);
      pages.y += 4;
      return pages.write(block.text, 10.5, { bold: true, gap: 3 });
    case "text":
      return pages.write(block.text, 9, { color: INK, gap: 7 });
    case "facts":
      return facts(pages, block.rows);
    case "table":
      return table(pages, block);
    case "map":
      return drawMap(pages, block);
    case "section":
      return drawSection(pages, block);
    case "curve":
      return drawCurve(pages, block);
    case "signatures":
      return signatures(pages, block.roles);
  }
}

/** Names on the left, what they say beside them. */
function facts(pages: Pages, rows: readonly [string, string][]): void {
  const { doc, left, width } = pages,
    column = 42 * MM,
    options = { width: width - column, lineGap: 1 };
  for (const [what, value] of rows) {
    doc.font(PLAIN).fontSize(9);
    const height = doc.heightOfString(value, options);
    pages.need(height);
    doc.fillColor(SOFT).text(what, left, pages.y, { width: column - 8 });
    doc.fillColor(INK).text(value, left + column, pages.y, options);
    pages.y += height + 2.5;
  }
  pages.y += 5;
}

const SIZE = 8.5,
  PAD = 4;

/** A table whose head comes again on each page; numbers to the right, texts broken where they are long. */
function table(pages: Pages, { title, columns, rows }: TableBlock): void {
  const cells = rows.map((row) =>
    row.map((cell, k) => {
      const { decimals } = columns[k]!;
      if (cell === null) return "";
      return typeof cell === "number" ? formatGrouped(cell, decimals ?? 0).replace("-", "−") : cell;
    }),
  );
  const isNumber = columns.map((c) => c.decimals !== undefined),
    widths = widthsOf(
      pages,
      columns.map((c) => c.title),
      cells,
      isNumber,
    );
  const heightOf = (row: readonly string[], bold: boolean) => {
    pages.doc.font(bold ? BOLD : PLAIN).fontSize(SIZE);
    const heights = row.map((cell, k) => pages.doc.heightOfString(cell || " ", { width: widths[k]! - 2 * PAD }));
    return Math.max(...heights) + 2 * PAD - 2;
  };
  const line = (row: readonly string[], bold: boolean, height: number) => {
    let x = pages.left;
    for (const [k, cell] of row.entries()) {
      const align = isNumber[k] ? "right" : "left";
      pages.doc
        .font(bold ? BOLD : PLAIN)
        .fontSize(SIZE)
        .fillColor(bold ? SOFT : INK)
        .text(cell, x + PAD, pages.y + PAD - 1, { width: widths[k]! - 2 * PAD, align });
      x += widths[k]!;
    }
    pages.y += height;
    pages.doc
      .moveTo(pages.left, pages.y)
      .lineTo(x, pages.y)
      .lineWidth(bold ? 0.8 : 0.4)
      .stroke(bold ? SOFT : RULE);
  };
  const titles = columns.map((c) => c.title),
    head = heightOf(titles, true);
  pages.need(head + 60);
  pages.write(title, 9, { bold: true, gap: 1 });
  line(titles, true, head);
  for (const row of cells) {
    const height = heightOf(row, false);
    if (height > pages.room) {
      pages.next();
      line(titles, true, head);
    }
    line(row, false, height);
  }
  pages.y += 9;
}

/** Numbers take the room that they need; texts share the rest by their length. */
function widthsOf(pages: Pages, titles: string[], cells: string[][], isNumber: boolean[]): number[] {
  const wanted = titles.map((title, k) => {
    const longest = cells.reduce((most, row) => Math.max(most, pages.widthOf(row[k]!, SIZE)), 0);
    // A title may be broken, a number may not.
    const name = Math.max(...title.split(" ").map((word) => pages.widthOf(word, SIZE, true)));
    return (
      Math.max(longest, isNumber[k] ? Math.max(name, Math.min(90, pages.widthOf(title, SIZE, true))) : name) +
      2 * PAD +
      1
    );
  });
  const numbers = wanted.reduce((sum, w, k) => sum + (isNumber[k] ? w : 0), 0),
    texts = wanted.reduce((sum, w, k) => sum + (isNumber[k] ? 0 : w), 0),
    room = pages.width - numbers,
    squeeze = numbers + texts > pages.width;
  if (!squeeze) {
    // What is left goes to the texts, so that all tables are as wide as the page.
    const slack = pages.width - numbers - texts;
    return wanted.map((w, k) => (isNumber[k] ? w : w + (slack * w) / (texts || 1)));
  }
  // Short columns keep their width; only the long ones are broken.
  const fair = room / isNumber.filter((n) => !n).length,
    short = wanted.reduce((sum, w, k) => sum + (!isNumber[k] && w <= fair ? w : 0), 0),
    long = texts - short;
  return wanted.map((w, k) => (isNumber[k] || w <= fair ? w : ((room - short) * w) / long));
}

function signatures(pages: Pages, roles: readonly string[]): void {
  const gap = 10 * MM,
    width = (pages.width - gap * (roles.length - 1)) / roles.length;
  pages.need(34 * MM);
  pages.y += 20 * MM;
  for (const [k, role] of roles.entries()) {
    const x = pages.left + k * (width + gap);
    pages.doc
      .moveTo(x, pages.y)
      .lineTo(x + width, pages.y)
      .lineWidth(0.8)
      .stroke(INK);
    pages.label(role, x, pages.y + 4, 8.5);
    pages.label("name, date, signature", x, pages.y + 15, 7.5, { color: SOFT });
  }
  pages.y += 12 * MM;
}

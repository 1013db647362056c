/** Pages of marks as PDF: everything is lines and texts, with the fonts of the application embedded. */
import type { Ink, Mark, Page, TextMark } from "@bramble/core/handover/plan/page";
import PDFDocument from "pdfkit";
import { fontFile, MM, withFigures } from "./page";

/** The drawing's own weight, which its texts are measured by, and that of headings. */
const MEDIUM = fontFile("500Medium"),
  HEAVY = fontFile("700Bold");

export interface PlanFacts {
  title: string;
  /** `2031-04-17`: the file's own date, so that one job gives the same bytes each time. */
  date: string | undefined;
}

/** Writes the pages; `progress` is told the share done. */
export async function planPdf(
  pages: readonly Page[],
  facts: PlanFacts,
  progress?: (share: number) => Promise<void>,
): Promise<{ bytes: Uint8Array; written: WrittenTexts }> {
  const made = new Date(`${facts.date ?? "1970-01-01"}T00:00:00Z`);
  const doc = new PDFDocument({
    autoFirstPage: false,
    margin: 0,
    font: MEDIUM,
    info: { Title: facts.title, Producer: "Rough Bramble", Creator: "Rough Bramble", CreationDate: made },
  });
  const parts: Buffer[] = [];
  doc.on("data", (part: Buffer) => parts.push(part));
  const ended = new Promise<void>((resolve) => doc.on("end", resolve));
  for (const file of [HEAVY, MEDIUM]) withFigures(doc, file);
  const written: WrittenTexts = { pages: [], lost: 0 },
    pen = new Pen(doc, written);
  for (const [k, page] of pages.entries()) {
    doc.addPage({ size: [page.width * MM, page.height * MM], margin: 0 });
    written.pages.push([]);
    // Millimetres from the lower left corner, as the marks have them.
    doc.transform(MM, 0, 0, -MM, 0, page.height * MM);
    doc.lineJoin("round").lineCap("round");
    for (const [j, mark] of page.marks.entries()) {
      pen.draw(mark);
      if (j % 5000 === 4999) await progress?.((k + j / page.marks.length) / pages.length);
    }
    await progress?.((k + 1) / pages.length);
  }
  doc.end();
  await ended;
  return { bytes: new Uint8Array(Buffer.concat(parts)), written };
}

/** Characters that the font draws by another that looks the same. */
const ALIKE: Record<string, string> = { "⌀": "Ø", "\u202f": "\u00a0", "‐": "-", "‑": "-" };

export interface WrittenTexts {
  pages: string[][];
  lost: number;
}

class Pen {
  constructor(
    private readonly doc: PDFKit.PDFDocument,
    /** Texts as they were written, page by page, and how many characters the font does not have. */
    private readonly written: WrittenTexts,
  ) {}

  draw(mark: Mark): void {
    const { doc } = this;
    switch (mark.is) {
      case "clip":
        doc.save().rect(mark.x, mark.y, mark.width, mark.height).clip();
        return;
      case "unclip":
        doc.restore();
        return;
      case "path": {
        const { xy } = mark;
        if (xy.length < 4) return;
        doc.moveTo(xy[0]!, xy[1]!);
        for (let k = 2; k < xy.length; k += 2) doc.lineTo(xy[k]!, xy[k + 1]!);
        if (mark.closed) doc.closePath();
        return this.ink(mark);
      }
      case "round": {
        const { x, y, radius, from, to } = mark;
        if (from === undefined) doc.circle(x, y, radius);
        else {
          // An arc in chords of five degrees at most.
          const steps = Math.max(2, Math.ceil(Math.abs(to! - from) / (Math.PI / 36)));
          for (let k = 0; k <= steps; k++) {
            const a = from + ((to! - from) * k) / steps,
              [px, py] = [x + radius * Math.cos(a), y + radius * Math.sin(a)];
            if (k === 0) doc.moveTo(px, py);
            else doc.lineTo(px, py);
          }
        }
        return this.ink(mark);
      }
      case "text":
        return this.text(mark);
    }
  }

  private ink({ stroke, width, dash, fill }: Ink): void {
    const { doc } = this;
    // The library takes any number of lengths, which its types do not say.
    if (dash) (doc.lineCap("butt") as unknown as { dash(lengths: readonly number[]): void }).dash([...dash]);
    if (stroke && width !== undefined) doc.lineWidth(width);
    if (stroke && fill) doc.fillAndStroke(fill, stroke);
    else if (fill) doc.fill(fill);
    else doc.stroke(stroke);
    if (dash) doc.undash().lineCap("round");
  }

  /** What the font has of a text; another character stands as one that looks the same, or as a question mark. */
  private readonly known = new Map<string, boolean>();
  private inFont(text: string): string {
    const { font } = (this.doc as unknown as { _font: { font: { hasGlyphForCodePoint(c: number): boolean } } })._font;
    return Array.from(text, (given) => {
      const c = ALIKE[given] ?? given;
      let is = this.known.get(c);
      if (is === undefined) this.known.set(c, (is = font.hasGlyphForCodePoint(c.codePointAt(0)!)));
      if (!is) this.written.lost++;
      return is ? c : "?";
    }).join("");
  }

  private text({ text: given, x, y, align, size, angle = 0, color, bold }: TextMark): void {
    const { doc } = this;
    const { pages } = this.written;
    doc
      .font(bold ? HEAVY : MEDIUM)
      .fontSize(size)
      .fillColor(color);
    const text = this.inFont(given),
      width = align === -1 ? 0 : doc.widthOfString(text),
      back = align === 0 ? width / 2 : align === 1 ? width : 0;
    pages.at(-1)!.push(text);
    doc.save();
    // The page is turned over for the marks: a text is turned back, or it would stand on its head.
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    doc.transform(cos, sin, sin, -cos, x, y);
    doc.text(text, -back, 0, { lineBreak: false, baseline: "alphabetic" });
    doc.restore();
  }
}

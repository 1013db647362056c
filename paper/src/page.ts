/** Pages of a report: where the next thing goes, new pages, what stands at the head and foot of each. */
import PDFDocument from "pdfkit";

/** Points of print in a millimetre. */
export const MM = 72 / 25.4;
const MARGIN = 18 * MM,
  FOOT = 12 * MM;

export const INK = "#2b2326",
  SOFT = "#6f6266",
  RULE = "#cfc5c0",
  BRAMBLE = "#8a1f4f";

/**
 * Fonts go by their files: under a name of its own the library would read a font anew for every text, where the same
 * file was opened before.
 */
export function fontFile(weight: "400Regular" | "500Medium" | "600SemiBold" | "700Bold"): string {
  return require.resolve(`@expo-google-fonts/inter/${weight}/Inter_${weight}.ttf`);
}

export const PLAIN = fontFile("400Regular"),
  BOLD = fontFile("600SemiBold");

export interface Labels {
  title: string;
  job: string;
  made: string;
}

/** The day in a text such as “2031-04-17” or “28 Nov 2026, 11:20”. */
function dayIn(made: string): Date {
  const day = /\d{4}-\d\d-\d\d|\d{1,2} [A-Za-z]+ \d{4}/.exec(made)?.[0];
  return new Date(day ? `${day} UTC` : 0);
}

export class Pages {
  readonly doc: PDFKit.PDFDocument;
  readonly left = MARGIN;
  readonly width: number;
  y = MARGIN;
  private readonly parts: Buffer[] = [];

  constructor(private readonly labels: Labels) {
    this.doc = new PDFDocument({
      size: "A4",
      margin: 0,
      bufferPages: true,
      // Without one of its own no standard font is looked for beside the library.
      font: PLAIN,
      info: {
        Title: `${labels.title}, ${labels.job}`,
        Producer: "Rough Bramble",
        Creator: "Rough Bramble",
        // What is said of when it was made, not the clock: one job gives the same bytes each time.
        CreationDate: dayIn(labels.made),
      },
    });
    for (const file of [BOLD, PLAIN]) withFigures(this.doc, file);
    this.width = this.doc.page.width - 2 * MARGIN;
    this.doc.on("data", (part: Buffer) => this.parts.push(part));
  }

  /** Room that is left on the page. */
  get room(): number {
    return this.doc.page.height - MARGIN - FOOT - this.y;
  }

  /** So much height follows on one page; a new one where it does not fit. */
  need(height: number): void {
    if (height > this.room && this.y > MARGIN) this.next();
  }

  next(): void {
    this.doc.addPage();
    this.y = MARGIN;
  }

  /** Text from the place where the next thing goes; the place moves beneath it. */
  write(text: string, size: number, { bold = false, color = INK, gap = 0 } = {}): void {
    const options = { width: this.width, lineGap: 1.5 };
    this.doc.font(bold ? BOLD : PLAIN).fontSize(size);
    const height = this.doc.heightOfString(text, options);
    this.need(height);
    this.doc.fillColor(color).text(text, this.left, this.y, options);
    this.y += height + gap;
  }

  /** Text in one line from a position, without moving on. */
  label(text: string, x: number, y: number, size: number, more: Label = {}): void {
    const { bold = false, color = INK, width, align } = more;
    this.doc
      .font(bold ? BOLD : PLAIN)
      .fontSize(size)
      .fillColor(color)
      .text(text, x, y, { lineBreak: false, ...(width === undefined ? {} : { width, align }) });
  }

  widthOf(text: string, size: number, bold = false): number {
    return this.doc
      .font(bold ? BOLD : PLAIN)
      .fontSize(size)
      .widthOfString(text);
  }

  /** The whole as bytes, with head and foot on each page. */
  async end(): Promise<Uint8Array> {
    const { doc } = this,
      { count } = doc.bufferedPageRange();
    for (let k = 0; k < count; k++) {
      doc.switchToPage(k);
      const y = doc.page.height - FOOT - 2 * MM;
      doc
        .moveTo(this.left, y)
        .lineTo(this.left + this.width, y)
        .lineWidth(0.5)
        .stroke(RULE);
      const { title, job, made } = this.labels;
      this.label(`${title}, ${job}`, this.left, y + 5, 8, { color: SOFT });
      this.label(`${made}, page ${k + 1} of ${count}`, this.left, y + 5, 8, {
        color: SOFT,
        width: this.width,
        align: "right",
      });
    }
    const ended = new Promise<void>((resolve) => doc.on("end", resolve));
    doc.end();
    await ended;
    return new Uint8Array(Buffer.concat(this.parts));
  }
}

interface Label {
  bold?: boolean;
  color?: string;
  width?: number;
  align?: "left" | "right" | "center";
}

/**
 * Figures of one width, so that columns stand, and no letters that change with their neighbours, which cost most of the
 * time. Given to each text by itself the library would shape each word anew.
 */
const FEATURES = { tnum: true, kern: true, calt: false };

export function withFigures(doc: PDFKit.PDFDocument, name: string): void {
  const { _font: font } = doc.font(name) as unknown as {
      _font: { layoutRun(text: string, features: object): unknown };
    },
    layout = font.layoutRun.bind(font);
  font.layoutRun = (text) => layout(text, FEATURES);
}

/** PDF read back before it leaves, by a reader that is not ours (unpdf, which is PDF.js without a screen). */
import { refusal, type Written } from "@bramble/core";
import type { Page } from "@bramble/core/handover/plan/page";
import type { WrittenTexts } from "./plan";

/** The pages must be as large as they were meant and say what was written on them, in its order. */
export async function provePlan(
  file: string,
  bytes: Uint8Array,
  pages: readonly Page[],
  written: WrittenTexts,
): Promise<Written["proof"]> {
  const wrong = (why: string) => refusal("handover-proof", { file, why }),
    { pages: read } = await readPdf(bytes);
  if (read.length !== pages.length) throw wrong(`it has ${read.length} pages instead of ${pages.length}`);
  let texts = 0,
    difference = 0;
  pages.forEach((page, k) => {
    const found = read[k]!,
      off = Math.max(Math.abs(found.width - page.width), Math.abs(found.height - page.height));
    if (off > 0.01) throw wrong(`page ${k + 1} measures ${found.width} by ${found.height} mm`);
    difference = Math.max(difference, off);
    const wanted = page.marks.filter((m) => m.is === "text").length,
      own = written.pages[k]!;
    texts += own.length;
    if (own.length !== wanted || plain(found.text) !== plain(own.join("")))
      throw wrong(`page ${k + 1} does not say what was written on it`);
  });
  return {
    counts: { pages: pages.length, texts },
    difference: 0,
    ...(written.lost ? { unwritten: written.lost } : {}),
  };
}

const plain = (text: string) => text.replace(/\s+/g, "");

export interface PdfRead {
  pages: { width: number; height: number; text: string }[];
}

const MM = 25.4 / 72;

/** Pages of a PDF, in mm, with their texts in the order in which they were written. */
export async function readPdf(bytes: Uint8Array): Promise<PdfRead> {
  const { definePDFJSModule, getDocumentProxy } = await import("unpdf");
  // Said where it is, it is a part of what we bundle.
  await definePDFJSModule(() => import("unpdf/pdfjs"));
  const doc = await getDocumentProxy(bytes.slice());
  const pages: PdfRead["pages"] = [];
  for (let k = 1; k <= doc.numPages; k++) {
    const page = await doc.getPage(k),
      [x0, y0, x1, y1] = page.view as [number, number, number, number],
      { items } = await page.getTextContent({ disableNormalization: true });
    pages.push({
      width: (x1 - x0) * MM,
      height: (y1 - y0) * MM,
      text: items.map((x) => ("str" in x ? x.str : "")).join(""),
    });
  }
  await doc.destroy();
  return { pages };
}

/** How wide texts are, from the advance widths of the drawing's font (Inter, weight 500): the core knows no canvas. */

/** Thousandths of the text height for the letters from 32 to 126. */
const BASIC = [
  267, 304, 494, 639, 646, 993, 653, 313, 369, 369, 521, 667, 303, 462, 303, 370, 646, 415, 616, 627, 656, 603, 630,
  571, 629, 630, 303, 315, 667, 667, 667, 527, 982, 709, 657, 733, 722, 603, 589, 748, 745, 272, 575, 688, 565, 913,
  756, 767, 642, 769, 648, 646, 653, 740, 709, 1003, 701, 696, 641, 369, 370, 369, 477, 463, 337, 568, 618, 577, 618,
  587, 379, 620, 602, 252, 252, 559, 252, 888, 602, 604, 618, 618, 387, 539, 340, 602, 575, 829, 557, 575, 559, 440,
  346, 440, 667,
];
/** The same for 160 to 255. */
const LATIN = [
  267, 304, 577, 620, 737, 557, 293, 568, 602, 914, 457, 608, 667, 0, 665, 465, 457, 667, 448, 455, 337, 600, 601, 303,
  300, 314, 485, 608, 817, 858, 895, 527, 709, 709, 709, 709, 709, 709, 1003, 733, 603, 603, 603, 603, 272, 272, 272,
  272, 743, 756, 767, 767, 767, 767, 767, 667, 767, 740, 740, 740, 740, 696, 647, 630, 568, 568, 568, 568, 568, 568,
  915, 577, 587, 587, 587, 587, 252, 252, 252, 252, 588, 602, 604, 604, 604, 604, 604, 667, 604, 602, 602, 602, 602,
  575, 618, 575,
];
const OTHERS: Record<string, number> = {
  "⌀": 602,
  "–": 500,
  "—": 1000,
  "‘": 277,
  "’": 277,
  "“": 474,
  "”": 471,
  "…": 910,
  "•": 533,
  "−": 667,
  "√": 549,
  "≈": 549,
};

/** Height of a capital letter as a share of the font's size. */
export const CAP_HEIGHT = 0.727;

/** Width of a text at a font size of 1. Pairs of letters that the font draws closer together make it a little less. */
export function textWidth(text: string): number {
  let sum = 0;
  for (const letter of text) {
    const code = letter.codePointAt(0)!;
    sum += (code < 127 ? BASIC[code - 32] : code >= 160 && code < 256 ? LATIN[code - 160] : OTHERS[letter]) ?? 700;
  }
  return sum / 1000;
}

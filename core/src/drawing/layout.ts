/**
 * The drawing at one scale: which symbols and lines are drawn, and where every text stands. One definition for the
 * sheet, for plans and for drawing files. Places are E, N in the job's unit; sizes mm on paper.
 */
import type { Layout } from "./drawn-text";
import { placeContourLabels } from "./texts/contour-labels";
import { Laying } from "./texts/laying";
import { placeNotes } from "./texts/notes";
import { placePointLabels } from "./texts/point-labels";
import type { LayoutSource } from "./texts/source";

export type { DrawnText, Layout, Unplaced } from "./drawn-text";
export { DEFAULT_POINT_LABELS, sizeOnPaper, TEXT_HEIGHT, type LayoutSource, type TextsWanted } from "./texts/source";

/** Texts one after another, each where those before it leave room: what is placed first is not moved for what follows. */
export function layOutTexts(s: LayoutSource, unitsPerMm: number): Layout {
  const laying = new Laying(s, unitsPerMm),
    { layout, byHand, vast } = laying;
  // What they keep clear of.
  laying.addFrames();
  laying.addSymbols();
  laying.addLines();
  // What stands where a person put it comes first: all else keeps clear of it.
  if (s.want.notes) byHand.placeAdditions();
  if (s.want.notes) placeNotes(laying);
  if (s.want.points && vast) layout.crowded = true;
  else if (s.want.points) placePointLabels(laying);
  if (s.want.contours) placeContourLabels(laying);
  return layout;
}

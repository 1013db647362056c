/** What a drawing file is written from. */
import type { DrawnSymbols } from "../../drawing/content";
import type { Layout } from "../../drawing/layout";
import type { FileOf } from "../files";
import type { HandoverSource } from "../source";

export interface DxfSource extends HandoverSource {
  file: Pick<FileOf<"dxf">, "arcs" | "triangles" | "contours">;
  symbols: DrawnSymbols;
  layout: Layout;
  /** Height of texts, and a millimetre of paper, in the job's unit. */
  textHeight: number;
  unitsPerMm: number;
}

/** What a drawing file is written from. */
import type { CodeBook } from "../../codes/model";
import type { DrawingSettings } from "../../drawing/model";
import type { CodedPoints } from "../../codes/read";
import type { DrawnSymbols } from "../../drawing/content";
import type { Layout } from "../../drawing/layout";
import type { Chains } from "../../lines/flatten";
import type { Line } from "../../lines/model";
import type { Unit } from "../../math/units";
import type { PointTable } from "../../points/table";
import type { Contours } from "../../surface/contour";

export interface DxfSource {
  unit: Unit;
  book: CodeBook;
  table: PointTable;
  coded: CodedPoints;
  /** Table rows of the points written. */
  rows: Int32Array;
  lines: readonly Line[];
  chains: Chains;
  symbols: DrawnSymbols;
  layout: Layout;
  drawing: DrawingSettings;
  contours: readonly Contours[];
  /** Height of texts, and a millimetre of paper, in the job's unit. */
  textHeight: number;
  unitsPerMm: number;
}

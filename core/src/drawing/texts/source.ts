/** What texts are laid out from, and how large symbols are that they keep clear of. */
import type { CodeKind } from "../../codes/model";
import type { Chains } from "../../lines/flatten";
import type { PointTable } from "../../points/table";
import type { Contours } from "../../surface/contour";
import type { ResolvedAdded } from "../added/resolve";
import type { DrawnSymbols, Note } from "../content";
import type { DrawingSettings, PointLabels } from "../model";
import { symbolOf } from "../symbols";
import type { Extent } from "../window";

export interface LayoutSource {
  table: PointTable;
  symbols: DrawnSymbols;
  notes: readonly Note[];
  lines: readonly { code: string; kind?: CodeKind; group: string; layer: string; style?: string; closed: boolean }[];
  chains: Chains;
  contours: readonly Contours[];
  drawing: DrawingSettings;
  /** Table rows of each set that `drawing.points` names. */
  sets: ReadonlyMap<string, Int32Array>;
  /** What a person added to the drawing; nothing where it is not said. */
  added?: ResolvedAdded;
  /** Which texts are wanted. */
  want: TextsWanted;
  /**
   * Notes, and labels of points, are left out when less than half of them finds a place beside its point; no leaders.
   */
  mostOrNone?: boolean;
  /** Edges of sheets, which texts do not cross. */
  frames?: readonly Extent[];
  /** Only what stands in this rectangle is looked at: for jobs too large to lay out whole. */
  within?: Extent;
}

export interface TextsWanted {
  notes: boolean;
  points: boolean;
  contours: boolean;
}

export const TEXT_HEIGHT = 1.8;
export const DEFAULT_POINT_LABELS: PointLabels[] = [{ set: "*", number: true, elevation: true }];

/**
 * Size of a symbol on paper, mm. One that is measured is drawn to scale, but no smaller than half of its own size;
 * spots close together are small.
 */
export function sizeOnPaper(symbols: DrawnSymbols, k: number, unitsPerMm: number): number {
  const own = symbolOf(symbols.looks[symbols.look[k]!]!.symbol)?.size ?? 1.2,
    fixed = symbols.paper[k]!,
    ground = symbols.ground[k]!;
  if (!Number.isNaN(ground)) return Math.max(ground / unitsPerMm, own / 2);
  if (!Number.isNaN(fixed)) return fixed;
  return symbols.looks[symbols.look[k]!]!.symbol === "spot"
    ? Math.max(0.4, Math.min(own, symbols.spacing / unitsPerMm / 4))
    : own;
}

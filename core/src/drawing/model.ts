/** How the job is drawn. */
import type { CodeKind } from "../codes/model";

/**
 * What is written beside the points of a set (`*` for all): the first entry that holds a point speaks for it. Text
 * height in mm.
 */
export interface PointLabels {
  set: string;
  number?: boolean;
  elevation?: boolean;
  code?: boolean;
  height?: number;
  decimals?: number;
}

/** How a surface is drawn; what is not said is as usual. Weights and distances in mm of paper, colours as #rrggbb. */
export interface SurfaceLook {
  /** Nothing of it is drawn; it is there and is computed with all the same. */
  hidden?: boolean;
  color?: string;
  indexColor?: string;
  weight?: number;
  indexWeight?: number;
  /** Between labels of one contour. */
  labelEvery?: number;
  /** Contours are drawn with rounded corners. */
  smooth?: boolean;
  /** Between spot levels, which stand on a grid; none where it is not said. */
  spots?: number;
}

/** How the job is drawn. */
export interface DrawingSettings {
  /** Scale of the plan, 1 : scale, that sizes on paper speak of; as the sheet is seen when there is none. */
  scale?: number;
  points?: PointLabels[];
  /** What is not drawn. */
  hidden?: { groups?: string[]; layers?: string[]; kinds?: CodeKind[] };
  /**
   * Kinds, within them groups, within them layers, each from the lowest to the uppermost; those not named lie below.
   */
  kindOrder?: CodeKind[];
  order?: string[];
  layerOrder?: string[];
  surfaces?: (SurfaceLook & { surface: string })[];
  /** Looks of the office's own that are kept by a name. */
  looks?: (SurfaceLook & { name: string })[];
}

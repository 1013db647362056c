/** How a surface is drawn, by what the drawing says of it. */
import type { DrawingSettings, SurfaceLook } from "./model";

/** Millimetres of paper between labels of one contour. */
export const LABELS_APART = 110;
/** Weights of contours in millimetres. */
export const CONTOUR_WEIGHT = 0.13,
  INDEX_WEIGHT = 0.25;

/** The look of a surface by its name; what it does not say is left to what draws it. */
export function lookOfSurface(drawing: DrawingSettings | undefined, surface: string): SurfaceLook {
  return drawing?.surfaces?.find((s) => s.surface === surface) ?? {};
}

/** The drawing with another look of a surface; none is kept where it says nothing. */
export function withLook(drawing: DrawingSettings, surface: string, look: SurfaceLook): DrawingSettings {
  const others = (drawing.surfaces ?? []).filter((s) => s.surface !== surface),
    own = Object.entries(look).filter(([key, value]) => key !== "surface" && key !== "name" && value !== undefined),
    surfaces = own.length ? [...others, { ...(Object.fromEntries(own) as SurfaceLook), surface }] : others;
  const { surfaces: _, ...rest } = drawing;
  return surfaces.length ? { ...rest, surfaces } : rest;
}

import type { SurfaceRecipe, SurfaceReport } from "@bramble/core";

/** What a part of a surface's recipe is given to work with. */
export interface PartProps {
  recipe: SurfaceRecipe;
  /** Keeps a part of the recipe. */
  edit(part: Partial<SurfaceRecipe>): void;
  /** Shows on the sheet what a part would do, without keeping it; undefined ends it. */
  look(part: Partial<SurfaceRecipe> | undefined): void;
  /** The surface as it would be by what is looked at. */
  would: SurfaceReport | null | undefined;
}

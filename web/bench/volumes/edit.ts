/** How the forms of a comparison change it. */
import type { VolumeRecipe } from "@bramble/core";

export type Edit = (part: Partial<VolumeRecipe>) => void;

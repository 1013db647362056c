/** A comparison of a surface with a level. Lengths in the job's unit. */
export interface VolumeRecipe {
  name: string;
  surface: string;
  level: number;
  deadband?: number;
  bulking?: { cut?: number; fill?: number };
}

/** What is compared, and what comes of it. Lengths, areas and volumes in the job's unit. */
import type { DesignLine } from "./along-way";
import type { LineWanted } from "../surface/model";

/** Corners E, N; the first is not repeated. */
export type Corners = [number, number][];

/** An area by its corners as drawn, or the closed lines that are named, all of them together. */
export type AreaWanted = { name?: string } & ({ ring: Corners } | { code: string; run?: string; intake?: string });

/**
 * From a surface to a level (`surface`, `level`) or to another surface (`from`, `to`); a heap above the surface drawn
 * through its own toe (`heap`, `toe`); or the storage of a surface by level (`storage`, from the level `from` to `to`).
 */
export interface VolumeRecipe {
  name: string;
  surface?: string;
  level?: number;
  from?: string | number;
  to?: string | number;
  heap?: string;
  toe?: Corners | Exclude<LineWanted, { file: string }>;
  storage?: string;
  step?: number;
  within?: Corners | AreaWanted | AreaWanted[];
  /** Where the difference is no larger, nothing counts; elsewhere all of it does. */
  deadband?: number;
  bulking?: { cut?: number; fill?: number };
  /**
   * The second opinion by end areas: how far its sections are apart, and which way they lie (degrees from north); or at the
   * stations of a line, across it, so far to either side (to the end of what is compared where it is not said).
   */
  sections?: number | { spacing: number; azimuth?: number } | { spacing: number; line: DesignLine; half?: number };
}

/** The ways of comparing, by the field that tells them. */
export type VolumeKind = "level" | "surfaces" | "heap" | "storage";

export function kindOf(r: VolumeRecipe): VolumeKind {
  if (r.heap !== undefined) return "heap";
  if (r.storage !== undefined) return "storage";
  return r.surface !== undefined || r.level !== undefined ? "level" : "surfaces";
}

/** The surfaces that a comparison names, the one that it starts from first. */
export function surfacesOf(r: VolumeRecipe): string[] {
  switch (kindOf(r)) {
    case "heap":
      return [r.heap!];
    case "storage":
      return [r.storage!];
    case "level":
      return r.surface === undefined ? [] : [r.surface];
    default:
      return [r.from, r.to].filter((s): s is string => typeof s === "string");
  }
}

/** Cut where the second lies below the first, fill where it lies above. */
export interface Figures {
  cut: number;
  fill: number;
  /** fill − cut */
  net: number;
  /** Plan area in common, deadband or not. */
  area: number;
  cutArea: number;
  fillArea: number;
}

export interface StorageRow {
  level: number;
  area: number;
  volume: number;
}

export interface VolumeResult extends Figures {
  name: string;
  method: string;
  /** Of each area where there are several; what lies in two counts in each, and once in the whole. */
  byArea?: (Figures & { name: string })[];
  /** Cut and fill times the recipe's factors, for the report only. */
  bulked?: { cut: number; fill: number };
  storage?: StorageRow[];
}

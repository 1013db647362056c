/** The stored state of a job: everything a person gave, nothing derived. It only composes what the stages define. */
import type { CodeBook } from "../codes/model";
import type { DrawingSettings } from "../drawing/model";
import type { HandoverFile } from "../handover/model";
import type { IntakeInfo } from "../intake/model";
import type { HandLine } from "../lines/model";
import type { AngleStyle } from "../math/angles";
import type { Tolerances } from "../math/tolerances";
import type { AreaUnit, Unit, VolumeUnit } from "../math/units";
import type { CrewRange } from "../points/numbers";
import { setupName, type Curvature, type SetupEdit } from "../points/setups";
import type { PointTable } from "../points/table";
import type { Delivered } from "../records/delivered";
import type { Reference } from "../records/reference";
import type { PointSet } from "../sets/model";
import type { ContoursRecipe, SurfaceRecipe } from "../surface/model";
import type { VolumeRecipe } from "../volumes/model";

/** Everything stored about a job but its points. */
export interface JobDefinition {
  name: string;
  date?: string;
  unit: Unit;
  /** Which coordinate is shown and typed first. */
  order: "NE" | "EN";
  tolerance: Tolerances;
  client?: string;
  crew?: string;
  note?: string;
  angle?: AngleStyle;
  areaUnit?: AreaUnit;
  volumeUnit?: VolumeUnit;
  curvature?: Curvature;
  /** Plan distances of raw observations are multiplied by it. */
  scaleFactor?: number;
  /** EPSG code of the coordinates, as `EPSG:25832`; none for a plain local grid. */
  system?: string;
  /** The geoid grid: its file's name; the bytes are kept beside. */
  geoid?: string;
  crews?: CrewRange[];
  nextNumber?: string;
  drawing?: DrawingSettings;
  book: CodeBook;
  setups: SetupEdit[];
  /** Lines drawn by hand. */
  lines: HandLine[];
  sets: PointSet[];
  surfaces: SurfaceRecipe[];
  contours: ContoursRecipe[];
  volumes: VolumeRecipe[];
  handover: HandoverFile[];
}

/** The parts of a definition that are lists of named things, each changed one thing at a time. */
export const NAMED_PARTS = ["setups", "lines", "sets", "surfaces", "contours", "volumes", "handover"] as const;
export type NamedPart = (typeof NAMED_PARTS)[number];
/** Parts that belong to one job's points and files and mean nothing in another. */
export const OWN_PARTS: readonly NamedPart[] = ["setups", "lines"];

/** The name by which a thing of a part is known: contours go by their surface, files by their name, setups by intake and id. */
export function nameOf(part: NamedPart | "codes", body: unknown): string {
  const b = body as Record<string, unknown>;
  if (part === "setups") return setupName(b as unknown as SetupEdit);
  return String(b[part === "contours" ? "surface" : part === "handover" ? "file" : part === "codes" ? "code" : "name"]);
}

export interface JobState extends JobDefinition {
  intakes: IntakeInfo[];
  /** What each intake brought beside points, in the order of `intakes`. */
  delivered: Delivered[];
  /** Files that only surfaces name, with their reference. */
  files?: { file: string; reference: Reference }[];
  /** Places that follow from observations are reduced; see points/reduce.ts. */
  points: PointTable;
}

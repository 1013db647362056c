/** What files are written from: the job, what follows from it, and the points that the file is of. */
import type { CodeBook } from "../codes/model";
import type { CodedPoints } from "../codes/read";
import type { DrawingSettings } from "../drawing/model";
import { isDrawn } from "../drawing/order";
import type { IntakeInfo } from "../intake/model";
import type { Chains } from "../lines/flatten";
import type { Line } from "../lines/model";
import type { OwnNames } from "../lines/names";
import type { AreaUnit, Unit } from "../math/units";
import type { SetupReport } from "../points/setup-report";
import type { PointTable } from "../points/table";
import type { Delivered } from "../records/delivered";
import type { Contours } from "../surface/contour";
import type { Question } from "./questions";
import type { Surface } from "../surface/model";

export interface HandoverSource {
  name: string;
  client: string;
  /** The job's date, `2031-04-17`; of a file that must name one it is 1970-01-01 where the job has none. */
  date: string | undefined;
  unit: Unit;
  areaUnit: AreaUnit;
  system: string | undefined;
  book: CodeBook;
  intakes: readonly IntakeInfo[];
  delivered: readonly Delivered[];
  table: PointTable;
  coded: CodedPoints;
  /** The notes that the code book writes beside points, by table row. */
  labels: ReadonlyMap<number, string>;
  /** Table rows of the points written, in the file's order. */
  rows: Int32Array;
  /** Rows whose elevation of exactly 0 is a finding that nobody settled: it is likely none. */
  doubtful: ReadonlySet<number>;
  lines: readonly Line[];
  /** What lines are called beside their codes, by their keys. */
  ownNames: OwnNames;
  chains: Chains;
  surfaces: readonly Surface[];
  /** As they are drawn. */
  contours: readonly Contours[];
  setups: readonly SetupReport[];
  /** Setups that observed the points of rows. */
  pointSetups: ReadonlyMap<number, readonly string[]>;
  /** What the crew is asked, where the file is of that. */
  questions: readonly Question[];
  drawing: DrawingSettings;
  /** What becomes of layers that are hidden on the sheet: they leave switched off, or not at all. */
  hidden: "off" | "out";
}

/** The line's own colour, else that of its code. */
export const colorOfLine = (s: Pick<HandoverSource, "ownNames">, { key, entry }: Pick<Line, "key" | "entry">) =>
  s.ownNames.get(key)?.color ?? entry.color;

/** Whether a thing of this code is hidden on the sheet. */
export function isHidden(
  s: Pick<HandoverSource, "drawing">,
  entry: { kind?: Line["entry"]["kind"]; group?: string; layer?: string; code: string },
): boolean {
  return !isDrawn({ kind: entry.kind, group: entry.group ?? "", layer: entry.layer ?? entry.code }, s.drawing.hidden);
}

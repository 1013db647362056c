/** What is derived from a job, and what the stages that derive it read and make. */
import type { Added } from "../../drawing/added/model";
import type { Common } from "../../checks/ground-grid";
import type { LevelsChecked } from "../../checks/levels/levels";
import type { CompiledBook } from "../../codes/book";
import type { CodedPoints } from "../../codes/read";
import type { DrawnSymbols, Note } from "../../drawing/content";
import type { Refusal } from "../../errors";
import type { Finding } from "../../finding";
import type { Lines } from "../../lines/assemble";
import type { Chains } from "../../lines/flatten";
import type { Line } from "../../lines/model";
import type { OwnNames, ownNames } from "../../lines/names";
import type { SetupReport } from "../../points/setup-report";
import type { MoveMade } from "../../points/moves";
import type { PointTable } from "../../points/table";
import type { Program } from "../../construct/program";
import type { Lost } from "../../construct/solve";
import type { Contours } from "../../surface/contour";
import type { BuiltSurface } from "../../surface/model";
import type { AsBuilt } from "../../volumes/as-built";
import type { ComparedPair } from "../../volumes/measure";
import type { VolumeResult } from "../../volumes/model";
import type { JobState } from "../model/model";

/** Something made from the job, or the sentence why it could not be. */
export type Made<T> = { name: string } & ({ ok: true; value: T } | { ok: false; refusal: Refusal });

/** Everything derived from a state. */
export interface Derived {
  /** The points as they stand: constructed ones where their sources put them (job/chain/standing.ts). */
  points: PointTable;
  /** Constructed points that are not there, and why, by their rows. */
  lostPoints: ReadonlyMap<number, Lost>;
  program: Program;
  /** How each move came out. */
  movesMade: readonly MoveMade[];
  /** Reduction of raw observations, setup by setup. */
  setupReports: SetupReport[];
  compiled: CompiledBook;
  coded: CodedPoints;
  lines: Line[];
  /** Lines as chords, for drawing and for formats without arcs. */
  chains: Chains;
  /** What lines are called, and coloured, beside their codes. */
  ownNames: OwnNames;
  /** What stands on the drawing beside lines. */
  symbols: DrawnSymbols;
  notes: Note[];
  madeSets: Made<Int32Array>[];
  /** Kinds of findings at the points of rows, and the setups that observed them: what sets may ask for. */
  findingsAt: ReadonlyMap<number, ReadonlySet<string>>;
  pointSetups: ReadonlyMap<number, readonly string[]>;
  surfaces: Made<BuiltSurface>[];
  contours: Made<Contours>[];
  /** The same as they are drawn: smoothed, where the look of their surface says so. */
  drawnContours: Made<Contours>[];
  /** What each comparison compares, ready to be laid over one another, and its figures. */
  pairs: Made<ComparedPair>[];
  volumes: Made<VolumeResult>[];
  /** Points as built against what was designed. */
  differences: Made<AsBuilt>[];
  findings: Finding[];
  /** What the check of levels knows beside its findings: what a finding's evidence is drawn from. */
  levels: LevelsChecked | undefined;
  /** The levels of this state are not checked yet; their findings are those of the last. */
  levelsToCome: boolean;
  /** There are too many shots for their levels to be checked against one another. */
  levelsLeftOut: boolean;
}

/** What the check of levels says. */
export interface LevelsFound {
  findings: Finding[];
  /** Levels by the id of points that have none. */
  predicted: ReadonlyMap<number, number>;
  checked: LevelsChecked | undefined;
  toCome: boolean;
  /** There are too many shots: nothing is known of their levels. */
  leftOut?: true;
}

/** Columns of positions; `at` the ones that matter, all of them where it is not there. */
export interface LinePositions {
  e: Float64Array;
  n: Float64Array;
  z: Float64Array;
  at: Int32Array | undefined;
}

type Recipes = {
  surfaceRecipes: JobState["surfaces"];
  contourRecipes: JobState["contours"];
  volumeRecipes: JobState["volumes"];
  differenceRecipes: JobState["differences"];
  handLines: JobState["lines"];
};

/**
 * The state without its parts that go by other names; a job's note is its own matter, beside the notes of its points.
 */
type JobValues = Omit<JobState, "points" | "surfaces" | "contours" | "volumes" | "differences" | "lines" | "note">;
/** No setting may go by the name of a column: this does not compile when one does. */
type Apart<Clash extends never> = Clash;

/** What stages read: the state with the columns of its points one by one, and what stages before them made. */
export type ChainValues = JobValues &
  Omit<PointTable, Apart<Extract<keyof JobValues, keyof PointTable>>> &
  Derived &
  Recipes & {
    /** Positions of the living points whose description says something about a line. */
    lineShots: Int32Array;
    linePositions: LinePositions;
    assembled: Lines;
    /** Points that came under one number in two deliveries. */
    common: Common[];
    /** Own names of lines, and those that no line has. */
    named: ReturnType<typeof ownNames>;
    /** As the codes give them, before what a person added. */
    codeSymbols: DrawnSymbols;
    ownSymbols: Added[];
    /** Lines as chords whose levels are usable by the terrain. */
    terrainChains: Chains;
    /** Findings of every check but that of levels. */
    found: Finding[];
    lineKeys: string[];
    levelsFound: LevelsFound;
  };

/** What a job itself says: there before any stage. */
export type Given =
  keyof JobValues | keyof PointTable | keyof Recipes | "points" | "lostPoints" | "program" | "movesMade";
/** What is made last, and no check and no surface can read. */
type Last =
  | "found"
  | "lineKeys"
  | "levelsFound"
  | "levels"
  | "levelsToCome"
  | "levelsLeftOut"
  | "findings"
  | "findingsAt"
  | "madeSets"
  | "differences";
/** What checks may read. */
export type Checked = Omit<ChainValues, Last>;
/** What surfaces are made of. */
export type Grounds = Known<Given | "compiled" | "coded" | "pointSetups" | "lines" | "terrainChains">;
/** Values by name. */
export type Known<K extends keyof ChainValues> = Pick<ChainValues, K>;

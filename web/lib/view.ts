/** What the chain's worker sends to the screen: typed arrays and small objects, nothing that only lives in the core. */
import type { CodeKind, Finding, Trial } from "@bramble/core";
import { NOTHING_STANDS, type StandingRows } from "@bramble/core/construct/rows";
import type { DrawnSymbols } from "@bramble/core/drawing/content";
import { lineName } from "@bramble/core/lines/model";
import type { Chains } from "@bramble/core/lines/flatten";
import type { SetupReport } from "@bramble/core/points/setup-report";
import type { ContourLevel, Contours } from "@bramble/core/surface/contour";
import type { Surface, SurfaceReport } from "@bramble/core/surface/model";
import type { VolumeCurve } from "@bramble/core/volumes/by-level";
import type { AsBuilt } from "@bramble/core/volumes/as-built";
import type { DifferenceMap } from "@bramble/core/volumes/map";
import type { VolumeResult } from "@bramble/core/volumes/model";
import type { Opinions } from "@bramble/core/volumes/opinion";

export interface Failure {
  code: string;
  message: string;
}
export type Shown<T> = { name: string; value?: T; failure?: Failure };

export interface LineShown {
  /** Tells it from all others, from one run to the next. */
  key: string;
  code: string;
  name: string;
  run: string;
  kind: CodeKind;
  group: string;
  color: string;
  layer: string;
  style: string;
  breakline: string;
  intake: number;
  shots: number[];
  /** Its own name, beside that of its code. */
  ownName?: string;
  /** Of a line drawn by hand its name. */
  hand?: string;
  /** What steers each shot's piece, as words; none when no shot is steered. */
  steering?: string[];
  /** Cues of each shot in this line, as words. */
  cues: string[];
  closed: boolean;
  arcs: number;
  /** Pieces of smooth curves. */
  curves: number;
  /** Of a parallel: the key of its line, and how it runs beside it. */
  companion?: { of: string; right: number; up: number };
  /** Levels at its two ends, NaN where they are not known. */
  ends: [number, number];
  length: number;
  /** NaN where a level is missing. */
  slopeLength: number;
  area?: number;
}

/** A comparison looked at closely. */
export interface VolumeLooked {
  name: string;
  map?: DifferenceMap;
  /** Of a heap the surface through its toe. */
  base?: Surface;
  opinions: Opinions;
  /** Everything is here that is told of it. */
  done: boolean;
  /** Cut and fill by level, from the lowest ground to the highest; of comparisons with a level. */
  curve?: VolumeCurve;
}

export interface View {
  /** Reduction of raw observations, setup by setup. */
  setups: SetupReport[];
  /** Where constructed points stand. */
  standing: StandingRows;
  /** Code of each point as an index into `codes`. */
  code: Uint16Array | Uint32Array;
  codes: string[];
  /** 1 where the book knows the code. */
  known: Uint8Array;
  ground: Uint8Array;
  lines: LineShown[];
  chains: Chains;
  symbols: DrawnSymbols;
  sets: Shown<number>[];
  /** What descriptions say: values by attribute, in small letters, and row. */
  said: ReadonlyMap<string, ReadonlyMap<number, string>>;
  /** Setups that observed the point of a row. */
  pointSetups: ReadonlyMap<number, readonly string[]>;
  surfaces: Shown<{ surface: Surface; report: SurfaceReport }>[];
  contours: Shown<{ contours: Contours; levels: ContourLevel[] }>[];
  volumes: Shown<VolumeResult>[];
  differences: Shown<AsBuilt>[];
  /** While a rehearsal is on: what became of the job since it began. */
  rehearsal: Trial | undefined;
  /** What is beside the figures of the comparison that one is at, as far as it is made. */
  looked: VolumeLooked | undefined;
  findings: Finding[];
  /** Levels are being checked: what is said of spikes and height runs is of before. */
  checking: boolean;
  /** There are too many shots for their levels to be checked. */
  levelsLeftOut: boolean;
  /** Findings that are no mere notes, for each intake in order. */
  findingsOf: number[];
}

export const EMPTY_VIEW: View = {
  setups: [],
  standing: NOTHING_STANDS,
  code: new Uint16Array(0),
  codes: [""],
  known: new Uint8Array(0),
  ground: new Uint8Array(0),
  lines: [],
  chains: { xyz: new Float64Array(0), shot: new Int32Array(0), starts: new Uint32Array(1) },
  symbols: {
    looks: [],
    point: new Int32Array(0),
    look: new Uint16Array(0),
    ground: new Float32Array(0),
    paper: new Float32Array(0),
    turn: new Float32Array(0),
    spacing: Infinity,
  },
  sets: [],
  pointSetups: new Map(),
  said: new Map(),
  surfaces: [],
  contours: [],
  volumes: [],
  differences: [],
  looked: undefined,
  rehearsal: undefined,
  findings: [],
  checking: false,
  levelsLeftOut: false,
  findingsOf: [],
};

/** Colour of what no code gives one. */
export const PLAIN_COLOR = "#5d554b";

/** What a line is called: by its own name where it has one. */
export const lineCalled = (l: Pick<LineShown, "code" | "run" | "ownName">): string => l.ownName ?? lineName(l);

const indexOfLines = new WeakMap<View["lines"], Map<string, number>>();

/** The index among the lines of the one with a key; undefined when it is not drawn any more. */
export function lineAt(view: View, key: string): number | undefined {
  let found = indexOfLines.get(view.lines);
  if (!found) indexOfLines.set(view.lines, (found = new Map(view.lines.map((l, k) => [l.key, k]))));
  return found.get(key);
}

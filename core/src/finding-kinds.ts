/**
 * The kinds of findings, each described once: where they are dealt with, what the crew is asked, which cell mends them, and
 * the limits that a job may set. The recipe's shape, the settings, the tray and what goes back to the crew follow from it.
 */
import type { EditField } from "./records/fields";

/** A limit from which something is told. A length is in metres here, in the job's unit where it is set. */
export interface Limit {
  is: "length" | "times" | "count";
  usual: number;
  /** 0 is a limit too. */
  zero?: true;
  /** What its field is called, and what it means. */
  name: string;
  means: string;
}

interface Kind {
  /** The place of work where it is dealt with; Points, where nothing is said. */
  home?: "intake" | "lines" | "surface";
  /** What the crew is asked to do; nothing, where the office settles it alone. */
  asked?: string;
  /** The cell in which it is mended, where it is about points. */
  cell?: EditField;
  /** It is about the line itself, not about one of its shots. */
  ofLine?: true;
  limits?: Readonly<Record<string, Limit>>;
}

const described = <const K extends Record<string, Kind>>(kinds: K): K => kinds;

export const KINDS_OF_FINDINGS = described({
  "unread-row": { home: "intake", asked: "send this row again" },
  "unread-word": { asked: "say what this word means", cell: "description" },
  "unknown-code": { asked: "say what this is", cell: "description" },
  "code-by-alias": { cell: "description" },
  "attribute-missing": { asked: "say the attribute", cell: "description" },
  "attribute-wrong": { asked: "say the right value", cell: "description" },
  "no-elevation": { asked: "measure the level", cell: "elevation" },
  "zero-elevation": { asked: "measure the level again", cell: "elevation" },
  spike: {
    asked: "measure again",
    cell: "elevation",
    limits: {
      least: {
        is: "length",
        usual: 0.3,
        zero: true,
        name: "Spike from",
        means: "a level this far off its neighbours' is told",
      },
      limit: {
        is: "times",
        usual: 6,
        name: "Spike, times the noise",
        means: "and this many times the noise round about",
      },
    },
  },
  "height-run": {
    asked: "say the target height, or measure two of them again",
    cell: "elevation",
    limits: {
      least: {
        is: "length",
        usual: 0.12,
        zero: true,
        name: "Height run from",
        means: "shots in a row off by this are told",
      },
      shots: { is: "count", usual: 5, name: "Height run, shots", means: "so many at least that bear it out" },
    },
  },
  "number-clash": { home: "intake", asked: "say which number is right", cell: "number" },
  coincident: { home: "surface" },
  precision: { asked: "measure again, more precisely", cell: "precision" },
  "control-differs": { home: "intake", asked: "measure the control point again", cell: "elevation" },
  "repeat-differs": { home: "intake", asked: "measure again" },
  "single-point-line": {
    home: "lines",
    asked: "measure the rest of the line, or say that it is a point",
    cell: "description",
  },
  "long-segment": { home: "lines", asked: "say how the line runs between", ofLine: true },
  "area-unclosed": { home: "lines", asked: "say how the area closes", ofLine: true },
  "line-crosses-itself": { home: "lines", asked: "say how the line runs", ofLine: true },
  "cue-ignored": { home: "lines", asked: "say how the line runs", cell: "description" },
  "arc-flat": { home: "lines", asked: "measure the arc again", ofLine: true },
  "arc-misfit": { home: "lines", asked: "measure the arc again", ofLine: true },
  "breaklines-cross": { home: "surface", asked: "measure where they cross", ofLine: true },
  "axes-swapped": { home: "intake", asked: "say which coordinate is which", cell: "easting" },
  "far-away": { home: "intake", asked: "say whether this was measured here", cell: "easting" },
  "outside-range": { home: "intake", asked: "say which number is right" },
  "long-triangle": { home: "surface" },
  "correction-lost": { home: "surface" },
  "line-doubled": { home: "lines" },
  "line-nearly-closed": { home: "lines", asked: "say whether the line closes" },
  "areas-overlap": { home: "lines" },
  "no-ground-near": {
    home: "surface",
    asked: "measure the ground beside it",
    limits: {
      within: {
        is: "length",
        usual: 3,
        name: "Ground near a mark",
        means: "a ground shot is expected this near a point kept out",
      },
    },
  },
  "line-interrupted": { home: "lines" },
  "shots-far-apart": {
    home: "surface",
    asked: "measure between them",
    limits: {
      apart: {
        is: "length",
        usual: 0,
        zero: true,
        name: "Shots at most apart",
        means: "ground between shots farther apart is told; 0: not looked for",
      },
    },
  },
  "outside-edge": { home: "surface" },
  "computed-lost": {},
  "move-lost": {},
  "name-lost": { home: "lines" },
  "scale-differs": { home: "intake", asked: "say whether distances are of the ground or of the grid" },
  "clock-set-back": { home: "intake", asked: "say whether the clock was set" },
});

export type FindingKind = keyof typeof KINDS_OF_FINDINGS;
export const FINDING_KINDS = Object.keys(KINDS_OF_FINDINGS) as FindingKind[];

/** A kind's description, as one of those that there are. */
export const kindOfFinding = (kind: FindingKind): Kind => KINDS_OF_FINDINGS[kind];

/** Kinds that are told from limits on. */
export type LimitedKind = {
  [K in FindingKind]: (typeof KINDS_OF_FINDINGS)[K] extends { limits: object } ? K : never;
}[FindingKind];
export const LIMITED_KINDS = FINDING_KINDS.filter((k): k is LimitedKind => kindOfFinding(k).limits !== undefined);

/** The limits of the checks by their names; lengths in the job's unit. */
export type CheckLimits = {
  [K in LimitedKind]: Record<keyof (typeof KINDS_OF_FINDINGS)[K]["limits"] & string, number>;
};

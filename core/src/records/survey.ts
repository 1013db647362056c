/**
 * Raw observations as received: never altered. Angles in radians, clockwise; lengths in the job's unit; heights above the mark.
 * NaN stands for what the file does not say.
 */
export interface SurveyBacksight {
  /** Number of the point sighted. */
  number: string;
  /** Circle reading on it as the setup states it; readings observed on it take its place. */
  circle: number;
  /** Azimuth to it, where the file states one instead of coordinates. */
  azimuth: number;
  /** East, north, level where the file gives the position itself. */
  at?: [number, number, number];
}

export interface SurveySetup {
  id: string;
  /** Number of the point under the instrument. */
  station: string;
  stationAt?: [number, number, number];
  row: number;
  instrumentHeight: number;
  backsights: SurveyBacksight[];
}

/** One slot for each reading. */
export interface Observations {
  count: number;
  setup: Int32Array;
  /** Index into the survey's `numbers`. */
  target: Int32Array;
  /** 1 or 2. */
  face: Uint8Array;
  circle: Float64Array;
  /** Where the direction itself was observed instead of a circle reading. */
  azimuth: Float64Array;
  zenith: Float64Array;
  slope: Float64Array;
  targetHeight: Float64Array;
  row: Int32Array;
}

export interface Survey {
  setups: SurveySetup[];
  observations: Observations;
  /** All point numbers that the survey speaks of, as received. */
  numbers: string[];
  /** Row of the record of that number in the same file; 0 where the file gives none. */
  numberRow: Int32Array;
}

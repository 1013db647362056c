/** What is told of each setup of raw observations. */
import type { LikelySight } from "./likely-sight";
import type { FacesReport } from "./pointings";

export interface BacksightReport {
  number: string;
  /** Circle reading used, radians. */
  circle: number;
  /**
   * Observed minus computed: direction in radians; plan distance and level in the unit, NaN where not observed or not
   * known.
   */
  direction: number;
  distance: number;
  level: number;
}

/**
 * A shot on a point that is known, or on one observed several times, that differs by more than the tolerance. `row`
 * is the point's in the table.
 */
export interface Outlying {
  row: number;
  of: "control" | "repeat";
  plan: number;
  level: number;
  at: [number, number];
}

export interface SetupReport {
  intake: number;
  id: string;
  station: string;
  /** As used, and as received. */
  instrumentHeight: number;
  receivedHeight: number;
  backsights: BacksightReport[];
  /** Azimuth of the circle's zero, radians; NaN when it could not be found. */
  orientation: number;
  faces: FacesReport[];
  shots: number;
  /** Shots outside tolerance. */
  outlying: Outlying[];
  out: boolean;
  /** Numbers of its backsights as received. */
  sights: string[];
  /** Numbers that sights likely have, where what was observed of one does not fit the number that was written. */
  likely: LikelySight[];
  /** Why the setup gives no points, in a sentence. */
  problem?: string;
}

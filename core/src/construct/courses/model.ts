/**
 * Courses of a document, one after another: straight ones by bearing and distance, arcs by radius and what they turn.
 * Angles in degrees clockwise (azimuths from north), lengths in the job's unit.
 */

export interface StraightCourse {
  azimuth: number;
  distance: number;
}

export interface ArcCourse {
  radius: number;
  /** What its direction turns by, + to the right; within a full turn. */
  turn: number;
  /** The azimuth of its chord; else the arc goes on in the direction of the course before it. */
  chord?: number;
}

export type Course = StraightCourse | ArcCourse;

export const isArc = (c: Course): c is ArcCourse => "radius" in c;

/** The length of a chord over an angle, from any radius. */
export const chordOver = (radius: number, degrees: number): number =>
  2 * radius * Math.sin((Math.abs(degrees) * Math.PI) / 360);

/** The way along a course. */
export const lengthOf = (c: Course): number => (isArc(c) ? (c.radius * Math.abs(c.turn) * Math.PI) / 180 : c.distance);

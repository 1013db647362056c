/** A point set is a rule, evaluated anew each time. */
import type { Numbers } from "../points/numbers";

export type SetRule =
  | { codes: string[] }
  | { numbers: Numbers }
  | { kind: string[] }
  | { intake: string[] }
  | { elevation: [number, number] }
  | { inside: [number, number][] }
  | { set: string }
  | { all: SetRule[] }
  | { any: SetRule[] }
  | { not: SetRule };

export interface PointSet {
  name: string;
  rule: SetRule;
}

/** What the application noticed in a job: shown in the tray, printed by the command, asserted by tests. */
export const FINDING_KINDS = [
  "unread-row", "unread-word", "unknown-code", "code-by-alias", "attribute-missing", "attribute-wrong", "no-elevation",
  "zero-elevation", "spike", "height-run", "number-clash", "coincident", "precision", "control-differs", "repeat-differs",
  "single-point-line", "long-segment", "area-unclosed", "line-crosses-itself", "cue-ignored", "arc-flat", "arc-misfit",
  "breaklines-cross", "axes-swapped", "far-away", "outside-range", "long-triangle",
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];
export type Severity = "error" | "warning" | "note";

export interface Finding {
  kind: FindingKind;
  severity: Severity;
  /** A sentence: what, to which points, what can be done. */
  message: string;
  /** Point numbers. */
  points: string[];
  /** Indices into the job's lines. */
  lines: number[];
  /** East, north of the place, where there is one. */
  at?: [number, number];
  data: Record<string, unknown>;
}

export function finding(
  kind: FindingKind, severity: Severity, message: string, more: Partial<Omit<Finding, "kind" | "severity" | "message">> = {},
): Finding {
  return { kind, severity, message, points: [], lines: [], data: {}, ...more };
}

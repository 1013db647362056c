/** What the office says about setups, and how raw observations are reduced. */
/** What the office has corrected about a setup; the observations stay as received. */
export interface SetupEdit {
  intake: string;
  setup: string;
  instrumentHeight?: number;
  /** Numbers of the backsights that give the orientation, in place of those of the file. */
  backsights?: string[];
  /** What the setup wrote as one number is another point: sights and all that was observed of it. */
  renamed?: { was: string; is: string }[];
  /** Taken out: its observations make and move no point. */
  out?: boolean;
}

/** A setup's corrections with what it wrote as one number being another point; the number itself takes that back. */
export function withSight(edit: SetupEdit, was: string, is: string): SetupEdit {
  const { renamed = [], ...rest } = edit,
    others = renamed.filter((x) => x.was !== was),
    all = is === was ? others : [...others, { was, is }];
  return all.length ? { ...rest, renamed: all } : rest;
}

/**
 * The settings for the reduction of raw observations: refraction coefficient and earth radius in metres; false for
 * neither.
 */
export type Curvature = { k?: number; radius?: number } | false;
export const DEFAULT_CURVATURE = { k: 0.13, radius: 6_371_000 } as const;

export function setupName(s: { intake: string; setup: string }): string {
  return `${s.intake} / ${s.setup}`;
}

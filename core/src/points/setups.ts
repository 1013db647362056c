/** What the office says about setups, and how raw observations are reduced. */
/** What the office has corrected about a setup; the observations stay as received. */
export interface SetupEdit {
  intake: string;
  setup: string;
  instrumentHeight?: number;
  /** Numbers of the backsights that give the orientation, in place of those of the file. */
  backsights?: string[];
  /** Taken out: its observations make and move no point. */
  out?: boolean;
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

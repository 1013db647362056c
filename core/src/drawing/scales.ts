/** The usual scales of plans, 1 : this, from the largest. */
export const PLAN_SCALES = [
  50, 100, 200, 250, 500, 1000, 1250, 1500, 2000, 2500, 5000, 10_000, 20_000, 25_000, 50_000,
] as const;

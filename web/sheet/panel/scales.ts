/** Scales of plans, 1 : this. */
export const PLAN_SCALES = [50, 100, 200, 250, 500, 1000, 2000, 5000];

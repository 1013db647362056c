/** 1, 2 or 5 times a power of ten, not less than a length. */
export function roundStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least));
  return [1, 2, 5, 10].map((k) => k * power).find((s) => s >= least)!;
}

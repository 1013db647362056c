/** The words on the chart of a section: where names of lines have room, and how many decimals levels need. */

/** Height of names of lines, and about how wide a letter of it is, in pixels. */
export const NAME_SIZE = 10.5;
const LETTER = 6.6;

/**
 * On which side of its mark each name of a line stands: above, else below where one before it reaches so far, else
 * nowhere: names over one another say nothing, and the tip says all. Stations run over the length on so many pixels.
 */
export function nameSides(
  crossings: readonly { name: string; station: number }[],
  length: number,
  width: number,
): ("top" | "bottom" | undefined)[] {
  const perUnit = Math.max(1, width) / Math.max(length, 1e-9),
    reached = { top: -Infinity, bottom: -Infinity },
    sides: ("top" | "bottom" | undefined)[] = crossings.map(() => undefined);
  const inOrder = crossings.map((_, k) => k).sort((a, b) => crossings[a]!.station - crossings[b]!.station);
  for (const k of inOrder) {
    const half = (crossings[k]!.name.length * LETTER) / 2 + 2,
      x = crossings[k]!.station * perUnit,
      side = (["top", "bottom"] as const).find((s) => x - half >= reached[s]);
    if (!side) continue;
    reached[side] = x + half;
    sides[k] = side;
  }
  return sides;
}

/** Decimals that tell the levels of an axis apart that goes over so many units: it has five to ten of them. */
export function decimalsFor(span: number): number {
  return span > 0 ? Math.min(6, Math.max(0, Math.ceil(-Math.log10(span / 5)))) : 2;
}

/**
 * Decimals as they are meant: whole numbers of a power of ten, so that 0.1 three times is 0.3 and not its neighbour.
 */

interface Decimal {
  digits: bigint;
  decimals: number;
}

/** The shortest decimal that reads back as the same number. */
function decimalOf(x: number): Decimal {
  const [mantissa, exponent] = x.toExponential().split("e") as [string, string];
  const [whole, fraction = ""] = mantissa.split(".") as [string, string?];
  return { digits: BigInt(whole + fraction), decimals: fraction.length - Number(exponent) };
}

/** `base + k × step` for whole k, each the double nearest to the decimal that it is. Both must be finite. */
export function decimalSteps(base: number, step: number): (k: number) => number {
  const b = decimalOf(base),
    s = decimalOf(step),
    decimals = Math.max(b.decimals, s.decimals);
  const from = b.digits * 10n ** BigInt(decimals - b.decimals),
    each = s.digits * 10n ** BigInt(decimals - s.decimals);
  return (k) => Number(`${from + BigInt(k) * each}e${-decimals}`);
}

const WRITTEN = /^[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?$/;

/** The number that a text writes as a decimal; NaN for anything else, also for what a program would take for one. */
export function readDecimal(text: string): number {
  const t = text.trim();
  return WRITTEN.test(t) ? Number(t) : NaN;
}

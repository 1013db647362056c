/**
 * A number with a fixed count of decimals, rounded half away from zero on the shortest decimal that reads
 * back as the same number (1.005 → 1.01), never "-0". Not-a-number gives an empty text.
 */
export function formatFixed(x: number, decimals: number): string {
  if (!Number.isFinite(x)) return "";
  const { digits, point } = shortestDecimal(Math.abs(x));
  // digits[0 .. keep) stay; the first digit dropped decides.
  const keep = point + decimals;
  let kept = keep <= 0 ? "" : digits.slice(0, keep).padEnd(keep, "0");
  if (keep >= 0 && (digits.charCodeAt(keep) || 48) >= 53) kept = increment(kept);
  const padded = kept.padStart(decimals + 1, "0");
  const whole = padded.slice(0, padded.length - decimals);
  const text = decimals > 0 ? `${whole}.${padded.slice(padded.length - decimals)}` : whole;
  return x < 0 && /[1-9]/.test(text) ? `-${text}` : text;
}

/**
 * A figure as people read and type it: at most six decimals, none that says nothing, never "-0". What is smaller keeps
 * its first six digits, down to a billionth; below that it is what sums leave of nothing.
 */
export function plainNumber(x: number): string {
  const text = formatFixed(x, 6).replace(/\.?0{1,6}$/, "");
  return Math.abs(x) >= 1e-9 && Number(text) === 0 ? String(Number(x.toPrecision(6))) : text;
}

/** The digits of the shortest decimal of x ≥ 0 and where its point stands: 12.5 → "125", 2. */
function shortestDecimal(x: number): { digits: string; point: number } {
  const [mantissa, exponent] = x.toExponential().split("e") as [string, string];
  return { digits: mantissa.replace(".", ""), point: Number(exponent) + 1 };
}

function increment(digits: string): string {
  let i = digits.length - 1;
  while (i >= 0 && digits[i] === "9") i--;
  const tail = "0".repeat(digits.length - 1 - i);
  return i < 0 ? `1${tail}` : digits.slice(0, i) + String.fromCharCode(digits.charCodeAt(i) + 1) + tail;
}

/** A figure for people: fixed decimals with thin groups of three before the point. */
export function formatGrouped(x: number, decimals: number): string {
  const [whole, rest] = formatFixed(x, decimals).split(".") as [string, string | undefined];
  const sign = whole.startsWith("-") ? "-" : "",
    groups: string[] = [];
  for (let end = whole.length; end > sign.length; end -= 3)
    groups.unshift(whole.slice(Math.max(sign.length, end - 3), end));
  const grouped = sign + groups.join("\u202f");
  return rest === undefined ? grouped : `${grouped}.${rest}`;
}

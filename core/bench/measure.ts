/** Measures rivals in one run: interleaved, several times, the least CPU time of each. Ratios only mean something within a run. */
export interface Rival {
  name: string;
  run: () => unknown;
}

/** Runs in a round, and milliseconds after which there is no further one. */
const WARM = 8,
  SHORT = 2000;

export function least(rivals: Rival[], rounds: number): Map<string, number> {
  const best = new Map<string, number>();
  for (let r = 0; r < rounds; r++) {
    for (const { name, run } of rivals) {
      (globalThis as { gc?: () => void }).gc?.();
      // Collecting garbage by force throws compiled code away: what is short is run until it is compiled again.
      for (let again = 0, spent = 0; again === 0 || (again < WARM && spent < SHORT); again++) {
        const before = process.cpuUsage();
        run();
        const { user, system } = process.cpuUsage(before),
          ms = (user + system) / 1000;
        spent += ms;
        best.set(name, Math.min(best.get(name) ?? Infinity, ms));
      }
    }
  }
  return best;
}

export const roundsOf = (size: number) => (size >= 1_000_000 ? 3 : 7);

/** One line of the report: a time and its ratio to the yardstick. */
export function tell(what: string, size: number, ms: number, yardstick: string, yard: number, goal?: string): void {
  const count = size.toLocaleString("en-GB").replaceAll(",", " ").padStart(9);
  console.log(
    `${what.padEnd(34)} ${count}   ${ms.toFixed(1).padStart(9)} ms   ${(ms / yard).toFixed(3).padStart(8)} × ${yardstick}${goal ? `   (goal: ${goal})` : ""}`,
  );
}

/** How long one statement may take, in seconds. */
export const STATEMENT_SECONDS = 120;

/** How long a connection may take to come, in seconds. */
export const CONNECT_SECONDS = 10;

/** How long a wait for a lock may take, in seconds; set by BRAMBLE_LOCK_SECONDS. */
export function lockSeconds(): number {
  return Number(process.env.BRAMBLE_LOCK_SECONDS ?? 15);
}

/** Archives whose bytes follow from their contents alone. */
import { unzipSync, zipSync, type Zippable } from "fflate";

/** The archive of files in their order, all of one date: the job's, or the first that the format has. */
export function zipped(files: Readonly<Record<string, Uint8Array>>, date: string | undefined): Uint8Array {
  const [y, m, d] = (date ?? "1980-01-01").split("-").map(Number) as [number, number, number];
  // The format keeps the time of day as it stands on the wall: given so it is the same everywhere.
  const mtime = new Date(Math.min(2099, Math.max(1980, y)), m - 1, d);
  return zipSync(files as Zippable, { level: 6, mtime });
}

/** An archive made by others, its contents in a new one of ours. */
export const zipAgain = (bytes: Uint8Array, date: string | undefined) => zipped(unzipSync(bytes), date);

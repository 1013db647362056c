/** What a package holds, in a file of its own: sizes, checksums, what was read back, and of which state of the job. */
import type { Proof } from "./proof/found";

export const MANIFEST_FILE = "manifest.json";

export interface ManifestFile {
  file: string;
  format: string;
  bytes: number;
  /** SHA-256, hexadecimal. */
  sha256: string;
  /** How many of each were read back from the file before it left. */
  counts: Record<string, number>;
  /** Largest difference of what was read back from the job's own, in the job's unit. */
  largestDifference: number;
  /** Characters that the file's encoding does not have; they stand as question marks. */
  unwritten?: number;
}

export interface Manifest {
  manifest: 1;
  job: string;
  client?: string;
  date?: string;
  unit: string;
  system?: string;
  /** The entry of the ledger that the job was after; a recipe has none. */
  entry?: number;
  /** Names that this state of the job has. */
  states?: string[];
  points: number;
  lines: number;
  /** Findings that are open, by their severity. */
  openFindings: Record<string, number>;
  files: ManifestFile[];
}

export function manifestFile(
  file: string,
  format: string,
  bytes: Uint8Array,
  sha256: string,
  { counts, difference, unwritten }: Proof,
): ManifestFile {
  return {
    file,
    format,
    bytes: bytes.length,
    sha256,
    counts,
    largestDifference: difference,
    ...(unwritten ? { unwritten } : {}),
  };
}

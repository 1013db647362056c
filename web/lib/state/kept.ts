/** What is in progress in the places of a job. */

export interface Kept {
  kept: Readonly<Record<string, unknown>>;
  keep(name: string, value: unknown): void;
}

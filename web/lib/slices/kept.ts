/** What is in progress in the places of a job. */
import type { Slice } from "../store";

export interface Kept {
  kept: Readonly<Record<string, unknown>>;
  keep(name: string, value: unknown): void;
}

export const keptSlice: Slice<Kept> = (set) => ({
  kept: {},
  keep: (name, value) => set((s) => ({ kept: { ...s.kept, [name]: value } })),
});

/** Keeps what is in progress in the places of a job. */
import type { Kept } from "../state/kept";
import type { Slice } from "../state/store";

export const keptSlice: Slice<Kept> = (set) => ({
  kept: {},
  keep: (name, value) => set((s) => ({ kept: { ...s.kept, [name]: value } })),
});

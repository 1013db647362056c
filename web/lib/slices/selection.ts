/** Selecting, and going to what is selected. */
import type { Selection } from "../state/selection";
import type { Slice } from "../state/store";

export const NOTHING_SELECTED = {
  points: new Set<number>(),
  lines: new Set<string>(),
  finding: undefined,
  isRinged: false,
  target: undefined,
  arrival: undefined,
};

export const selectionSlice: Slice<Selection> = (set, get) => ({
  ...NOTHING_SELECTED,
  select: ({ points = [], lines = [], finding }) =>
    set({ points: new Set(points), lines: new Set(lines), finding, isRinged: finding !== undefined }),
  arriveAt: (point, field) => set({ arrival: { point, field, serial: (get().arrival?.serial ?? 0) + 1 } }),
  show(box) {
    if (box) set({ target: { ...box, serial: (get().target?.serial ?? 0) + 1 } });
  },
});

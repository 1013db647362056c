"use client";
/** The open job on the screen, in slices: the job itself, what is selected, the look of the sheet, what is in progress. */
import { create } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { keptSlice } from "./slices/kept";
import { openJobSlice } from "./slices/open-job";
import { selectionSlice } from "./slices/selection";
import { sheetSlice } from "./slices/sheet";
import type { Store } from "./state/store";

export const useJob = create<Store>((...a) => ({
  ...openJobSlice(...a),
  ...selectionSlice(...a),
  ...sheetSlice(...a),
  ...keptSlice(...a),
  set: (part) => a[0](part),
}));

/** Parts of the store by name: the component renders when one of them became another, and at nothing else. */
export function useParts<K extends keyof Store>(...names: K[]): Pick<Store, K> {
  return useJob(useShallow((s) => Object.fromEntries(names.map((name) => [name, s[name]])) as Pick<Store, K>));
}

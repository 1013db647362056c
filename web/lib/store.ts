"use client";
/** The open job on the screen, in slices: the job itself, what is selected, the look of the sheet, what is in progress. */
import { create, type StateCreator } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { keptSlice, type Kept } from "./slices/kept";
import { openJobSlice, type OpenJob } from "./slices/open-job";
import { selectionSlice, type Selection } from "./slices/selection";
import { sheetSlice, type SheetLook } from "./slices/sheet";

/** What others may set by itself. */
interface Settable {
  set(
    part: Partial<
      Pick<
        OpenJob & SheetLook,
        | "surface"
        | "volume"
        | "flood"
        | "built"
        | "notice"
        | "incoming"
        | "paperScale"
        | "textPicked"
        | "preview"
        | "tried"
        | "picking"
        | "ring"
        | "mesh"
        | "corners"
        | "only"
        | "onlyRows"
        | "colorBy"
        | "setRows"
        | "groundSeen"
        | "seenAs"
        | "heights"
        | "light"
        | "section"
        | "sectionAt"
      >
    >,
  ): void;
}

export type Store = OpenJob & Selection & SheetLook & Kept & Settable;
export type Slice<T> = StateCreator<Store, [], [], T>;

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

/** All that a window holds of an open job, in parts. */
import type { StateCreator } from "zustand";
import type { Kept } from "./kept";
import type { OpenJob } from "./open-job";
import type { Selection } from "./selection";
import type { SheetLook } from "./sheet";

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
        | "marks"
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

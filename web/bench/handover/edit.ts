/** How the forms of a file change it. */
import type { HandoverFile } from "@bramble/core";

/** Takes other words for some of a file; what becomes undefined is as usual again. */
export type Edit<F extends HandoverFile = HandoverFile> = (
  part: HandoverFile extends F ? object : Partial<Omit<F, "file" | "format">>,
) => void;

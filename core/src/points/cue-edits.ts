/** The office's edits of a shot's cues, as they are kept with its point (FIELD-CODES.md, "Office edits are cues too"). */

/** One edit of one element of a description: `element` is its code and run as written, cues are words such as `end` or `after=14`. */
export interface CueEdit {
  element: string;
  add?: string[];
  remove?: string[];
}

/** As it is kept in a point's `cues`; "" for none. */
export function encodeCueEdits(edits: readonly CueEdit[]): string {
  return edits.length
    ? JSON.stringify(
        edits.map(({ element, add, remove }) => ({
          element,
          ...(add?.length ? { add } : {}),
          ...(remove?.length ? { remove } : {}),
        })),
      )
    : "";
}

export function decodeCueEdits(text: string): CueEdit[] {
  return text === "" ? [] : (JSON.parse(text) as CueEdit[]);
}

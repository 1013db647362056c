/** Which deed a person's undo and redo mean: one rule for the page and the server. */

/** What is asked of a ledger's entries. */
export interface Stepped {
  seq: number;
  kind: "change" | "undo" | "redo";
  /** The change that an undo or redo is about. */
  target: number | null;
  /** A change that is taken back; or a deed upon a single entry that is. */
  undone: boolean;
  /** An undo or redo of a single entry, whatever came after it: a deed of its own, which undo takes back. */
  alone: boolean;
}

export interface NextStep {
  /** What is done to which change. */
  kind: "undo" | "redo";
  target: number;
  /** The deed upon a single entry that is taken back, or done again, by it. */
  of?: number;
}

const opposite = { undo: "redo", redo: "undo" } as const;

/**
 * The step that is meant, by the person's own entries in any order; undefined where there is none. Undo means the last deed
 * that stands; redo the one that was taken back last, unless something new was done since.
 */
export function nextStep(own: readonly Stepped[], asked: "undo" | "redo"): NextStep | undefined {
  const deeds = own.filter((e) => e.kind === "change" || e.alone);
  let found: Stepped | undefined;
  if (asked === "undo") for (const e of deeds) if (!e.undone && e.seq > (found?.seq ?? 0)) found = e;
  if (asked === "redo") {
    let latest = deeds.reduce((last, e) => Math.max(last, e.seq), 0);
    for (const e of deeds) {
      if (!e.undone) continue;
      // When it was taken back: a change by the last undo of it, a deed upon one entry by the first step the other way.
      const isChange = e.kind === "change",
        other = isChange ? "undo" : opposite[e.kind as "undo" | "redo"],
        steps = own
          .filter((s) => !s.alone && s.kind === other && s.target === (isChange ? e.seq : e.target) && s.seq > e.seq)
          .map((s) => s.seq),
        at = steps.length === 0 ? 0 : isChange ? Math.max(...steps) : Math.min(...steps);
      if (at > latest) [latest, found] = [at, e];
    }
  }
  if (!found) return undefined;
  if (found.kind === "change") return { kind: asked, target: found.seq };
  return { kind: asked === "undo" ? opposite[found.kind] : found.kind, target: found.target!, of: found.seq };
}

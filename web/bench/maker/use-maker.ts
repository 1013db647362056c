"use client";
/** What the maker holds: a draft, what it gives on the job as it is, and picking on the sheet that fills it. */
import { useEffect, useMemo, useRef, useState } from "react";
import type { By, LevelBy } from "@bramble/core/construct/model";
import { constructionOfSnap, hasAlong } from "@bramble/core/construct/model";
import type { Snap } from "@bramble/core/lines/snap";
import { refOf } from "@bramble/core/points/refs";
import type { Construed } from "@bramble/core/job/told/construction";
import { designLines } from "../../lib/design-lines";
import { useParts } from "../../lib/store";
import { pickedDraft, pointKeys, readDraft, type Draft, type DraftContext } from "./draft";

/** What is read of the draft, with every position that it gives; the chosen one. */
export interface Given {
  by: By;
  elevation?: number | LevelBy;
  construed: Construed;
}

export interface Maker {
  draft: Draft;
  setDraft: (next: Draft) => void;
  context: DraftContext;
  /** Lines by their words; and those of them that are of the job. */
  lines: readonly string[];
  ofJob: readonly string[];
  armed: string | undefined;
  arm: (key: string | undefined) => void;
  /** What is wrong with a field. */
  problem: { at: string; problem: string } | undefined;
  /** A field that is still to be filled. */
  needs: string | undefined;
  given: Given | undefined;
  hasSlope: boolean;
  /** Which of two positions is meant; undefined while that is not said. */
  chosen: number | undefined;
  choose: (k: number) => void;
}

/** `own` is the point that follows what is made, where it is there already. `taken` is told each position that is picked. */
export function useMaker(
  draft: Draft,
  setDraft: (next: Draft) => void,
  own?: number,
  taken?: (draft: Draft) => void,
): Maker {
  const { job, view, lines: selected, set } = useParts("job", "view", "lines", "set"),
    [armed, arm] = useState<string>();
  const known = useMemo(() => designLines(job, view, selected), [job, view, selected]),
    context = useMemo(() => ({ job, lines: known }), [job, known]),
    read = useMemo(() => readDraft(draft, context), [draft, context]),
    construed = useConstrued(read, own, view);
  const given = "by" in read && construed ? { ...read, construed } : undefined,
    at = given?.construed.at ?? [],
    chosen = at.length < 2 ? (at.length ? 0 : undefined) : nearOf(draft, at);
  const choose = (k: number) => setDraft({ ...draft, near: [at[k]![0], at[k]![1]] });

  usePicking({ draft, setDraft, armed, arm, choose, at, chosen, taken });
  // Each position is marked, by its count where there are two.
  useEffect(() => {
    set({
      preview: given?.construed.ways ?? [],
      marks: at.map(([e, n], k) => ({ e, n, words: at.length > 1 ? String(k + 1) : "", meant: k === chosen })),
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [given?.construed, chosen, set]);
  useEffect(() => () => set({ preview: [], marks: [], picking: undefined }), [set]);
  return {
    draft,
    setDraft,
    context,
    lines: [...known.keys()],
    ofJob: [...known].flatMap(([words, line]) => ("code" in line ? [words] : [])),
    armed,
    arm,
    problem: "problem" in read ? read : undefined,
    needs: "needs" in read ? read.needs : undefined,
    given,
    hasSlope:
      "by" in read
        ? hasAlong(read.by)
        : ["ratio", "between", "beyond", "forward", "angle", "foot", "rectangle", "station"].includes(draft.way),
    chosen,
    choose,
  };
}

function nearOf({ near }: Draft, at: Construed["at"]): number | undefined {
  if (near === undefined || typeof near === "string") return near === undefined ? undefined : 0;
  const far = at.map(([e, n]) => Math.hypot(e - near[0], n - near[1]));
  return far.indexOf(Math.min(...far));
}

/** What a construction gives on the job as it is now, asked anew when either becomes another. */
function useConstrued(
  read: ReturnType<typeof readDraft>,
  own: number | undefined,
  view: unknown,
): Construed | undefined {
  const { ask } = useParts("ask"),
    key = "by" in read ? JSON.stringify(read) : "",
    [seen, setSeen] = useState<{ key: string; construed: Construed }>();
  useEffect(() => {
    if (key === "") return;
    let current = true;
    const of = JSON.parse(key) as { by: By; elevation?: number | LevelBy };
    void ask({ what: "construction", of, ...(own === undefined ? {} : { own }) }).then(
      (construed) => current && construed && setSeen({ key, construed }),
    );
    return () => {
      current = false;
    };
    // What is shown of the job is another when something that it hangs on may be.
  }, [key, own, view, ask]);
  return seen?.key === key ? seen.construed : undefined;
}

/** Clicks on the sheet fill the field that is armed, choose between two positions, or take coordinates. */
function usePicking({
  draft,
  setDraft,
  armed,
  arm,
  choose,
  at,
  chosen,
  taken,
}: Pick<Maker, "draft" | "setDraft" | "armed" | "arm" | "choose" | "chosen"> & {
  at: Construed["at"];
  taken: ((draft: Draft) => void) | undefined;
}) {
  const { job, set } = useParts("job", "set"),
    choosing = at.length > 1 && chosen === undefined,
    // Another form may pick meanwhile: only what was asked for here is taken back here.
    asked = useRef(false);
  useEffect(() => {
    const t = job.points,
      left = () => arm(undefined);
    const wasAsked = asked.current;
    asked.current = choosing || armed !== undefined;
    if (choosing)
      return set({
        picking: {
          hint: "Two positions fit: click the one that is meant",
          points: false,
          take({ e, n }) {
            const far = at.map((p) => Math.hypot(p[0] - e, p[1] - n));
            choose(far.indexOf(Math.min(...far)));
          },
        },
      });
    if (armed === undefined) {
      if (wasAsked) set({ picking: undefined });
      return;
    }
    if (armed === "at") {
      const last = draft.picked;
      return set({
        picking: {
          hint: "Click a position: points, ends, crossings, middles, centres and feet are found; Tab for others, Esc ends",
          points: false,
          left,
          ...(last ? { from: [last.e, last.n] as [number, number] } : {}),
          take(snap: Snap) {
            const by = constructionOfSnap(snap, t, (row) => refOf(t, job.intakes, row)),
              next = pickedDraft(draft, snap, by, job);
            setDraft(next);
            taken?.(next);
          },
        },
      });
    }
    set({
      picking: {
        hint: "Click the point that is meant; Esc ends",
        points: true,
        left,
        take({ point }: Snap) {
          if (point === undefined) return;
          const next = { ...draft, texts: { ...draft.texts, [armed]: t.number[point]! } };
          setDraft(next);
          arm(pointKeys(next).find((key) => !next.texts[key]?.trim()));
        },
      },
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [armed, choosing, draft, job, set]);
}

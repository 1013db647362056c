"use client";
/** What the maker holds: a draft, what it gives on the job as it is, and picking on the sheet that fills it. */
import { useEffect, useMemo, useRef, useState } from "react";
import type { By, LevelBy } from "@bramble/core/construct/model";
import { settingOf, type JobState } from "@bramble/core";
import { constructionOfSnap, hasAlong, passedBy, passedLevel } from "@bramble/core/construct/model";
import { writeConstruction } from "@bramble/core/construct/written";
import type { Snap } from "@bramble/core/lines/snap";
import { findPoints, refOf } from "@bramble/core/points/refs";
import type { Construed } from "@bramble/core/job/told/construction";
import { linesAsked } from "../../lib/design-lines";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import type { Fields } from "./WayFields";
import { pickedDraft, pointKeys, readDraft, type Draft, type DraftContext } from "./draft";

/** What is read of the draft, with every position that it gives; the chosen one. */
export interface Given {
  by: By;
  elevation?: number | LevelBy;
  construed: Construed;
}

export interface Meant {
  by: By;
  elevation?: number | LevelBy;
  at: readonly [e: number, n: number, z: number];
}

export interface Maker {
  draft: Draft;
  context: DraftContext;
  armed: string | undefined;
  arm: (key: string | undefined) => void;
  /** What is wrong with a field. */
  problem: { at: string; problem: string } | undefined;
  /** A field that is still to be filled. */
  needs: string | undefined;
  given: Given | undefined;
  /** What would be kept: the construction with the position that is meant, where one is. */
  meant: Meant | undefined;
  /** What the fields of ways and levels need of it. */
  fields: Fields;
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
  const known = useMemo(() => linesAsked(job, view, selected), [job, view, selected]),
    context = useMemo(() => ({ job, lines: known }), [job, known]),
    read = useMemo(() => readDraft(draft, context), [draft, context]),
    construed = useConstrued(read, own, view);
  const given = "by" in read && construed ? { ...read, construed } : undefined,
    at = given?.construed.at ?? [],
    chosen = at.length < 2 ? (at.length ? 0 : undefined) : nearOf(draft, at, job);
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
  const problem = "problem" in read ? read : undefined;
  const put = (texts: Record<string, string>) => {
    // Which of two was meant goes on being meant.
    const { picked, ...rest } = draft,
      keeps = picked && !Object.keys(texts).some((key) => key.startsWith("at.")) ? { picked } : {};
    setDraft({ ...rest, ...keeps, texts: { ...draft.texts, ...texts } });
  };
  return {
    draft,
    context,
    armed,
    arm,
    problem,
    meant: given && chosen !== undefined ? meantOf(given, draft, given.construed.at[chosen]!) : undefined,
    fields: {
      draft,
      armed,
      arm,
      problem,
      put,
      lines: [...known.keys()],
      ofJob: [...known].flatMap(([words, line]) => ("code" in line ? [words] : [])),
    },
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

/** Of two positions that meet the one that is meant is said by what is near it. */
function meantOf({ by, elevation, construed }: Given, { near }: Draft, at: Meant["at"]): Meant {
  const said = construed.at.length > 1 && "meet" in by ? { ...by, near: near ?? [at[0], at[1]] } : by;
  return { by: said as By, at, ...(elevation === undefined ? {} : { elevation }) };
}

/** Which of several positions is nearest to a position or a point; undefined where nothing is said, or the point is gone. */
function nearOf({ near }: Draft, at: Construed["at"], { points: t, intakes }: JobState): number | undefined {
  const row = typeof near === "string" ? findPoints(t, intakes).rowOf(near) : -1,
    to = typeof near === "string" ? (row < 0 ? undefined : [t.e[row]!, t.n[row]!]) : near;
  if (!to) return undefined;
  const far = at.map(([e, n]) => Math.hypot(e - to[0]!, n - to[1]!));
  return far.indexOf(Math.min(...far));
}

/** A construction in words, points by the numbers that they have now. */
export function inWords(job: JobState, { by, elevation }: Pick<Meant, "by" | "elevation">): string {
  const { numberOf } = findPoints(job.points, job.intakes),
    level = typeof elevation === "object" ? passedLevel(elevation, numberOf) : elevation;
  return writeConstruction(
    { by: passedBy(by, numberOf), ...(level === undefined ? {} : { elevation: level }) },
    { angle: settingOf(job, "angle"), order: job.order, decimals: decimalsOf(job.unit) },
  );
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
}: Pick<Maker, "draft" | "armed" | "arm" | "choose" | "chosen"> & {
  setDraft: (next: Draft) => void;
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

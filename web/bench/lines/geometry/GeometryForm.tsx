"use client";
/** An edit of line work by geometry: drawn as it would be, told in a sentence where it cannot be, then taken. */
import { useEffect, useMemo, type ReactNode } from "react";
import type { HandLine, JobState } from "@bramble/core";
import { compileBook } from "@bramble/core/codes/book";
import { applyChange } from "@bramble/core/job/change/change";
import type { GeometryEdit } from "@bramble/core/job/edit/geometry";
import { drawHandLine } from "@bramble/core/lines/assemble";
import { planOfLine } from "@bramble/core/lines/flatten";
import { findPoints } from "@bramble/core/points/refs";
import { useParts } from "../../../lib/store";
import type { LineShown } from "../../../lib/view";
import { Small } from "../LineForms";
import { makeWithPoints } from "../make";

/** The edit with the job as it is then; undefined while something is left open. */
export type Asked = ((job: JobState, ids?: readonly number[]) => GeometryEdit) | undefined;

export function GeometryForm({
  label,
  action,
  line,
  edit,
  done,
  children,
}: {
  label: string;
  action: string;
  line: LineShown;
  edit: Asked;
  done: () => void;
  children: ReactNode;
}) {
  const { job, set, deriving } = useParts("job", "set", "deriving"),
    // Until the lines follow a change their shots may be rows of points that are not there any more.
    isOfJob = !deriving && line.shots.every((row) => row < job.points.count),
    tried = useMemo(() => (isOfJob ? edit?.(job) : undefined), [edit, job, isOfJob]),
    refused = tried && "refused" in tried ? tried.refused : undefined;
  useEffect(() => {
    set(tried && "change" in tried ? previewOf(job, tried) : { preview: [], marks: [] });
  }, [job, tried, set]);
  useEffect(() => () => set({ preview: [], marks: [], picking: undefined }), [set]);
  const go = async () => {
    const text = edit && (await makeWithPoints(edit));
    if (text === undefined) return;
    set({ notice: { text: `${text}. Undo takes all of it back.`, tone: "settled" } });
    done();
  };
  return (
    <>
      <Small label={label} action={action} ready={tried !== undefined && !refused} go={() => void go()}>
        {children}
      </Small>
      {refused && (
        <p role="status" className="mt-1 pl-3 text-amber">
          {refused}
        </p>
      )}
    </>
  );
}

/** Of very many points lines are not drawn before they are made: the job is copied for it. */
const MOST_COPIED = 500_000;

/** The points and lines that an edit would make, as the sheet draws what is not there yet. */
function previewOf(job: JobState, { change }: Extract<GeometryEdit, { change: unknown }>) {
  const lines = change.changes.flatMap((c) =>
      c.type === "named" && c.part === "lines" && c.new ? [c.new as HandLine] : [],
    ),
    points = change.changes.flatMap((c) => (c.type === "add" ? [c.points] : [])),
    marks = points.flatMap((p) => p.easting.map((e, k) => ({ e, n: p.northing[k]!, words: "", meant: true })));
  if (job.points.count > MOST_COPIED || !lines.length) return { preview: [], marks };
  const then = applyChange(job, change),
    { points: t, tolerance, unit, intakes } = then;
  // Where a line goes through the points it shows them.
  const ways = lines.flatMap((hand) =>
    drawHandLine(t, hand, tolerance, unit, compileBook(then.book), findPoints(t, intakes)).lines.map((l) =>
      planOfLine(l, tolerance.chord),
    ),
  );
  return { preview: ways, marks: [] };
}

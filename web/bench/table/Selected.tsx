"use client";
/** What can be done to the selected points. */
import { useState } from "react";
import { followersOf, programOf } from "@bramble/core/construct/program";
import { plural, someOf } from "@bramble/core/math/words";
import { GONE_DELETED, rowOf } from "@bramble/core/points/table";
import { boxOfPoints } from "../../lib/box";
import { rowsOf } from "../../lib/rows";
import { useParts } from "../../lib/store";
import { unless } from "../../controls/unless";

const CHOICES = ["auto", "in", "out"] as const;

/** The forms that work on the selected points. */
export type SelectedForm = "renumber" | "change" | "story";

interface About {
  open: SelectedForm | undefined;
  toggle: (form: SelectedForm) => void;
  /** Points that were taken out are among those shown. */
  withGone: boolean;
}

export function Selected({ open, toggle, withGone }: About) {
  const { job, points, change, select, show } = useParts("job", "points", "change", "select", "show");
  const t = job.points,
    rows = [...points].map((id) => rowOf(t, id)).filter((i) => i >= 0),
    gone = rows.filter((i) => t.deleted[i]! & GONE_DELETED),
    living = rows.filter((i) => !t.deleted[i]);
  const setSurface = (surface: (typeof CHOICES)[number]) =>
    change({
      type: "points",
      edits: living.flatMap((i) => {
        const old = CHOICES[t.surface[i]!]!;
        return old === surface ? [] : [{ id: t.id[i]!, field: "surface" as const, old, new: surface }];
      }),
    });
  const setDeleted = (of: readonly number[], deleted: boolean) => {
    change({
      type: "points",
      edits: of.map((i) => ({ id: t.id[i]!, field: "deleted" as const, old: !deleted, new: deleted })),
    });
    select({});
  };
  /** Points that follow those to be deleted are said first: they go with them. */
  const [asked, setAsked] = useState<{ rows: readonly number[]; lost: readonly number[] }>();
  const remove = () => {
    const lost = followersOf(programOf(job.computed, t, job.intakes), living);
    if (lost.length) setAsked({ rows: living, lost });
    else setDeleted(living, true);
  };
  const none = unless(living.length === 0 && "Select points first.");
  if (asked)
    return (
      <div role="alert" className="flex flex-wrap items-center gap-1.5 border-l-2 border-amber px-3 text-amber">
        <span>
          {plural(asked.lost.length, "point")} {asked.lost.length === 1 ? "follows" : "follow"} what is deleted and
          would not be there any more: {someOf(asked.lost.map((i) => t.number[i]!))}.
        </span>
        <button
          className="button h-6"
          autoFocus
          onClick={() => {
            setDeleted(asked.rows, true);
            setAsked(undefined);
          }}
        >
          Delete all the same
        </button>
        <button className="button h-6" onClick={() => setAsked(undefined)}>
          Leave it
        </button>
      </div>
    );
  // Always there, so that the first of two clicks moves nothing under the second.
  return (
    <div className="flex flex-wrap items-center justify-end gap-1.5">
      <button
        className="button px-1.5"
        onClick={() => setSurface("out")}
        title="Keep the selected points out of surfaces; their elevations stay"
        {...none}
      >
        Out of surfaces
      </button>
      <button
        className="button px-1.5"
        onClick={() => setSurface("auto")}
        title="Let the code decide again whether they are in surfaces"
        {...none}
      >
        Surfaces by code
      </button>
      <button
        className="button px-1.5"
        onClick={() => show(boxOfPoints(t, rowsOf(t, points)))}
        title="Show the selected points on the sheet"
        {...none}
      >
        Zoom
      </button>
      <button
        className="button px-1.5"
        aria-pressed={open === "change"}
        title="Change a column of all selected points"
        onClick={() => toggle("change")}
        {...none}
      >
        Change
      </button>
      <button
        className="button px-1.5"
        aria-pressed={open === "renumber"}
        title="Give the selected points other numbers"
        onClick={() => toggle("renumber")}
        {...none}
      >
        Renumber
      </button>
      <button className="button px-1.5" {...none} onClick={remove}>
        Delete
      </button>
      {withGone && (
        <button
          className="button px-1.5"
          {...unless(gone.length === 0 && "Select deleted points first.")}
          onClick={() => setDeleted(gone, false)}
        >
          Bring back
        </button>
      )}
    </div>
  );
}

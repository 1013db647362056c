"use client";
/**
 * How the job is drawn: its scale, what is written beside points, which groups, layers and kinds are drawn and in which
 * order.
 */
import type { DrawingSettings } from "@bramble/core";
import { DEFAULT_POINT_LABELS } from "@bramble/core/drawing/layout";
import { plural } from "@bramble/core/math/words";
import { boxOfPoints } from "../../../lib/box";
import { drawingChange } from "../../../lib/drawing-change";
import { useParts } from "../../../lib/store";
import { Choice } from "../../../controls/fields/Choice";
import { Labels } from "./Labels";
import { PLAN_SCALES } from "@bramble/core/drawing/scales";
import { Visible } from "./Visible";

export function Drawing() {
  const { job, change, set } = useParts("job", "change", "set");
  const drawing = job.drawing ?? {};
  const put = (part: Partial<DrawingSettings>) => {
    void change(drawingChange(job, { ...drawing, ...part }));
  };
  return (
    <div className="max-w-2xl space-y-5">
      <section aria-label="Scale">
        <h2 className="heading pb-2">Scale</h2>
        <Choice
          label="Symbols, line weights and texts are for a plan"
          value={String(drawing.scale ?? "")}
          width="w-56"
          options={[
            ["", "as the sheet is seen"],
            ...[...new Set([...PLAN_SCALES, ...(drawing.scale ? [drawing.scale] : [])])].map((s): [string, string] => [
              String(s),
              `at 1 : ${s}`,
            ]),
          ]}
          onChange={(v) => {
            const scale = v === "" ? undefined : Number(v);
            put({ scale });
            set({ paperScale: scale });
          }}
        />
      </section>
      <Labels list={drawing.points ?? DEFAULT_POINT_LABELS} put={(points) => put({ points })} />
      <Visible drawing={drawing} put={put} />
      <Unplaced />
    </div>
  );
}

/** Texts that found no place at the present scale. */
function Unplaced() {
  const { layout, job, view, select, show } = useParts("layout", "job", "view", "select", "show");
  if (!layout) return null;
  const notes = layout.unplaced.filter((u) => u.is === "note"),
    labels = layout.unplaced.length - notes.length;
  const go = (u: (typeof notes)[number]) => {
    const rows = u.point >= 0 ? [u.point] : (view.lines[u.line]?.shots ?? []);
    select({ points: rows.map((i) => job.points.id[i]!), lines: u.line >= 0 ? [view.lines[u.line]!.key] : [] });
    show(boxOfPoints(job.points, rows));
  };
  return (
    <section aria-label="Without a place" data-testid="unplaced">
      <h2 className="heading">
        Without a place{" "}
        <span className="font-sans text-[13px] font-normal text-soft">
          {layout.notes === 0
            ? "no notes at this scale"
            : `${layout.notes - notes.length} of ${plural(layout.notes, "note")} placed`}
          {layout.crowded
            ? "; texts are left out where there is no room for most of them"
            : layout.labels
              ? `; ${layout.labels - labels} of ${plural(layout.labels, "label")} of points`
              : ""}
        </span>
      </h2>
      <ul className="rows mt-1">
        {layout.unplaced.slice(0, 200).map((u, k) => (
          <li key={k} className="row gap-2">
            <span className="min-w-0 flex-1 truncate">{u.text}</span>
            <span className="text-soft">
              {u.point >= 0 ? `point ${job.points.number[u.point]}` : view.lines[u.line]?.code}
            </span>
            <button className="button button-plain h-6" onClick={() => go(u)}>
              Zoom to it
            </button>
          </li>
        ))}
      </ul>
      {layout.unplaced.length > 200 && <p className="text-soft">and {layout.unplaced.length - 200} more</p>}
    </section>
  );
}

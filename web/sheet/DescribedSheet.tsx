"use client";
/** The sheet in words: a table of what is drawn, for screen readers. */
import { useDeferredValue } from "react";
import { formatFixed } from "@bramble/core/math/round";
import { isDrawn } from "@bramble/core/drawing/order";
import { lineName } from "@bramble/core/lines/model";
import { livingCount } from "@bramble/core/points/table";
import { useParts } from "../lib/store";
import { EMPTY_VIEW, lineAt } from "../lib/view";

const MOST = 300;

export function DescribedSheet() {
  // What is seen comes first; its words follow when there is time.
  const { view, job, layers, layout } = useDeferredValue(useParts("view", "job", "layers", "layout"));
  const lines = view.lines.filter((l) => isDrawn(l, job.drawing?.hidden)),
    notes = layout?.texts.filter((t) => t.is === "note") ?? [],
    missed = layout?.unplaced.filter((u) => u.is === "note").length ?? 0;
  const living = livingCount(job.points);
  return (
    <div id="sheet-described" className="sr-only print:hidden" data-testid="sheet-described">
      <p>
        {layers.points ? `${living} points. ` : "Points are not shown. "}
        {!layers.lines
          ? "Lines are not shown. "
          : view === EMPTY_VIEW
            ? "Lines are being drawn. "
            : `${lines.length} lines. `}
        {view.contours.map((c) =>
          c.value
            ? `${c.value.contours.level.length} contour lines on ${c.name}, interval ${c.value.contours.interval}. `
            : "",
        )}
      </p>
      {layers.lines && (
        <table>
          <caption>Lines on the sheet{lines.length > MOST ? `, the first ${MOST}` : ""}</caption>
          <thead>
            <tr>
              <th>Line</th>
              <th>Points</th>
              <th>Closed</th>
              <th>Length</th>
            </tr>
          </thead>
          <tbody>
            {lines.slice(0, MOST).map((l, k) => (
              <tr key={k} data-line={lineName(l)} data-color={l.color}>
                <td>{lineName(l)}</td>
                <td>
                  {l.companion
                    ? `parallel to ${lineName(view.lines[lineAt(view, l.companion.of)!]!)}`
                    : l.shots.map((s) => job.points.number[s]).join(" ")}
                </td>
                <td>{l.closed ? "closed" : "open"}</td>
                <td>
                  {formatFixed(l.length, 3)} {job.unit}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {layers.notes && notes.length > 0 && (
        <>
          <p>
            {notes.length} notes{missed ? `, ${missed} without a place` : ""}.
          </p>
          <ul aria-label="Notes on the sheet">
            {notes.slice(0, MOST).map((t, k) => (
              <li key={k}>{t.lines.join(" ")}</li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

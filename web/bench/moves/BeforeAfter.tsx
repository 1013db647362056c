"use client";
/** What a move does: how many points and how far, and the first of them before and after. */
import { useState } from "react";
import { METRES } from "@bramble/core";
import type { MoveTold } from "@bramble/core/job/told/moving";
import { formatFixed } from "@bramble/core/math/round";
import { plural } from "@bramble/core/math/words";
import { rowOf } from "@bramble/core/points/table";
import { PointButton } from "../../controls/PointButton";
import { useParts } from "../../lib/store";
import { decimalsOf, grouped } from "../../lib/units-shown";

const FIRST = 8;

export function BeforeAfter({ told }: { told: MoveTold }) {
  const { job } = useParts("job"),
    [all, setAll] = useState(false),
    d = decimalsOf(job.unit),
    u = job.unit,
    t = job.points,
    length = (x: number, decimals = d) => `${formatFixed(x, decimals).replace("-", "−")} ${u}`,
    // How wide a survey is needs no millimetres.
    rough = (x: number) => (x * METRES[u] < 10 ? length(x, 2) : length(x, 0)),
    { farthest, extent, wide } = told;
  const number = (id: number) => t.number[rowOf(t, id)] ?? "gone";
  if (told.count === 0) return null;
  const facts = [
    ...(farthest
      ? [
          `the farthest goes ${length(farthest.plan)} in plan (${number(farthest.point)})${farthest.level ? `, levels up to ${length(farthest.level)}` : ""}`,
        ]
      : []),
    ...(extent ? [`they extend over ${rough(extent.width)} by ${rough(extent.height)}`] : []),
  ];
  const shown = all ? told.rows : told.rows.slice(0, FIRST);
  return (
    <div className="mt-2">
      <p role="status" data-testid="move-told">
        {`${plural(told.count, "point")} ${told.count === 1 ? "moves" : "move"}${facts.length ? ": " : ""}${facts.join("; ")}.`}
        {told.following > 0 &&
          ` ${plural(told.following, "point")} more ${told.following === 1 ? "follows" : "follow"} what ${told.following === 1 ? "it was" : "they were"} constructed from.`}
        {told.missing > 0 && ` ${plural(told.missing, "point")} of it ${told.missing === 1 ? "is" : "are"} not there.`}
      </p>
      {wide && (
        <p role="alert" className="text-amber">
          Nine of ten lie within {rough(wide.within)} of their middle, and some as far as {rough(wide.reach)} away:
          these move too.
        </p>
      )}
      {told.same && (
        <p role="alert" className="text-amber">
          “{told.same.name}” does the same to {plural(told.same.count, "point")} of these already: they would be moved
          twice.
        </p>
      )}
      <table className="plain mt-1" aria-label="Before and after">
        <thead>
          <tr>
            <th>Point</th>
            {(job.order === "EN" ? ["Easting", "Northing"] : ["Northing", "Easting"]).map((w) => (
              <th key={w} className="num" colSpan={2}>
                {w} before and after
              </th>
            ))}
            <th className="num" colSpan={2}>
              Elevation before and after
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map(({ id, before, after }) => (
            <tr key={id}>
              <td>
                <PointButton row={rowOf(t, id)} />
              </td>
              {(job.order === "EN" ? [0, 1, 2] : [1, 0, 2]).flatMap((k) => [
                <td key={`b${k}`} className="num text-soft">
                  {Number.isNaN(before[k]!) ? "–" : formatFixed(before[k]!, d)}
                </td>,
                <td key={`a${k}`} className="num">
                  {Number.isNaN(after[k]!) ? "–" : formatFixed(after[k]!, d)}
                </td>,
              ])}
            </tr>
          ))}
        </tbody>
      </table>
      {told.rows.length > FIRST && (
        <button type="button" className="button button-plain h-6 px-1" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "The first few" : `The first ${grouped(told.rows.length)} of ${grouped(told.count)}`}
        </button>
      )}
    </div>
  );
}

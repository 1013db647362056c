"use client";
/** The pieces of a line, and why each is there. */
import { useEffect, useState } from "react";
import { settingOf } from "@bramble/core";
import type { PieceFacts } from "@bramble/core/lines/explain";
import { lineName } from "@bramble/core/lines/model";
import { directionText } from "@bramble/core/math/angles";
import { formatFixed } from "@bramble/core/math/round";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import type { LineShown } from "../../lib/view";

/** Of a long line the first are listed. */
const MOST = 500;

export function Pieces({ line }: { line: LineShown }) {
  const { job, view, ask } = useParts("job", "view", "ask");
  const [pieces, setPieces] = useState<PieceFacts[]>();
  useEffect(() => {
    let here = true;
    void ask({ what: "pieces", line: line.key }).then((p) => here && setPieces(p));
    return () => void (here = false);
  }, [line.key, view.lines, ask]);
  const d = decimalsOf(job.unit),
    name = (i: number) => (i < 0 ? "corner" : job.points.number[i]);
  if (!pieces) return null;
  return (
    <>
      <table className="plain mt-1 [&_td]:px-1.5 [&_th]:px-1.5" aria-label={`Pieces of ${lineName(line)}`}>
        <thead>
          <tr>
            <th>From, to</th>
            <th>Is</th>
            <th className="num">Plan {job.unit}</th>
            <th className="num">Slope {job.unit}</th>
            <th className="num">Direction</th>
            <th className="num">Rise</th>
            <th>Why</th>
          </tr>
        </thead>
        <tbody>
          {pieces.slice(0, MOST).map((p, k) => (
            <tr key={k}>
              <td className="whitespace-nowrap">
                {name(p.from)}, {name(p.to)}
              </td>
              <td className="whitespace-nowrap text-soft">
                {p.type}
                {p.radius !== undefined ? ` r ${formatFixed(p.radius, 2)}` : ""}
              </td>
              <td className="num">{formatFixed(p.length, d)}</td>
              <td className="num">{Number.isNaN(p.slopeLength) ? "–" : formatFixed(p.slopeLength, d)}</td>
              <td className="num whitespace-nowrap">{directionText(p.azimuth, settingOf(job, "angle"))}</td>
              <td className="num">{Number.isNaN(p.rise) ? "–" : formatFixed(p.rise, d).replace("-", "−")}</td>
              <td className="max-w-44 truncate text-soft" title={p.why}>
                {p.why}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {pieces.length > MOST && <p className="text-soft">and {pieces.length - MOST} more pieces</p>}
    </>
  );
}

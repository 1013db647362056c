"use client";
/** The shots that move a comparison most: each one key from its story. */
import { formatFixed } from "@bramble/core/math/round";
import { PointButton } from "../../controls/PointButton";
import { useParts } from "../../lib/store";
import { volumeFigure, volumeUnitShort } from "../../lib/units-shown";
import type { VolumeLooked } from "../../lib/view";

export function Shots({ looked }: { looked: VolumeLooked | undefined }) {
  const { job, view } = useParts("job", "view"),
    { points: t, unit: u } = job,
    most = looked?.opinions.precision?.most ?? [];
  if (most.length === 0) return null;
  const short = volumeUnitShort(u, job.volumeUnit),
    // A hundredth of the unit is a step that people feel.
    step = 0.01;
  return (
    <section aria-label="Shots that move it most" className="mt-5">
      <h3 className="heading">Shots that move it most</h3>
      <table className="plain mt-1">
        <thead>
          <tr>
            <th>Point</th>
            <th>Code</th>
            <th className="num">Level, {u}</th>
            <th className="num">±, {u}</th>
            <th className="num">
              Net for {step} {u} up, {short}
            </th>
            <th className="num">Its part of ±, {short}</th>
          </tr>
        </thead>
        <tbody>
          {most.map(({ row, net, sigma }) => (
            <tr key={t.id[row]}>
              <td>
                <PointButton row={row} />
              </td>
              <td>{view.codes[view.code[row]!]}</td>
              <td className="num">{formatFixed(t.z[row]!, 3)}</td>
              <td className="num">{formatFixed(sigma, 3)}</td>
              <td className="num">{volumeFigure(step * net, u, job.volumeUnit)}</td>
              <td className="num">{volumeFigure(Math.abs(net * sigma), u, job.volumeUnit)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

"use client";
/** The contours of a surface: their interval, what is drawn of them, and how long they are. */
import type { ContoursRecipe } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { useParts } from "../../lib/store";
import { BEFORE } from "../../lib/use-known";
import { LengthField } from "../../controls/fields/fields";
import { Look } from "./Look";
import { Choice } from "../../controls/fields/Choice";
import { Tick } from "../../controls/fields/Tick";

export function Contours({ surface }: { surface: string }) {
  const { job, view, layers, toggle, change, deriving, stopped } = useParts(
    "job",
    "view",
    "layers",
    "toggle",
    "change",
    "deriving",
    "stopped",
  );
  const contours = job.contours.find((c) => c.surface === surface),
    shown = view.contours.find((c) => c.name === surface)?.value,
    u = job.unit;
  const editContours = (part: Partial<ContoursRecipe>) =>
    void change({
      type: "named",
      part: "contours",
      name: surface,
      old: contours ?? null,
      new: { surface, interval: 1, index: 5, base: 0, ...contours, ...part },
    });
  return (
    <>
      <h2 className="heading mt-6">Contours</h2>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <LengthField
          label={`Interval, ${u}`}
          value={contours?.interval ?? 1}
          unit={u}
          positive
          onChange={(interval) => editContours({ interval })}
        />
        <Choice
          label="Index contour every"
          value={contours?.index ?? 5}
          onChange={(v) => editContours({ index: v })}
          options={[0, 2, 4, 5, 10].map((k) => [k, k === 0 ? "none" : k === 2 ? "2nd" : `${k}th`] as const)}
        />
        <LengthField
          label={`Counted from, ${u}`}
          value={contours?.base ?? 0}
          unit={u}
          onChange={(base) => editContours({ base })}
        />
      </div>
      <div className="mt-3 flex flex-wrap gap-4">
        {(
          [
            ["contours", "Contours drawn"],
            ["labels", "Labels"],
            ["edge", "Edge drawn"],
            ["triangles", "Triangles drawn"],
          ] as const
        ).map(([key, name]) => (
          <Tick key={key} words={name} on={layers[key]} set={() => toggle(key)} className="flex items-center gap-2" />
        ))}
      </div>
      <Look surface={surface} />
      {shown && (
        <table className={`plain mt-4 ${deriving || stopped ? BEFORE : ""}`}>
          <thead>
            <tr>
              <th className="num">Level {u}</th>
              <th>
                <span className="sr-only">Kind</span>
              </th>
              <th className="num">Lines</th>
              <th className="num">Closed</th>
              <th className="num">Length {u}</th>
            </tr>
          </thead>
          <tbody>
            {shown.levels.slice(0, 200).map((l) => (
              <tr key={l.level} className={l.index ? "font-medium" : ""}>
                <td className="num">{formatFixed(l.level, 2)}</td>
                <td className="text-soft">{l.index ? "index" : ""}</td>
                <td className="num">{l.lines}</td>
                <td className="num">{l.closed}</td>
                <td className="num">{formatFixed(l.length, 1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

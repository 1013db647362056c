"use client";
/** A look at a file before it is made, worked out beside the page: it follows every change of the job. */
import { useEffect, useRef, useState } from "react";
import type { HandoverFile, PlanFile, Preview } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import { useParts } from "../../lib/store";
import { grouped } from "../../lib/units-shown";
import { Failed } from "../Bench";
import type { Edit } from "./edit";
import { PlanPages } from "./PlanPages";

export function PreviewOf({ file, edit }: { file: HandoverFile; edit: Edit }) {
  const { ask, view } = useParts("ask", "view"),
    [seen, setSeen] = useState<Preview | { problem: string }>();
  useEffect(() => {
    let wanted = true;
    void ask({ what: "file", file }).then((is) => wanted && is && setSeen(is));
    return () => void (wanted = false);
  }, [ask, file, view]);
  if (!seen) return <p className="late mt-3 text-soft">Looking …</p>;
  if ("problem" in seen) return <Failed>{seen.problem}</Failed>;
  switch (seen.as) {
    case "rows":
      return (
        <>
          <Lines text={seen.rows ? seen.text : "No row: the file would be empty."} label="First rows of the file" />
          <p className="mt-1 text-soft">{plural(seen.rows, "row")} in all</p>
        </>
      );
    case "text":
      return <Lines text={`${seen.text}\n…`} label="Beginning of the file" />;
    case "sheets":
      return seen.sheets.map((s) => <SheetOf key={s.name} sheet={s} whole={s.name === "questions"} />);
    case "drawing":
      return <Drawing seen={seen} />;
    case "pages":
      return file.format === "pdf" ? <PlanPages file={file} seen={seen} edit={edit as Edit<PlanFile>} /> : null;
    case "facts":
      return (
        <dl className="rows mt-3">
          {seen.facts.map(([what, value]) => (
            <div key={what} className="row gap-4">
              <dt className="w-56 shrink-0 truncate text-soft">{what}</dt>
              <dd className="min-w-0 truncate" title={value}>
                {value}
              </dd>
            </div>
          ))}
        </dl>
      );
  }
}

function Lines({ text, label }: { text: string; label: string }) {
  return (
    <pre
      className="mt-3 overflow-x-auto border border-rule bg-sheet p-3 text-[12px] leading-5 tabular-nums"
      aria-label={label}
    >
      {text}
    </pre>
  );
}

function SheetOf({ sheet, whole }: { whole: boolean; sheet: Extract<Preview, { as: "sheets" }>["sheets"][number] }) {
  return (
    <figure className="mt-3">
      <figcaption className="label">
        {whole ? plural(sheet.count, "question") : `Sheet “${sheet.name}”, ${plural(sheet.count, "row")}`}
      </figcaption>
      <div className="overflow-x-auto border border-rule bg-sheet">
        <table className="plain tabular-nums">
          <thead>
            <tr>
              {sheet.titles.map((t) => (
                <th key={t}>{t}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {sheet.rows.slice(0, whole ? undefined : 4).map((row, k) => (
              <tr key={k}>
                {row.map((cell, c) => (
                  <td key={c} className={whole ? "py-1 align-top" : "max-w-48 truncate"}>
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </figure>
  );
}

function Drawing({ seen }: { seen: Extract<Preview, { as: "drawing" }> }) {
  return (
    <div className="mt-3 flex flex-wrap items-start gap-5">
      <PlanPicture plan={seen.plan} />
      <table className="plain w-auto! min-w-56">
        <thead>
          <tr>
            <th>What it holds</th>
            <th className="num">Count</th>
          </tr>
        </thead>
        <tbody>
          {seen.holds.map(([what, count]) => (
            <tr key={what}>
              <td>{what}</td>
              <td className="num">{grouped(count)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Pixels of the larger side, and round it. */
const SIZE = 240,
  EDGE = 8;

function PlanPicture({ plan }: { plan: Extract<Preview, { as: "drawing" }>["plan"] }) {
  const canvas = useRef<HTMLCanvasElement>(null),
    [width, height] = [plan.width, plan.height].map((x) => 2 * EDGE + SIZE * x) as [number, number];
  useEffect(() => {
    const to = canvas.current?.getContext("2d");
    if (!to) return;
    const scale = window.devicePixelRatio || 1,
      x = (v: number) => EDGE + v * SIZE,
      y = (v: number) => height - EDGE - v * SIZE;
    to.setTransform(scale, 0, 0, scale, 0, 0);
    to.clearRect(0, 0, width, height);
    to.fillStyle = "#8a7d80";
    for (let k = 0; k < plan.points.length; k += 2)
      to.fillRect(x(plan.points[k]!) - 0.5, y(plan.points[k + 1]!) - 0.5, 1, 1);
    to.lineWidth = 0.8;
    for (const { color, xy } of plan.ways) {
      to.strokeStyle = color;
      to.beginPath();
      for (let k = 0; k < xy.length; k += 2) to.lineTo(x(xy[k]!), y(xy[k + 1]!));
      to.stroke();
    }
  }, [plan, width, height]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="Plan of what the file holds"
      className="border border-rule bg-white"
      style={{ width, height }}
      width={width * (globalThis.window?.devicePixelRatio ?? 1)}
      height={height * (globalThis.window?.devicePixelRatio ?? 1)}
    />
  );
}

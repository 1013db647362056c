"use client";
/** The table of stations of a line, of the job or of a file: seen, and saved as text. */
import { useEffect, useState } from "react";
import { settingOf } from "@bramble/core";
import { directionText } from "@bramble/core/math/angles";
import { formatFixed } from "@bramble/core/math/round";
import { stationText } from "@bramble/core/math/station-text";
import type { DesignLine } from "@bramble/core/volumes/along-way";
import type { StationRow } from "@bramble/core/volumes/station-table";
import { designLineText } from "@bramble/core/volumes/words";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { LengthField } from "../../controls/fields/fields";
import { unless } from "../../controls/unless";

const SHOWN = 300;

export function Stations({ line, unfolded = false }: { line: DesignLine; unfolded?: boolean }) {
  const { job, view, surface, ask } = useParts("job", "view", "surface", "ask"),
    u = job.unit,
    d = decimalsOf(u),
    style = settingOf(job, "stations"),
    angle = settingOf(job, "angle"),
    [open, setOpen] = useState(unfolded),
    [every, setEvery] = useState(u === "m" ? 20 : 50),
    [found, setFound] = useState<{ rows?: StationRow[]; problem?: string }>(),
    key = JSON.stringify(line);
  useEffect(() => {
    if (!open) return;
    let current = true;
    void ask({ what: "stations", line: JSON.parse(key) as DesignLine, every, surface }).then(
      (answer) => current && setFound(answer),
    );
    return () => {
      current = false;
    };
  }, [open, key, every, surface, ask, view.lines, view.surfaces]);
  const rows = found?.rows ?? [],
    number = (x: number) => (Number.isNaN(x) ? "–" : formatFixed(x, d)),
    pair = (r: StationRow) => (job.order === "NE" ? [r.n, r.e] : [r.e, r.n]),
    heads = [
      "Station",
      ...(job.order === "NE" ? ["Northing", "Easting"] : ["Easting", "Northing"]),
      "Direction",
      "Its level",
      ...(surface ? [surface] : []),
    ],
    cells = (r: StationRow) => [
      stationText(r.station, u, style),
      ...pair(r).map(number),
      directionText(r.azimuth, angle),
      number(r.level),
      ...(surface ? [number(r.ground)] : []),
    ];
  const save = () => {
    const quoted = (s: string) => (/[",\n]/.test(s) ? `"${s.replaceAll('"', '""')}"` : s),
      text = [[...heads, "What"], ...rows.map((r) => [...cells(r).map((c) => (c === "–" ? "" : c)), r.what])]
        .map((row) => row.map(quoted).join(","))
        .join("\n"),
      url = URL.createObjectURL(new Blob([`${text}\n`], { type: "text/csv" })),
      a = document.createElement("a");
    a.href = url;
    a.download = `stations ${designLineText(line).replace(/[“”"/\\]/g, "")}.csv`;
    a.click();
    setTimeout(() => URL.revokeObjectURL(url), 10_000);
  };
  return (
    <details className={unfolded ? "mt-1" : "mt-3"} open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className={unfolded ? "sr-only" : "text-soft"}>Stations</summary>
      <div className="mt-1 flex flex-wrap items-end gap-3">
        <LengthField label={`Every, ${u}`} value={every} unit={u} positive width="w-24" onChange={setEvery} />
        <button className="button" {...unless(rows.length === 0 && "There is no row to save.")} onClick={save}>
          Save as a table
        </button>
      </div>
      {found?.problem && (
        <p role="alert" className="mt-1 text-amber">
          {found.problem}
        </p>
      )}
      {rows.length > 0 && (
        <div className="mt-2 overflow-x-auto">
          <table className="plain" aria-label={`Stations of ${designLineText(line)}`}>
            <thead>
              <tr>
                {heads.map((h) => (
                  <th key={h} className="num">
                    {h}
                  </th>
                ))}
                <th>
                  <span className="sr-only">What</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.slice(0, SHOWN).map((r) => (
                <tr key={r.station}>
                  {cells(r).map((c, k) => (
                    <td key={k} className="num whitespace-nowrap">
                      {c}
                    </td>
                  ))}
                  <td className="text-soft">{r.what === "even" ? "" : r.what}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {rows.length > SHOWN && <p className="text-soft">And {rows.length - SHOWN} more; the file has all.</p>}
        </div>
      )}
    </details>
  );
}

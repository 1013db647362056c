"use client";
/** One line under everything: where the cursor is, what is there, the scale, and whether all is saved. */
import { METRES } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { lineName } from "@bramble/core/lines/model";
import { useJob } from "../lib/store";
import { decimalsOf } from "../lib/units-shown";
import { useReadout } from "../sheet/readout-store";

export function Readout() {
  const { at, under, hit, scale } = useReadout();
  const { job, view, saving, deriving, derivedIn, surface } = useJob();
  const d = decimalsOf(job.unit);
  const northing = at ? formatFixed(at[1], d) : "–", easting = at ? formatFixed(at[0], d) : "–";
  const pair = job.order === "NE" ? [["N", northing], ["E", easting]] : [["E", easting], ["N", northing]];
  const what = !hit ? "" : "point" in hit
    ? `Point ${job.points.number[hit.point]}${view.codes[view.code[hit.point] ?? 0] ? ` · ${view.codes[view.code[hit.point]!]}` : ""}`
    : `Line ${view.lines[hit.line] ? lineName(view.lines[hit.line]!) : ""}`;
  return (
    <footer className="flex h-7 shrink-0 items-center gap-5 border-t border-rule px-4 text-[12px] tabular-nums" data-testid="readout">
      {pair.map(([k, v]) => <span key={k} className="w-28"><span className="text-soft">{k}</span> {v}</span>)}
      <span className="w-32"><span className="text-soft">Level</span> {under ? `${formatFixed(under.level, d)} ${job.unit}` : "–"}</span>
      <span className="w-24"><span className="text-soft">Slope</span> {under ? `${formatFixed(under.slope * 100, 1)} %` : "–"}</span>
      <span className="min-w-0 flex-1 truncate">{what}{!what && under && surface ? <span className="text-soft">on {surface}</span> : null}</span>
      <span className="text-soft">1 : {Math.round((METRES[job.unit] / scale) * (96 / 0.0254)).toLocaleString("en-GB").replaceAll(",", "\u202f")}</span>
      <span className="text-soft">{job.unit === "m" ? "metres" : job.unit === "ft" ? "international feet" : "US survey feet"}</span>
      <span className={saving || deriving ? "text-amber" : "text-leaf"} data-testid="saved" data-derived-in={derivedIn.toFixed(1)}>{saving ? "Saving …" : deriving ? "Following …" : "Saved"}</span>
    </footer>
  );
}

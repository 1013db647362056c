"use client";
/** What stands under the sheet when the page is printed: the job, the scale, the unit and the day. */
import { useSyncExternalStore } from "react";
import { METRES, UNIT_NAMES } from "@bramble/core";
import { useParts } from "../lib/store";
import { grouped } from "../lib/units-shown";
import { denominator } from "./camera";
import { useReadout } from "./readout-store";

const today = () => new Date().toLocaleDateString("en-GB", { dateStyle: "long" });

function whenPrinted(changed: () => void): () => void {
  window.addEventListener("beforeprint", changed);
  return () => window.removeEventListener("beforeprint", changed);
}

export function PrintedLine() {
  const { job, paperScale } = useParts("job", "paperScale");
  const scale = useReadout((s) => s.scale);
  const day = useSyncExternalStore(whenPrinted, today, () => "");
  const asSeen = Math.round(denominator({ e: 0, n: 0, width: 0, height: 0, scale }, METRES[job.unit]));
  return (
    <p className="hidden items-baseline gap-6 border-t border-ink pt-1 print:flex" data-testid="printed-line">
      <strong className="font-serif text-[15px]">{job.name}</strong>
      <span>1 : {grouped(paperScale ?? asSeen)}</span>
      <span>lengths in {UNIT_NAMES[job.unit]}s</span>
      {job.system && <span>{job.system}</span>}
      <span className="flex-1" />
      <span>{day}</span>
    </p>
  );
}

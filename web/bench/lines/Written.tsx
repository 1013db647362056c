"use client";
/** What is written along a line: bearing and distance of each piece, its name, the area of a closed one. */
import type { Added, LineMeasures, Measure } from "@bramble/core/drawing/added/model";
import { freeAddedName } from "@bramble/core/drawing/added/name";
import { lineRefOf } from "@bramble/core/lines/refs";
import { sameJson } from "@bramble/core/math/json";
import { useParts } from "../../lib/store";
import type { LineShown } from "../../lib/view";
import { Tick } from "../../controls/fields/Tick";

const WORDS: Record<Measure, string> = { bearing: "Bearings", distance: "Distances", area: "Area", name: "Name" };

export function Written({ line }: { line: LineShown }) {
  const { job, change } = useParts("job", "change");
  const ref = lineRefOf(line, { table: job.points, intakes: job.intakes });
  if (!ref) return null;
  const own = job.added.find((a): a is LineMeasures => "measures" in a && sameJson(a.measures, ref)),
    show = own?.show ?? [],
    may = (["bearing", "distance", "name", "area"] as const).filter((m) => m !== "area" || line.closed);
  const put = (measure: Measure, on: boolean) => {
    const next = may.filter((m) => (m === measure ? on : show.includes(m))),
      name = own?.name ?? freeAddedName("measures", job.added),
      after: Added | null = next.length ? { ...(own ?? { name, measures: ref }), show: next } : null;
    void change({ type: "named", part: "added", name, old: own ?? null, new: after });
  };
  return (
    <fieldset className="mt-3 flex flex-wrap gap-x-4" aria-label="Written along it">
      <legend className="label float-left mr-3 leading-6">Written along it</legend>
      {may.map((m) => (
        <Tick
          key={m}
          words={WORDS[m]}
          on={show.includes(m)}
          set={(on) => put(m, on)}
          className="flex h-6 items-center gap-1.5"
        />
      ))}
    </fieldset>
  );
}

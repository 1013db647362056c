"use client";
/** Asked once: what becomes of layers that are hidden on the sheet. The answer may be changed here. */
import { useParts } from "../../lib/store";
import { Radio } from "../../controls/fields/Tick";

export function HiddenLayers() {
  const { job, change } = useParts("job", "change");
  const { groups = [], layers = [], kinds = [] } = job.drawing?.hidden ?? {},
    surfaces = (job.drawing?.surfaces ?? []).filter((s) => s.hidden).map((s) => s.surface),
    hidden = [...groups, ...layers, ...kinds.map((k) => `all ${k}s`), ...surfaces],
    answer = job.hiddenLayers;
  if (hidden.length === 0) return null;
  const set = (next: "off" | "out") =>
    void change({ type: "setting", field: "hiddenLayers", old: answer ?? null, new: next });
  const option = (value: "off" | "out", words: string) => (
    <Radio group="hidden-layers" words={words} on={answer === value} set={() => set(value)} />
  );
  return (
    <fieldset
      className={`mb-4 border-l-2 px-3 py-2 ${answer ? "border-rule" : "border-amber bg-amber-wash"}`}
      aria-label="Hidden on the sheet"
    >
      <p>
        Hidden on the sheet: <span className="font-medium">{shortened(hidden)}</span>.{" "}
        {answer ? "In files:" : "How shall it leave? Until this is answered it leaves switched off."}
      </p>
      <div className="mt-1 flex flex-wrap gap-x-5">
        {option("off", "there, on layers that are switched off")}
        {option("out", "not there at all")}
      </div>
    </fieldset>
  );
}

const MOST_NAMED = 6;
const shortened = (all: readonly string[]) =>
  all.length <= MOST_NAMED
    ? all.join(", ")
    : `${all.slice(0, MOST_NAMED).join(", ")} and ${all.length - MOST_NAMED} more`;

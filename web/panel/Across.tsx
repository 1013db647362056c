"use client";
/** Sections one after another across an axis: which station, how far apart, how far to either side. */
import { settingOf } from "@bramble/core";
import { readStation, stationText } from "@bramble/core/math/station-text";
import { acrossWay, lengthOfWay } from "@bramble/core/surface/section";
import type { SectionLine } from "../lib/state/sheet";
import { useParts } from "../lib/store";
import { unless } from "../controls/unless";
import { numberReading, type Reading } from "../controls/fields/reading";
import { Taken } from "../controls/fields/Taken";

const DISTANCE = numberReading((x) => x > 0 && x < 1e6, "A length above 0."),
  STATION: Reading<number | undefined> = {
    write: () => "",
    read(text) {
      const value = readStation(text);
      return value === undefined ? { problem: "A station, such as 0+125.5 or 125.5." } : { value };
    },
  };

export function Across({ line, across }: { line: SectionLine; across: NonNullable<SectionLine["across"]> }) {
  const { job, set } = useParts("job", "set"),
    style = settingOf(job, "stations"),
    start = across.start ?? 0,
    end = lengthOfWay(across.axis);
  const put = (part: Partial<typeof across>) => {
    const next = { ...across, ...part },
      way = acrossWay(next.axis, next.station, next.half);
    if (way) set({ section: { ...line, way, across: next }, sectionAt: undefined });
  };
  // The last one stands at the axis's end, however the steps divide it.
  const steps = Math.ceil(end / across.every - 1e-9),
    k = Math.min(steps, Math.round(across.station / across.every)),
    go = (to: number) => put({ station: Math.min(end, Math.max(0, to * across.every)) });
  const number = (label: string, value: number, take: (x: number) => void) => (
    <label className="flex items-center gap-1">
      <span className="text-soft">{label}</span>
      <Taken
        label={label}
        named={false}
        back
        width="num w-14 px-1 text-[12px]"
        reading={DISTANCE}
        value={value}
        onChange={take}
      />
    </label>
  );
  return (
    <span
      role="group"
      aria-label={`Sections across ${across.name}`}
      className="flex items-center gap-2"
      onKeyDown={(event) => {
        if (event.target instanceof HTMLInputElement) return;
        if (event.key === "ArrowRight") go(k + 1);
        if (event.key === "ArrowLeft") go(k - 1);
      }}
    >
      <button
        className="button h-6 px-2"
        aria-label="Section before"
        {...unless(k === 0 && "This is the first section.")}
        onClick={() => go(k - 1)}
      >
        ‹
      </button>
      <span className="tabular-nums">
        at {stationText(start + across.station, job.unit, style, 2)} of {stationText(start + end, job.unit, style, 2)}{" "}
        {style === "plain" ? job.unit : ""}
      </span>
      <button
        className="button h-6 px-2"
        aria-label="Section after"
        {...unless(k >= steps && "This is the last section.")}
        onClick={() => go(k + 1)}
      >
        ›
      </button>
      <label className="flex items-center gap-1">
        <span className="text-soft">go to</span>
        <Taken
          key={across.station}
          label="Go to a station"
          named={false}
          back
          width="num w-20 px-1 text-[12px]"
          placeholder={stationText(start + across.station, job.unit, style, 2)}
          reading={STATION}
          value={undefined}
          onChange={(x) => x !== undefined && put({ station: Math.min(end, Math.max(0, x - start)) })}
        />
      </label>
      {number("every", across.every, (every) => put({ every }))}
      {number("to either side", across.half, (half) => put({ half }))}
    </span>
  );
}

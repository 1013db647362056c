"use client";
/** The section along the line drawn on the sheet: every surface, read by hovering, with where that is on the sheet. */
import { largest, smallest } from "@bramble/core/math/many";
import { useCallback, useMemo } from "react";
import { lengthText } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { levelOn, sectionOf, type Section } from "@bramble/core/surface/section";
import { Chart, chartText, type ChartOption } from "../../components/Chart";
import { useJob, useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { readerOf } from "../surface-reader";
import type { SheetColors } from "../theme";

interface Named {
  name: string;
  section: Section;
}

export function SectionPanel() {
  const { view, job, section, set } = useParts("view", "job", "section", "set");
  const line = section === "begun" ? undefined : section;
  const named = useMemo(
    (): Named[] =>
      line
        ? view.surfaces.flatMap(({ name, value }) =>
            value ? { name, section: sectionOf(value.surface, line.from, line.to, readerOf(value.surface)) } : [],
          )
        : [],
    [view.surfaces, line],
  );
  const length = line ? Math.hypot(line.to[0] - line.from[0], line.to[1] - line.from[1]) : 0,
    d = decimalsOf(job.unit);
  const hovered = useCallback(
    (station: number | undefined) => {
      const now = useJob.getState().section;
      if (!now || now === "begun") return;
      const t = station === undefined ? undefined : station / length;
      set({
        sectionAt:
          t === undefined
            ? undefined
            : [now.from[0] + t * (now.to[0] - now.from[0]), now.from[1] + t * (now.to[1] - now.from[1])],
      });
    },
    [length, set],
  );
  const optionOf = useCallback(
    (colors: SheetColors) => option(named, job.unit, d, length, colors),
    [named, job.unit, d, length],
  );
  if (!section) return null;
  const seen = named.filter((s) => s.section.station.length > 1);
  return (
    <aside
      aria-label="Section"
      className="flex h-56 shrink-0 flex-col border-t border-rule bg-paper print:hidden"
      onKeyDown={(event) => event.key === "Escape" && set({ section: undefined, sectionAt: undefined })}
    >
      <p className="flex h-8 items-center gap-3 overflow-hidden pl-4 pr-2 text-[12px] whitespace-nowrap">
        <span className="text-[13px] font-medium">Section</span>
        {line && <span className="tabular-nums text-soft">{lengthText(length, job.unit, 2)}</span>}
        <span className="flex min-w-0 flex-1 gap-3 overflow-hidden">
          {seen.map(({ name, section: s }, k) => (
            <span key={name} className="flex items-center gap-1.5 tabular-nums">
              <span
                aria-hidden
                className="h-0 w-5 border-t-2"
                style={{ borderColor: COLORS[k % COLORS.length], borderStyle: k % 2 ? "dashed" : "solid" }}
              />
              {name}
              <span className="text-soft">
                {formatFixed(smallest(known(s)), d)} to {formatFixed(largest(known(s)), d)}
              </span>
            </span>
          ))}
        </span>
        <button className="button button-plain h-6" onClick={() => set({ section: undefined, sectionAt: undefined })}>
          Close
        </button>
      </p>
      {!line ? (
        <p className="px-4 text-soft">Drag across the sheet: what lies under the line stands here.</p>
      ) : seen.length === 0 ? (
        <p className="px-4 text-soft">No surface lies under this line.</p>
      ) : (
        <Chart
          optionOf={optionOf}
          onStation={hovered}
          label={`Section of ${lengthText(length, job.unit, 2)}: ${seen.map((s) => `${s.name} from ${formatFixed(known(s.section)[0]!, d)} to ${formatFixed(known(s.section).at(-1)!, d)}`).join(", ")}`}
          className="min-h-0 flex-1"
        />
      )}
    </aside>
  );
}

const known = (s: Section) => s.level.filter((z) => !Number.isNaN(z));
const COLORS = ["#7c1f4f", "#2f7fa8", "#b3701a", "#3f6b35"];

function option(named: readonly Named[], unit: string, d: number, length: number, colors: SheetColors): ChartOption {
  const text = chartText(colors);
  const axis = (name: string, decimals: number) => ({
    type: "value",
    scale: true,
    name,
    nameTextStyle: text,
    axisLabel: { ...text, formatter: (x: number) => formatFixed(x, decimals).replace("-", "−") },
    axisLine: { onZero: false, lineStyle: { color: colors.rule } },
    splitLine: { lineStyle: { color: colors.rule, opacity: 0.5 } },
  });
  return {
    textStyle: text,
    grid: { left: 56, right: 18, top: 22, bottom: 26 },
    tooltip: {
      trigger: "axis",
      axisPointer: { type: "line", lineStyle: { color: colors.bramble } },
      backgroundColor: colors.sheet,
      borderColor: colors.rule,
      textStyle: { ...text, color: colors.ink, fontSize: 12 },
      formatter: (at: { axisValue: number }[]) => told(named, at[0]!.axisValue, unit, d),
    },
    xAxis: { ...axis("", 0), scale: false, min: 0, max: length, splitLine: { show: false } },
    yAxis: axis(`Level ${unit}`, 1),
    series: named.map(({ name, section: { station, level } }, k) => ({
      type: "line",
      name,
      showSymbol: false,
      lineStyle: { width: 1.8, color: COLORS[k % COLORS.length], type: k % 2 ? "dashed" : "solid" },
      itemStyle: { color: COLORS[k % COLORS.length] },
      data: station.map((x, i) => [x, Number.isNaN(level[i]!) ? null : level[i]!]),
    })),
  };
}

/** What stands at a station, in words: each surface, and how far the second lies above the first. */
function told(named: readonly Named[], station: number, unit: string, d: number): string {
  const levels = named.map((s) => levelOn(s.section, station)),
    lines = [`at ${formatFixed(station, 2)} ${unit}`];
  named.forEach(({ name }, k) => {
    if (Number.isNaN(levels[k]!)) return;
    const apart = k > 0 ? levels[k]! - levels[0]! : NaN,
      sign = apart < 0 ? "−" : "+";
    lines.push(
      `${escaped(name)} ${formatFixed(levels[k]!, d)}${Number.isNaN(apart) ? "" : ` (${sign}${formatFixed(Math.abs(apart), d)})`}`,
    );
  });
  return lines.join("<br>");
}

/** The tip is markup: what a person called a surface is text. */
const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

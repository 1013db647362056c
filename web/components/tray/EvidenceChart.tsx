"use client";
/** What a finding about levels rests on: a spike among its neighbours down the slope, a height run along its shots. */
import { useCallback } from "react";
import { lengthText, type Evidence, type Finding, type Unit } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { useParts } from "../../lib/store";
import type { SheetColors } from "../../lib/theme";
import { Chart, chartText, type ChartOption } from "../../controls/Chart";

export function EvidenceChart({ evidence, f }: { evidence: Evidence; f: Finding }) {
  const { job } = useParts("job"),
    { number } = job.points,
    { unit } = job;
  const draw = useCallback(
    (colors: SheetColors) =>
      evidence.what === "run"
        ? runOption(evidence, number, unit, colors)
        : sectionOption(evidence, number, unit, colors),
    [evidence, number, unit],
  );
  const label =
    evidence.what === "run"
      ? evidence.shift === undefined
        ? `By how much each of the ${f.points.length} shots is off what the shots round them say, and those before and after`
        : `The ${f.points.length} shots lie about ${lengthText(evidence.shift, unit, 2)} off what the shots round ` +
          "them say, those before and after about nothing"
      : `The shots round about say ${lengthText(evidence.predicted, unit, 2)}` +
        (evidence.own === undefined ? "" : `, the point itself ${lengthText(evidence.own, unit, 2)}`);
  return <Chart optionOf={draw} label={label} className="h-full w-[42%] shrink-0 border-r border-rule-soft" />;
}

type Section = Extract<Evidence, { what: "section" }>;
type Run = Extract<Evidence, { what: "run" }>;

const dots = (color: string, data: unknown[], size = 6) => ({
  type: "scatter",
  symbolSize: size,
  itemStyle: { color },
  data,
});

function axis(colors: SheetColors, name: string, decimals: number) {
  const text = chartText(colors);
  return {
    type: "value",
    scale: true,
    name,
    nameTextStyle: text,
    axisLabel: { ...text, hideOverlap: true, formatter: (x: number) => formatFixed(x, decimals).replace("-", "−") },
    axisLine: { onZero: false, lineStyle: { color: colors.rule } },
    splitLine: { lineStyle: { color: colors.rule, opacity: 0.5 } },
  };
}

function base(colors: SheetColors, below: string, unit: Unit): ChartOption {
  const text = chartText(colors);
  return {
    textStyle: text,
    grid: { left: 52, right: 14, top: 26, bottom: 34 },
    tooltip: {
      backgroundColor: colors.sheet,
      borderColor: colors.rule,
      textStyle: { ...text, color: colors.ink, fontSize: 12 },
      formatter: ({ data }: { data: [number, number, string] }) => `${data[2]}: ${lengthText(data[1], unit, 2)}`,
    },
    xAxis: { ...axis(colors, below, 0), nameLocation: "middle", nameGap: 20, splitLine: { show: false } },
  };
}

function sectionOption(e: Section, number: readonly string[], unit: Unit, colors: SheetColors): ChartOption {
  const text = chartText(colors),
    own = e.own === undefined ? [] : [[0, e.own, "as measured"]];
  return {
    ...base(colors, `${unit} down the slope`, unit),
    yAxis: axis(colors, `Level ${unit}`, 1),
    series: [
      dots(
        colors.ink,
        e.shots.map((s) => [s.along, s.level, `Point ${number[s.row]}`]),
      ),
      {
        ...dots(colors.amber, own, 11),
        label: { ...text, show: true, position: "right", formatter: "measured", color: colors.ink },
      },
      {
        ...dots(colors.bramble, [[0, e.predicted, "by its neighbours"]], 10),
        symbol: "diamond",
        label: { ...text, show: true, position: "right", formatter: "by neighbours", color: colors.ink },
      },
    ],
  };
}

function runOption(e: Run, number: readonly string[], unit: Unit, colors: SheetColors): ChartOption {
  const text = chartText(colors),
    data = (inside: boolean) =>
      e.shots.flatMap((s, k) => (s.inside === inside ? [[k + 1, s.residual, `Point ${number[s.row]}`]] : []));
  return {
    ...base(colors, "shots in their order", unit),
    yAxis: axis(colors, `Off by ${unit}`, 1),
    series: [
      dots(colors.soft, data(false), 5),
      {
        ...dots(colors.amber, data(true), 7),
        ...(e.shift !== undefined && {
          markLine: {
            silent: true,
            symbol: "none",
            lineStyle: { color: colors.bramble, type: "dashed" },
            label: { ...text, color: colors.ink, position: "insideEndTop", formatter: lengthText(e.shift, unit, 2) },
            data: [{ yAxis: e.shift }],
          },
        }),
      },
    ],
  };
}

"use client";
/** How the differences are spread: bars between the least and the most, those beyond the tolerance told apart. */
import { useCallback } from "react";
import type { AsBuilt, Unit } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { Chart, chartText, type ChartOption } from "../../controls/Chart";
import { roundStep } from "@bramble/core/math/round-step";
import { told } from "../../sheet/built";
import type { SheetColors } from "../../lib/theme";

const BARS = 24;

export interface Bar {
  from: number;
  to: number;
  count: number;
}

/** Bars of a round width over all differences; zero is the edge of one. */
export function barsOf(a: AsBuilt): Bar[] {
  const { min, max } = a.figures,
    step = roundStep(Math.max(max - min, a.tolerance / 2) / BARS),
    first = Math.floor(min / step),
    bars = Array.from({ length: Math.floor(max / step) - first + 1 }, (_, k): Bar => ({
      from: (first + k) * step,
      to: (first + k + 1) * step,
      count: 0,
    }));
  for (let k = 0; k < a.rows.length; k++) {
    const x = told(a, k);
    if (!Number.isNaN(x)) bars[Math.floor(x / step) - first]!.count++;
  }
  return bars;
}

export function BuiltChart({ of: a, unit }: { of: AsBuilt; unit: Unit }) {
  const draw = useCallback((colors: SheetColors) => optionOf(a, unit, colors), [a, unit]);
  return (
    <Chart
      optionOf={draw}
      label={`Differences of ${a.figures.count} points from ${formatFixed(a.figures.min, 3)} to ${formatFixed(a.figures.max, 3)} ${unit}`}
      className="mt-2 h-44 w-full"
    />
  );
}

function optionOf(a: AsBuilt, unit: Unit, colors: SheetColors): ChartOption {
  const text = chartText(colors),
    bars = barsOf(a),
    width = bars[0] ? bars[0].to - bars[0].from : 1,
    decimals = Math.max(0, -Math.floor(Math.log10(width) + 1e-9)),
    line = { color: colors.bramble, type: "dashed", width: 1 };
  return {
    textStyle: text,
    grid: { left: 44, right: 18, top: 14, bottom: 36 },
    tooltip: {
      trigger: "item",
      backgroundColor: colors.sheet,
      borderColor: colors.rule,
      textStyle: { ...text, color: colors.ink, fontSize: 12 },
      formatter: ({ dataIndex }: { dataIndex: number }) => {
        const b = bars[dataIndex]!;
        return `${formatFixed(b.from, decimals)} to ${formatFixed(b.to, decimals)} ${unit}: ${b.count}`;
      },
    },
    xAxis: {
      type: "value",
      min: bars[0]?.from,
      max: bars.at(-1)?.to,
      name: unit,
      nameLocation: "middle",
      nameGap: 22,
      nameTextStyle: text,
      axisLabel: { ...text, formatter: (x: number) => formatFixed(x, decimals).replace("-", "−") },
      axisLine: { onZero: false, lineStyle: { color: colors.rule } },
      splitLine: { show: false },
    },
    yAxis: {
      type: "value",
      minInterval: 1,
      axisLine: { show: false },
      axisTick: { show: false },
      axisLabel: text,
      splitLine: { lineStyle: { color: colors.rule, opacity: 0.6 } },
    },
    series: [
      {
        type: "custom",
        renderItem: (_: unknown, api: { value(k: number): number; coord(p: number[]): number[]; style(): object }) => {
          const [x0, y] = api.coord([api.value(0), api.value(2)]) as [number, number],
            [x1, y0] = api.coord([api.value(1), 0]) as [number, number];
          return {
            type: "rect",
            shape: { x: x0 + 0.5, y, width: Math.max(1, x1 - x0 - 1), height: y0 - y },
            style: api.style(),
          };
        },
        data: bars.map((b) => {
          const middle = (b.from + b.to) / 2;
          return {
            value: [b.from, b.to, b.count],
            itemStyle: { color: Math.abs(middle) <= a.tolerance ? "#3f7a3a" : middle > 0 ? colors.cut : colors.fill },
          };
        }),
        encode: { x: [0, 1], y: 2 },
        markLine: {
          silent: true,
          symbol: "none",
          label: { show: false },
          data: [
            { xAxis: a.tolerance, lineStyle: line },
            { xAxis: -a.tolerance, lineStyle: line },
          ],
        },
      },
    ],
  };
}

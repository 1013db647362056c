"use client";
/** Cut and fill against the level, so that the level of balance is seen before it is typed. */
import { useCallback } from "react";
import { volumeFactor, type Unit, type VolumeUnit } from "@bramble/core";
import { formatFixed, formatGrouped } from "@bramble/core/math/round";
import type { VolumeCurve } from "@bramble/core/volumes/by-level";
import { volumeUnitShort } from "../../lib/units-shown";
import { Chart, chartText, type ChartOption } from "../../controls/Chart";
import type { SheetColors } from "../../lib/theme";

export function LevelChart({
  curve,
  level,
  unit,
  shown,
}: {
  curve: VolumeCurve;
  level: number;
  unit: Unit;
  /** The unit in which the job shows volumes. */
  shown: VolumeUnit;
}) {
  const draw = useCallback(
    (colors: SheetColors) => optionOf(curve, level, unit, shown, colors),
    [curve, level, unit, shown],
  );
  return (
    <figure className="mt-5">
      <figcaption className="heading">By level</figcaption>
      <Chart optionOf={draw} label="Cut falls and fill grows with the level" className="mt-1 h-52 w-full" />
    </figure>
  );
}

function optionOf(c: VolumeCurve, level: number, unit: Unit, shown: VolumeUnit, colors: SheetColors): ChartOption {
  const factor = volumeFactor(unit, shown),
    short = volumeUnitShort(unit, shown);
  const text = chartText(colors);
  const line = (name: string, values: number[], color: string, type: "solid" | "dashed") => ({
    name,
    type: "line",
    showSymbol: false,
    data: c.levels.map((l, k) => [l, values[k]! * factor]),
    lineStyle: { color, width: 2, type },
    itemStyle: { color },
    endLabel: undefined,
  });
  return {
    textStyle: text,
    grid: { left: 64, right: 20, top: 18, bottom: 36 },
    tooltip: {
      trigger: "axis",
      backgroundColor: colors.sheet,
      borderColor: colors.rule,
      textStyle: { ...text, color: colors.ink, fontSize: 12 },
      formatter: (items: { seriesName: string; data: [number, number] }[]) =>
        [
          `Level ${formatFixed(items[0]!.data[0], 2)} ${unit}`,
          ...items.map((i) => `${i.seriesName} ${formatGrouped(i.data[1], 0)} ${short}`),
        ].join("<br>"),
    },
    xAxis: {
      type: "value",
      min: c.levels[0],
      max: c.levels.at(-1),
      name: `Level ${unit}`,
      nameLocation: "middle",
      nameGap: 24,
      nameTextStyle: text,
      axisLabel: { ...text, showMinLabel: false, showMaxLabel: false, formatter: (x: number) => formatFixed(x, 0) },
      axisLine: { lineStyle: { color: colors.rule } },
      splitLine: { show: false },
    },
    yAxis: {
      type: "value",
      axisLabel: {
        ...text,
        formatter: (x: number) =>
          x >= 1e6 ? `${+(x / 1e6).toPrecision(3)} M` : x >= 1e3 ? `${+(x / 1e3).toPrecision(3)} k` : String(x),
      },
      name: short,
      nameTextStyle: text,
      nameGap: 6,
      splitLine: { lineStyle: { color: colors.rule, opacity: 0.6 } },
    },
    series: [
      {
        ...line("Cut", c.cut, colors.cut, "solid"),
        markLine: {
          silent: true,
          symbol: "none",
          label: {
            ...text,
            color: colors.bramble,
            formatter: `${formatFixed(level, 2)}`,
            position: "insideEndTop",
            rotate: 0,
            distance: 4,
          },
          lineStyle: { color: colors.bramble, type: "solid", width: 1 },
          data: [{ xAxis: level }],
        },
      },
      line("Fill", c.fill, colors.fill, "dashed"),
    ],
  };
}

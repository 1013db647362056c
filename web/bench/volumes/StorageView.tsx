"use client";
/** Storage by level: a slider that floods the sheet, the curve, and the table. */
import { useCallback, useEffect, useState } from "react";
import { volumeFactor, type Unit, type VolumeRecipe, type VolumeUnit } from "@bramble/core";
import { formatFixed, formatGrouped } from "@bramble/core/math/round";
import type { StorageRow, VolumeResult } from "@bramble/core/volumes/model";
import { Chart, chartText, type ChartOption } from "../../controls/Chart";
import { useParts } from "../../lib/store";
import { area, areaFigure, areaUnitShort, volume, volumeFigure, volumeUnitShort } from "../../lib/units-shown";
import type { SheetColors } from "../../lib/theme";
import { Slider } from "../../controls/fields/Slider";

export function StorageView({ recipe, result }: { recipe: VolumeRecipe; result: VolumeResult }) {
  const { job, flood, set, ask } = useParts("job", "flood", "set", "ask"),
    u = job.unit,
    rows = result.storage!,
    [low, high] = [rows[0]!.level, rows.at(-1)!.level],
    level = Math.min(high, Math.max(low, flood ?? high)),
    [held, setHeld] = useState<StorageRow>(rows.at(-1)!),
    decimals = u === "m" ? 3 : 2;
  useEffect(() => {
    let isLatest = true;
    void ask({ what: "storage", volume: recipe.name, level }).then((row) => {
      if (isLatest && row) setHeld(row);
    });
    return () => {
      isLatest = false;
    };
  }, [ask, recipe, level, result]);
  const draw = useCallback(
    (colors: SheetColors) => curveOf(rows, level, u, job.volumeUnit ?? "unit", colors),
    [rows, level, u, job.volumeUnit],
  );
  const step = 10 ** Math.floor(Math.log10((high - low) / 400));
  return (
    <>
      <label className="mt-4 flex items-center gap-3">
        <span className="label">Water level</span>
        <Slider
          label="Water level"
          className="min-w-40 flex-1"
          least={low}
          most={high}
          step={step}
          value={level}
          words={`${formatFixed(level, decimals)} ${u}`}
          drag={(to) => set({ flood: Math.min(high, to) })}
        />
        <span className="num w-20">
          {formatFixed(level, decimals)} {u}
        </span>
      </label>
      <p className="mt-1" data-testid="storage-held" data-level={held.level} data-volume={held.volume}>
        Holds <span className="font-semibold">{volume(held.volume, u, job.volumeUnit)}</span> on{" "}
        {area(held.area, u, job.areaUnit)}
        {held.area > 0 && `, ${formatFixed(held.volume / held.area, 2)} ${u} deep in the mean`}.
      </p>
      <Chart
        optionOf={draw}
        label={`Volume held grows with the level to ${volume(rows.at(-1)!.volume, u, job.volumeUnit)}`}
        className="mt-2 h-52 w-full"
      />
      <table className="plain mt-2" aria-label="Storage by level">
        <thead>
          <tr>
            <th className="num">Level, {u}</th>
            <th className="num">Area, {areaUnitShort(u, job.areaUnit)}</th>
            <th className="num">Volume, {volumeUnitShort(u, job.volumeUnit)}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr
              key={r.level}
              className="cursor-pointer"
              aria-selected={r.level === level}
              onClick={() => set({ flood: r.level })}
            >
              <td className="num">
                <button className="tabular-nums" onClick={() => set({ flood: r.level })}>
                  {formatFixed(r.level, decimals)}
                </button>
              </td>
              <td className="num">{areaFigure(r.area, u, job.areaUnit)}</td>
              <td className="num">{volumeFigure(r.volume, u, job.volumeUnit)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-soft">
        Exact over the triangles of “{recipe.storage}”. All that lies under the level counts, also what no water would
        reach: an area bounds the basin.
      </p>
    </>
  );
}

function curveOf(rows: StorageRow[], level: number, unit: Unit, shown: VolumeUnit, colors: SheetColors): ChartOption {
  const text = chartText(colors),
    factor = volumeFactor(unit, shown),
    decimals = unit === "m" ? 2 : 1;
  const axis = (name: string, more: object) => ({
    type: "value",
    name,
    nameTextStyle: text,
    axisLabel: { ...text, ...more },
    axisLine: { lineStyle: { color: colors.rule } },
    splitLine: { lineStyle: { color: colors.rule, opacity: 0.6 } },
  });
  return {
    textStyle: text,
    grid: { left: 64, right: 24, top: 24, bottom: 38 },
    tooltip: {
      trigger: "axis",
      backgroundColor: colors.sheet,
      borderColor: colors.rule,
      textStyle: { ...text, color: colors.ink, fontSize: 12 },
      formatter: ([item]: { data: [number, number] }[]) =>
        `Level ${formatFixed(item!.data[0], 2)} ${unit}<br>${formatGrouped(item!.data[1], 1)} ${volumeUnitShort(unit, shown)}`,
    },
    xAxis: {
      ...axis(`Level, ${unit}`, {
        showMinLabel: false,
        showMaxLabel: false,
        formatter: (x: number) => formatFixed(x, decimals),
      }),
      nameLocation: "middle",
      nameGap: 24,
      min: rows[0]!.level,
      max: rows.at(-1)!.level,
      splitLine: { show: false },
    },
    yAxis: axis(volumeUnitShort(unit, shown), { formatter: (x: number) => formatGrouped(x, x % 1 ? 1 : 0) }),
    series: [
      {
        name: "Volume",
        type: "line",
        showSymbol: false,
        smooth: false,
        data: rows.map((r) => [r.level, r.volume * factor]),
        lineStyle: { color: colors.fill, width: 2 },
        itemStyle: { color: colors.fill },
        areaStyle: { color: colors.fill, opacity: 0.12 },
        markLine: {
          silent: true,
          symbol: "none",
          label: { show: false },
          lineStyle: { color: colors.bramble, type: "solid", width: 1 },
          data: [{ xAxis: level }],
        },
      },
    ],
  };
}

/** The chart of a section: surfaces, a level, and the lines that cross it, to a chosen exaggeration. */
import { formatFixed } from "@bramble/core/math/round";
import { levelOn, type Section } from "@bramble/core/surface/section";
import { chartText, type ChartOption } from "../controls/Chart";
import type { SheetColors } from "../lib/theme";
import { decimalsFor, NAME_SIZE, nameSides } from "./section-names";

export interface Named {
  name: string;
  section: Section;
}

/** A line where it crosses: its name, colour, and level, that of the first surface where it has none of its own. */
export interface Crossing {
  name: string;
  color: string;
  station: number;
  level: number;
}

export interface SectionSeen {
  named: readonly Named[];
  crossings: readonly Crossing[];
  length: number;
  unit: string;
  decimals: number;
  /** How many times heights are drawn larger; 0 to fill the room. */
  heights: number;
}

export const SECTION_COLORS = ["#7c1f4f", "#2f7fa8", "#b3701a", "#3f6b35"];
const GRID = { left: 56, right: 18, top: 22, bottom: 26 };

export const known = (s: Section) => s.level.filter((z) => !Number.isNaN(z));

export function sectionOption(
  { named, crossings, length, unit, decimals: d, heights }: SectionSeen,
  colors: SheetColors,
  room: { width: number; height: number },
): ChartOption {
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
  const sides = nameSides(crossings, length, room.width - GRID.left - GRID.right),
    [low, high] = reachOf(named, crossings),
    seen = levelsSeen(low, high, length, heights, room),
    levels = axis(`Level ${unit}`, decimalsFor(seen.max === undefined ? high - low : seen.max - seen.min!)),
    // Room for the names below the lowest marks.
    levelAxis = {
      boundaryGap: ["12%", "6%"],
      ...levels,
      ...seen,
      axisLabel: { ...levels.axisLabel, ...seen.axisLabel },
    };
  return {
    textStyle: text,
    grid: GRID,
    tooltip: {
      trigger: "axis",
      axisPointer: { type: "line", lineStyle: { color: colors.bramble } },
      backgroundColor: colors.sheet,
      borderColor: colors.rule,
      textStyle: { ...text, color: colors.ink, fontSize: 12 },
      formatter: (at: { axisValue: number }[]) => told(named, crossings, at[0]!.axisValue, unit, d, length),
    },
    xAxis: { ...axis("", 0), scale: false, min: 0, max: length, splitLine: { show: false } },
    yAxis: levelAxis,
    series: [
      ...named.map(({ name, section: { station, level } }, k) => ({
        type: "line",
        name,
        showSymbol: false,
        lineStyle: { width: 1.8, color: SECTION_COLORS[k % SECTION_COLORS.length], type: k % 2 ? "dashed" : "solid" },
        itemStyle: { color: SECTION_COLORS[k % SECTION_COLORS.length] },
        data: station.map((x, i) => [x, Number.isNaN(level[i]!) ? null : level[i]!]),
      })),
      {
        type: "scatter",
        name: "lines",
        symbol: "diamond",
        symbolSize: 8,
        data: crossings.map((c, k) => ({
          value: [c.station, c.level],
          itemStyle: { color: c.color, borderColor: colors.sheet, borderWidth: 1 },
          label: {
            show: sides[k] !== undefined,
            position: sides[k],
            formatter: c.name,
            color: colors.ink,
            fontSize: NAME_SIZE,
          },
        })),
      },
    ],
  };
}

/** The lowest and the highest level that is drawn; none where nothing is. */
function reachOf(named: readonly Named[], crossings: readonly Crossing[]): [low: number, high: number] {
  let [low, high] = [Infinity, -Infinity];
  for (const z of [...named.flatMap((s) => known(s.section)), ...crossings.map((c) => c.level)])
    [low, high] = [Math.min(low, z), Math.max(high, z)];
  return [low, high];
}

/** The levels from which to which the chart goes: about the middle, so far that heights are as many times larger as wanted. */
function levelsSeen(
  low: number,
  high: number,
  length: number,
  heights: number,
  { width, height }: { width: number; height: number },
): { min?: number; max?: number; axisLabel?: object } {
  if (heights === 0 || low > high || length === 0) return {};
  const [w, h] = [Math.max(1, width - GRID.left - GRID.right), Math.max(1, height - GRID.top - GRID.bottom)],
    half = ((length / w) * h) / heights / 2,
    middle = (low + high) / 2;
  return { min: middle - half, max: middle + half, axisLabel: { showMinLabel: false, showMaxLabel: false } };
}

/** What stands at a station, in words: each surface, how far the second lies above the first, and a line that crosses near. */
function told(
  named: readonly Named[],
  crossings: readonly Crossing[],
  station: number,
  unit: string,
  d: number,
  length: number,
): string {
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
  for (const c of crossings)
    if (Math.abs(c.station - station) < length / 150)
      lines.push(`${escaped(c.name)} ${formatFixed(c.level, d)} at ${formatFixed(c.station, 2)}`);
  return lines.join("<br>");
}

/** The tip is markup: what a person called a surface is text. */
const escaped = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

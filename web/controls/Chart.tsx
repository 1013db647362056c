"use client";
/** A chart that follows its room and the theme; what it shows is said in words for those who do not see it. */
import { useEffect, useRef } from "react";
import { CustomChart, LineChart, ScatterChart } from "echarts/charts";
import { GridComponent, MarkLineComponent, TooltipComponent } from "echarts/components";
import * as echarts from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { sheetColors, type SheetColors } from "../lib/theme";

echarts.use([CustomChart, LineChart, ScatterChart, GridComponent, MarkLineComponent, TooltipComponent, SVGRenderer]);

export type ChartOption = echarts.EChartsCoreOption;

export function chartText(colors: SheetColors) {
  return { color: colors.soft, fontFamily: "Inter Variable", fontSize: 11 };
}

/** `optionOf` is asked again when it is another, and when the theme changes. */
export function Chart({
  optionOf,
  label,
  className,
  onStation,
}: {
  /** `room` is what the chart has, in pixels. */
  optionOf: (colors: SheetColors, room: { width: number; height: number }) => ChartOption;
  label: string;
  className: string;
  /** Told what value of the horizontal axis the pointer is at; undefined when it leaves. */
  onStation?: (x: number | undefined) => void;
}) {
  const element = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const chart = echarts.init(element.current!, undefined, { renderer: "svg" });
    const draw = () =>
      chart.setOption(
        {
          animation: false,
          ...optionOf(sheetColors(), { width: element.current!.clientWidth, height: element.current!.clientHeight }),
        },
        true,
      );
    draw();
    if (onStation) {
      chart.on("updateAxisPointer", (event) =>
        onStation(
          (event as { axesInfo?: { axisDim: string; value: number }[] }).axesInfo?.find((a) => a.axisDim === "x")
            ?.value,
        ),
      );
      chart.getZr().on("globalout", () => onStation(undefined));
    }
    const size = new ResizeObserver(() => {
      chart.resize();
      // What is drawn to a scale follows its room.
      if (optionOf.length > 1) draw();
    });
    size.observe(element.current!);
    const theme = new MutationObserver(draw);
    theme.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
    return () => {
      size.disconnect();
      theme.disconnect();
      chart.dispose();
    };
  }, [optionOf, onStation]);
  return <div ref={element} role="img" aria-label={label} className={className} />;
}

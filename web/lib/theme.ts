/** Colours of the sheet, read from the page so that one definition serves both themes. */
export interface SheetColors {
  sheet: string;
  ink: string;
  soft: string;
  rule: string;
  bramble: string;
  amber: string;
  dark: boolean;
  cut: string;
  fill: string;
  contour: string;
  contourIndex: string;
  triangle: string;
  edge: string;
}

export function sheetColors(): SheetColors {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string) => style.getPropertyValue(name).trim();
  const dark = document.documentElement.dataset.theme === "dark";
  return {
    sheet: of("--sheet"),
    ink: of("--ink"),
    soft: of("--ink-soft"),
    rule: of("--rule"),
    bramble: of("--bramble"),
    amber: of("--amber"),
    dark,
    cut: dark ? "#c9763f" : "#c8632b",
    fill: dark ? "#4f8fb3" : "#3b7ea6",
    contour: dark ? "#7d6847" : "#cbb48e",
    contourIndex: dark ? "#b3966a" : "#9c7c4d",
    edge: dark ? "#8a7f70" : "#8c8171",
    triangle: dark ? "#3d3831" : "#d8d0c2",
  };
}

/** A survey colour made light enough for the dark sheet. */
export function onSheet(color: string, dark: boolean): [number, number, number] {
  const value = Number.parseInt(color.slice(1), 16);
  const rgb = [(value >> 16) & 255, (value >> 8) & 255, value & 255].map((c) => c / 255) as [number, number, number];
  return dark ? (rgb.map((c) => 0.38 + 0.62 * c) as [number, number, number]) : rgb;
}

export function hex(color: string): [number, number, number] {
  return onSheet(color, false);
}

/** A colour (0 to 1) as #rrggbb. */
export function rgbText(color: readonly number[]): string {
  return `#${color
    .map((c) =>
      Math.round(c * 255)
        .toString(16)
        .padStart(2, "0"),
    )
    .join("")}`;
}

/**
 * Pixels for a millimetre of paper where the sheet is shown as it is seen: a little larger than paper, since screens
 * are read from farther away.
 */
export const SEEN = 5.6;

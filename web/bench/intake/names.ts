/** Words for what the readers know by short names. */
import type { ClashPolicy, Column, FixedColumn, Format, Layout } from "@bramble/core";

export const FORMAT_NAMES: Record<Format, string> = {
  delimited: "delimited text",
  fixed: "fixed-width text",
  landxml: "LandXML",
  geojson: "GeoJSON",
  sqlite: "SQLite or GeoPackage",
  dxf: "DXF",
  xlsx: "spreadsheet",
};

export const DELIMITERS: [string, string][] = [
  [",", "comma"],
  [";", "semicolon"],
  ["\t", "tab"],
  [" ", "blanks"],
  ["|", "bar"],
];

export const CLASHES: [ClashPolicy, string][] = [
  ["stop", "stop"],
  ["keep-first", "keep the first"],
  ["replace", "replace by the new"],
  ["add", "keep both, add to the new number"],
];

/** The columns of a layout with one of them given another meaning; a meaning stands over one column only. */
export function withMeaning(
  columns: readonly (Column | FixedColumn)[],
  k: number,
  meaning: Column,
): (Column | FixedColumn)[] {
  const count = Math.max(columns.length, k + 1);
  return Array.from({ length: count }, (_, i) => {
    const c = columns[i] ?? "skip",
      is = typeof c === "object" ? c.is : c;
    const next: Column = i === k ? meaning : is === meaning && meaning !== "skip" ? "skip" : is;
    return typeof c === "object" ? { ...c, is: next } : next;
  });
}

const OTHER: Partial<Record<Column, Column>> = {
  northing: "easting",
  easting: "northing",
  latitude: "longitude",
  longitude: "latitude",
};

export function exchanged(layout: Layout): Layout {
  return {
    ...layout,
    columns: layout.columns?.map((c) => (typeof c === "object" ? { ...c, is: OTHER[c.is] ?? c.is } : (OTHER[c] ?? c))),
  };
}

export function meaningOf(c: Column | FixedColumn | undefined): Column {
  return c === undefined ? "skip" : typeof c === "object" ? c.is : c;
}

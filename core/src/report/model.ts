/** A report as what it says, apart from how it is written: chapters of texts, tables and drawings. */
import type { DifferenceMap } from "../volumes/map";
import type { Section } from "../surface/section";

export interface Report {
  title: string;
  /** Who, when, of what job and which state of it. */
  facts: Facts;
  chapters: Chapter[];
}

export type Facts = [what: string, value: string][];

export interface Chapter {
  title: string;
  blocks: Block[];
}

export type Block =
  | { kind: "heading"; text: string }
  | { kind: "text"; text: string }
  | { kind: "facts"; rows: Facts }
  | TableBlock
  | MapBlock
  | SectionBlock
  | { kind: "curve"; title: string; x: string; y: string; points: [x: number, y: number][] }
  | { kind: "signatures"; roles: string[] };

export interface Column {
  title: string;
  /** Decimals of a column of numbers; a column without them holds texts. */
  decimals?: number;
}

export interface TableBlock {
  kind: "table";
  title: string;
  columns: Column[];
  /** Null: nothing to say. */
  rows: (string | number | null)[][];
}

/** Cut and fill in plan. */
export interface MapBlock {
  kind: "map";
  title: string;
  unit: string;
  map: DifferenceMap;
  /** Differences up to it do not count. */
  deadband: number;
  /** Rings E, N, E, N … of what is compared, and of the areas. */
  outline: number[][];
  areas: { name: string; ring: number[][] }[];
  /** Where the sections lie: E, N, E, N. */
  ways: { name: string; way: number[] }[];
  /** How areas of classes are written. */
  areaText(x: number): string;
}

/** One upright section with what is compared and the lines that it crosses. */
export interface SectionBlock {
  kind: "section";
  title: string;
  unit: string;
  profiles: { name: string; section: Section }[];
  crossed: { name: string; station: number; level: number }[];
  length: number;
}

/** How the sheet looks now, and what a form shows on it or asks of it. */
import type { Trial } from "@bramble/core";
import type { Snap } from "@bramble/core/lines/snap";
import type { Corner } from "@bramble/core/math/ring";
import type { PlanWay } from "@bramble/core/surface/section";
import type { Layout } from "@bramble/core/drawing/layout";
import type { ColorBy, GroundSeen, Light, OnlyThese } from "./choices";

/** What of the survey is drawn. */
export interface Layers {
  points: boolean;
  shots: boolean;
  numbers: boolean;
  notes: boolean;
  lines: boolean;
  contours: boolean;
  labels: boolean;
  triangles: boolean;
  edge: boolean;
  map: boolean;
  reference: boolean;
}

/** Picking on the sheet: what for, which positions are meant, and where the last one was. */
export interface Picking {
  hint: string;
  /** Points only, or any position that the eye means. */
  points: boolean;
  from?: [number, number];
  take(snap: Snap): void;
  /** Keys that mean something while it goes on, by their letters in small. */
  keys?: Readonly<Record<string, () => void>>;
  /** It was ended by Esc. */
  left?(): void;
}

/** A ring that is drawn on the sheet, and who takes it. */
export interface RingWanted {
  hint: string;
  take(corners: readonly (readonly [e: number, n: number])[]): void;
}

/** A ring whose corners are moved on the sheet, and who takes it as it is then. */
export interface CornersWanted {
  /** Tells whose ring it is. */
  of: string;
  ring: readonly Corner[];
  take(ring: readonly Corner[]): void;
}

/** A side or a triangle of the surface that is chosen on the sheet, and who takes the rows of its corners. */
export interface MeshWanted {
  what: "side" | "triangle";
  hint: string;
  take(rows: number[]): void;
}

/** A section along a way in plan; of those across an axis which one. */
export interface SectionLine {
  way: PlanWay;
  /** What it is called, where it is not just drawn. */
  name?: string;
  across?: {
    axis: PlanWay;
    name: string;
    /** Station at which the axis begins; `station` counts from there. */
    start?: number;
    station: number;
    every: number;
    half: number;
  };
}

export const SEEN_AS = { plan: "plan", both: "plan and 3D", relief: "3D" } as const;
export type SeenAs = keyof typeof SEEN_AS;

export interface SheetLook {
  layers: Layers;
  surface: string;
  volume: string;
  /** The as-built check whose points are seen on the sheet, with what is written beside them or not. */
  built: { name: string; texts: boolean } | undefined;
  /** The level up to which a storage is seen filled; undefined for its highest. */
  flood: number | undefined;
  /** Scale that sizes on paper are for, 1 : this; as the sheet is seen when there is none. */
  paperScale: number | undefined;
  /** Texts of the drawing at their positions, for one scale. */
  layout: Layout | undefined;
  /** The text of the drawing that is picked, by what tells it from others. */
  textPicked: string | undefined;
  /** Ways (E, N, E, N, …) of a line that is being drawn, shown before it is kept. */
  preview: readonly (readonly number[])[];
  /** Positions that would be made, with words beside them; the one that is meant. */
  marks: readonly { e: number; n: number; words: string; meant: boolean }[];
  /** What a repair that is looked at would make of contours and of cells of the table. */
  tried: Pick<Trial, "contours" | "cells" | "edges"> | undefined;
  /** What a click on the sheet is for now, instead of selecting. */
  picking: Picking | undefined;
  /** What a ring is drawn for now. */
  ring: RingWanted | undefined;
  /** Whose corners are moved now. */
  corners: CornersWanted | undefined;
  /** What of the surface is chosen now. */
  mesh: MeshWanted | undefined;
  /** Points of an intake that is looked at before it is taken in: east, north pairs. */
  incoming: Float64Array | undefined;
  /** What is shown alone, the rest faint; and the rows that it is now, 1 for each. */
  only: OnlyThese | undefined;
  onlyRows: Uint8Array | undefined;
  /** What colours mean; and the rows of the set, where they tell of one. */
  colorBy: ColorBy;
  setRows: Int32Array | undefined;
  /** A section across the surfaces: begun, then along a line; and the position on it that is read. */
  section: "begun" | SectionLine | undefined;
  sectionAt: readonly [number, number] | undefined;
  /** How the ground between points is seen. */
  groundSeen: GroundSeen;
  /** Whether the sheet is the plan, the relief, or both. */
  seenAs: SeenAs;
  /** How many times higher than they are heights stand in relief, as chosen or as the ground asks; where light comes from. */
  heights: number | undefined;
  light: Light;
  toggle(layer: keyof Layers, on?: boolean): void;
}

/** What a job just opened begins with; what is drawn stays as it was chosen. */

/**
 * What the graphics card draws, as one table: what each layer reads, how it is made, and when it is shown. A layer is
 * made anew when something that it reads is another, and at no other time.
 */
import { isDrawn } from "@bramble/core/drawing/layout";
import { Store } from "../lib/store";
import type { PlanScene } from "./scene";
import { PLAIN_COLOR } from "../lib/view";
import type { SheetColors } from "./theme";

export type SheetState = Pick<Store, "job" | "view" | "layers" | "surface" | "volume" | "incoming" | "jobId">;

export interface SheetLayer {
  /** The parts of the scene that it makes. */
  parts: readonly string[];
  reads(s: SheetState): readonly unknown[];
  make(scene: PlanScene, s: SheetState, colors: SheetColors): void;
  shown(s: SheetState): boolean;
}

const shownSurface = (s: SheetState) => s.view.surfaces.find((x) => x.name === s.surface)?.value?.surface;

/** The comparison on the map, and the surface that it is of. */
function mapOf(s: SheetState) {
  const recipe = s.job.volumes.find((x) => x.name === s.volume),
    result = s.view.volumes.find((x) => x.name === s.volume)?.value,
    source = s.view.surfaces.find((x) => x.name === recipe?.surface)?.value;
  return recipe && result && source ? { recipe, source } : undefined;
}

export const SHEET_LAYERS: readonly SheetLayer[] = [
  {
    parts: ["map"],
    reads: (s) => [s.layers.map, s.layers.map && mapOf(s)?.recipe, s.layers.map && mapOf(s)?.source],
    make(scene, s, colors) {
      const map = s.layers.map ? mapOf(s) : undefined;
      if (!map) return scene.setMap(undefined, undefined, colors);
      const { level, deadband = 0 } = map.recipe,
        { minZ, maxZ } = map.source.report;
      const largest = Math.max(Math.abs(level - minZ), Math.abs(level - maxZ));
      scene.setMap(map.source.surface, { level, deadband, largest }, colors);
    },
    shown: (s) => s.layers.map,
  },
  {
    parts: ["reference", "reference surfaces"],
    reads: (s) => [s.job.delivered],
    make(scene, s, colors) {
      scene.setReference(
        s.job.delivered.flatMap((d) => (d.reference ? [d.reference] : [])),
        colors,
      );
    },
    shown: (s) => s.layers.reference,
  },
  {
    parts: ["triangles"],
    reads: (s) => [s.layers.triangles ? shownSurface(s) : undefined],
    make: (scene, s, colors) => scene.setTriangles(s.layers.triangles ? shownSurface(s) : undefined, colors),
    shown: (s) => s.layers.triangles,
  },
  {
    parts: ["contours", "index contours"],
    reads: (s) => [s.view.contours],
    make(scene, s, colors) {
      scene.setContours(
        s.view.contours.flatMap((c) => (c.value ? [c.value.contours] : [])),
        colors,
      );
    },
    shown: (s) => s.layers.contours,
  },
  {
    parts: ["lines"],
    // The chains come with their lines.
    reads: (s) => [s.view.chains, s.view.lines, s.job.drawing?.hidden],
    make: (scene, s, colors) => scene.setLines(s.view, s.job.drawing?.hidden, colors),
    shown: (s) => s.layers.lines,
  },
  {
    parts: ["points"],
    // Places, codes and kinds: a level changed draws no point anew.
    reads: ({ job, view }) => {
      const { e, n, deleted, kind } = job.points;
      return [e, n, deleted, kind, view.code, view.codes, view.known, job.book, job.drawing?.hidden];
    },
    make(scene, { job, view }, colors) {
      const codes = job.book.codes ?? [];
      const colorOf = new Map(codes.map((c) => [c.code.toUpperCase(), c.color ?? PLAIN_COLOR]));
      const unseen = codes.filter(
        (c) => !isDrawn({ group: c.group ?? "", layer: c.layer ?? c.code, kind: c.kind }, job.drawing?.hidden),
      );
      scene.setPoints(job.points, view, colorOf, new Set(unseen.map((c) => c.code.toUpperCase())), colors);
    },
    shown: (s) => s.layers.points,
  },
  {
    parts: ["incoming"],
    reads: (s) => [s.incoming],
    make: (scene, s, colors) => scene.setIncoming(s.incoming, colors),
    shown: () => true,
  },
];

/**
 * What the plan is painted of, as one table: what each layer reads, how it is made, and when it is shown. A layer is
 * made anew when something that it reads is another, and at no other time.
 */
import type { SheetState } from "./state";
import { limitsOf, type SurfaceLook } from "@bramble/core";
import { isDrawn } from "@bramble/core/drawing/order";
import { lookOfSurface } from "@bramble/core/drawing/surface-look";
import type { Surface } from "@bramble/core/surface/model";
import { sameItems } from "../lib/last-of";
import { rowsOf } from "../lib/rows";
import { faintGround, lookOf } from "./look-now";
import { classesOf } from "./ground";
import { meaningOf } from "./meaning";
import type { Dots } from "./painting/dots";
import {
  contoursOf,
  edgeOf,
  farContoursOf,
  farLinesOf,
  groundOf,
  incomingOf,
  linesOf,
  mapOf,
  pointsOf,
  referenceOf,
  selectedOf,
  trianglesOf,
} from "./parts";
import type { PlanScene } from "./scene";
import { PLAIN_COLOR } from "../lib/view";
import type { SheetColors } from "../lib/theme";
import { leastOf, spacingNow, type Far } from "./thinning";

/** Rings round more selected points than this would hide the lines between them: they are dots. */
export const MANY_SELECTED = 60;

export interface SheetLayer<Scene = PlanScene> {
  /** The parts of the scene that it makes. */
  parts: readonly string[];
  reads(s: SheetState): readonly unknown[];
  make(scene: Scene, s: SheetState, colors: SheetColors): void;
  /** `far`: what is seen from so far away that it is drawn thinly. */
  shown(s: SheetState, far: Far): boolean;
}

/** Layers of a scene with what each was made of. */
export class LayerStock<Scene> {
  private readonly made = new Map<SheetLayer<Scene>, readonly unknown[]>();

  constructor(private readonly layers: readonly SheetLayer<Scene>[]) {}

  /** All are made anew when they are next brought. */
  clear(): void {
    this.made.clear();
  }

  /**
   * Makes what is shown and reads another thing than when it was made, for so long; false when some must wait for the
   * next frame.
   */
  bring(scene: Scene, s: SheetState, colors: SheetColors, milliseconds: number, far: Far): boolean {
    const begun = performance.now();
    for (const layer of this.layers) {
      if (!layer.shown(s, far)) continue;
      const reads = layer.reads(s),
        before = this.made.get(layer);
      if (before && sameItems(before, reads)) continue;
      if (performance.now() - begun > milliseconds) return false;
      layer.make(scene, s, colors);
      this.made.set(layer, reads);
    }
    return true;
  }
}

/** The surface that one is at, unless it is hidden. */
export const shownSurface = (s: SheetState) => shownSurfaces(s).find((x) => x.name === s.surface);

/** All surfaces that are made and not hidden. */
export function shownSurfaces(s: SheetState): Surface[] {
  return s.view.surfaces.flatMap(({ name, value }) =>
    value && !lookOfSurface(s.job.drawing, name).hidden ? [value.surface] : [],
  );
}

/** The map of the comparison that one is at, and how it is seen. */
export function mapNow(s: Pick<SheetState, "job" | "view" | "layers" | "volume" | "flood">) {
  const { looked } = s.view,
    recipe = s.job.volumes.find((x) => x.name === s.volume);
  if (!s.layers.map || !recipe || looked?.name !== s.volume || !looked.map) return undefined;
  return {
    recipe,
    map: looked.map,
    flood: recipe.storage === undefined ? undefined : (s.flood ?? (recipe.to as number)),
  };
}

/** How far shots may be apart in this job; 0 where nobody said, or where it does not matter now. */
export const apartOf = (s: Pick<SheetState, "job" | "groundSeen">) =>
  s.groundSeen === "spacing" ? limitsOf("shots-far-apart", s.job.checks, s.job.unit).apart : 0;

/** The classes in which the ground of a surface is seen now. */
export const classesNow = (s: Pick<SheetState, "job" | "groundSeen">, surface: Surface) =>
  classesOf(surface, s.groundSeen, s.job.unit, apartOf(s));

/** How contours of a surface look now: behind what is shown alone they have no colour of their own. */
export function contourLook(s: SheetState, surface: string): SurfaceLook {
  const look = lookOfSurface(s.job.drawing, surface);
  return s.onlyRows ? { ...look, color: undefined, indexColor: undefined } : look;
}

/** Colours of surfaces beside the one that one is at, where their contours have none. */
const GLASS_COLORS = ["#4a7d8c", "#8a5a83", "#5f7d45", "#a3653a"];

/** The colour in which a surface is seen beside the one that one is at: its own by its place among all. */
export function glassColor({ job, view }: Pick<SheetState, "job" | "view">, name: string): string {
  const index = view.surfaces.findIndex((x) => x.name === name);
  return lookOfSurface(job.drawing, name).color ?? GLASS_COLORS[index % GLASS_COLORS.length]!;
}

/** The texts of the sheet, where labels of contours are among what is shown. */
const labelsNow = (s: SheetState) => (s.layers.labels && !s.onlyRows ? s.layout : undefined);

export const spacingOf = ({ view }: Pick<SheetState, "view">) => spacingNow(view.chains, view.lines, view.contours);

/** Positions, codes and kinds: a level changed draws no point of the plan anew. */
export function readsOfDots(s: SheetState): readonly unknown[] {
  const { job, view } = s,
    { e, n, deleted, kind } = job.points,
    codes = [view.code, view.codes, view.known, job.book, job.drawing?.hidden];
  return [e, n, deleted, kind, ...codes, s.onlyRows, meaningOf(s.colorBy, s)];
}

/** The points in the colours that they have now. */
export function dotsNow(s: SheetState, colors: SheetColors): Dots {
  const { job, view } = s,
    codes = job.book.codes ?? [],
    colorOf = new Map(codes.map((c) => [c.code.toUpperCase(), c.color ?? PLAIN_COLOR]));
  const unseen = codes.filter(
    (c) => !isDrawn({ group: c.group ?? "", layer: c.layer ?? c.code, kind: c.kind }, job.drawing?.hidden),
  );
  const hidden = new Set(unseen.map((c) => c.code.toUpperCase()));
  return pointsOf(job.points, view, colorOf, hidden, lookOf(s, colors), colors);
}

/** A layer of the surfaces that are shown, each with what it makes of one of them; anew when points are shown alone. */
export const ofSurfaces = <Scene extends { put(name: string, parts: never): void }>(
  part: "triangles" | "edge",
  make: (scene: Scene, surface: Surface, s: SheetState, colors: SheetColors) => Parameters<Scene["put"]>[1],
): SheetLayer<Scene> => ({
  parts: [part],
  reads: (s) => (s.layers[part] ? [...shownSurfaces(s), s.onlyRows !== undefined] : []),
  make(scene, s, colors) {
    const seen = s.layers[part] ? shownSurfaces(s) : [];
    scene.put(part, seen.flatMap((surface) => make(scene, surface, s, colors)) as never);
  },
  shown: (s) => s.layers[part],
});

export const SHEET_LAYERS: readonly SheetLayer[] = [
  {
    parts: ["map"],
    // Of the recipe only what the picture shows: another level brings another map.
    reads: (s) => [mapNow(s)?.map, mapNow(s)?.recipe.deadband, mapNow(s)?.flood],
    make(scene, s, colors) {
      const now = mapNow(s);
      scene.put("map", now ? mapOf(now.map, now.recipe.deadband ?? 0, now.flood, colors, scene.origin) : []);
    },
    shown: (s) => s.layers.map,
  },
  {
    parts: ["ground"],
    reads: (s) => [s.groundSeen === "plain" ? undefined : shownSurface(s), s.groundSeen, apartOf(s)],
    make(scene, s, colors) {
      const surface = shownSurface(s),
        classes = surface && classesNow(s, surface);
      scene.put("ground", classes ? groundOf(surface, classes, s.groundSeen, colors, scene.origin) : []);
    },
    shown: (s) => s.groundSeen !== "plain",
  },
  {
    parts: ["reference", "reference surfaces"],
    reads: (s) => [s.job.delivered],
    make(scene, s, colors) {
      const given = s.job.delivered.flatMap((d) => (d.reference ? [d.reference] : []));
      const { lines, surfaces } = referenceOf(given, colors, scene.origin);
      scene.put("reference", lines);
      scene.put("reference surfaces", surfaces);
    },
    shown: (s) => s.layers.reference,
  },
  ofSurfaces<PlanScene>("triangles", (scene, surface, _, colors) => trianglesOf(surface, colors, scene.origin)),
  ofSurfaces<PlanScene>("edge", (scene, surface, s, colors) =>
    edgeOf(surface, s.onlyRows ? faintGround(colors) : colors, scene.origin),
  ),
  {
    parts: ["contours", "index contours"],
    reads: (s) => [s.view.contours, s.onlyRows !== undefined, s.job.drawing?.surfaces, labelsNow(s)],
    make(scene, s, all) {
      const colors = s.onlyRows ? faintGround(all) : all,
        list = s.view.contours.flatMap((c) => (c.value ? [c.value.contours] : []));
      const { plain, index } = contoursOf(list, (name) => contourLook(s, name), colors, scene.origin, labelsNow(s));
      scene.put("contours", plain);
      scene.put("index contours", index);
    },
    shown: (s, far) => s.layers.contours && !far.contours,
  },
  {
    parts: ["far contours"],
    reads: (s) => [s.view.contours, s.onlyRows !== undefined, s.job.drawing?.surfaces],
    make(scene, s, all) {
      const colors = s.onlyRows ? faintGround(all) : all,
        list = s.view.contours.flatMap((c) => (c.value ? [c.value.contours] : [])),
        least = leastOf(spacingOf(s), "contours");
      scene.put(
        "far contours",
        farContoursOf(list, (name) => contourLook(s, name), colors, scene.origin, least),
      );
    },
    shown: (s, far) => s.layers.contours && far.contours,
  },
  {
    parts: ["lines"],
    // The chains come with their lines.
    reads: (s) => [s.view.chains, s.view.lines, s.job.drawing?.hidden, s.onlyRows, meaningOf(s.colorBy, s)],
    make: (scene, s, colors) =>
      scene.put("lines", linesOf(s.view, s.job.drawing?.hidden, lookOf(s, colors), colors, scene.origin)),
    shown: (s, far) => s.layers.lines && !far.lines,
  },
  {
    parts: ["far lines"],
    reads: (s) => [s.view.chains, s.view.lines, s.job.drawing?.hidden, s.onlyRows, meaningOf(s.colorBy, s)],
    make(scene, s, colors) {
      const spacing = spacingOf(s),
        { hidden } = s.job.drawing ?? {},
        look = lookOf(s, colors),
        least = leastOf(spacing, "lines");
      scene.put("far lines", farLinesOf(s.view, hidden, look, colors, scene.origin, least, spacing.lines));
    },
    shown: (s, far) => s.layers.lines && far.lines,
  },
  {
    parts: ["points"],
    reads: readsOfDots,
    make: (scene, s, colors) => scene.putDots("points", dotsNow(s, colors)),
    shown: (s) => s.layers.points,
  },
  {
    parts: ["selected"],
    reads: (s) => [s.points, s.job.points.e, s.job.points.n, s.job.points.deleted],
    make(scene, s, colors) {
      const isMuch = s.points.size > MANY_SELECTED;
      scene.putDots("selected", isMuch ? selectedOf(s.job.points, rowsOf(s.job.points, s.points), colors) : undefined);
    },
    shown: () => true,
  },
  {
    parts: ["incoming"],
    reads: (s) => [s.incoming],
    make: (scene, s, colors) => scene.putDots("incoming", s.incoming && incomingOf(s.incoming, colors)),
    shown: () => true,
  },
];

/** What stands in the relief, in the one manner of the sheet: what each layer reads, how it is made, when it is shown. */
import type { PointTable } from "@bramble/core/points/table";
import { referencesOf } from "@bramble/core/job/model/reduce";
import type { Surface } from "@bramble/core/surface/model";
import { surfaceOfFile } from "../../lib/file-surface";
import {
  apartOf,
  classesNow,
  contourLook,
  mapNow,
  dotsNow,
  glassColor,
  readsOfDots,
  shownSurface,
  shownSurfaces,
  type SheetLayer,
  ofSurfaces,
} from "../layers";
import type { SheetState } from "../state";
import { faintGround, lookOf } from "../look-now";
import { meaningOf } from "../meaning";
import { contoursOf, edgeOf, linesOf, referenceOf, trianglesOf, type Origin } from "../parts";
import { MANY } from "./pieces";
import { readerOf } from "../surface-reader";
import type { Room } from "./orbit";
import { coarseGroundOf, glassOf, litGroundOf, plainGround, sidesOf, standingPointsOf, waterOf } from "./parts";
import type { ReliefScene } from "./scene";

/** A level where a position has one of its own, else that of the ground there; NaN where there is neither. */
const levelAt = (s: SheetState, e: number, n: number, own: number): number => {
  if (!Number.isNaN(own)) return own;
  const surface = shownSurface(s);
  return (surface && readerOf(surface).at(e, n)?.level) ?? NaN;
};

export const levelOfRow = (s: SheetState, i: number) =>
  levelAt(s, s.job.points.e[i]!, s.job.points.n[i]!, s.job.points.z[i]!);

export function levelOfVertex(s: SheetState, v: number): number {
  const { xyz } = s.view.chains;
  return levelAt(s, xyz[3 * v]!, xyz[3 * v + 1]!, xyz[3 * v + 2]!);
}

const originOf = (scene: ReliefScene): Origin => [...scene.origin, scene.base];

/** How far below the lowest level the sides of the ground go, as a share of its breadth. */
const PLINTH = 0.012;

/** What the surfaces that are seen, or else the points and lines, reach from and to. */
export function roomOf(s: SheetState): Room | undefined {
  const [first, ...others] = shownSurfaces(s).map(roomOfSurface);
  return first ? others.reduce(around, first) : roomOfPoints(s.job.points);
}

const around = (a: Room, b: Room): Room => ({
  minE: Math.min(a.minE, b.minE),
  minN: Math.min(a.minN, b.minN),
  minZ: Math.min(a.minZ, b.minZ),
  maxE: Math.max(a.maxE, b.maxE),
  maxN: Math.max(a.maxN, b.maxN),
  maxZ: Math.max(a.maxZ, b.maxZ),
});

const rooms = new WeakMap<object, Room>();

function roomOfSurface(surface: Surface): Room {
  let room = rooms.get(surface);
  if (!room) {
    const [oe, on] = surface.origin;
    room = roomAround(surface.x.length, (k) => [oe + surface.x[k]!, on + surface.y[k]!, surface.z[k]!])!;
    rooms.set(surface, room);
  }
  return room;
}

function roomOfPoints(t: PointTable): Room | undefined {
  return roomAround(t.count, (i) => [t.e[i]!, t.n[i]!, t.deleted[i] ? NaN : t.z[i]!]);
}

function roomAround(count: number, at: (k: number) => [number, number, number]): Room | undefined {
  const room: Room = {
    minE: Infinity,
    minN: Infinity,
    maxE: -Infinity,
    maxN: -Infinity,
    minZ: Infinity,
    maxZ: -Infinity,
  };
  for (let k = 0; k < count; k++) {
    const [e, n, z] = at(k);
    if (Number.isNaN(z)) continue;
    room.minE = Math.min(room.minE, e);
    room.maxE = Math.max(room.maxE, e);
    room.minN = Math.min(room.minN, n);
    room.maxN = Math.max(room.maxN, n);
    room.minZ = Math.min(room.minZ, z);
    room.maxZ = Math.max(room.maxZ, z);
  }
  return room.minE <= room.maxE ? room : undefined;
}

const breadth = (r: Room) => Math.hypot(r.maxE - r.minE, r.maxN - r.minN);

export const RELIEF_LAYERS: readonly SheetLayer<ReliefScene>[] = [
  {
    parts: ["ground", "coarse ground"],
    reads: (s) => [shownSurface(s), s.groundSeen, apartOf(s)],
    make(scene, s, colors) {
      const surface = shownSurface(s);
      if (!surface) {
        scene.put("ground", []);
        return scene.put("coarse ground", []);
      }
      const classes = classesNow(s, surface) ?? plainGround(colors),
        how = [surface, classes, s.groundSeen, colors, scene, originOf(scene)] as const;
      scene.put("ground", litGroundOf(...how));
      scene.put("coarse ground", surface.tri.length > MANY ? coarseGroundOf(...how) : []);
    },
    shown: () => true,
  },
  {
    parts: ["glass"],
    reads: (s) => [s.surface, s.job.drawing?.surfaces, ...shownSurfaces(s)],
    make(scene, s, colors) {
      const others = shownSurfaces(s).filter((x) => x.name !== s.surface);
      scene.put(
        "glass",
        others.flatMap((surface) => glassOf(surface, glassColor(s, surface.name), colors, scene, originOf(scene))),
      );
    },
    shown: () => true,
  },
  {
    parts: ["water"],
    reads: (s) => [mapNow(s)?.map, mapNow(s)?.flood],
    make(scene, s, colors) {
      const now = mapNow(s);
      scene.put("water", now?.flood === undefined ? [] : waterOf(now.map, now.flood, colors, originOf(scene)));
    },
    shown: (s) => s.layers.map,
  },
  {
    parts: ["reference", "reference surfaces"],
    reads: (s) => [s.job.delivered, s.job.surfaces, shownSurface(s)],
    make(scene, s, colors) {
      // Surfaces that the job has taken are seen as its own.
      const given = referencesOf(s.job).map(({ file, reference: { lines, surfaces } }) => ({
        lines,
        surfaces: surfaces.filter((x) => !surfaceOfFile(s.job, file, x.name)),
      }));
      const { lines, surfaces } = referenceOf(given, colors, originOf(scene), (e, n, own) => levelAt(s, e, n, own));
      scene.put("reference", lines);
      scene.put("reference surfaces", surfaces);
    },
    shown: (s) => s.layers.reference,
  },
  {
    parts: ["sides"],
    reads: (s) => [shownSurface(s)],
    make(scene, s, colors) {
      const surface = shownSurface(s);
      if (!surface) return scene.put("sides", []);
      const room = roomOfSurface(surface);
      scene.put("sides", sidesOf(surface, room.minZ - PLINTH * breadth(room), colors, scene, originOf(scene)));
    },
    shown: () => true,
  },
  ofSurfaces<ReliefScene>("triangles", (scene, surface, _, colors) => trianglesOf(surface, colors, originOf(scene))),
  ofSurfaces<ReliefScene>("edge", (scene, surface, _, colors) => edgeOf(surface, colors, originOf(scene))),
  {
    parts: ["contours", "index contours"],
    reads: (s) => [s.view.contours, s.onlyRows !== undefined, s.job.drawing?.surfaces],
    make(scene, s, all) {
      const colors = s.onlyRows ? faintGround(all) : all,
        list = s.view.contours.flatMap((c) => (c.value ? [c.value.contours] : []));
      const { plain, index } = contoursOf(list, (name) => contourLook(s, name), colors, originOf(scene));
      scene.put("contours", plain);
      scene.put("index contours", index);
    },
    shown: (s) => s.layers.contours,
  },
  {
    parts: ["lines"],
    reads: (s) => {
      const { chains, lines } = s.view;
      return [chains, lines, s.job.drawing?.hidden, s.onlyRows, meaningOf(s.colorBy, s), shownSurface(s)];
    },
    make(scene, s, colors) {
      const level = (v: number) => levelOfVertex(s, v),
        { hidden } = s.job.drawing ?? {};
      scene.put("lines", linesOf(s.view, hidden, lookOf(s, colors), colors, originOf(scene), level));
    },
    shown: (s) => s.layers.lines,
  },
  {
    parts: ["points"],
    reads: (s) => [...readsOfDots(s), s.job.points.z, shownSurface(s)],
    make(scene, s, colors) {
      const dots = dotsNow(s, colors);
      scene.spacing = dots.spacing;
      scene.put(
        "points",
        standingPointsOf(s.job.points, dots, (i) => levelOfRow(s, i), scene, originOf(scene)),
      );
    },
    shown: (s) => s.layers.points,
  },
];

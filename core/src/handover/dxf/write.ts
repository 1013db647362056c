/**
 * DXF of release 2007 (AC1021, UTF-8), the open ASCII form. Every line twice: as a 3D POLYLINE with its levels on its
 * code's layer (arcs as chords, the entity knows none), and as it is drawn in plan on LAYER-PLAN, arcs as arcs, with
 * its line type and marks. Symbols are blocks with attributes on LAYER-SYMBOLS, notes stand on LAYER-NOTES, contours
 * are LWPOLYLINE with their elevation, triangles 3DFACE on a layer that is switched off. Written by hand, so that the
 * output is a pure function of the job with handles of our own; no published writer was tried.
 */
import { codeOf } from "../../codes/read";
import type { Surface } from "../../surface/model";
import { descriptionOf } from "../../points/table";
import type { SurfaceLook } from "../../drawing/model";
import { lookOfSurface } from "../../drawing/surface-look";
import type { Contours } from "../../surface/contour";
import { filledLevels, lineFeatures, pointRows, vertexOf } from "../features";
import { isHidden } from "../source";
import type { DxfSource } from "./source";
import { Used, writePlan, writeTexts } from "./plan";
import { blocksSection, header, objects, PAPER, tables } from "./tables";
import { DxfText, Handles, LayerTable } from "./text";

export function writeDxf(source: DxfSource): Uint8Array {
  const handles = new Handles(),
    layers = new LayerTable(),
    used = new Used(handles, source.unitsPerMm);
  const body = new DxfText(handles);
  const byCode = new Map((source.book.codes ?? []).map((c) => [c.code.toUpperCase(), c]));
  const layerOf = (code: string) => {
    const entry = byCode.get(code);
    return layers.of(
      entry?.layer ?? (code || "POINTS"),
      entry?.color ?? PAPER,
      entry !== undefined && isHidden(source, entry),
    );
  };
  // What is written later lies above.
  const { triangles = true, contours = true } = source.file,
    lookOf = (surface: string) => lookOfSurface(source.drawing, surface),
    leaves = (surface: string) => !(source.hidden === "out" && lookOf(surface).hidden);
  if (triangles) for (const s of source.surfaces) if (leaves(s.name)) writeTriangles(body, s, lookOf(s.name), layers);
  if (contours)
    for (const c of source.contours) if (leaves(c.surface)) writeContours(body, c, lookOf(c.surface), layers);
  writePoints(body, source, layerOf, layers);
  writeLines(body, source, layers);
  writePlan(body, source, layers, used);
  writeTexts(body, source.layout, source.drawing, layers, source.unitsPerMm);

  // What goes round the entities is written last, when all that they use is known, and stands first.
  const blocks = [...used.blocks.values()],
    round = new DxfText(handles);
  tables(round, layers.all, [...used.styles.values()], blocks);
  blocksSection(round, handles, blocks);
  const out = new DxfText(handles);
  header(out, source, handles.free);
  out.raw(round);
  out.section("ENTITIES", () => out.raw(body));
  objects(out);
  out.pair(0, "EOF");
  return out.bytes();
}

function writePoints(body: DxfText, s: DxfSource, layerOf: (code: string) => string, layers: LayerTable): void {
  const { table: t } = s;
  // All numbers and descriptions are there and switched off: on paper the labels and notes speak.
  const numbers = layers.of("POINT-NUMBERS", PAPER, true);
  for (const i of pointRows(s)) {
    const e = t.e[i]!,
      n = t.n[i]!,
      z = Number.isNaN(t.z[i]!) ? 0 : t.z[i]!;
    // The format has no point without a level: those that have none, or a 0 that is no level, are set apart.
    body.entity(
      "POINT",
      Number.isNaN(t.z[i]!) || s.doubtful.has(i)
        ? layers.of("POINTS-WITHOUT-ELEVATION", PAPER)
        : layerOf(codeOf(s.coded, i)),
      "AcDbPoint",
    );
    body.position(10, e, n, z);
    body.text(
      numbers,
      e + s.textHeight * 0.6,
      n + s.textHeight * 0.4,
      z,
      s.textHeight,
      0,
      t.number[i]!,
      "start",
      "POINT-LABELS",
    );
    const description = descriptionOf(t, i);
    if (description)
      body.text(
        layers.of("POINT-DESCRIPTIONS", PAPER, true),
        e + s.textHeight * 0.6,
        n - s.textHeight * 1.2,
        z,
        s.textHeight,
        0,
        description,
        "start",
        "POINT-LABELS",
      );
  }
}

function writeLines(body: DxfText, s: DxfSource, layers: LayerTable): void {
  for (const { line, layer: name, xyz, closed, hidden } of lineFeatures(s)) {
    const to = xyz.length / 3 - (closed ? 1 : 0),
      layer = layers.of(name, line.entry.color ?? PAPER, hidden);
    body.color = s.ownNames.get(line.key)?.color;
    body.entity("POLYLINE", layer, "AcDb3dPolyline");
    body.pair(66, 1);
    body.position(10, 0, 0, 0);
    body.pair(70, closed ? 9 : 8);
    const levels = filledLevels(xyz, 0, to);
    for (let i = 0; i < to; i++) {
      body.entity("VERTEX", layer, "AcDbVertex");
      body.pair(100, "AcDb3dPolylineVertex");
      body.position(10, xyz[3 * i]!, xyz[3 * i + 1]!, levels?.[i] ?? 0);
      body.pair(70, 32);
    }
    body.entity("SEQEND", layer);
  }
  body.color = undefined;
}

/** Triangles of a surface as 3D faces; where contours show the ground their layer is there and switched off. */
function writeTriangles(body: DxfText, surface: Surface, look: SurfaceLook, layers: LayerTable): void {
  const layer = layers.of(`TRIANGLES-${surface.name}`, look.color ?? "#9b7b4f", true),
    { tri } = surface;
  for (let h = 0; h < tri.length; h += 3) {
    body.entity("3DFACE", layer, "AcDbFace");
    // The fourth corner repeats the third.
    for (const k of [0, 1, 2, 3]) body.position(10 + k, ...vertexOf(surface, tri[h + Math.min(k, 2)]!));
  }
}

function writeContours(body: DxfText, c: Contours, look: SurfaceLook, layers: LayerTable): void {
  const [oe, on] = c.origin;
  const plain = layers.of(`CONTOURS-${c.surface}`, look.color ?? "#9b7b4f", look.hidden, look.weight),
    main = layers.of(`CONTOURS-INDEX-${c.surface}`, look.indexColor ?? "#7a5a2e", look.hidden, look.indexWeight);
  for (let k = 0; k < c.level.length; k++) {
    const from = c.starts[k]!,
      to = c.starts[k + 1]! - (c.closed[k] ? 1 : 0);
    body.entity("LWPOLYLINE", c.index[k] ? main : plain, "AcDbPolyline");
    body.pair(90, to - from);
    body.pair(70, c.closed[k]!);
    body.pair(38, c.level[k]!);
    for (let i = from; i < to; i++) {
      body.pair(10, oe + c.xy[2 * i]!);
      body.pair(20, on + c.xy[2 * i + 1]!);
    }
  }
}

/**
 * DXF of release 2007 (AC1021, UTF-8), the open ASCII form. Every line twice: as a 3D POLYLINE with its levels on its
 * code's layer (arcs as chords, the entity knows none), and as it is drawn in plan on LAYER-PLAN, arcs as arcs, with
 * its line type and marks. Symbols are blocks with attributes on LAYER-SYMBOLS, notes stand on LAYER-NOTES, contours
 * are LWPOLYLINE with their elevation. Written by hand, so that the output is a pure function of the job with handles
 * of our own; no published writer was tried.
 */
import { codeOf } from "../../codes/read";
import type { Line } from "../../lines/model";
import { descriptionOf } from "../../points/table";
import type { SurfaceLook } from "../../drawing/model";
import { lookOfSurface } from "../../drawing/surface-look";
import type { Contours } from "../../surface/contour";
import type { DxfSource } from "./source";
import { Used, writePlan, writeTexts } from "./plan";
import { blocksSection, header, objects, PAPER, tables } from "./tables";
import { DxfText, Handles, LayerTable } from "./text";

export function writeDxf(source: DxfSource): string {
  const handles = new Handles(),
    layers = new LayerTable(),
    used = new Used(handles, source.unitsPerMm);
  const body = new DxfText(handles);
  const byCode = new Map((source.book.codes ?? []).map((c) => [c.code.toUpperCase(), c]));
  writePoints(
    body,
    source,
    (code) => layers.of(byCode.get(code)?.layer ?? (code || "POINTS"), byCode.get(code)?.color ?? PAPER),
    layers,
  );
  writeLines(body, source, (line) => layers.of(line.entry.layer ?? line.code, line.entry.color ?? PAPER));
  writePlan(body, source, layers, used);
  for (const c of source.contours) writeContours(body, c, lookOfSurface(source.drawing, c.surface), layers);
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
  return out.toString();
}

function writePoints(body: DxfText, s: DxfSource, layerOf: (code: string) => string, layers: LayerTable): void {
  const { table: t } = s;
  // All numbers and descriptions are there and switched off: on paper the labels and notes speak.
  const numbers = layers.of("POINT-NUMBERS", PAPER, true);
  for (const i of s.rows) {
    const e = t.e[i]!,
      n = t.n[i]!,
      z = Number.isNaN(t.z[i]!) ? 0 : t.z[i]!;
    // The format has no point without a level: those that have none are set apart, so that 0 is not taken for one.
    body.entity(
      "POINT",
      Number.isNaN(t.z[i]!) ? layers.of("POINTS-WITHOUT-ELEVATION", PAPER) : layerOf(codeOf(s.coded, i)),
      "AcDbPoint",
    );
    body.position(10, e, n, z);
    body.text(numbers, e + s.textHeight * 0.6, n + s.textHeight * 0.4, z, s.textHeight, 0, t.number[i]!);
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
      );
  }
}

function writeLines(body: DxfText, s: DxfSource, layerOf: (line: Line) => string): void {
  const { xyz, starts } = s.chains;
  s.lines.forEach((line, k) => {
    const from = starts[k]!,
      to = line.closed ? starts[k + 1]! - 1 : starts[k + 1]!;
    if (to - from < 2) return;
    const layer = layerOf(line);
    body.entity("POLYLINE", layer, "AcDb3dPolyline");
    body.pair(66, 1);
    body.position(10, 0, 0, 0);
    body.pair(70, line.closed ? 9 : 8);
    const levels = filledLevels(xyz, from, to);
    for (let i = from; i < to; i++) {
      body.entity("VERTEX", layer, "AcDbVertex");
      body.pair(100, "AcDb3dPolylineVertex");
      body.position(10, xyz[3 * i]!, xyz[3 * i + 1]!, levels[i - from]!);
      body.pair(70, 32);
    }
    body.entity("SEQEND", layer);
  });
}

/**
 * Levels of a line's vertices; one not known is taken linearly by plan length from its neighbours, at an end from the
 * nearest. 0 when none is known.
 */
function filledLevels(xyz: Float64Array, from: number, to: number): number[] {
  const levels = Array.from({ length: to - from }, (_, k) => xyz[3 * (from + k) + 2]!);
  const along = [0];
  for (let i = from + 1; i < to; i++)
    along.push(along.at(-1)! + Math.hypot(xyz[3 * i]! - xyz[3 * i - 3]!, xyz[3 * i + 1]! - xyz[3 * i - 2]!));
  const known = levels.flatMap((z, k) => (Number.isNaN(z) ? [] : [k]));
  return levels.map((z, k) => {
    if (!Number.isNaN(z)) return z;
    const after = known.find((j) => j > k),
      before = known.findLast((j) => j < k);
    if (before === undefined || after === undefined) return levels[before ?? after ?? -1] ?? 0;
    return (
      levels[before]! +
      ((levels[after]! - levels[before]!) * (along[k]! - along[before]!)) / (along[after]! - along[before]! || 1)
    );
  });
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

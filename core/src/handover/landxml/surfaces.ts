/** Surfaces as triangle networks, with what they were made of: boundaries, breaklines, and their contours. */
import type { ByteText } from "../../math/byte-text";
import type { Surface } from "../../surface/model";
import { outlineOf } from "../../surface/outline";
import { breaklineWays, contourFeatures, vertexOf } from "../features";
import type { Holds } from "../model";
import type { HandoverSource } from "../source";
import { attributes } from "../xml";
import { position, positionList } from "./positions";

export function writeSurfaces(out: ByteText, s: HandoverSource, holds: ReadonlySet<Holds>): void {
  const surfaces = s.surfaces.filter(
    (x) => holds.has("surfaces") || s.contours.some((c) => c.surface === x.name && c.level.length > 0),
  );
  if (surfaces.length === 0) return;
  out.line("<Surfaces>");
  for (const surface of surfaces) {
    out.line(`<Surface${attributes({ name: surface.name })}>`);
    out.line("<SourceData>");
    if (holds.has("surfaces")) {
      writeBoundaries(out, surface);
      writeBreaklines(out, surface);
    }
    if (holds.has("contours")) writeContours(out, s, surface);
    out.line("</SourceData>");
    if (holds.has("surfaces")) writeMesh(out, surface);
    out.line("</Surface>");
  }
  out.line("</Surfaces>");
}

/** The edge runs with the surface on its left; a way round a hole runs the other way about. */
function writeBoundaries(out: ByteText, surface: Surface): void {
  out.line("<Boundaries>");
  for (const way of outlineOf(surface)) {
    const xyz = way.flatMap((_, k) => (k % 2 ? [] : [way[k]!, way[k + 1]!, NaN]));
    out.line(
      `<Boundary${attributes({ bndType: isLeft(way) ? "outer" : "void", edgeTrim: "true" })}>${positionList(xyz)}</Boundary>`,
    );
  }
  out.line("</Boundaries>");
}

/** Whether a closed way E, N, E, N … runs to the left. */
function isLeft(way: readonly number[]): boolean {
  const [oe, on] = way as [number, number];
  let twice = 0;
  for (let k = 2; k < way.length; k += 2)
    twice += (way[k - 2]! - oe) * (way[k + 1]! - on) - (way[k]! - oe) * (way[k - 1]! - on);
  return twice > 0;
}

function writeBreaklines(out: ByteText, surface: Surface): void {
  const ways = breaklineWays(surface);
  if (ways.length === 0) return;
  out.line("<Breaklines>");
  for (const way of ways)
    out.line(`<Breakline brkType="standard">${positionList(way.flatMap((v) => vertexOf(surface, v)))}</Breakline>`);
  out.line("</Breaklines>");
}

function writeContours(out: ByteText, s: HandoverSource, surface: Surface): void {
  const contours = s.contours.filter((c) => c.surface === surface.name && c.level.length > 0);
  if (contours.length === 0) return;
  out.line("<Contours>");
  for (const c of contourFeatures(contours)) {
    // The level is the contour's own; its positions are of the plan.
    for (let k = 2; k < c.xyz.length; k += 3) c.xyz[k] = NaN;
    out.line(`<Contour${attributes({ elev: c.level })}>${positionList(c.xyz)}</Contour>`);
  }
  out.line("</Contours>");
}

function writeMesh(out: ByteText, surface: Surface): void {
  out.line('<Definition surfType="TIN"><Pnts>');
  for (let v = 0; v < surface.x.length; v++) {
    const [e, n, z] = vertexOf(surface, v);
    out.line(`<P id="${v + 1}">${position(n, e, z)}</P>`);
  }
  out.line("</Pnts><Faces>");
  const { tri } = surface;
  for (let h = 0; h < tri.length; h += 3) out.line(`<F>${tri[h]! + 1} ${tri[h + 1]! + 1} ${tri[h + 2]! + 1}</F>`);
  out.line("</Faces></Definition>");
}

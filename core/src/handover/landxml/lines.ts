/** Lines as plan features: straights, arcs as curves with their centre, smooth curves as irregular lines of chords. */
import type { ByteText } from "../../math/byte-text";
import type { ArcPiece, Position } from "../../lines/model";
import { positionOnArc } from "../../lines/arc";
import { lineFeatures, type LineFeature } from "../features";
import type { HandoverSource } from "../source";
import { attributes } from "../xml";
import { position, positionList } from "./positions";

const at = ([e, n, z]: Position) => position(n, e, z);
const ends = ({ from, to }: Leg) => `<Start>${at(from)}</Start><End>${at(to)}</End>`;

export function writePlanFeatures(out: ByteText, s: HandoverSource): void {
  const lines = lineFeatures(s);
  if (lines.length === 0) return;
  out.line("<PlanFeatures>");
  for (const f of lines) {
    out.line(`<PlanFeature${attributes({ name: f.name, desc: f.line.code })}><CoordGeom>`);
    for (const leg of legsOf(f)) writeLeg(out, leg);
    out.line("</CoordGeom></PlanFeature>");
  }
  out.line("</PlanFeatures>");
}

/** A leg between two positions: straight, an arc (sweep in radians, + to the right), or a way of chords. */
export type Leg = { from: Position; to: Position } & (
  | { type: "straight" }
  | { type: "arc"; center: readonly [number, number]; radius: number; sweep: number }
  | { type: "chords"; xyz: Float64Array }
);

/**
 * Legs of a line. An arc is divided where a level on it is known, since a curve of the format has none between its
 * ends, and a circle in two, since an arc that ends where it starts would be none.
 */
export function* legsOf({ line, xyz }: LineFeature): Generator<Leg> {
  let v = 0;
  const isAt = (k: number, [e, n]: Position) => xyz[3 * k] === e && xyz[3 * k + 1] === n;
  for (const p of line.pieces) {
    // The chain's vertices go on as far as the piece's end.
    const first = v;
    do v++;
    while (v < xyz.length / 3 - 1 && !isAt(v, p.to));
    const { from, to } = p;
    if (p.type === "straight") yield { type: "straight", from, to };
    else if (p.type === "curve") yield* chordsOf(from, to, xyz.subarray(3 * first, 3 * (v + 1)));
    else yield* partsOfArc(p);
  }
}

/** A list of positions has levels for all or for none: where only some are known the chords stand one by one. */
function* chordsOf(from: Position, to: Position, xyz: Float64Array): Generator<Leg> {
  const at = (k: number): Position => [xyz[3 * k]!, xyz[3 * k + 1]!, xyz[3 * k + 2]!],
    count = xyz.length / 3,
    known = Array.from({ length: count }, (_, k) => !Number.isNaN(xyz[3 * k + 2]!));
  if (known.every((is) => is === known[0])) yield { type: "chords", from, to, xyz };
  else for (let k = 1; k < count; k++) yield { type: "straight", from: at(k - 1), to: at(k) };
}

function* partsOfArc(p: ArcPiece): Generator<Leg> {
  const { center, radius, sweep } = p,
    known = p.levels.map(({ share, shot }) => ({ share, at: shot?.position ?? positionOnArc(p, share) })),
    isCircle = known.length === 2 && Math.abs(sweep) > 2 * Math.PI - 1e-9,
    stops = isCircle ? [known[0]!, { share: 0.5, at: positionOnArc(p, 0.5) }, known[1]!] : known;
  for (let k = 1; k < stops.length; k++) {
    const [a, b] = [stops[k - 1]!, stops[k]!];
    yield { type: "arc", from: a.at, to: b.at, center, radius, sweep: sweep * (b.share - a.share) };
  }
}

function writeLeg(out: ByteText, leg: Leg): void {
  if (leg.type === "straight") out.line(`<Line>${ends(leg)}</Line>`);
  else if (leg.type === "chords") out.line(`<IrregularLine>${ends(leg)}${positionList(leg.xyz)}</IrregularLine>`);
  else {
    const { center, radius, sweep } = leg,
      turn = attributes({ rot: sweep > 0 ? "cw" : "ccw", radius, crvType: "arc" });
    out.line(
      `<Curve${turn}><Start>${at(leg.from)}</Start><Center>${position(center[1], center[0], NaN)}</Center><End>${at(leg.to)}</End></Curve>`,
    );
  }
}

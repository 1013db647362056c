/** Surfaces, alignments and plan features of LandXML as reference geometry. */
import { readDecimal } from "../math/decimal";
import { signedAngle, azimuthOf } from "../math/angles";
import { plural } from "../math/words";
import type { Reference, ReferenceLine, ReferenceSurface } from "../records/reference";
import { numbersOf, type XmlElement } from "./xml";

type Position = [number, number, number];
interface Corner {
  at: Position | undefined;
  ref?: string;
}
interface Leg {
  from: Corner;
  to: Corner;
  center?: Corner;
  clockwise: boolean;
}

export class GeometryReader {
  private readonly lines: (Omit<ReferenceLine, "xyz" | "sweep"> & { legs: Leg[] })[] = [];
  private readonly lists: ReferenceLine[] = [];
  private readonly surfaces: ReferenceSurface[] = [];
  private ids = new Map<string, number>();
  private points: number[] = [];
  private faces: number[] = [];
  private wrongFaces = 0;
  private legs: Leg[] | undefined;
  private parts = new Map<string, Corner>();
  private spirals = 0;
  private surface = "";

  constructor(private readonly notes: string[]) {}

  open(x: XmlElement): void {
    if (x.name === "Surface") {
      this.surface = x.attributes.name ?? `surface ${this.surfaces.length + 1}`;
      [this.ids, this.points, this.faces, this.wrongFaces] = [new Map(), [], [], 0];
    } else if (x.name === "CoordGeom") {
      this.legs = [];
      this.spirals = 0;
    } else if (x.name === "Line" || x.name === "Curve") this.parts = new Map();
  }

  close(x: XmlElement): void {
    const a = x.attributes;
    switch (x.name) {
      case "P": {
        const [n, e, z] = numbersOf(x.text);
        if (a.id !== undefined) this.ids.set(a.id, this.points.length / 3);
        this.points.push(e ?? NaN, n ?? NaN, z ?? NaN);
        break;
      }
      case "F": {
        // i="1": a face that is not part of the surface.
        if (a.i === "1") break;
        const corners = x.text
          .trim()
          .split(/\s+/)
          .map((id) => this.ids.get(id));
        if (corners.length !== 3 || corners.some((c) => c === undefined || Number.isNaN(this.points[3 * c! + 2]!)))
          this.wrongFaces++;
        else this.faces.push(...(corners as number[]));
        break;
      }
      case "Surface":
        return this.closeSurface();
      case "PntList3D":
      case "PntList2D":
        return this.closeList(x, x.name === "PntList3D" ? 3 : 2);
      case "Start":
      case "End":
      case "Center":
        this.parts.set(x.name, cornerOf(x));
        break;
      case "Line":
      case "Curve": {
        const from = this.parts.get("Start"),
          to = this.parts.get("End"),
          center = this.parts.get("Center");
        if (from && to && this.legs)
          this.legs.push({ from, to, ...(x.name === "Curve" && center ? { center } : {}), clockwise: a.rot !== "ccw" });
        break;
      }
      case "Spiral":
        this.spirals++;
        break;
      case "CoordGeom":
        this.closeGeometry(x);
    }
  }

  private closeSurface(): void {
    if (this.wrongFaces)
      this.notes.push(`Surface “${this.surface}”: ${plural(this.wrongFaces, "face")} could not be read.`);
    if (this.faces.length)
      this.surfaces.push({
        name: this.surface,
        points: Float64Array.from(this.points),
        faces: Uint32Array.from(this.faces),
      });
    else if (this.points.length)
      this.notes.push(`Surface “${this.surface}” has points and no triangles; it was left out.`);
  }

  /** A list of positions: a breakline or boundary of a surface, or an irregular line. */
  private closeList(x: XmlElement, size: 2 | 3): void {
    const values = numbersOf(x.text),
      holder = x.parent;
    const count = Math.floor(values.length / size);
    if (!holder || count < 2 || values.some(Number.isNaN)) return;
    const positions = Array.from({ length: count }, (_, i): Position => [
      values[size * i + 1]!,
      values[size * i]!,
      size === 3 ? values[size * i + 2]! : NaN,
    ]);
    if (holder.name === "IrregularLine") {
      for (let i = 0; i + 1 < count; i++)
        this.legs?.push({ from: { at: positions[i] }, to: { at: positions[i + 1] }, clockwise: true });
      return;
    }
    if (holder.name !== "Breakline" && holder.name !== "Boundary") return;
    const kind = holder.name === "Breakline" ? "breakline" : "boundary";
    const closed = kind === "boundary" || same(positions[0]!, positions.at(-1)!);
    if (closed && same(positions[0]!, positions.at(-1)!)) positions.pop();
    this.lists.push({
      name: holder.attributes.name ?? holder.attributes.desc ?? `${kind} ${this.lists.length + 1}`,
      layer: this.surface,
      kind,
      closed,
      xyz: Float64Array.from(positions.flat()),
      sweep: new Float64Array(closed ? positions.length : positions.length - 1),
      start: 0,
    });
  }

  private closeGeometry(x: XmlElement): void {
    const holder = x.parent,
      legs = this.legs;
    this.legs = undefined;
    if (!holder || !legs?.length || (holder.name !== "Alignment" && holder.name !== "PlanFeature")) return;
    const name = holder.attributes.name ?? holder.attributes.desc ?? `line ${this.lines.length + 1}`;
    if (this.spirals)
      return void this.notes.push(
        `“${name}” has ${plural(this.spirals, "spiral")}, which cannot be read yet; it was left out.`,
      );
    this.lines.push({
      name,
      layer: holder.attributes.desc ?? "",
      kind: holder.name === "Alignment" ? "alignment" : "feature",
      closed: false,
      start: readDecimal(holder.attributes.staStart ?? "") || 0,
      legs,
    });
  }

  /** Lines with their corners found; `positionOf` gives the position of a point that the file names. */
  finish(positionOf: (number: string) => Position | undefined): Reference {
    const lines = this.lines.flatMap(({ legs, ...line }): ReferenceLine[] => {
      const position = (c: Corner) => c.at ?? (c.ref === undefined ? undefined : positionOf(c.ref));
      const corners: Position[] = [],
        sweep: number[] = [];
      for (const leg of legs) {
        const from = position(leg.from),
          to = position(leg.to),
          center = leg.center && position(leg.center);
        if (!from || !to) {
          this.notes.push(`“${line.name}” refers to a point that the file does not have; it was left out.`);
          return [];
        }
        const last = corners.at(-1);
        if (!last) corners.push(from);
        else if (!same(last, from)) {
          corners.push(from);
          sweep.push(0);
        }
        corners.push(to);
        sweep.push(center ? sweepOf(center, from, to, leg.clockwise) : 0);
      }
      const closed = corners.length > 3 && same(corners[0]!, corners.at(-1)!);
      if (closed) corners.pop();
      return [{ ...line, closed, xyz: Float64Array.from(corners.flat()), sweep: Float64Array.from(sweep) }];
    });
    return { lines: [...lines, ...this.lists], surfaces: this.surfaces };
  }
}

function cornerOf(x: XmlElement): Corner {
  const [n, e, z = NaN] = numbersOf(x.text);
  const at =
    n !== undefined && e !== undefined && Number.isFinite(n) && Number.isFinite(e)
      ? ([e, n, z] as Position)
      : undefined;
  return { at, ...(x.attributes.pntRef !== undefined ? { ref: x.attributes.pntRef } : {}) };
}

/** Positive to the right (clockwise). */
function sweepOf(c: Position, from: Position, to: Position, clockwise: boolean): number {
  const turn = signedAngle(azimuthOf(c[0], c[1], to[0], to[1]) - azimuthOf(c[0], c[1], from[0], from[1]));
  return clockwise ? (turn < 0 ? turn + 2 * Math.PI : turn) : turn > 0 ? turn - 2 * Math.PI : turn;
}

function same(a: Position, b: Position): boolean {
  return Math.hypot(a[0] - b[0], a[1] - b[1]) < 1e-6;
}

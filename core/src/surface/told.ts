/** What is told of a surface while it is built: what was refused and why, and what was noticed. */
import type { Tolerances } from "../math/tolerances";
import { largest, smallest } from "../math/many";
import { lengthText, type Unit } from "../math/units";
import { plural } from "../math/words";
import { notice, pts, say, type Noticed, type Word } from "../finding";
import type { Refused, SurfaceRecipe } from "./model";
import type { SurfaceSources } from "./sources";

/** Points outside the edge that a finding names at most; it counts them all. */
const MOST_TOLD = 1000;

/** Positions as offsets from an origin in E and N. */
export interface At {
  x: ArrayLike<number>;
  y: ArrayLike<number>;
  origin: [number, number];
}

export class BuildTold {
  readonly findings: Noticed[] = [];
  readonly refused: Refused[] = [];
  private readonly tolerance: Tolerances;
  private readonly unit: Unit;
  /** What lines of files are called, which are counted after those of the job. */
  ofFiles: readonly { called: string }[] = [];

  constructor(
    private readonly recipe: SurfaceRecipe,
    private readonly sources: SurfaceSources,
  ) {
    this.tolerance = sources.tolerance;
    this.unit = sources.unit;
  }

  refuse(what: Refused["what"], why: string): void {
    this.refused.push({ what, why: [why] });
  }

  /** A piece of a breakline that no way through the mesh was found for. */
  refuseLine(line: number): void {
    this.refuse(["breakline ", ...this.lineWords(line)], "a piece of it could not be followed");
  }

  /** A line of the job, or of a file, in a sentence. */
  private lineWords(line: number): Word<number, number>[] {
    const { lines } = this.sources;
    return line < lines.length ? [{ line }] : [this.ofFiles[line - lines.length]!.called];
  }

  /** Points that stand at one position, by groups of vertices; the surface takes their mean. */
  coincident(groups: number[][], shots: Int32Array, at: At & { z: Float64Array }): void {
    const all = groups
      .map((group) => ({
        group,
        points: [...new Set(group.map((i) => shots[i]!).filter((s) => s >= 0))].sort((a, b) => a - b),
      }))
      .filter(({ points }) => points.length > 1)
      .sort((a, b) => a.points[0]! - b.points[0]!);
    for (const { group, points } of all) {
      const levels = group.map((i) => at.z[i]!),
        apart = largest(levels) - smallest(levels);
      const first = group.find((i) => shots[i] === points[0])!;
      const words = say`Points ${pts(points, Infinity)} stand at one position${apart > 0 ? `, ${lengthText(apart, this.unit)} apart in level` : ""}; the surface takes their mean.`;
      this.findings.push(
        notice("coincident", apart > this.tolerance.crossing ? "warning" : "note", words, {
          points,
          at: [at.origin[0] + at.x[first]!, at.origin[1] + at.y[first]!],
          data: { apart },
        }),
      );
    }
  }

  /** Levels of breaklines that differ where they meet; `lineIndices` is asked only where they do. */
  levels(levels: [number, number], lineIndices: () => (number | undefined)[], position: [number, number]): void {
    if (!(Math.abs(levels[0] - levels[1]) > this.tolerance.crossing)) return;
    const { lines } = this.sources,
      { name } = this.recipe,
      known = [...new Set(lineIndices())].filter((l): l is number => l !== undefined),
      ofJob = known.filter((l) => l < lines.length);
    const what: Word<number, number>[] =
      known.length > 1
        ? ["Breaklines ", ...this.lineWords(known[0]!), " and ", ...this.lineWords(known[1]!), " cross"]
        : ["Breakline ", ...this.lineWords(known[0]!), " passes a point"];
    const words = say` at levels ${lengthText(levels[0], this.unit)} and ${lengthText(levels[1], this.unit)}, ${lengthText(Math.abs(levels[0] - levels[1]), this.unit)} apart.`;
    this.findings.push(
      notice("breaklines-cross", "warning", [...what, ...words], {
        lines: ofJob,
        at: position,
        data: { levels: [...levels], surface: name },
        subject: `${name}: ${known.map((l) => lines[l]?.key ?? this.lineWords(l)[0]).join(" and ")} at ${position.map((x) => x.toFixed(3)).join(" ")}`,
      }),
    );
  }

  /** Points, by their rows, that the fitted edge or the longest side left outside. */
  outside(rows: readonly number[], position: [number, number]): void {
    if (rows.length === 0) return;
    const { name } = this.recipe,
      lie = rows.length === 1 ? "lies" : "lie",
      words = [
        ...say`${plural(rows.length, "point")} of “${name}” ${lie} outside its edge, such as ${pts(rows.slice(0, 3))}: `,
        "with a wider gap or a longer side the surface reaches them.",
      ];
    this.findings.push(
      notice("outside-edge", "note", words, {
        points: rows.slice(0, MOST_TOLD),
        at: position,
        data: { surface: name, count: rows.length },
        subject: name,
      }),
    );
  }

  /** A side or a triangle, by the numbers of its points, that cannot be corrected as it was by hand. */
  correctionLost(numbers: readonly string[], points: number[], why: string): void {
    const { name } = this.recipe,
      [what, done] = numbers.length === 2 ? ["The side", "swapped"] : ["The triangle", "taken out"];
    this.findings.push(
      notice("correction-lost", "warning", [`${what} ${numbers.join("–")} of “${name}” cannot be ${done}: ${why}.`], {
        points,
        data: { surface: name, corners: [...numbers], why },
        subject: `${name}: ${done} ${numbers.join(" ")}`,
      }),
    );
  }
}

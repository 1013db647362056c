/** The ways that points are held against: lines of the job, of a file, or drawn by their corners. */
import { Refusal, refusal } from "../../errors";
import type { Line } from "../../lines/model";
import { AlongWay, type DesignLine, type DesignWay } from "../../volumes/along-way";
import { piecesOfReference } from "../../volumes/as-built";
import type { VolumeRecipe } from "../../volumes/model";
import type { JobState } from "../model/model";
import { referencesOf } from "../model/reduce";

/** Throws a Refusal where the line that a recipe names is not there. */
export function waysOf(
  { name, line }: { name: string; line?: DesignLine },
  lines: readonly Line[],
  state: Pick<JobState, "intakes" | "delivered" | "files">,
): DesignWay[] {
  if (!line) throw refusal("request-wrong", { why: `“${name}” says neither a surface nor a line` });
  if ("points" in line) {
    const xyz = Float64Array.from(line.points.flatMap(([e, n]) => [e, n, NaN]));
    return [
      { pieces: piecesOfReference({ xyz, sweep: new Float64Array(line.points.length - 1) }), start: line.start ?? 0 },
    ];
  }
  if ("file" in line) {
    const found = referencesOf(state)
      .filter((r) => r.file === line.file)
      .flatMap((r) => r.reference.lines)
      .find((l) => l.name === line.alignment);
    if (!found) throw refusal("line-unknown", { file: name, line: `${line.alignment} (${line.file})` });
    return [{ pieces: piecesOfReference(found), start: found.start }];
  }
  const is = (l: Line) =>
    l.code.toUpperCase() === line.code.toUpperCase() &&
    (line.run === undefined || l.run === line.run) &&
    (line.intake === undefined || state.intakes[l.intake]?.id === line.intake);
  const found = lines.filter(is);
  if (found.length === 0)
    throw refusal("reference-missing", {
      path: `as-built check “${name}”`,
      what: "line",
      name: [line.code, line.run].filter(Boolean).join(" "),
    });
  return found.map((l) => ({ pieces: l.pieces, start: 0 }));
}

/**
 * The line across which the sections of a comparison lie, where its recipe names one; undefined where it does not, or
 * where the line is gone.
 */
export function axisOf(
  { name, sections }: Pick<VolumeRecipe, "name" | "sections">,
  lines: readonly Line[],
  state: Pick<JobState, "intakes" | "delivered" | "files">,
): AlongWay | undefined {
  if (typeof sections !== "object" || !("line" in sections)) return undefined;
  try {
    const [way] = waysOf({ name, line: sections.line }, lines, state);
    return way && new AlongWay(way);
  } catch (e) {
    if (e instanceof Refusal) return undefined;
    throw e;
  }
}

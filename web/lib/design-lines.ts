/** Lines that something is held against or laid across, by their words: of the job by code and run, and of files by name. */
import { lineNamed, type LineAsked } from "@bramble/core/construct/model";
import { lineWords } from "@bramble/core/construct/written";
import { findPoints } from "@bramble/core/points/refs";
import type { DesignLine } from "@bramble/core/volumes/along-way";
import { designLineText } from "@bramble/core/volumes/words";
import type { JobState } from "@bramble/core";
import { sameJson } from "@bramble/core/math/json";
import type { View } from "./view";

/** More lines than these are no list that anybody reads, and thousands hold the page up. */
export const MOST_LISTED = 300;

/**
 * Single lines, of very many the first and those that are selected; all of one code where `several` may be meant.
 */
export function designLines(
  job: Pick<JobState, "intakes" | "delivered">,
  view: Pick<View, "lines">,
  selected: ReadonlySet<string>,
  several = false,
): Map<string, DesignLine> {
  const lines = new Map<string, DesignLine>(),
    counts = new Map<string, number>();
  for (const l of view.lines) counts.set(l.code, (counts.get(l.code) ?? 0) + 1);
  if (several) for (const [code, n] of counts) if (n > 1) lines.set(`lines ${code}, the nearest`, { code });
  for (const [k, l] of view.lines.entries()) {
    if (k >= MOST_LISTED && !selected.has(l.key)) continue;
    const line = { code: l.code, ...(l.run ? { run: l.run } : {}) };
    lines.set(`line ${designLineText(line)}`, line);
  }
  job.intakes.forEach((k, i) => {
    for (const l of job.delivered[i]?.reference?.lines ?? [])
      if (l.name) lines.set(`“${l.name}” of ${k.file}`, { file: k.file, alignment: l.name });
  });
  return lines;
}

/** The same, and lines that points follow already and that are not among them: by their first shot, or drawn by hand. */
export function linesAsked(
  job: JobState,
  view: Pick<View, "lines">,
  selected: ReadonlySet<string>,
): Map<string, LineAsked> {
  const lines = new Map<string, LineAsked>(designLines(job, view, selected)),
    { numberOf } = findPoints(job.points, job.intakes),
    seen = new Set<string>();
  for (const { by } of job.computed) {
    const line = lineNamed(by),
      key = line && ("hand" in line || "from" in line) ? JSON.stringify(line) : undefined;
    if (key === undefined || seen.has(key)) continue;
    seen.add(key);
    const said = line as Extract<LineAsked, { hand: string } | { from: string }>;
    lines.set(`line ${lineWords("from" in said ? { ...said, from: numberOf(said.from) } : said)}`, said);
    if (seen.size === MOST_LISTED) break;
  }
  return lines;
}

/** What is said of lines that are not listed; undefined where all are. */
export const unlisted = (view: Pick<View, "lines">) =>
  view.lines.length > MOST_LISTED
    ? `and ${view.lines.length - MOST_LISTED} more: select the line on the sheet first`
    : undefined;

/** The words of a line among those; what is drawn, or gone, has words of its own. */
export function wordsOfLine(lines: ReadonlyMap<string, DesignLine>, line: DesignLine): string {
  return [...lines].find(([, l]) => sameJson(l, line))?.[0] ?? designLineText(line);
}

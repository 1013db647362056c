/** Lines that something is held against or laid across, by their words: of the job by code and run, and of files by name. */
import type { DesignLine } from "@bramble/core/volumes/along-way";
import { designLineText } from "@bramble/core/volumes/words";
import type { JobState } from "@bramble/core";
import { sameJson } from "@bramble/core/math/json";
import type { View } from "./view";

/** Single lines; all of one code where `several` may be meant. */
export function designLines(job: JobState, view: View, several = false): Map<string, DesignLine> {
  const lines = new Map<string, DesignLine>(),
    counts = new Map<string, number>();
  for (const l of view.lines) counts.set(l.code, (counts.get(l.code) ?? 0) + 1);
  if (several) for (const [code, n] of counts) if (n > 1) lines.set(`lines ${code}, the nearest`, { code });
  for (const l of view.lines) {
    const line = { code: l.code, ...(l.run ? { run: l.run } : {}) };
    lines.set(`line ${designLineText(line)}`, line);
  }
  job.intakes.forEach((k, i) => {
    for (const l of job.delivered[i]?.reference?.lines ?? [])
      if (l.name) lines.set(`“${l.name}” of ${k.file}`, { file: k.file, alignment: l.name });
  });
  return lines;
}

/** The words of a line among those; what is drawn, or gone, has words of its own. */
export function wordsOfLine(lines: ReadonlyMap<string, DesignLine>, line: DesignLine): string {
  return [...lines].find(([, l]) => sameJson(l, line))?.[0] ?? designLineText(line);
}

/** A point written in one line, `12 az 47.5 12.25`, made at once; where two positions fit, or none, the maker shows it. */
import { settingOf } from "@bramble/core";
import { passedBy, passedLevel } from "@bramble/core/construct/model";
import { readWritten, type Written } from "@bramble/core/construct/written";
import { nextFreeNumber, numberedFrom } from "@bramble/core/job/change/next-number";
import { numberIndex } from "@bramble/core/points/index";
import { refsOfNumbers } from "@bramble/core/points/refs";
import { designLines } from "../../lib/design-lines";
import type { Choice } from "../../lib/go-to";
import { useJob } from "../../lib/store";
import { draftOf } from "./draft";
import { openMeasuring } from "./MeasurePanel";
import { makePoint } from "./make-point";
import { openMaker } from "./PointMaker";

/** What would be done, or what is wrong with it. */
type WrittenPoint = Choice & { kind: "Make" | "Measure" };

/** What a line of words would make; undefined where it does not begin like a construction. */
export function writtenPoint(text: string): WrittenPoint | undefined {
  const { job } = useJob.getState(),
    there = numberIndex(job.points);
  const read = readWritten(text, {
    unit: job.unit,
    angle: settingOf(job, "angle"),
    order: job.order,
    hasPoint: (n) => {
      const row = there.get(n);
      return row !== undefined && !job.points.deleted[row];
    },
    hasSurface: (name) => job.surfaces.some((s) => s.name === name),
  });
  if (!read) return undefined;
  if ("problem" in read) return { kind: "Make", name: read.problem, go: () => openMaker() };
  const number = nextFreeNumber(job, numberedFrom(job, "computed"));
  return { kind: "Make", name: `point ${number}: ${text.trim()}`, go: () => void make(read, number, text.trim()) };
}

async function make(read: Written, number: string, text: string): Promise<void> {
  const { job, view, lines, ask, select, show, set } = useJob.getState(),
    refOf = refsOfNumbers(job.points, job.intakes),
    { elevation } = read;
  const of = {
      by: passedBy(read.by, refOf),
      ...(elevation === undefined
        ? {}
        : { elevation: typeof elevation === "object" ? passedLevel(elevation, refOf) : elevation }),
    },
    construed = await ask({ what: "construction", of }),
    at = construed?.at ?? [];
  if (at.length !== 1 && !("meet" in of.by && of.by.near !== undefined && at.length === 2))
    return openMaker(draftOf(of, { job, lines: designLines(job, view, lines) }));
  const id = await makePoint({ number, ...of, at: at[0]!, description: "", text: `Point ${number} made: ${text}` });
  if (id === undefined) return;
  select({ points: [id] });
  const [e, n] = at[0]!;
  show({ minE: e, minN: n, maxE: e, maxN: n });
  set({ notice: { text: `Point ${number} made. Undo takes it out again.`, tone: "settled" } });
}

/** `measure 12 13 14`: opens measuring between points. */
export function writtenMeasure(text: string): WrittenPoint | undefined {
  const [first, ...numbers] = text.split(/\s+/);
  if (first?.toLowerCase() !== "measure" || numbers.length < 2 || numbers.length > 100) return undefined;
  const { points: t } = useJob.getState().job,
    there = numberIndex(t),
    rows = numbers.map((n) => there.get(n)),
    missing = numbers.find((_, k) => rows[k] === undefined || t.deleted[rows[k]]);
  if (missing !== undefined)
    return { kind: "Measure", name: `There is no point ${missing}.`, go: () => openMeasuring([]) };
  return {
    kind: "Measure",
    name: numbers.join(" to "),
    go: () => openMeasuring(rows.map((i) => ({ point: t.id[i!]! }))),
  };
}

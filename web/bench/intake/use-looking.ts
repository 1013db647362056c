"use client";
/** The look at a file: what is answered about it so far, what would come of it, and what keeps it from being taken in. */
import { useEffect, useMemo } from "react";
import { KINDS, type Format, type IntakeOptions, type Layout, type Look } from "@bramble/core";
import { meanEdits, stopping, withAnswers } from "@bramble/core/job/told/answers";
import { beforeTurn } from "@bramble/core/points/giving-way";
import { extentOf } from "@bramble/core/points/table";
import type { StoredIntake } from "@bramble/db";
import type { Incoming } from "../../lib/incoming";
import { useJob, useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { exchanged } from "./names";
import { useLook } from "./use-look";

/** What was answered about the file so far. */
interface Begun {
  given: IntakeOptions;
  /** The kept layout that it was recognised by. */
  layoutName?: string;
  setup?: string;
  /** Numbers used twice that become the mean of both. */
  means?: readonly string[];
}

const NO_MEANS: readonly string[] = [];

export type Looking = ReturnType<typeof useLooking>;

export function useLooking(incoming: Incoming) {
  const { job, jobId, set, show, saving } = useParts("job", "jobId", "set", "show", "saving"),
    { again } = incoming;
  // The look and all its answers are still there after a visit to another place.
  const [begun, setBegun] = useKept<Begun | undefined>("intake.look", undefined);
  // The very same options as long as nothing is answered: each other ones ask for another look.
  const first = useMemo((): Begun => ({ given: again ? optionsOf(again) : {} }), [again]);
  const { given, layoutName, setup, means = NO_MEANS } = begun ?? first;
  const put = (part: Partial<Begun>) => setBegun((now) => ({ ...(now ?? { given }), ...part }));
  const setGiven = (next: (g: IntakeOptions) => IntakeOptions) =>
    setBegun((now) => ({ ...now, given: next(now?.given ?? given) }));
  // A file is read in its turn: the last, or where it was when it is read again.
  const base = useMemo(() => {
    const at = again ? job.intakes.findIndex((k) => k.id === again.id) : -1;
    return beforeIntake(job, at < 0 ? job.intakes.length : at);
  }, [job, again]);
  const { looked, isOfNow, problem, progress, stop } = useLook(incoming, base, jobId, given, (k) => {
    if (again || begun) return;
    put({ layoutName: k.name });
    setGiven((g) => ({ ...g, format: k.format, layout: k.layout, ...(k.unit ? { unit: k.unit } : {}) }));
  });
  const look = looked?.look,
    existing = useMemo(() => extentOf(base.points), [base.points]),
    control = useMemo(() => controlOf(base.points), [base.points]);

  useEffect(() => {
    if (!look || look.problem) return;
    set({ incoming: look.positions });
    show(look.box);
  }, [look, set, show]);
  useEffect(() => () => set({ incoming: undefined }), [set]);

  const change = (part: Partial<IntakeOptions>) =>
    setGiven((g) => ({ ...g, ...(look?.layout && !part.layout ? { layout: look.layout } : {}), ...part }));
  const answered = { given, means },
    /** Numbers that wait for an answer. */
    answers = look ? stopping(look.clashes, answered) : [];
  return {
    look,
    looked,
    problem,
    /** While the file is read: the share that is done. */
    progress,
    stop,
    given,
    layoutName,
    setup,
    answered,
    answers,
    existing,
    control,
    put,
    change,
    cut: (layout: Layout, format?: Format) =>
      setGiven((g) => ({
        ...g,
        format: format ?? g.format ?? look?.format,
        layout: { noElevation: look?.layout?.noElevation, ...layout },
      })),
    exchange: () => look?.layout && change({ layout: exchanged(look.layout) }),
    blocked: whyNot(isOfNow && progress === undefined ? look : undefined, problem, saving, answers.length),
  };
}

/** Why the file cannot be taken in now, nothing where it can; there is no look while the file is read, also anew. */
function whyNot(look: Look | undefined, problem: string, saving: number, unanswered: number): string | false {
  if (!look) return "The file is being read.";
  if (problem !== "") return "It cannot be read so: see below.";
  if (look.points === 0 && !look.reference) return "No point and no line would come of it.";
  if (saving > 0) return "It is being taken in.";
  return unanswered > 0 && "Answer first what becomes of numbers that are there already.";
}

/** The options that a look is taken in with, all answers among them. */
export const optionsOfLook = ({ clashes, format, layout }: Look, answered: Looking["answered"]): IntakeOptions => ({
  ...withAnswers(clashes, answered),
  format,
  ...(layout ? { layout } : {}),
});

/** Takes the file in, or reads it again; false when that was refused, which is said. */
export async function takeLooked(
  { look, answered, blocked }: Looking,
  { again, file, name }: Incoming,
): Promise<boolean> {
  if (blocked || !look) return false;
  const { takeIn, readAgain } = useJob.getState(),
    options = optionsOfLook(look, answered);
  if (!(again ? await readAgain(again.id, options) : await takeIn(file!, { ...options, file: name }))) return false;
  const { job, change } = useJob.getState(),
    edits = meanEdits(job.points, look.clashes, answered.means);
  if (edits.length) change({ type: "points", edits });
  return true;
}

/** How an intake was read, as it can be given again. */
function optionsOf(k: StoredIntake): IntakeOptions {
  const { format, layout, line, heightAt, unit, encoding, clash, add, answers, crew, kind, only } = k;
  const options = { format, layout, line, heightAt, unit, encoding, clash, add, clashes: answers, crew, kind, only };
  return Object.fromEntries(Object.entries(options).filter(([, v]) => v !== undefined)) as IntakeOptions;
}

type Job = ReturnType<typeof useJob.getState>["job"];

/** The job as it was before a delivery had its turn. */
function beforeIntake(job: Job, intake: number): Job {
  return {
    ...job,
    points: { ...job.points, deleted: beforeTurn(job.points, job.intakes, intake) },
    delivered: job.delivered.map((d, i) => (i === intake ? {} : d)),
  };
}

const MOST_CONTROL = 200;

function controlOf(t: Job["points"]) {
  const out = [];
  for (let i = 0; i < t.count && out.length < MOST_CONTROL; i++)
    if (!t.deleted[i] && t.kind[i] === KINDS.indexOf("control"))
      out.push({ number: t.number[i]!, e: t.e[i]!, n: t.n[i]! });
  return out;
}

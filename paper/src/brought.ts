/** Files of the handover that need fonts and pages: plan sheets and reports, written and read back. */
import { refusal, type PlanFile, type ReportFile, type Written } from "@bramble/core";
import { planPages } from "@bramble/core/handover/plan/plan";
import { planSource } from "@bramble/core/job/leave/handover-source";
import { questionsOf } from "@bramble/core/job/told/questions";
import { crewReport } from "@bramble/core/report/crew";
import { planPdf } from "./plan";
import { provePlan, readPdf } from "./prove";
import { reportBytes } from "./report/made";
import { reportPdf } from "./report/pdf";
import { reportXlsx } from "./report/xlsx";
import { stateInWords, type PaperJob, type Tell } from "./state";

/** Share of a plan that is drawn before it is written, and that is written before it is read back. */
const DRAWN = 0.5,
  WRITTEN = 0.8;

export async function writePlan(file: PlanFile, job: PaperJob, tell?: Tell): Promise<Written> {
  const { state, derived } = job,
    steps = planPages(file, planSource(file, state, derived, stateInWords(job)));
  let step = steps.next();
  for (; !step.done; step = steps.next()) await tell?.(step.value.what, DRAWN * step.value.share);
  const pages = step.value,
    facts = { title: `${file.title ?? "Plan"}, ${state.name}`, date: state.date };
  const { bytes, written } = await planPdf(pages, facts, async (share) =>
    tell?.("writing it", DRAWN + (WRITTEN - DRAWN) * share),
  );
  await tell?.("reading it back", WRITTEN);
  return { bytes, proof: await provePlan(file.file, bytes, pages, written) };
}

export async function writeReport(file: ReportFile, job: PaperJob, tell?: Tell): Promise<Written> {
  if (file.of === "crew") return writeCrewPage(file, job);
  const there = job.state.volumes.map((v) => v.name),
    comparisons = (file.comparisons ?? there).filter((name) => there.includes(name)),
    bytes = await reportBytes(file.as, comparisons, job, tell),
    counts: Record<string, number> = { comparisons: comparisons.length };
  if (file.as === "pdf") {
    const { pages } = await readPdf(bytes);
    // Each comparison must be told of by its name, as far as the font has its letters.
    const text = pages.map((p) => p.text.replace(/\s+/g, "")).join(""),
      missing = comparisons.find((name) => /^[ -~]+$/.test(name) && !text.includes(name.replace(/\s+/g, "")));
    if (missing !== undefined)
      throw refusal("handover-proof", { file: file.file, why: `it does not tell of “${missing}”` });
    counts.pages = pages.length;
  }
  return { bytes, proof: { counts, difference: 0 } };
}

/** What the crew is asked; each question must be on the page that was written. */
async function writeCrewPage(file: ReportFile, job: PaperJob): Promise<Written> {
  const { state, derived, author, at } = job,
    report = crewReport(state, derived, { author, at, of: stateInWords(job) }),
    questions = questionsOf(state, derived),
    counts: Record<string, number> = { questions: questions.length };
  if (file.as === "xlsx") return { bytes: await reportXlsx(report), proof: { counts, difference: 0 } };
  const bytes = await reportPdf(report, async () => undefined),
    { pages } = await readPdf(bytes),
    text = pages.map((p) => p.text.replace(/\s+/g, "")).join(""),
    missing = questions.find((q) => !text.includes(q.mark));
  if (missing) throw refusal("handover-proof", { file: file.file, why: `it does not ask ${missing.mark}` });
  return { bytes, proof: { counts: { ...counts, pages: pages.length }, difference: 0 } };
}

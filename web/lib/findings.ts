/** Findings in words, and the way to what they speak of. */
import { namesIn, sentenceOf, type Finding, type Names } from "@bramble/core";
import { extentOf as boxOfAll, rowOf } from "@bramble/core/points/table";
import { boxOfPoints } from "./box";
import { useJob } from "./store";
import type { Store } from "./state/store";
import { lineAt } from "./view";

/** The names that points and lines have now. */
export function namesNow(): Names<number, string> {
  const { job, view } = useJob.getState();
  return namesIn(job.points, view.lines);
}

/** A finding in words. */
export function sayFinding(f: Finding): string {
  return sentenceOf(f, namesNow());
}

/** The position of the chosen finding, while it is among those that are found and the list of it is open. */
export function ringOf({ finding, isRinged, view }: Pick<Store, "finding" | "isRinged" | "view">) {
  if (!finding?.at || !isRinged) return undefined;
  return view.findings.some((f) => f.key === finding.key) ? (finding.at as [number, number]) : undefined;
}

/** Kinds of findings whose points lie away from all others. */
const ASTRAY: ReadonlySet<Finding["kind"]> = new Set<Finding["kind"]>(["axes-swapped", "far-away"]);

/** Selects a finding's points and lines and goes to its position. */
export function goToFinding(f: Finding): void {
  const {
    job: { points: t },
    view,
    select,
    show,
  } = useJob.getState();
  const rows = f.points.map((id) => rowOf(t, id)).filter((i) => i >= 0 && !t.deleted[i]);
  const around = f.lines.flatMap((key) => view.lines[lineAt(view, key) ?? -1]?.shots ?? []);
  select({ points: rows.map((i) => t.id[i]!), lines: f.lines, finding: f });
  // What is not where it belongs is seen beside the job that it is not with.
  if (ASTRAY.has(f.kind)) return show(boxOfAll(t));
  const { at } = f;
  const [e, n] = at ?? [];
  const box = boxOfPoints(t, rows.length ? rows : around);
  if (!at || e === undefined || n === undefined) return show(box);
  // A position of its own is shown alone, unless several points are meant.
  show(
    !box || rows.length <= 1
      ? { minE: e, maxE: e, minN: n, maxN: n }
      : {
          minE: Math.min(box.minE, e),
          maxE: Math.max(box.maxE, e),
          minN: Math.min(box.minN, n),
          maxN: Math.max(box.maxN, n),
        },
  );
}

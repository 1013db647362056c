"use client";
/** The findings: what was noticed, the worst first, each leading to where it is mended. */
import { useMemo } from "react";
import { namesIn, sentenceOf, type Finding } from "@bramble/core";
import { goToFinding } from "../../lib/findings";
import { useParts } from "../../lib/store";
import { leadsTo, openFinding } from "../../lib/subjects";
import { grouped } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { EMPTY_VIEW } from "../../lib/view";

const ORDER = { error: 0, warning: 1, note: 2 } as const;
const MARK = { error: "text-red", warning: "text-amber", note: "text-soft" } as const;
const SIGN = { error: "●", warning: "▲", note: "–" } as const;
const OPEN = {
  cell: "Open the cell",
  line: "Open the line",
  setup: "Open the setup",
  setting: "Open the setting",
  intake: "Open the intake",
};
const MOST = 500;

export function Findings() {
  const { view, job, finding } = useParts("view", "job", "finding");
  const [kind, setKind] = useKept("findings.kind", "");
  const names = useMemo(() => namesIn(job.points, view.lines), [job.points, view.lines]);
  const kinds = useMemo(() => {
    const per = new Map<string, number>();
    for (const f of view.findings) per.set(f.kind, (per.get(f.kind) ?? 0) + 1);
    return [...per].sort();
  }, [view.findings]);
  const list = useMemo(
    () => view.findings.filter((f) => !kind || f.kind === kind).sort((a, b) => ORDER[a.severity] - ORDER[b.severity]),
    [view.findings, kind],
  );
  if (view === EMPTY_VIEW) return <p className="p-4 text-soft">The checks are running …</p>;
  if (view.findings.length === 0) return <p className="p-4 text-leaf">Nothing to look at: every check is content.</p>;
  return (
    <div>
      <div className="sticky top-0 flex items-center gap-2 border-b border-rule bg-bench px-3 py-1">
        <label className="label" htmlFor="finding-kind">
          Show
        </label>
        <select id="finding-kind" className="field h-6" value={kind} onChange={(event) => setKind(event.target.value)}>
          <option value="">all kinds</option>
          {kinds.map(([k, count]) => (
            <option key={k} value={k}>
              {k.replaceAll("-", " ")} ({count})
            </option>
          ))}
        </select>
        {list.length > MOST && (
          <span className="text-soft">
            the first {MOST} of {grouped(list.length)}
          </span>
        )}
        {list.length === 0 && <span className="text-leaf">None of this kind is left.</span>}
      </div>
      <ul>
        {list.slice(0, MOST).map((f) => (
          <FindingRow key={f.key} f={f} text={sentenceOf(f, names)} active={finding?.key === f.key} />
        ))}
      </ul>
    </div>
  );
}

function FindingRow({ f, text, active }: { f: Finding; text: string; active: boolean }) {
  const to = leadsTo(f);
  const isSomewhere = f.at || f.points.length > 0 || f.lines.length > 0;
  return (
    <li className={`flex min-h-7 items-center gap-3 border-b border-rule-soft px-3 ${active ? "bg-bramble-wash" : ""}`}>
      <span className={`w-40 shrink-0 text-[12px] font-medium ${MARK[f.severity]}`}>
        <span aria-hidden>{SIGN[f.severity]} </span>
        {f.kind.replaceAll("-", " ")}
      </span>
      <span className="min-w-0 flex-1 py-1">{text}</span>
      {isSomewhere && (
        <button className="button button-plain h-6 shrink-0" onClick={() => goToFinding(f)}>
          Zoom to it
        </button>
      )}
      {to && (
        <button className="button button-plain h-6 w-30 shrink-0" onClick={() => openFinding(f)}>
          {OPEN[to]}
        </button>
      )}
    </li>
  );
}

"use client";
/** The slide-up tray: findings to look at, and the ledger of every change. */
import { useMemo, useState } from "react";
import { Tabs } from "radix-ui";
import { namesIn, sentenceOf, valueText, type Change, type Finding } from "@bramble/core";
import { goToFinding, useJob } from "../lib/store";
import { when } from "../lib/units-shown";
import { EMPTY_VIEW } from "../lib/view";

type Open = "findings" | "ledger" | undefined;
const ORDER = { error: 0, warning: 1, note: 2 } as const;
const MARK = { error: "text-red", warning: "text-amber", note: "text-soft" } as const;

export function Tray({ open, setOpen }: { open: Open; setOpen: (o: Open) => void }) {
  const { view, ledger } = useJob();
  const serious = view.findings.filter((f) => f.severity !== "note").length;
  const tab =
    "h-full border-b-2 border-transparent px-3 hover:text-bramble data-[state=active]:border-bramble data-[state=active]:font-semibold data-[state=active]:text-bramble";
  return (
    <Tabs.Root
      value={open ?? ""}
      onValueChange={(v) => setOpen(v as Open)}
      className="shrink-0 border-t border-rule bg-paper"
    >
      <div className="flex h-8 items-center px-1">
        <Tabs.List aria-label="Tray" className="flex h-full">
          <Tabs.Trigger value="findings" className={tab} onMouseDown={() => open === "findings" && setOpen(undefined)}>
            Findings <span className="tabular-nums text-soft">{view.findings.length}</span>
            {serious > 0 && (
              <span className="ml-1.5 text-[11.5px] font-semibold tabular-nums text-amber">{serious} to look at</span>
            )}
          </Tabs.Trigger>
          <Tabs.Trigger value="ledger" className={tab} onMouseDown={() => open === "ledger" && setOpen(undefined)}>
            Ledger <span className="tabular-nums text-soft">{ledger.length}</span>
          </Tabs.Trigger>
        </Tabs.List>
        <span className="flex-1" />
        {open && (
          <button className="button button-plain h-6" onClick={() => setOpen(undefined)}>
            Close the tray
          </button>
        )}
      </div>
      <Tabs.Content value="findings" className="h-56 overflow-auto border-t border-rule bg-bench">
        <Findings />
      </Tabs.Content>
      <Tabs.Content value="ledger" className="h-56 overflow-auto border-t border-rule bg-bench">
        <Ledger />
      </Tabs.Content>
    </Tabs.Root>
  );
}

const MOST = 500;

function Findings() {
  const { view, job, finding } = useJob(),
    names = namesIn(job.points, view.lines);
  const [kind, setKind] = useState("");
  const kinds = useMemo(() => [...new Set(view.findings.map((f) => f.kind))].sort(), [view.findings]);
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
          {kinds.map((k) => (
            <option key={k} value={k}>
              {k.replaceAll("-", " ")}
            </option>
          ))}
        </select>
        {list.length > MOST && (
          <span className="text-soft">
            the first {MOST} of {list.length}
          </span>
        )}
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
  const hasPlace = f.at || f.points.length > 0 || f.lines.length > 0;
  return (
    <li className={`flex min-h-7 items-center gap-3 border-b border-rule-soft px-3 ${active ? "bg-bramble-wash" : ""}`}>
      <span className={`w-40 shrink-0 text-[12px] font-medium ${MARK[f.severity]}`}>
        {f.severity === "error" ? "● " : f.severity === "warning" ? "▲ " : "– "}
        {f.kind.replaceAll("-", " ")}
      </span>
      <span className="min-w-0 flex-1 py-1">{text}</span>
      {hasPlace && (
        <button className="button button-plain h-6 shrink-0" onClick={() => goToFinding(f)}>
          Zoom to it
        </button>
      )}
    </li>
  );
}

function Ledger() {
  const { ledger } = useJob();
  if (ledger.length === 0)
    return (
      <p className="p-4 text-soft">
        Nothing has been changed yet. Every change will stand here with who, when, old and new.
      </p>
    );
  return (
    <table className="plain">
      <thead>
        <tr>
          <th className="num w-14">No.</th>
          <th className="w-32">When</th>
          <th className="w-32">Who</th>
          <th>What</th>
          <th>From → to</th>
        </tr>
      </thead>
      <tbody>
        {ledger.map((l) => (
          <tr key={l.seq} className={l.undone ? "text-soft line-through" : ""}>
            <td className="num">{l.seq}</td>
            <td className="whitespace-nowrap">{when(l.at)}</td>
            <td className="truncate">{l.author}</td>
            <td>{l.text}</td>
            <td className="text-soft">{detail(l.change)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Old and new of a change that touches one thing. */
function detail(change: Change): string {
  if (change.type !== "points") return "";
  const { edits } = change;
  return edits.length === 1 ? `${valueText(edits[0]!.old)} → ${valueText(edits[0]!.new)}` : `${edits.length} values`;
}

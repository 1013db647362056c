"use client";
/**
 * The findings: what was noticed, the worst first, kind by kind. Arrow keys step through them and the sheet goes along;
 * beside the list stands what the chosen one rests on and what can be done about it.
 */
import { useCallback, useEffect, useMemo, useRef } from "react";
import { namesIn, sentenceOf, type Finding } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import { goToFinding } from "../../lib/findings";
import { useJob, useParts } from "../../lib/store";
import { grouped } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { EMPTY_VIEW } from "../../lib/view";
import { FindingDetail, type DetailKeys } from "./FindingDetail";
import { isHeading, MARK, rowsOf, SIGN, type Row } from "./finding-rows";
import { Choice, optionsOf } from "../../controls/fields/Choice";

const SHOWN = { open: "to look at", accepted: "accepted", all: "all" } as const;
type Shown = keyof typeof SHOWN;

export function Findings() {
  const { view, job, finding, deriving, stopped } = useParts("view", "job", "finding", "deriving", "stopped");
  const [shown, setShown] = useKept<Shown>("findings.shown", "open"),
    [kind, setKind] = useKept("findings.kind", ""),
    [opened, setOpened] = useKept<readonly string[]>("findings.opened", []);
  const names = useMemo(() => namesIn(job.points, view.lines), [job.points, view.lines]);
  const list = useMemo(
    () =>
      view.findings.filter(
        (f) => (!kind || f.kind === kind) && (shown === "all" || (f.accepted === undefined) === (shown === "open")),
      ),
    [view.findings, kind, shown],
  );
  const kinds = useMemo(() => [...new Set(view.findings.map((f) => f.kind))].sort(), [view.findings]);
  const rows = useMemo(() => rowsOf(list, opened), [list, opened]);
  const toggle = useCallback(
    (k: string) => setOpened((now) => (now.includes(k) ? now.filter((x) => x !== k) : [...now, k])),
    [setOpened],
  );
  const detail = useRef<DetailKeys>(null),
    listbox = useRef<HTMLDivElement>(null),
    last = useRef(0);
  const at = rows.findIndex((r) => !isHeading(r) && r.key === finding?.key);

  // The list takes the keyboard when the tray opens; the ring on the sheet goes with it.
  useEffect(() => {
    listbox.current?.focus();
    useJob.setState((s) => ({ isRinged: s.finding !== undefined }));
    return () => useJob.setState({ isRinged: false });
  }, []);
  // What was settled is gone from the list: the next one takes its position.
  useEffect(() => {
    if (at >= 0) last.current = at;
    else if (listbox.current?.contains(document.activeElement)) {
      const next = rows.slice(last.current).find(isFinding) ?? rows.findLast(isFinding);
      if (next) goToFinding(next);
    }
  }, [at, rows]);

  if (view === EMPTY_VIEW) return <p className="p-4 text-soft">The checks are running …</p>;
  if (view.findings.length === 0)
    return <p className="p-4 text-leaf">{contentWords(stopped, deriving, view.checking)}</p>;

  const step = (by: number) => {
    for (let k = (at < 0 ? last.current - Math.sign(by) : at) + by; k >= 0 && k < rows.length; k += Math.sign(by)) {
      const row = rows[k]!;
      if (!isHeading(row)) return goToFinding(row);
    }
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    if ((event.target as HTMLElement).closest("input, select, button")) return;
    const { key } = event;
    if (key === "ArrowDown") step(1);
    else if (key === "ArrowUp") step(-1);
    else if (key === "Home") step(-rows.length - 1);
    else if (key === "ArrowRight" || key === "ArrowLeft") {
      const folded = rows.find((r) => isHeading(r) && r.open === (key === "ArrowLeft"));
      if (folded && isHeading(folded)) toggle(folded.kind);
    } else if (!detail.current?.key(key === "Enter" && event.shiftKey ? "Shift Enter" : key)) return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="flex h-full min-h-0">
      <div className="flex min-w-0 flex-1 flex-col">
        <div className="flex items-center gap-2 border-b border-rule bg-bench px-3 py-1">
          <Choice label="Which findings" named={false} value={shown} onChange={setShown} options={optionsOf(SHOWN)} />
          <Choice
            label="Kind"
            named={false}
            value={kind}
            onChange={setKind}
            options={[["", "all kinds"], ...kinds.map((k) => [k, k.replaceAll("-", " ")] as const)]}
          />
          <span className="text-soft" role="status">
            {stopped
              ? "stopped: of before the last change"
              : view.checking
                ? "levels are being checked …"
                : plural(list.length, "finding")}
            {view.levelsLeftOut && "; spikes and height runs are not looked for among so many shots"}
          </span>
        </div>
        <div
          ref={listbox}
          role="listbox"
          aria-label="Findings"
          tabIndex={0}
          aria-activedescendant={at >= 0 ? `finding-${at}` : undefined}
          onKeyDown={onKeyDown}
          className="min-h-0 flex-1 overflow-auto outline-offset-[-2px]"
        >
          {list.length === 0 && <p className="p-4 text-leaf">{noneWords(shown, deriving || view.checking)}</p>}
          {rows.map((row, k) =>
            isHeading(row) ? (
              <HeadingRow key={row.kind} row={row} toggle={toggle} />
            ) : (
              <FindingRow key={row.key} f={row} id={`finding-${k}`} text={sentenceOf(row, names)} active={k === at} />
            ),
          )}
        </div>
      </div>
      <FindingDetail
        ref={detail}
        f={at >= 0 ? (rows[at] as Finding) : undefined}
        alike={list}
        backToList={() => listbox.current?.focus()}
      />
    </div>
  );
}

/** What is said of a job without any finding. */
function contentWords(stopped: boolean, deriving: boolean, checking: boolean): string {
  if (stopped) return "The checks were stopped.";
  if (deriving) return "The checks are running …";
  return checking ? "Levels are being checked …" : "Nothing to look at: every check is content.";
}

/** What stands in a list without findings. */
function noneWords(shown: Shown, checking: boolean): string {
  if (shown !== "open") return "None is accepted.";
  return checking ? "Nothing so far; the checks are running …" : "Nothing is left to look at.";
}

const isFinding = (r: Row): r is Finding => !isHeading(r);

function HeadingRow({ row, toggle }: { row: Extract<Row, { open: boolean }>; toggle: (kind: string) => void }) {
  return (
    <div role="presentation" className="flex min-h-7 items-center gap-3 border-b border-rule-soft px-3">
      <span className={`w-36 shrink-0 text-[12px] font-medium ${MARK[row.severity]}`}>
        <span aria-hidden>{SIGN[row.severity]} </span>
        <span className="sr-only">{row.severity}: </span>
        {row.kind.replaceAll("-", " ")}
      </span>
      <span className="flex-1 tabular-nums">{grouped(row.count)} findings</span>
      <button className="button button-plain h-6" aria-expanded={row.open} onClick={() => toggle(row.kind)}>
        {row.open ? "Fold them" : "Show them"}
      </button>
    </div>
  );
}

function FindingRow({ f, id, text, active }: { f: Finding; id: string; text: string; active: boolean }) {
  const element = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (active) element.current?.scrollIntoView({ block: "nearest" });
  }, [active]);
  return (
    // Its keys are those of the list.
    <div
      ref={element}
      id={id}
      role="option"
      aria-selected={active}
      onClick={() => goToFinding(f)}
      className={`flex min-h-7 cursor-default items-baseline gap-3 border-b border-rule-soft px-3 py-1 ${active ? "bg-bramble-wash" : ""}`}
    >
      <span className={`w-36 shrink-0 text-[12px] font-medium ${f.accepted ? "text-leaf" : MARK[f.severity]}`}>
        <span aria-hidden>{f.accepted ? "✓" : SIGN[f.severity]} </span>
        <span className="sr-only">{f.accepted ? "accepted" : f.severity}: </span>
        {f.kind.replaceAll("-", " ")}
      </span>
      <span className="min-w-0 flex-1">
        {text}
        {f.accepted !== undefined && <span className="text-leaf"> Accepted: {f.accepted}</span>}
      </span>
    </div>
  );
}

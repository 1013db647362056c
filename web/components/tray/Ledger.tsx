"use client";
/** The ledger: every change, who made it and when, what it was about and its value before and after. */
import { Fragment, useMemo, useState } from "react";
import { changeDetails, type Change, type ChangeDetail } from "@bramble/core";
import { detailNames } from "@bramble/core/job/change/details";
import { getJson } from "../../lib/client";
import type { LedgerEntry, ToldEntry } from "@bramble/db";
import { useAuthor } from "../../lib/author";
import { useParts } from "../../lib/store";
import { openSubject } from "../../lib/subjects";
import { when } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { StateButtons, StateRow, StatesAsked, type Asked } from "../states/States";
import { Choice } from "../../controls/fields/Choice";
import { Typed } from "../../controls/fields/Typed";

const EVERY_ENTRY = { text: "", who: "" };

/** Details shown of one entry until the others are asked for. */
const FEW = 1,
  MANY = 200;

export function Ledger() {
  const { job, ledger, jobId } = useParts("job", "ledger", "jobId");
  const [asked, setAsked] = useState<Asked>(),
    states = (seq: number) => job.states.filter((s) => s.seq === seq),
    oldest = ledger.at(-1)?.seq ?? 0;
  const [filter, setFilter] = useKept("ledger.filter", EVERY_ENTRY);
  const people = useMemo(() => [...new Set(ledger.map((l) => l.author))].sort(), [ledger]);
  const list = useLedger(ledger, filter.text, filter.who);
  if (ledger.length === 0)
    return (
      <p className="p-4 text-soft">
        Nothing has been changed yet. Every change will stand here with who, when, old and new.
      </p>
    );
  return (
    <div>
      <div className="sticky top-0 z-10 flex items-center gap-2 border-b border-rule bg-bench px-3 py-1">
        <Typed
          label="Filter the ledger"
          named={false}
          text={filter.text}
          onType={(text) => setFilter({ ...filter, text: text })}
          width="w-64"
          placeholder="Point, line, field or what was done"
        />
        <Choice
          label="Who"
          named={false}
          value={filter.who}
          onChange={(v) => setFilter({ ...filter, who: v })}
          options={[["", "everybody"], ...people.map((name) => [name, name] as const)]}
        />
        {list.length < ledger.length && (
          <span className="text-soft">
            {list.length} of {ledger.length}
          </span>
        )}
        <span className="flex-1" />
        <StateButtons ask={setAsked} />
        <a className="text-bramble underline" href={`/api/jobs/${jobId}/ledger?as=text`} download>
          Whole ledger as text
        </a>
      </div>
      <table className="plain">
        <thead>
          <tr>
            <th className="num w-14">No.</th>
            <th className="w-32">When</th>
            <th className="w-32">Who</th>
            <th>What was done</th>
            <th>To what</th>
            <th>From</th>
            <th>To</th>
          </tr>
        </thead>
        <tbody>
          {list.map((l) => (
            <Fragment key={l.entry.seq}>
              {states(l.entry.seq).map((s) => (
                <StateRow key={s.name} state={s} ask={setAsked} />
              ))}
              {l.behind === undefined ? <EntryRows {...l} /> : <LargeEntry entry={l.entry} bytes={l.behind} />}
            </Fragment>
          ))}
          {job.states
            .filter((s) => s.seq < oldest)
            .map((s) => (
              <StateRow key={s.name} state={s} ask={setAsked} />
            ))}
        </tbody>
      </table>
      {list.length === 0 && <p className="p-3 text-soft">No entry is like that.</p>}
      <StatesAsked asked={asked} close={() => setAsked(undefined)} />
    </div>
  );
}

interface Told {
  entry: ToldEntry;
  details: ChangeDetail[];
  more: number;
  /** Bytes of a change that did not come with its entry. */
  behind?: number;
}

/** The entries with their details, those that the filter means. */
function useLedger(ledger: readonly ToldEntry[], text: string, who: string): Told[] {
  const { job } = useParts("job"),
    { points, intakes, unit } = job;
  const told = useMemo(() => {
    const names = detailNames(points, intakes, unit);
    return ledger.map((entry): Told => {
      const { change } = entry;
      return change.type === "large"
        ? { entry, details: [], more: 0, behind: change.bytes }
        : { entry, ...changeDetails(change, names, MANY) };
    });
  }, [ledger, points, intakes, unit]);
  return useMemo(() => {
    const wanted = text.trim().toLowerCase();
    return told.filter(
      ({ entry, details }) =>
        (!who || entry.author === who) &&
        (!wanted ||
          [entry.text, ...details.flatMap((d) => [d.what, d.to])].some((x) => x.toLowerCase().includes(wanted))),
    );
  }, [told, text, who]);
}

/** An entry whose change did not come with it: the beginning of what it did is asked for. */
function LargeEntry({ entry, bytes }: { entry: ToldEntry; bytes: number }) {
  const { job, jobId } = useParts("job", "jobId");
  const [seen, setSeen] = useState<Change | "asked" | { failure: string }>();
  if (seen && seen !== "asked" && !("failure" in seen)) {
    const { details } = changeDetails(seen, detailNames(job.points, job.intakes, job.unit), MANY);
    return <EntryRows entry={entry} details={details} more={0} first />;
  }
  const look = () => {
    setSeen("asked");
    getJson<LedgerEntry>(`/api/jobs/${jobId}/ledger?entry=${entry.seq}&most=${MANY}`)
      .then((e) => setSeen(e.change))
      .catch((e: unknown) => setSeen({ failure: e instanceof Error ? e.message : String(e) }));
  };
  return (
    <tr className={entry.undone ? "text-soft line-through" : ""}>
      <Head entry={entry} />
      <td colSpan={3}>
        {seen === "asked" ? (
          <span className="text-soft">being looked up …</span>
        ) : (
          <button className="text-left text-bramble underline decoration-rule" onClick={look}>
            Show the first {MANY} of {(bytes / 1e6).toFixed(1)} MB
          </button>
        )}
        {seen && seen !== "asked" && <span className="ml-2 text-red">{seen.failure}</span>}
      </td>
    </tr>
  );
}

/** Who did what and when; the first cells of an entry. */
function Head({ entry: l }: { entry: ToldEntry }) {
  return (
    <>
      <td className="num">{l.seq}</td>
      <td className="whitespace-nowrap">{when(l.at)}</td>
      <td className="max-w-32 truncate">{l.author}</td>
      <td>
        {l.text}
        {l.undone && <span className="sr-only"> (taken back)</span>}
        <StepBack entry={l} />
      </td>
    </>
  );
}

/** `first`: the details are the beginning of more. */
function EntryRows({ entry: l, details, more, first = false }: Told & { first?: boolean }) {
  const [all, setAll] = useState(first);
  const shown = all ? details : details.slice(0, FEW);
  const rest = details.length - shown.length + (all ? 0 : more);
  const faded = l.undone ? "text-soft line-through" : "";
  const head = <Head entry={l} />;
  if (shown.length === 0)
    return (
      <tr className={faded}>
        {head}
        <td colSpan={3} />
      </tr>
    );
  return (
    <>
      {shown.map((d, k) => (
        <tr key={k} className={faded}>
          {k === 0 ? head : <td colSpan={4} />}
          <td>
            <button
              className="text-left underline decoration-rule hover:text-bramble"
              // Whoever asked for them by the keyboard goes on there.
              autoFocus={first && k === 0}
              onClick={() => openSubject(d.subject)}
            >
              {d.what}
            </button>
            {k === 0 && rest > 0 && (
              <button className="button button-plain ml-2 h-6" onClick={() => setAll(true)}>
                and {rest} more
              </button>
            )}
          </td>
          <td className="max-w-60 truncate tabular-nums" title={d.from}>
            {d.from}
          </td>
          <td className="max-w-60 truncate tabular-nums" title={d.to}>
            {d.to}
          </td>
        </tr>
      ))}
      {all && more > 0 && (
        <tr className="text-soft">
          <td colSpan={4} />
          <td colSpan={3}>and {more} more</td>
        </tr>
      )}
      {first && details.length >= MANY && (
        <tr className="text-soft">
          <td colSpan={4} />
          <td colSpan={3}>These are the first {MANY}; the whole ledger as text has more.</td>
        </tr>
      )}
    </>
  );
}

/** One's own deeds are taken back, or done again, one by one; what stands in the way is said. */
function StepBack({ entry: l }: { entry: ToldEntry }) {
  const author = useAuthor(),
    { stepEntry } = useParts("stepEntry");
  if (l.kind !== "change" || l.author !== author) return null;
  return (
    <button
      className="button button-plain ml-2 inline-flex h-5 px-1 no-underline"
      aria-label={`${l.undone ? "Do again" : "Take back"} entry ${l.seq}`}
      onClick={() => void stepEntry(l.undone ? "redo" : "undo", l.seq)}
    >
      {l.undone ? "Do again" : "Take back"}
    </button>
  );
}

"use client";
/**
 * The code book of the job: its codes one at a time beside their picture, aliases, cue words, and how the job is drawn.
 */
import { useMemo, useState } from "react";
import { Tabs } from "radix-ui";
import { sameJson, type CodeBook, type CodeEntry } from "@bramble/core";
import { compileBook } from "@bramble/core/codes/book";
import { lineStyle } from "@bramble/core/drawing/line-styles";
import { symbolOf } from "@bramble/core/drawing/symbols";
import { plural } from "@bramble/core/math/words";
import { useJob, useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { PLAIN_COLOR } from "../../lib/view";
import { Bench } from "../Bench";
import { NameForm } from "../NameForm";
import { Aliases } from "./Aliases";
import { BookFiles } from "./BookFiles";
import { CodeForm } from "./CodeForm";
import { Cues } from "./Cues";
import { Drawing } from "../../sheet/panel/Drawing";
import { LineSwatch, SymbolSwatch } from "./Swatch";

/** Stores a whole other book; one change that can be undone. */
export function putBook(book: CodeBook): boolean {
  const { job, change } = useJob.getState();
  return change({ type: "setting", field: "book", old: job.book, new: book });
}

export function BookBench() {
  const { job } = useParts("job");
  const [tab, setTab] = useKept("book.tab", "codes");
  return (
    <Bench
      title="Code book"
      about={`${plural((job.book.codes ?? []).length, "code")}, ${plural((job.book.aliases ?? []).length, "alias", "aliases")}`}
      actions={<BookFiles />}
    >
      <Tabs.Root value={tab} onValueChange={setTab} className="flex min-h-0 flex-1 flex-col">
        <Tabs.List aria-label="Parts of the code book" className="flex shrink-0 gap-4 border-b border-rule px-4">
          {[
            ["codes", "Codes"],
            ["aliases", "Aliases"],
            ["cues", "Cue words"],
            ["drawing", "Drawing"],
          ].map(([value, name]) => (
            <Tabs.Trigger
              key={value}
              value={value!}
              className="h-8 border-b-2 border-transparent px-0.5 font-medium text-soft data-[state=active]:border-bramble data-[state=active]:text-ink"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="codes" className="flex min-h-0 flex-1 flex-col">
          <Codes />
        </Tabs.Content>
        <Tabs.Content value="aliases" className="min-h-0 flex-1 overflow-auto px-4 py-3">
          <Aliases />
        </Tabs.Content>
        <Tabs.Content value="cues" className="min-h-0 flex-1 overflow-auto px-4 py-3">
          <Cues />
        </Tabs.Content>
        <Tabs.Content value="drawing" className="min-h-0 flex-1 overflow-auto px-4 py-3">
          <Drawing />
        </Tabs.Content>
      </Tabs.Root>
    </Bench>
  );
}

function Codes() {
  const { job, view, change, set } = useParts("job", "view", "change", "set");
  const [search, setSearch] = useKept("book.search", ""),
    [group, setGroup] = useKept("book.group", ""),
    [onlyUsed, setOnlyUsed] = useKept("book.onlyUsed", false),
    [chosen, setChosen] = useKept<string | undefined>("book.code", undefined),
    [adding, setAdding] = useState(false),
    [base, setBase] = useState("");
  const book = job.book,
    codes = useMemo(() => book.codes ?? [], [book]);
  const used = useMemo(() => {
    const compiled = compileBook(book),
      per = new Map<string, number>();
    const counts = new Map<number, number>();
    for (let i = 0; i < job.points.count; i++)
      if (!job.points.deleted[i])
        counts.set(job.points.description[i]!, (counts.get(job.points.description[i]!) ?? 0) + 1);
    for (const [text, n] of counts) {
      const words = new Set(
        job.points.texts[text]!.split(";")[0]!
          .split("/")
          .map((e) => compiled.lookup(e.trim().split(/\s+/)[0] ?? "").code),
      );
      for (const w of words) per.set(w, (per.get(w) ?? 0) + n);
    }
    return per;
  }, [book, job.points]);
  const groups = [...new Set(codes.map((c) => c.group ?? ""))];
  const list = codes.filter(
    (c) =>
      (!onlyUsed || used.has(c.code.toUpperCase())) &&
      (!group || (c.group ?? "") === group) &&
      (!search || `${c.code} ${c.name ?? ""}`.toLowerCase().includes(search.toLowerCase())),
  );
  const entry = codes.find((c) => c.code === chosen) ?? (chosen === undefined ? list[0] : undefined);

  const keep = (next: CodeEntry) => {
    const old = codes.find((c) => c.code === next.code);
    if (old && !sameJson(old, next)) void change({ type: "named", part: "codes", name: next.code, old, new: next });
  };
  /** A new name goes through the whole book: aliases and companions follow. */
  const rename = async (from: string, to: string) => {
    if (codes.some((c) => c.code.toUpperCase() === to))
      return set({ notice: { text: `The book has a code ${to} already.`, tone: "problem" } });
    const same = (x: string | undefined) => x?.toUpperCase() === from.toUpperCase();
    const next: CodeBook = {
      ...book,
      aliases: book.aliases?.map((a) => (same(a.to) ? { ...a, to } : a)),
      codes: codes.map((c) => ({
        ...(same(c.code) ? { ...c, code: to } : c),
        ...(c.companions ? { companions: c.companions.map((x) => (same(x.code) ? { ...x, code: to } : x)) } : {}),
      })),
    };
    if (await putBook(next)) setChosen(to);
  };
  const remove = async (code: string) => {
    const aliases = (book.aliases ?? []).filter((a) => a.to.toUpperCase() !== code.toUpperCase()),
      gone = (book.aliases ?? []).length - aliases.length;
    if (await putBook({ ...book, codes: codes.filter((c) => c.code !== code), ...(book.aliases ? { aliases } : {}) })) {
      setChosen(undefined);
      set({
        notice: {
          text: `${code} is no longer in the book${gone ? `, nor ${plural(gone, "alias", "aliases")} of it` : ""}. Undo brings it back.`,
          tone: "plain",
        },
      });
    }
  };
  const add = async (name: string) => {
    const code = name.toUpperCase();
    if (!/^[A-Z][A-Z0-9_-]*$/.test(code))
      return set({
        notice: { text: `“${name}” is no code: a letter first, then letters, digits, _ or -.`, tone: "problem" },
      });
    const from = codes.find((c) => c.code === base);
    const made: CodeEntry = from
      ? { ...from, code, name: `${from.name ?? from.code}, changed`, layer: from.layer?.replace(from.code, code) }
      : { code, kind: "point", symbol: "circle", color: PLAIN_COLOR, ...(group ? { group } : {}) };
    if (await change({ type: "named", part: "codes", name: code, old: null, new: made })) {
      setAdding(false);
      setChosen(code);
    }
  };
  return (
    <>
      <div className="flex shrink-0 flex-wrap items-center gap-2 px-4 py-2">
        <input
          className="field w-28"
          aria-label="Search codes"
          placeholder="Code or name"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
        <select className="field" aria-label="Group" value={group} onChange={(event) => setGroup(event.target.value)}>
          <option value="">all groups</option>
          {groups.filter(Boolean).map((g) => (
            <option key={g} value={g}>
              {g}
            </option>
          ))}
        </select>
        <label className="flex h-7 items-center gap-1.5 whitespace-nowrap">
          <input type="checkbox" checked={onlyUsed} onChange={(event) => setOnlyUsed(event.target.checked)} />
          Used here
        </label>
        <span className="min-w-0 flex-1 truncate text-soft">
          {list.length < codes.length ? `${list.length} of ${codes.length}` : ""}
        </span>
        <button
          className="button px-2"
          aria-label="Add a code"
          onClick={() => {
            setBase(entry?.code ?? "");
            setAdding(true);
          }}
        >
          Add
        </button>
        {entry && (
          <button
            className="button px-2"
            aria-label={`Remove ${entry.code}`}
            title={`Take ${entry.code} out of the book`}
            onClick={() => void remove(entry.code)}
          >
            Remove
          </button>
        )}
      </div>
      {adding && (
        <div className="flex items-end gap-2 border-t border-rule px-4 pt-2">
          <label className="block pb-3">
            <span className="label block">Start from</span>
            <select className="field mt-0.5" value={base} onChange={(event) => setBase(event.target.value)}>
              <option value="">nothing</option>
              {codes.map((c) => (
                <option key={c.code} value={c.code}>
                  {c.code}
                </option>
              ))}
            </select>
          </label>
          <NameForm
            label="New code"
            action="Add it"
            first=""
            taken={codes.map((c) => c.code)}
            make={add}
            leave={() => setAdding(false)}
          />
        </div>
      )}
      <div className="max-h-[36%] min-h-28 shrink-0 overflow-auto border-y border-rule">
        <table className="plain [&_td]:h-[26px]">
          <thead className="sticky top-0 bg-paper">
            <tr>
              <th className="w-32">Code</th>
              <th>Name</th>
              <th>Group</th>
              <th className="w-32">Drawn</th>
              <th className="num">Shots</th>
            </tr>
          </thead>
          <tbody>
            {list.map((c) => (
              <tr
                key={c.code}
                data-clickable
                aria-selected={c === entry}
                className="cursor-pointer"
                onClick={() => setChosen(c.code)}
              >
                <td>
                  <button className="font-medium" aria-label={`Edit ${c.code}`}>
                    {c.code}
                  </button>
                </td>
                <td className="max-w-36 truncate" title={c.name}>
                  {c.name}
                </td>
                <td className="text-soft whitespace-nowrap">{c.group}</td>
                <td className="leading-none">
                  {(c.kind ?? "point") === "point" ? (
                    <SymbolSwatch
                      symbol={symbolOf(c.symbol ?? "spot") ?? symbolOf("spot")!}
                      color={c.color ?? PLAIN_COLOR}
                      size={20}
                    />
                  ) : (
                    <LineSwatch style={lineStyle(c.style)} color={c.color ?? PLAIN_COLOR} />
                  )}
                </td>
                <td className="num">{used.get(c.code.toUpperCase()) ?? ""}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {list.length === 0 && (
          <p className="p-4 text-soft">
            {codes.length === 0
              ? "The book is empty. Add a code, or take a book from the office or a file."
              : "No code is called that."}
          </p>
        )}
      </div>
      <div className="min-h-0 flex-1 overflow-auto">
        {entry ? (
          <CodeForm
            key={entry.code}
            entry={entry}
            book={book}
            unit={job.unit}
            used={used.get(entry.code.toUpperCase()) ?? 0}
            keep={keep}
            rename={(to) => void rename(entry.code, to)}
          />
        ) : (
          <p className="p-4 text-soft">Choose a code to see and change it.</p>
        )}
      </div>
      <p className="sr-only" aria-live="polite">
        {view.codes.length} codes are used in the job.
      </p>
    </>
  );
}

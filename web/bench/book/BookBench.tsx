"use client";
/**
 * The code book of the job: its codes one at a time beside their picture, aliases, cue words, and how the job is drawn.
 */
import { putBook } from "./put-book";
import { useMemo, useState } from "react";
import { Tabs } from "radix-ui";
import { sameJson, type CodeEntry } from "@bramble/core";
import { withCodeRenamed, withoutCode } from "@bramble/core/codes/book-edits";
import { plural } from "@bramble/core/math/words";
import { useParts } from "../../lib/store";
import { useKept } from "../../lib/use-kept";
import { Bench } from "../Bench";
import { AddCode } from "./AddCode";
import { Aliases } from "./Aliases";
import { BookFiles } from "./BookFiles";
import { CodeForm } from "./CodeForm";
import { CodesTable } from "./CodesTable";
import { Cues } from "./Cues";
import { useCodesUsed } from "./use-codes-used";
import { Drawing } from "./drawing/Drawing";
import { Choice } from "../../controls/fields/Choice";
import { Tick } from "../../controls/fields/Tick";
import { Typed } from "../../controls/fields/Typed";

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
            <Tabs.Trigger key={value} value={value!} className="tab h-8">
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
  const { job, change, set } = useParts("job", "change", "set");
  const [search, setSearch] = useKept("book.search", ""),
    [group, setGroup] = useKept("book.group", ""),
    [onlyUsed, setOnlyUsed] = useKept("book.onlyUsed", false),
    [chosen, setChosen] = useKept<string | undefined>("book.code", undefined),
    [adding, setAdding] = useState(false);
  const book = job.book,
    codes = useMemo(() => book.codes ?? [], [book]),
    used = useCodesUsed();
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
    if (await putBook(withCodeRenamed(book, from, to))) setChosen(to);
  };
  const remove = async (code: string) => {
    const next = withoutCode(book, code),
      gone = (book.aliases ?? []).length - (next.aliases ?? []).length;
    if (await putBook(next)) {
      setChosen(undefined);
      set({
        notice: {
          text: `${code} is no longer in the book${gone ? `, nor ${plural(gone, "alias", "aliases")} of it` : ""}. Undo brings it back.`,
          tone: "plain",
        },
      });
    }
  };
  return (
    <>
      <div className="flex shrink-0 flex-wrap items-center gap-2 px-4 py-2">
        <Typed
          label="Search codes"
          named={false}
          text={search}
          onType={setSearch}
          className="field w-28"
          placeholder="Code or name"
        />
        <Choice
          label="Group"
          named={false}
          low={false}
          value={group}
          onChange={setGroup}
          options={[["", "all groups"], ...groups.filter(Boolean).map((g) => [g, g] as const)]}
        />
        <Tick
          words="Used here"
          on={onlyUsed}
          set={setOnlyUsed}
          className="flex h-7 items-center gap-1.5 whitespace-nowrap"
        />
        <span className="min-w-0 flex-1 truncate text-soft">
          {list.length < codes.length ? `${list.length} of ${codes.length}` : ""}
        </span>
        <button className="button px-2" aria-label="Add a code" onClick={() => setAdding(true)}>
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
        <AddCode
          codes={codes}
          first={entry?.code ?? ""}
          group={group}
          leave={() => setAdding(false)}
          done={(code) => {
            setAdding(false);
            setChosen(code);
          }}
        />
      )}
      <CodesTable list={list} entry={entry} used={used} empty={codes.length === 0} choose={setChosen} />
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
    </>
  );
}

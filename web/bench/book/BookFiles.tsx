"use client";
/** The book as a file, and copies to and from the office's own books. */
import { useEffect, useRef, useState } from "react";
import { Popover } from "radix-ui";
import { bookIn, generalBook, type CodeBook } from "@bramble/core";
import { FileInput } from "../../controls/FileInput";
import { bookToTable, tableToCodes } from "@bramble/core/codes/book-table";
import { mergeBooks } from "@bramble/core/codes/compare";
import { oddLooks } from "@bramble/core/drawing/book-looks";
import { getJson, postJson, remove } from "../../lib/client";
import { useJob, useParts } from "../../lib/store";
import { NameForm } from "../../controls/fields/NameForm";
import { putBook } from "./put-book";
import { TakeBook, type Offer } from "./TakeBook";

const LARGEST = 20 * 2 ** 20;
const STARTERS = [
  ["m", "metres"],
  ["ft", "feet and inches"],
] as const;

export function BookFiles() {
  const { job, ask } = useParts("job", "ask");
  const file = useRef<HTMLInputElement>(null);
  const [open, setOpen] = useState(false),
    [offer, setOffer] = useState<Offer>();
  const name =
    job.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "") || "job";

  const save = (text: string, type: string, ending: string) => {
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob([text], { type }));
    link.download = `${name}-codes.${ending}`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
    say(`The book was saved as ${link.download} where your browser puts downloads.`);
    setOpen(false);
  };
  /** `problems` are sentences about what of the book could not be read. */
  const take = (given: CodeBook, from: string, problems: string[] = []) => {
    const { book, words } = bookIn(given, job.unit),
      odd = [...problems, ...oddLooks(book)],
      more = odd.length ? ` ${odd.slice(0, 3).join(" ")}${odd.length > 3 ? ` And ${odd.length - 3} more.` : ""}` : "";
    setOffer({ book, from, more, converted: words });
    setOpen(false);
  };
  const accept = ({ book, from, more, converted }: Offer, merged: boolean) => {
    setOffer(undefined);
    if (!putBook(merged ? mergeBooks(job.book, book) : book)) return;
    const done = merged ? `The book has what ${from} brings.` : `The book was replaced by ${from}.`;
    say(
      `${done}${converted && ` ${converted}`}${more} Undo brings the earlier book back.`,
      more ? "problem" : "settled",
    );
  };
  const read = async (given: File) => {
    if (given.size > LARGEST) return say(`“${given.name}” is larger than 20 MB, which no code book is.`, "problem");
    const bytes = new Uint8Array(await given.arrayBuffer());
    if (/^\s*\{/.test(new TextDecoder().decode(bytes.subarray(0, 100)).replace(/^\ufeff/, ""))) {
      const text = new TextDecoder().decode(bytes).replace(/^\ufeff/, ""),
        found = await ask({ what: "book", text, file: given.name });
      // Undefined where the worker was stopped meanwhile.
      if (found && "book" in found) take(found.book, `“${given.name}”`);
      else say(`“${given.name}” was not taken: ${found?.problem ?? "it was stopped."}`, "problem");
      return;
    }
    const { codes, problems, unit } = tableToCodes(given.name, bytes);
    if (codes.length === 0)
      return say(`“${given.name}” was not taken: ${problems[0] ?? "it holds no code."}`, "problem");
    // A table holds codes only: aliases to codes that are still there stay, and the cue words.
    const aliases = (job.book.aliases ?? []).filter((a) => codes.some((c) => c.code === a.to.toUpperCase()));
    take({ ...job.book, unit, codes, aliases }, `“${given.name}”`, problems);
  };
  if (offer) return <TakeBook now={job.book} offer={offer} take={accept} leave={() => setOffer(undefined)} />;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="button">Copies of the book</Popover.Trigger>
      <FileInput
        input={file}
        label="A code book's file"
        accept=".json,.csv,.txt"
        take={([given]) => void read(given!)}
      />
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-30 w-80 rounded-sm border border-rule bg-bench p-3 shadow-lg"
        >
          <p className="label">As a file</p>
          <div className="mt-1 flex flex-wrap gap-2">
            <button
              className="button"
              onClick={() =>
                save(`${JSON.stringify({ unit: job.unit, ...job.book }, null, 2)}\n`, "application/json", "json")
              }
            >
              Save as JSON
            </button>
            <button className="button" onClick={() => save(bookToTable(job.book, job.unit), "text/csv", "csv")}>
              Save as a table
            </button>
            <button className="button" onClick={() => file.current?.click()}>
              Take from a file
            </button>
          </div>
          <p className="label mt-3">In the office, for every job</p>
          <OfficeBooks take={take} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const say = (text: string, tone: "plain" | "settled" | "problem" = "settled") =>
  useJob.getState().set({ notice: { text, tone } });

type Take = (given: CodeBook, from: string, problems?: string[]) => void;

/** Books that every job may take: the general ones, and those that the office keeps. */
function OfficeBooks({ take }: { take: Take }) {
  const { job } = useParts("job"),
    [kept, setKept] = useState<{ name: string; body: CodeBook }[]>([]),
    [naming, setNaming] = useState(false);
  const load = () => getJson<{ name: string; body: CodeBook }[]>("/api/office/book").then(setKept, () => undefined);
  useEffect(() => void load(), []);
  return (
    <>
      <ul className="mt-1">
        {STARTERS.map(([unit, words]) => (
          <li key={unit} className="row justify-between gap-2">
            <span className="min-w-0 flex-1 truncate">General topographic work, {words}</span>
            <button
              className="button button-plain"
              aria-label={`Take the general book in ${words}`}
              onClick={() => {
                // Either foot will do for the book in feet: its figures are round.
                const own = unit === "ft" && job.unit !== "m" ? job.unit : unit;
                take({ unit: own, ...generalBook(own) }, `the general book in ${words}`);
              }}
            >
              Take it
            </button>
          </li>
        ))}
        {kept.map((k) => (
          <li key={k.name} className="row justify-between gap-2">
            <span className="min-w-0 flex-1 truncate" title={k.name}>
              {k.name} <span className="text-soft">{(k.body.codes ?? []).length}</span>
            </span>
            <button
              className="button button-plain"
              aria-label={`Take ${k.name}`}
              onClick={() => take(k.body, `the office's “${k.name}”`)}
            >
              Take it
            </button>
            <button
              className="button button-plain"
              aria-label={`Do not keep ${k.name}`}
              onClick={() =>
                void remove(`/api/office/book?name=${encodeURIComponent(k.name)}`).then(load, (e: Error) =>
                  say(e.message, "problem"),
                )
              }
            >
              Do not keep
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-2">
        {naming ? (
          <NameForm
            label="Name of the book"
            action="Keep it"
            first={job.name}
            taken={[]}
            replaces={kept.map((k) => k.name)}
            leave={() => setNaming(false)}
            make={async (n) => {
              try {
                await postJson("/api/office/book", { name: n, body: { unit: job.unit, ...job.book } });
                setNaming(false);
                await load();
                say(`The book is kept in the office as “${n}”.`);
              } catch (e) {
                say((e as Error).message, "problem");
              }
            }}
          />
        ) : (
          <button className="button" onClick={() => setNaming(true)}>
            Keep this book in the office
          </button>
        )}
      </div>
    </>
  );
}

"use client";
/** Words that crews write for codes of the book, tried at once against the words of the job that the book does not know. */
import { useMemo, useState } from "react";
import { compileBook } from "@bramble/core/codes/book";
import { plural } from "@bramble/core/math/words";
import { useParts } from "../../lib/store";
import { makeAlias } from "../intake/Codes";
import { putBook } from "./put-book";
import { unless } from "../../controls/unless";
import { Choice } from "../../controls/fields/Choice";
import { Typed } from "../../controls/fields/Typed";
import { EditableList } from "../../controls/fields/EditableList";

interface Unknown {
  word: string;
  shots: number;
  nearest?: string;
}

/** Words of the job that the book does not know, those of most shots first. */
function useUnknown(): Unknown[] {
  const { view } = useParts("view");
  return useMemo(
    () =>
      view.findings
        .filter((f) => f.kind === "unknown-code")
        .map((f): Unknown => ({
          word: String(f.data.code),
          shots: f.points.length,
          nearest: f.data.nearest as string | undefined,
        }))
        .sort((a, b) => b.shots - a.shots),
    [view.findings],
  );
}

/** Which of the unknown words an alias would read: the book as it would be is asked. */
function useMet(unknown: readonly Unknown[], written: string, to: string): Unknown[] {
  const { job } = useParts("job"),
    { book } = job;
  return useMemo(() => {
    const target = to || book.codes?.[0]?.code;
    if (written === "" || !WRITTEN.test(written) || !target) return [];
    const trial = compileBook({ ...book, aliases: [...(book.aliases ?? []), { from: written, to: target }] });
    return unknown.filter((u) => trial.lookup(u.word).entry);
  }, [written, to, book, unknown]);
}

const WRITTEN = /^[A-Za-z*?][\w*?-]*$/;

export function Aliases() {
  const { job } = useParts("job"),
    { book } = job,
    codes = book.codes ?? [],
    aliases = book.aliases ?? [];
  const [from, setFrom] = useState(""),
    [to, setTo] = useState(""),
    unknown = useUnknown(),
    met = useMet(unknown, from.trim(), to);
  return (
    <div className="max-w-2xl">
      <UnknownWords unknown={unknown} met={met} to={to} />
      <section aria-label="Aliases" className="mt-5">
        <h2 className="heading">
          Aliases{" "}
          <span className="font-sans text-[13px] font-normal text-soft">
            * stands for any letters, ? for one; run digits need no alias of their own
          </span>
        </h2>
        <NewAlias from={from} setFrom={setFrom} to={to} setTo={setTo} met={met} />
        <EditableList
          label="Aliases"
          width="mt-3"
          rows={aliases}
          put={(next) => void putBook({ ...book, aliases: next })}
          named={(a) => `alias ${a.from}`}
          columns={[
            { title: "Written", field: (a) => <span className="font-medium">{a.from}</span> },
            { title: "Read as", field: (a) => a.to },
            {
              title: "Name",
              field: (a) => (
                <span className="text-soft">
                  {codes.find((c) => c.code.toUpperCase() === a.to.toUpperCase())?.name}
                </span>
              ),
            },
          ]}
        />
      </section>
    </div>
  );
}

function UnknownWords({ unknown, met, to }: { unknown: readonly Unknown[]; met: readonly Unknown[]; to: string }) {
  const { job } = useParts("job"),
    options = (job.book.codes ?? []).map((c) => [c.code, c.code] as const);
  return (
    <section aria-label="Unknown words">
      <h2 className="heading">
        Not in the book{" "}
        <span className="font-sans text-[13px] font-normal text-soft">
          {unknown.length
            ? "drawn as plain points until they are read as a code"
            : "nothing: the book knows every word of the job"}
        </span>
      </h2>
      {unknown.length > 0 && (
        <table className="plain mt-1">
          <thead>
            <tr>
              <th>Written</th>
              <th className="num w-16">Shots</th>
              <th className="w-80">Read as</th>
            </tr>
          </thead>
          <tbody>
            {unknown.slice(0, 200).map((u) => (
              <tr key={u.word} className={met.includes(u) ? "[&_td]:bg-bramble-wash" : ""}>
                <td className="font-medium">
                  {u.word}
                  {met.includes(u) && <span className="ml-2 font-normal text-bramble">would be {to || "read"}</span>}
                </td>
                <td className="num">{u.shots}</td>
                <td>
                  <span className="flex gap-1">
                    {u.nearest && (
                      <button className="button h-6" onClick={() => void makeAlias(u.word, u.nearest!)}>
                        Read as {u.nearest}
                      </button>
                    )}
                    <Choice
                      label={`Read ${u.word} as`}
                      named={false}
                      width="text-soft"
                      value=""
                      onChange={(v) => void makeAlias(u.word, v)}
                      ask="another code"
                      options={options}
                    />
                  </span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** A word that crews write and the code that it is read as. */
function NewAlias({
  from,
  setFrom,
  to,
  setTo,
  met,
}: {
  from: string;
  setFrom: (text: string) => void;
  to: string;
  setTo: (code: string) => void;
  met: readonly Unknown[];
}) {
  const { job } = useParts("job"),
    written = from.trim(),
    wrong = written !== "" && !WRITTEN.test(written),
    twice = (job.book.aliases ?? []).some((a) => a.from.toUpperCase() === written.toUpperCase()),
    options = (job.book.codes ?? []).map((c) => [c.code, c.code] as const);
  const add = async () => {
    if (written === "" || to === "" || wrong || twice) return;
    if (await makeAlias(written, to)) setFrom("");
  };
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <Typed
        label="Written"
        text={from}
        onType={setFrom}
        wrong={wrong || twice}
        width="w-40"
        most={100}
        placeholder="HDG*"
      />
      <Choice label="Read as" value={to} onChange={setTo} ask="a code" options={options} />
      <button
        className="button button-main"
        {...unless(
          written === ""
            ? "Type what the crew writes."
            : to === ""
              ? "Choose the code it is read as."
              : (wrong || twice) && "See beside it why not.",
        )}
      >
        Add the alias
      </button>
      <p role="status" className="flex h-7 items-center text-soft" data-testid="alias-trial">
        {wrong
          ? "An alias holds letters, digits, * and ?."
          : twice
            ? "There is an alias of that word."
            : written === ""
              ? ""
              : met.length === 0
                ? "None of the job's unknown words is written so."
                : `Reads ${plural(
                    met.reduce((s, u) => s + u.shots, 0),
                    "shot",
                  )} of ${met
                    .map((u) => u.word)
                    .slice(0, 4)
                    .join(", ")}${met.length > 4 ? " …" : ""}.`}
      </p>
    </form>
  );
}

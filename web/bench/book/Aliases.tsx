"use client";
/** Words that crews write for codes of the book, tried at once against the words of the job that the book does not know. */
import { useMemo, useState } from "react";
import { compileBook } from "@bramble/core/codes/book";
import { plural } from "@bramble/core/math/words";
import { useParts } from "../../lib/store";
import { makeAlias } from "../intake/Codes";
import { putBook } from "./put-book";
import { unless } from "../../controls/unless";

interface Unknown {
  word: string;
  shots: number;
  nearest?: string;
}

export function Aliases() {
  const { job, view } = useParts("job", "view");
  const book = job.book,
    aliases = book.aliases ?? [];
  const [from, setFrom] = useState(""),
    [to, setTo] = useState("");
  const unknown = useMemo(
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
  const written = from.trim();
  const wrong = written !== "" && !/^[A-Za-z*?][\w*?-]*$/.test(written);
  // The book as it would be, asked for each word that is unknown now.
  const met = useMemo(() => {
    if (written === "" || wrong) return [];
    const target = to || book.codes?.[0]?.code;
    if (!target) return [];
    const trial = compileBook({ ...book, aliases: [...aliases, { from: written, to: target }] });
    return unknown.filter((u) => trial.lookup(u.word).entry);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [written, to, book, unknown, wrong]);
  const codes = book.codes ?? [],
    twice = aliases.some((a) => a.from.toUpperCase() === written.toUpperCase());
  const add = async () => {
    if (written === "" || to === "" || wrong || twice) return;
    if (await makeAlias(written, to)) setFrom("");
  };
  const options = codes.map((c) => (
    <option key={c.code} value={c.code}>
      {c.code}
    </option>
  ));
  return (
    <div className="max-w-2xl">
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
                      <select
                        className="field h-6 text-soft"
                        aria-label={`Read ${u.word} as`}
                        value=""
                        onChange={(event) => void makeAlias(u.word, event.target.value)}
                      >
                        <option value="" disabled>
                          another code
                        </option>
                        {options}
                      </select>
                    </span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
      <section aria-label="Aliases" className="mt-5">
        <h2 className="heading">
          Aliases{" "}
          <span className="font-sans text-[13px] font-normal text-soft">
            * stands for any letters, ? for one; run digits need no alias of their own
          </span>
        </h2>
        <form
          className="mt-2 flex flex-wrap items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void add();
          }}
        >
          <label className="block">
            <span className="label block">Written</span>
            <input
              className="field mt-0.5 w-40"
              value={from}
              maxLength={100}
              aria-invalid={wrong || twice}
              placeholder="HDG*"
              onChange={(event) => setFrom(event.target.value)}
            />
          </label>
          <label className="block">
            <span className="label block">Read as</span>
            <select className="field mt-0.5" value={to} onChange={(event) => setTo(event.target.value)}>
              <option value="" disabled>
                a code
              </option>
              {options}
            </select>
          </label>
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
        {aliases.length > 0 && (
          <table className="plain mt-3">
            <thead>
              <tr>
                <th>Written</th>
                <th>Read as</th>
                <th>Name</th>
                <th>
                  <span className="sr-only">What may be done</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {aliases.map((a, k) => (
                <tr key={`${a.from} ${k}`}>
                  <td className="font-medium">{a.from}</td>
                  <td>{a.to}</td>
                  <td className="text-soft">{codes.find((c) => c.code.toUpperCase() === a.to.toUpperCase())?.name}</td>
                  <td className="text-right">
                    <button
                      className="button button-plain h-6"
                      aria-label={`Remove alias ${a.from}`}
                      onClick={() => void putBook({ ...book, aliases: aliases.filter((_, i) => i !== k) })}
                    >
                      Remove
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
    </div>
  );
}

"use client";
/**
 * Codes and words as the file writes them: known, by alias, unknown. What the book does not know it learns here, in one
 * choice: a change of the job that can be undone.
 */
import { useState } from "react";
import type { CodeBook, CodeKind, LookedCode, LookedWord } from "@bramble/core";
import { ACTIONS, isValued, type Action } from "@bramble/core/codes/book";
import { withAlias, withAttribute, withCode, withSpelling } from "@bramble/core/codes/teach";
import { PlaceLink } from "../../controls/PlaceLink";
import { useJob, useParts } from "../../lib/store";
import { unless } from "../../controls/unless";
import { Choice } from "../../controls/fields/Choice";
import { Typed } from "../../controls/fields/Typed";

const MOST = 80;
const KINDS: [CodeKind, string][] = [
  ["point", "a point"],
  ["line", "a line"],
  ["area", "an area"],
];

/** The job has another book; what was taught is said. */
function teach(next: CodeBook, said: string): boolean {
  const { job, change, set } = useJob.getState();
  const done = change({ type: "setting", field: "book", old: job.book, new: next });
  if (done) set({ notice: { text: `${said} Undo takes it out of the book again.`, tone: "settled" } });
  return done;
}

/** Lets the book read what was written as another code. */
export function makeAlias(written: string, code: string): boolean {
  return teach(withAlias(useJob.getState().job.book, written, code), `${written} is read as ${code} from now on.`);
}

export function Codes({ codes, words }: { codes: readonly LookedCode[]; words: readonly LookedWord[] }) {
  const { job } = useParts("job");
  const unknown = codes.filter((c) => c.by === "unknown"),
    aliases = codes.filter((c) => c.by === "alias" || c.by === "cut-off");
  const counts = [
    `${codes.length - unknown.length} known to the book`,
    ...(aliases.length ? [`${aliases.length} of them by alias or cut short`] : []),
    ...(unknown.length ? [`${unknown.length} not known`] : []),
  ];
  const first = unknown.find((c) => c.nearest);
  if (codes.length === 0) return null;
  return (
    <section aria-label="Codes" className="mt-4">
      <div className="flex items-baseline gap-3">
        <h2 className="heading">
          Codes <span className="font-sans text-[13px] font-normal text-soft">{counts.join(", ")}</span>
        </h2>
        <span className="flex-1" />
        <PlaceLink className="button button-plain h-6" place="book" title="This look stays as it is">
          Open the code book
        </PlaceLink>
      </div>
      <table className="plain mt-1" aria-label="Codes of the file">
        <thead>
          <tr>
            <th>Written</th>
            <th className="num w-16">Shots</th>
            <th>Read as</th>
            <th className="w-72">
              <span className="sr-only">What may be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {codes.slice(0, MOST).map((c) => (
            <tr key={`${c.by} ${c.written} ${c.code}`}>
              <td className="font-medium">{c.written}</td>
              <td className="num">{c.count}</td>
              <td className={c.by === "unknown" ? "text-amber" : "text-soft"}>
                {c.by === "unknown"
                  ? "not in the book: plain points"
                  : c.by === "code"
                    ? ((job.book.codes ?? []).find((x) => x.code.toUpperCase() === c.code)?.name ?? c.code)
                    : `${c.code}, ${c.by === "alias" ? "by its alias" : "a name cut short"}`}
              </td>
              <td className="py-0.5">{c.by === "unknown" && <Unknown code={c} hasKey={c === first} />}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {codes.length > MOST && <p className="text-soft">and {codes.length - MOST} more, all known</p>}
      {words.length > 0 && <Words words={words} />}
    </section>
  );
}

function Unknown({ code: c, hasKey }: { code: LookedCode; hasKey: boolean }) {
  const { job } = useParts("job");
  const take = (choice: string) => {
    const [what, value] = choice.split(":") as [string, string];
    if (what === "read") makeAlias(c.written, value);
    else {
      const kind = value as CodeKind;
      const said = `${c.written} is a code of the book now, drawn as ${KINDS.find(([k]) => k === kind)![1]}.`;
      teach(withCode(job.book, c.written, kind), said);
    }
  };
  return (
    <span className="flex items-center gap-1">
      {c.nearest && (
        <button className="button h-6 px-2" onClick={() => makeAlias(c.written, c.nearest!)}>
          Read as {c.nearest}
          {hasKey && <kbd className="text-[11px] text-soft">A</kbd>}
        </button>
      )}
      <Choice
        label={`What ${c.written} is`}
        named={false}
        width="w-32 px-1 text-soft"
        value=""
        onChange={take}
        ask={c.nearest ? "something else" : "what is it?"}
        options={[
          { group: "A new code, drawn as", of: KINDS.map(([kind, name]) => [`new:${kind}`, name] as const) },
          { group: "Read as", of: (job.book.codes ?? []).map((x) => [`read:${x.code}`, x.code] as const) },
        ]}
      />
    </span>
  );
}

/** Words behind a code that it does not read. */
function Words({ words }: { words: readonly LookedWord[] }) {
  return (
    <>
      <h3 className="heading mt-4 text-[14px]">
        Words not read{" "}
        <span className="font-sans text-[13px] font-normal text-soft">they stay in the description all the same</span>
      </h3>
      <table className="plain mt-1" aria-label="Words not read">
        <thead>
          <tr>
            <th>Word</th>
            <th>Behind</th>
            <th className="num w-16">Shots</th>
            <th className="w-96">What it is</th>
          </tr>
        </thead>
        <tbody>
          {words.slice(0, MOST).map((w) => (
            <tr key={`${w.code} ${w.word}`}>
              <td className="max-w-40 truncate font-medium">{w.word}</td>
              <td>{w.code}</td>
              <td className="num">{w.count}</td>
              <td className="py-0.5">
                <TeachWord word={w} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {words.length > MOST && <p className="text-soft">and {words.length - MOST} more</p>}
    </>
  );
}

function TeachWord({ word: w }: { word: LookedWord }) {
  const { job } = useParts("job");
  const [name, value] = w.word.includes("=") ? (w.word.split("=", 2) as [string, string]) : [undefined, w.word];
  const [type, setType] = useState<"text" | "number">();
  const [called, setCalled] = useState(name ?? "");
  const taken = (job.book.codes ?? [])
    .find((c) => c.code.toUpperCase() === w.code)
    ?.attributes?.some((a) => a.name.toLowerCase() === called.trim().toLowerCase());
  const addAttribute = () => {
    const attribute = { name: called.trim(), type: type! };
    teach(withAttribute(job.book, w.code, attribute), `${w.code} has the attribute ${attribute.name} from now on.`);
  };
  if (type)
    return (
      <form
        className="flex items-center gap-1"
        onSubmit={(event) => {
          event.preventDefault();
          if (called.trim() && !taken) addAttribute();
        }}
      >
        <Typed
          label={`Name of the attribute that holds ${value}`}
          named={false}
          text={called}
          onType={setCalled}
          wrong={taken === true}
          width="w-32"
          most={60}
          placeholder="name of the attribute"
          autoFocus
        />
        <button
          className="button h-6 px-2"
          {...unless(taken ? "The code has an attribute of this name." : !called.trim() && "Name the attribute first.")}
        >
          Add it to {w.code}
        </button>
        <button type="button" className="button button-plain h-6 px-1" onClick={() => setType(undefined)}>
          Leave it
        </button>
      </form>
    );
  const cues = ACTIONS.filter((a) => isValued(a) === (name !== undefined));
  return (
    <Choice
      label={`What ${w.word} is`}
      named={false}
      width="w-48 px-1 text-soft"
      value=""
      onChange={(v) => {
        const [what, choice] = v.split(":") as [string, string];
        if (what === "attribute") setType(choice as "text" | "number");
        else {
          const spelling = name ?? w.word;
          teach(
            withSpelling(job.book, choice as Action, spelling),
            `“${spelling}” is written for the cue ${choice} from now on.`,
          );
        }
      }}
      ask="what is it?"
      options={[
        {
          group: `An attribute of ${w.code}`,
          of: [
            ["attribute:text", "a text"],
            ["attribute:number", "a number"],
          ],
        },
        { group: "Another spelling of the cue", of: cues.map((a) => [`cue:${a}`, a] as const) },
      ]}
    />
  );
}

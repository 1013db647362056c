"use client";
/** What asks for more than a press: another code, a parallel, the width of a rectangle. */
import { useEffect, useState, type ReactNode } from "react";
import { addParallel, completeLine, recodeLine, type CodeEntry } from "@bramble/core";
import { plainNumber } from "@bramble/core/math/round";
import { Choice } from "../../controls/fields/Choice";
import { lengthReading } from "../../controls/fields/reading";
import { Typed } from "../../controls/fields/Typed";
import { useDraft } from "../../controls/fields/use-draft";
import { unless } from "../../controls/unless";
import { useParts } from "../../lib/store";
import type { LineShown } from "../../lib/view";
import { make } from "./make";

interface FormProps {
  line: LineShown;
  leave: () => void;
}

export function Small({
  label,
  children,
  action,
  ready,
  go,
}: {
  label: string;
  children: ReactNode;
  action: string;
  ready: boolean;
  go: () => void;
}) {
  return (
    <form
      aria-label={label}
      className="mt-2 flex flex-wrap items-end gap-2 border-l-2 border-bramble pl-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (ready) go();
      }}
    >
      {children}
      <button className="button button-main" {...unless(!ready && "Say first what is left open beside it.")}>
        {action}
      </button>
    </form>
  );
}

/** Codes that draw lines or areas. */
export const drawing = (codes: readonly CodeEntry[] = []) =>
  codes.flatMap(({ code, kind }) => (kind === "line" || kind === "area" ? [code] : []));

export function Recode({ line, leave }: FormProps) {
  const { job } = useParts("job");
  const [code, setCode] = useState(line.code),
    [run, setRun] = useState(line.run);
  return (
    <Small
      label="Change code"
      action="Change it"
      ready={code + run !== line.code + line.run && code !== ""}
      go={() => make(recodeLine(job, line, code + run)) && leave()}
    >
      <Choice
        label="Code"
        value={code}
        onChange={setCode}
        options={[...new Set([line.code, ...drawing(job.book.codes)])].map((c) => [c, c] as const)}
      />
      <Typed label="Run" width="num w-16" numeric text={run} onType={(text) => setRun(text.replace(/\D/g, ""))} />
    </Small>
  );
}

export function Parallel({ line, leave }: FormProps) {
  const { job, ask, set, picking } = useParts("job", "ask", "set", "picking");
  const length = lengthReading(job.unit),
    right = useDraft(length),
    up = useDraft(length, "0"),
    [code, setCode] = useState("");
  useEffect(() => () => set({ picking: undefined }), [set]);
  const through = () =>
    set({
      picking: picking
        ? undefined
        : {
            hint: "Click the point that the parallel goes through; Esc ends",
            points: false,
            take: (snap) => {
              set({ picking: undefined });
              void ask({ what: "right of", line: line.key, e: snap.e, n: snap.n }).then(
                (x) => x !== undefined && right.typed.onType(plainNumber(x)),
              );
            },
          },
    });
  return (
    <Small
      label="Parallel"
      action="Draw it"
      ready={right.value !== undefined && right.value !== 0 && up.value !== undefined}
      go={() => make(addParallel(job, line, right.value!, up.value!, code || undefined)) && leave()}
    >
      <Typed
        label={`To the right ${job.unit} (left −)`}
        width="num w-28"
        autoFocus
        {...right.typed}
        wrong={right.typed.text !== "" && !right.value}
      />
      <button type="button" className={`button ${picking ? "button-main" : ""}`} onClick={through}>
        {picking ? "Stop picking" : "Through a point"}
      </button>
      <Typed label={`Higher by ${job.unit}`} width="num w-20" {...up.typed} wrong={up.value === undefined} />
      <Choice
        label="As"
        value={code}
        onChange={setCode}
        options={[["", "the same code"], ...drawing(job.book.codes).map((c) => [c, c] as const)]}
      />
    </Small>
  );
}

export function Width({ line, leave }: FormProps) {
  const { job } = useParts("job");
  const width = useDraft(lengthReading(job.unit));
  return (
    <Small
      label="Complete a rectangle"
      action="Complete it"
      ready={width.value !== undefined && width.value !== 0}
      go={() => make(completeLine(job, line, width.value!)) && leave()}
    >
      <Typed label={`Width to the right ${job.unit} (left −)`} width="num w-32" autoFocus {...width.typed} />
    </Small>
  );
}

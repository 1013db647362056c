"use client";
/** One file of the handover: its name, what it holds and how it is written, and a look at it. */
import type { Edit } from "./edit";
import { useState } from "react";
import type { HandoverFile } from "@bramble/core";
import { leavingName, NAME_WORDS, staysInside, thingRemoved, thingRenamed, wordsOfFile } from "@bramble/core";
import { attempt } from "../../lib/attempt";
import { useParts } from "../../lib/store";
import { ColumnList } from "./ColumnList";
import { Options } from "./Options";
import { PreviewOf } from "./PreviewOf";
import { Typed } from "../../controls/fields/Typed";

export function OneFile({ file, renamed }: { file: HandoverFile; renamed: (name: string) => void }) {
  const { job, change } = useParts("job", "change");
  const edit: Edit = (part) => {
    const next = Object.entries({ ...file, ...part }).filter(([, value]) => value !== undefined);
    void change({ type: "named", part: "handover", name: file.file, old: file, new: Object.fromEntries(next) });
  };
  return (
    <section className="mt-6" aria-label={file.file}>
      <div className="flex items-baseline gap-3">
        <h2 className="heading">{capital(wordsOfFile(file))}</h2>
        <span className="flex-1" />
        <button className="button button-plain" onClick={() => attempt(() => thingRemoved(job, "handover", file.file))}>
          Remove
        </button>
      </div>
      <FileName file={file} renamed={renamed} />
      <Options file={file} edit={edit} />
      <PreviewOf file={file} edit={edit} />
      {(file.format === "csv" || file.format === "xlsx") && <ColumnList file={file} edit={edit} />}
    </section>
  );
}

const capital = (text: string) => text[0]!.toUpperCase() + text.slice(1);

/** The pattern of the name, and the name that it gives now. A file under another name is another file of the part. */
function FileName({ file, renamed }: { file: HandoverFile; renamed: (name: string) => void }) {
  const { job, version } = useParts("job", "version"),
    [text, setText] = useState(file.file);
  const wanted = text.trim(),
    taken = wanted !== file.file && job.handover.some((f) => f.file === wanted),
    wrong = !staysInside(wanted),
    leaves = leavingName(wanted, job, version);
  const take = () => {
    if (wanted === file.file || taken || wrong) return;
    if (attempt(() => thingRenamed(job, "handover", file.file, wanted))) renamed(wanted);
  };
  return (
    <div className="mt-2">
      <Typed
        label={`Name; ${NAME_WORDS.map((w) => `{${w}}`).join(", ")} stand for what the job has`}
        width="w-full max-w-96"
        text={text}
        most={200}
        wrong={taken || wrong}
        onType={setText}
        take={take}
      />
      <span role="status" className={taken || wrong ? "text-red" : "text-soft"}>
        {taken
          ? "Another file of the handover has this name."
          : wrong
            ? "A name such as points.csv or plans/yard.dxf: without \\ and .., and none that systems reserve."
            : `leaves as ${leaves}`}
      </span>
    </div>
  );
}

"use client";
/** One move while it is typed: what is moved and how, and what that does, seen before it is taken. */
import { useEffect } from "react";
import { moveTaken } from "@bramble/core/job/edit/moves";
import type { Snap } from "@bramble/core/lines/snap";
import { formatFixed } from "@bramble/core/math/round";
import { Radio } from "../../controls/fields/Tick";
import { Typed } from "../../controls/fields/Typed";
import { unless } from "../../controls/unless";
import { useJob, useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { BeforeAfter } from "./BeforeAfter";
import { readMove, type MoveDraft, type Texts } from "./draft";
import { FitForm } from "./FitForm";
import { useMoveTold } from "./use-told";
import { WhatMoves } from "./WhatMoves";

export function MoveForm({ draft, setDraft }: { draft: MoveDraft; setDraft: (next: MoveDraft | undefined) => void }) {
  const { job, set, change } = useParts("job", "set", "change"),
    read = readMove(draft, job),
    name = draft.name.trim(),
    twice = name !== draft.old && job.moves.some((m) => m.name === name),
    told = useMoveTold(draft, "move" in read ? read.move : undefined);
  useEffect(() => {
    set({
      preview: told ? told.rows.map(({ before, after }) => [before[0], before[1], after[0], after[1]]) : [],
      marks: told ? told.rows.slice(0, 1).map(({ after: [e, n] }) => ({ e, n, words: "", meant: true })) : [],
    });
  }, [told, set]);
  useEffect(() => () => set({ preview: [], marks: [], picking: undefined }), [set]);
  const leave = () => setDraft(undefined),
    take = () => {
      if (!("move" in read) || twice || name === "") return;
      const made = moveTaken(job, draft.old, read.move);
      if (made === undefined || change(made)) leave();
    };
  const waits =
    name === ""
      ? "Give it a name."
      : twice
        ? "There is a move of this name already."
        : "needs" in read
          ? read.needs
          : "problem" in read
            ? read.problem
            : told?.problem;
  return (
    <form
      aria-label={draft.old ? `Change ${draft.old}` : "New move"}
      className="mt-3 border-t border-rule pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (waits === undefined) take();
      }}
      onKeyDown={(event) => {
        if (event.key !== "Escape" || useJob.getState().picking) return;
        event.stopPropagation();
        leave();
      }}
    >
      <div className="flex flex-wrap items-end gap-2">
        <Typed
          label="Name"
          width="w-40"
          text={draft.name}
          most={200}
          onType={(text) => setDraft({ ...draft, name: text })}
          wrong={twice}
        />
        <WhatMoves draft={draft} setDraft={setDraft} />
      </div>
      <div role="radiogroup" aria-label="How" className="mt-2 flex gap-4">
        <Radio
          group="how it moves"
          words="By amounts"
          on={draft.way === "move"}
          set={() => setDraft({ ...draft, way: "move" })}
        />
        <Radio
          group="how it moves"
          words="Fitted to points that stay"
          on={draft.way === "fit"}
          set={() => setDraft({ ...draft, way: "fit" })}
        />
      </div>
      {draft.way === "move" ? (
        <Amounts draft={draft} setDraft={setDraft} wrong={"at" in read ? read.at : undefined} />
      ) : (
        <FitForm draft={draft} setDraft={setDraft} told={told} />
      )}
      {told && <BeforeAfter told={told} />}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <button className="button button-main" {...unless(waits ?? false)}>
          {draft.old ? "Change it" : "Move them"}
        </button>
        <button type="button" className="button" onClick={leave}>
          Leave it
        </button>
        {waits && (
          <span role="status" className={"problem" in read || twice || told?.problem ? "text-red" : "text-soft"}>
            {waits}
          </span>
        )}
      </div>
    </form>
  );
}

/** A move, a turn, a scale and a rise. */
function Amounts({
  draft,
  setDraft,
  wrong,
}: {
  draft: MoveDraft;
  setDraft: (next: MoveDraft) => void;
  wrong: keyof Texts | undefined;
}) {
  const { job, set, picking } = useParts("job", "set", "picking"),
    { texts } = draft,
    put = (more: Partial<Texts>) => setDraft({ ...draft, texts: { ...texts, ...more } }),
    u = job.unit,
    hint = "Click the position about which they turn";
  const field = (key: keyof Texts, label: string, placeholder: string, width = "num w-24") => (
    <Typed
      key={key}
      label={label}
      text={texts[key]}
      onType={(text) => put({ [key]: text })}
      wrong={wrong === key}
      width={width}
      most={100}
      placeholder={placeholder}
    />
  );
  const inOrder = <T,>(north: T, east: T) => (job.order === "EN" ? [east, north] : [north, east]);
  const pick = () =>
    set({
      picking: {
        hint,
        points: false,
        left: () => set({ picking: undefined }),
        take: ({ e, n }: Snap) => {
          set({ picking: undefined });
          const d = decimalsOf(u) + 1;
          put({ aboutE: formatFixed(e, d), aboutN: formatFixed(n, d) });
        },
      },
    });
  const turns = texts.turn.trim() !== "" || texts.scale.trim() !== "";
  return (
    <>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        {inOrder(field("dN", `To the north, ${u}`, "0"), field("dE", `To the east, ${u}`, "0"))}
        {field("up", `Up, ${u}`, "0", "num w-20")}
        {field("turn", "Turned to the right", "0°", "num w-28")}
        {field("scale", "Scaled by", "1 or 20 ppm", "num w-24")}
      </div>
      {turns && (
        <div className="mt-2 flex flex-wrap items-end gap-2">
          {inOrder(
            field("aboutN", `About northing, ${u}`, "", "num w-32"),
            field("aboutE", `About easting, ${u}`, "", "num w-32"),
          )}
          <button type="button" className="button" aria-pressed={picking?.hint === hint} onClick={pick}>
            Pick it
          </button>
        </div>
      )}
    </>
  );
}

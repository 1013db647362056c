"use client";
/** States of the job that are kept by name in the ledger: naming one, and comparing two. */
import { useState } from "react";
import type { NamedState } from "@bramble/core";
import { NameForm } from "../../controls/fields/NameForm";
import { useParts } from "../../lib/store";
import { Overlay } from "../../controls/Overlay";
import { CompareStates } from "../../bench/states/CompareStates";
import { unless } from "../../controls/unless";
import { Typed } from "../../controls/fields/Typed";

/** What is asked for: a name for the state after an entry, another name, or two states side by side. */
export type Asked = { name: number } | { rename: NamedState } | { compare: number } | undefined;
type Ask = (asked: Asked) => void;

/** Beside the ledger's filter. */
export function StateButtons({ ask }: { ask: Ask }) {
  const { version, waiting } = useParts("version", "waiting"),
    unsaved = waiting.length > 0;
  return (
    <>
      <button
        className="button h-6"
        title="Keep the job as it is now in mind, to compare with it later"
        {...unless(unsaved && "Once all that was changed is saved.")}
        onClick={() => ask({ name: version })}
      >
        Name this state
      </button>
      <button
        className="button h-6"
        title="What changed between two states, and why"
        onClick={() => ask({ compare: 0 })}
      >
        Compare states
      </button>
    </>
  );
}

/** A named state in the ledger, above the entry that it follows. */
export function StateRow({ state, ask }: { state: NamedState; ask: Ask }) {
  const { change } = useParts("change");
  return (
    <tr className="bg-bramble-wash">
      <td className="num text-soft">{state.seq}</td>
      <td colSpan={6}>
        <span className="font-semibold text-bramble">{state.name}</span>{" "}
        <span className="ml-1 text-soft">state of the job after entry {state.seq}</span>
        <button className="button ml-3 inline-flex h-5 px-1.5" onClick={() => ask({ compare: state.seq })}>
          Compare with now
        </button>
        <button className="button button-plain ml-1 inline-flex h-5 px-1" onClick={() => ask({ rename: state })}>
          Rename
        </button>
        <button
          className="button button-plain ml-1 inline-flex h-5 px-1"
          onClick={() => void change({ type: "named", part: "states", name: state.name, old: state, new: null })}
        >
          Forget
        </button>
      </td>
    </tr>
  );
}

export function StatesAsked({ asked, close }: { asked: Asked; close: () => void }) {
  if (!asked) return null;
  if ("compare" in asked) return <CompareStates first={asked.compare} close={close} />;
  return <NameState asked={asked} close={close} />;
}

function NameState({ asked, close }: { asked: { name: number } | { rename: NamedState }; close: () => void }) {
  const { job, version, change } = useParts("job", "version", "change"),
    old = "rename" in asked ? asked.rename : undefined;
  const [after, setAfter] = useState(String(old?.seq ?? (asked as { name: number }).name)),
    isThere = /^\d{1,9}$/.test(after.trim()) && Number(after) <= version;
  const keep = async (name: string) => {
    const put = { type: "named", part: "states", name, old: null, new: { name, seq: Number(after) } } as const,
      away = old && ({ type: "named", part: "states", name: old.name, old, new: null } as const);
    const text = `State “${old?.name}” is called “${name}”`;
    if (await change(away ? { type: "several", text, changes: [away, put] } : put)) close();
  };
  return (
    <Overlay open close={close} title={old ? `Another name for “${old.name}”` : "Name this state"}>
      <Typed
        label="As the job was after entry (0: before the first)"
        box="mt-3"
        width="w-24 tabular-nums"
        numeric
        text={after}
        onType={setAfter}
        wrong={!isThere}
        beside={
          <span className={isThere ? "ml-2 text-soft" : "ml-2 text-amber"}>
            {isThere ? (Number(after) === version ? "the last so far" : "") : `The ledger has entries 1 to ${version}.`}
          </span>
        }
      />
      <div className="mt-3">
        <NameForm
          label="Name of the state"
          action="Keep it"
          first={old?.name ?? ""}
          taken={job.states.filter((s) => s !== old).map((s) => s.name)}
          make={(name) => (isThere ? keep(name) : Promise.resolve())}
          leave={close}
        />
      </div>
    </Overlay>
  );
}

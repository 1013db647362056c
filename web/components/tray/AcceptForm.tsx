"use client";
/** Why a finding is accepted: a reason is asked for, the last one is offered again. */
import { useEffect, useRef } from "react";
import { unless } from "../../controls/unless";

const COMMON = ["checked in the field notes", "measured so, it is there", "of no consequence here"];

export function AcceptForm({
  count,
  kind,
  reason,
  setReason,
  accept,
  leave,
}: {
  count: number;
  kind: string;
  reason: string;
  setReason: (reason: string) => void;
  accept: () => void;
  leave: () => void;
}) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    field.current?.focus();
    field.current?.select();
  }, []);
  return (
    <form
      aria-label="Accept"
      className="mt-2 flex flex-wrap items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        accept();
      }}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        event.stopPropagation();
        leave();
      }}
    >
      <label className="label" htmlFor="reason">
        {count === 1 ? "Because" : `All ${count} of ${kind.replaceAll("-", " ")}, because`}
      </label>
      <input
        ref={field}
        id="reason"
        list="reasons"
        maxLength={1000}
        className="field h-7 min-w-40 flex-1"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <datalist id="reasons">
        {COMMON.map((r) => (
          <option key={r} value={r} />
        ))}
      </datalist>
      <button
        className="button button-main h-7"
        {...unless(reason.trim() === "" && "Say why first: the reason stays with the finding.")}
      >
        Accept
      </button>
      <button type="button" className="button button-plain h-7" onClick={leave}>
        Leave it open
      </button>
    </form>
  );
}

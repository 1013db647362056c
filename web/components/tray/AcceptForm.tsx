"use client";
/** Why a finding is accepted: a reason is asked for, the last one is offered again. */
import { unless } from "../../controls/unless";
import { Typed } from "../../controls/fields/Typed";

const COMMON = [["checked in the field notes"], ["measured so, it is there"], ["of no consequence here"]] as const;

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
  const because = count === 1 ? "Because" : `All ${count} of ${kind.replaceAll("-", " ")}, because`;
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
      <span className="label" aria-hidden>
        {because}
      </span>
      <Typed
        label={because}
        named={false}
        className="field h-7 min-w-40 flex-1"
        autoFocus
        selected
        most={1000}
        offers={COMMON}
        text={reason}
        onType={setReason}
      />
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

"use client";
/** What the person changed and is not stored: waiting for the server, or standing against what somebody else stored. */
import { describeChange, valueText, type EditableChange } from "@bramble/core";
import { useJob } from "../lib/store";

export function Unsaved() {
  const clashes = useJob((s) => s.clashes),
    waiting = useJob((s) => s.waiting),
    stuck = useJob((s) => s.stuck);
  const { giveUp, insist, retry } = useJob.getState();
  if (clashes.length === 0 && !stuck) return null;
  return (
    <section aria-label="Not saved" className="border-t border-rule bg-amber-wash px-4 py-1.5 text-amber">
      {clashes.map(({ name, change, why }) => {
        const clash = why.data.clash as { theirs: unknown; mine: unknown } | undefined,
          one = clash && change.type === "points" && change.edits.length === 1;
        return (
          <div key={name} role="status" className="flex min-h-7 flex-wrap items-center gap-x-3 gap-y-1">
            <span className="min-w-60 flex-1">{why.message}</span>
            <button className="button h-6" onClick={() => insist(name)}>
              {one ? `Take mine: ${valueText(clash.mine)}` : `Try again: ${describeChange(change)}`}
            </button>
            <button className="button h-6" onClick={() => giveUp(name)}>
              {one ? `Keep ${valueText(clash.theirs)}` : "Leave it"}
            </button>
          </div>
        );
      })}
      {stuck && waiting.length > 0 && (
        <div role="status" className="flex min-h-7 flex-wrap items-center gap-x-3 gap-y-1">
          <span className="min-w-60 flex-1">
            {stuck} {waiting.length === 1 ? "One change is" : `${waiting.length} changes are`} kept in this browser and
            tried again: {listed(waiting)}.
          </span>
          <button className="button h-6" onClick={retry}>
            Try now
          </button>
          <button className="button h-6" onClick={() => [...waiting].reverse().forEach((w) => giveUp(w.name))}>
            Give {waiting.length === 1 ? "it" : "them"} up
          </button>
        </div>
      )}
    </section>
  );
}

function listed(waiting: readonly { change: EditableChange }[]): string {
  const deeds = waiting.map((w) => describeChange(w.change)),
    most = 3;
  return deeds.length > most + 1
    ? `${deeds.slice(0, most).join("; ")} and ${deeds.length - most} more`
    : deeds.join("; ");
}

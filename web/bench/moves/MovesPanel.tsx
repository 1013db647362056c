"use client";
/** The job's moves: points moved, turned, scaled, raised or fitted to others, each a thing that is changed and taken away. */
import { moveWords, movedWords } from "@bramble/core/points/move-words";
import { GONE } from "@bramble/core/points/table";
import { unless } from "../../controls/unless";
import { useParts } from "../../lib/store";
import { decimalsOf, grouped } from "../../lib/units-shown";
import { useFound } from "../../lib/use-found";
import { useKept } from "../../lib/use-kept";
import { beginMove, MOVE_DRAFT } from "./begin";
import { draftOfMove, type MoveDraft } from "./draft";
import { MoveForm } from "./MoveForm";

export function MovesPanel() {
  const { job, view, change } = useParts("job", "view", "change"),
    { numberOf } = useFound(),
    [draft, setDraft] = useKept<MoveDraft | undefined>(MOVE_DRAFT, undefined),
    said = { decimals: decimalsOf(job.unit), numberOf };
  const none = job.points.deleted.every((d) => d & GONE);
  return (
    <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
      <div className="flex items-center gap-3 pb-2">
        <p className="flex-1 text-soft">
          Carried out one after another on what is stored; change or remove any of them. What follows the points
          follows.
        </p>
        <button
          className="button"
          onClick={beginMove}
          {...unless(draft ? "One is open below: take it or leave it first." : none && "There is no point yet.")}
        >
          New move
        </button>
      </div>
      {job.moves.length > 0 && (
        <table className="plain">
          <thead>
            <tr>
              <th>Move</th>
              <th>What it does</th>
              <th className="num w-20">Points</th>
              <th className="w-36" aria-label="Change or remove" />
            </tr>
          </thead>
          <tbody>
            {job.moves.map((m) => {
              const made = view.standing.moves.find((x) => x.name === m.name);
              return (
                <tr key={m.name} aria-selected={draft?.old === m.name}>
                  <td className="max-w-40 truncate font-medium" title={m.name}>
                    {m.name}
                  </td>
                  <td className="max-w-70 truncate" title={`${movedWords(m)}: ${moveWords(m, said)}`}>
                    {moveWords(m, said)}
                  </td>
                  <td className="num">
                    {made ? (
                      grouped(made.ids.length)
                    ) : (
                      <span className="text-amber" title="It is not carried out now: the findings say why.">
                        none
                      </span>
                    )}
                  </td>
                  <td className="text-right whitespace-nowrap">
                    <button
                      className="button button-plain h-6 px-1.5"
                      aria-label={`Change ${m.name}`}
                      {...unless(draft && draft.old !== m.name && "One is open below: take it or leave it first.")}
                      onClick={() => setDraft(draftOfMove(m))}
                    >
                      Change
                    </button>
                    <button
                      className="button button-plain h-6 px-1.5"
                      aria-label={`Remove ${m.name}`}
                      title="Its points stand where they stood without it"
                      onClick={() => {
                        if (
                          change({ type: "named", part: "moves", name: m.name, old: m, new: null }) &&
                          draft?.old === m.name
                        )
                          setDraft(undefined);
                      }}
                    >
                      Remove
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {job.moves.length === 0 && !draft && (
        <p className="py-3 text-soft">
          Nothing is moved. A delivery in a wrong position is brought where it belongs by a shift, a turn, or a fit to
          control.
        </p>
      )}
      {draft && <MoveForm draft={draft} setDraft={setDraft} />}
    </div>
  );
}

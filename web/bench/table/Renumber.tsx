"use client";
/** Other numbers for the selected points, one after another in the order of the table; seen before they are given. */
import { useMemo, useState } from "react";
import { Refusal, renumber } from "@bramble/core";
import { addToNumber } from "@bramble/core/points/numbers";
import { nextFreeNumber } from "@bramble/core/job/change/next-number";
import { useParts } from "../../lib/store";
import { grouped } from "../../lib/units-shown";
import { Follows } from "./AskFirst";
import { unless } from "../../controls/unless";
import { Typed } from "../../controls/fields/Typed";

export function Renumber({ rows, close }: { rows: Int32Array; close: () => void }) {
  const { job, points, change } = useParts("job", "points", "change");
  const [from, setFrom] = useState(() => nextFreeNumber(job));
  const t = job.points;
  const made = useMemo(() => {
    const wanted = Array.from(rows)
      .filter((i) => points.has(t.id[i]!))
      .map((i, k) => ({ id: t.id[i]!, number: addToNumber(from.trim(), k), now: t.number[i]! }));
    if (wanted.length === 0) return { wanted, problem: "No point is selected any more." };
    if (from.trim() === "") return { wanted, problem: "Say which number the first gets." };
    try {
      if (wanted.every((w) => w.number === w.now)) return { wanted, problem: "They have these numbers already." };
      return { wanted, ...renumber(job, wanted) };
    } catch (e) {
      if (e instanceof Refusal) return { wanted, problem: e.message };
      throw e;
    }
  }, [rows, points, job, from, t]);
  const { wanted } = made,
    first = wanted[0],
    last = wanted.at(-1);
  const keep = () => {
    if (!("change" in made)) return;
    change(made.change);
    close();
  };
  return (
    <form
      aria-label="Renumber"
      className="mx-4 mb-2 border-l-2 border-bramble px-3 py-1"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
      onKeyDown={(event) => event.key === "Escape" && close()}
    >
      <div className="flex flex-wrap items-center gap-2">
        <label className="flex items-center gap-2">
          <span className="label">Number {grouped(wanted.length)} selected from</span>
          <Typed
            label={`Number ${grouped(wanted.length)} selected from`}
            named={false}
            className="field w-28"
            autoFocus
            text={from}
            most={60}
            onType={setFrom}
          />
        </label>
        {first && last && "change" in made && (
          <span className="text-soft tabular-nums">
            {first.now} → {first.number}
            {last !== first && ` … ${last.now} → ${last.number}`}
          </span>
        )}
        <button className="button button-main h-7" {...unless(!("change" in made) && "See beside it why not.")}>
          Renumber
        </button>
        <button type="button" className="button h-7" onClick={close}>
          Leave it
        </button>
      </div>
      {"problem" in made ? (
        <p role="alert" className="pt-1 text-red">
          {made.problem}
        </p>
      ) : (
        <Follows follows={made.follows ?? []} />
      )}
      <p className="pt-1 text-[12px] text-soft">
        In the order of the table. What the crew wrote goes on meaning the points that came with those numbers.
      </p>
    </form>
  );
}

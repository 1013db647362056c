"use client";
/** Numbers that are there already: each with both places and an answer of its own, or one answer for all. */
import { useState } from "react";
import type { ClashPolicy, IntakeOptions, LookedClash, Unit } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { plural } from "@bramble/core/math/words";
import { decimalsOf } from "../../lib/units-shown";
import { Choice } from "../Choice";
import { CLASHES } from "./names";

const STEP = 100;

export function Clashes({
  clashes,
  given,
  unit,
  change,
}: {
  clashes: readonly LookedClash[];
  given: IntakeOptions;
  unit: Unit;
  change: (part: Partial<IntakeOptions>) => void;
}) {
  const [most, setMost] = useState(STEP);
  const d = decimalsOf(unit),
    answers = given.clashes ?? {},
    all = given.clash ?? "stop";
  const answer = (number: string, policy: string) => {
    const { [number]: _, ...rest } = answers;
    change({ clashes: policy === "" ? rest : { ...rest, [number]: policy as ClashPolicy } });
  };
  return (
    <section aria-label="Numbers used twice" className="mt-4">
      <h2 className="heading">
        Numbers used twice <span className="font-sans text-[13px] font-normal text-soft">{clashes.length}</span>
      </h2>
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <Choice
          label="Numbers that are there already"
          value={all}
          onChange={(v) => change({ clash: v as ClashPolicy })}
          options={CLASHES}
        />
        {(all === "add" || Object.values(answers).includes("add")) && (
          <label className="block">
            <span className="label block">Add</span>
            <input
              type="number"
              min={1}
              className="field mt-0.5 w-24"
              value={given.add ?? 1000}
              onChange={(event) => change({ add: Math.max(1, Math.floor(Number(event.target.value))) })}
            />
          </label>
        )}
      </div>
      <div className="mt-2 max-h-72 overflow-auto">
        <table className="plain">
          <thead className="sticky top-0 bg-bench">
            <tr>
              <th>Number</th>
              <th className="num">Row</th>
              <th>There already</th>
              <th className="num">Apart {unit}</th>
              <th className="num">In level</th>
              <th>Answer</th>
            </tr>
          </thead>
          <tbody>
            {clashes.slice(0, most).map((c) => {
              const plan = Math.hypot(c.e - c.there.e, c.n - c.there.n),
                level = c.z - c.there.z;
              return (
                <tr key={c.row}>
                  <td className="font-medium">{c.number}</td>
                  <td className="num">{c.row}</td>
                  <td className="max-w-36 truncate text-soft" title={c.there.from}>
                    {c.there.from}
                  </td>
                  <td className="num">{formatFixed(plan, d)}</td>
                  <td className="num">{Number.isNaN(level) ? "–" : formatFixed(level, d).replace("-", "−")}</td>
                  <td>
                    <select
                      className="field h-6 w-32 px-1"
                      aria-label={`Answer for ${c.number} in row ${c.row}`}
                      value={answers[c.number] ?? ""}
                      onChange={(event) => answer(c.number, event.target.value)}
                    >
                      <option value="">as for all</option>
                      {CLASHES.map(([v, name]) => (
                        <option key={v} value={v}>
                          {name}
                        </option>
                      ))}
                    </select>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {clashes.length > most && (
        <button className="button button-plain mt-1" onClick={() => setMost(most + 10 * STEP)}>
          Show more of {plural(clashes.length, "clash", "clashes")}
        </button>
      )}
    </section>
  );
}

/** Those that would stop the intake. */
export function stopping(clashes: readonly LookedClash[], given: IntakeOptions): LookedClash[] {
  return clashes.filter((c) => (given.clashes?.[c.number] ?? given.clash ?? "stop") === "stop");
}

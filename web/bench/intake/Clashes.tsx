"use client";
/** Numbers that are there already: each with both positions and an answer of its own, or one answer for all. */
import { useState } from "react";
import type { ClashPolicy, IntakeOptions, LookedClash, Repeated, Unit } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { plural, someOf } from "@bramble/core/math/words";
import { decimalsOf, grouped } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { Choice } from "../../controls/fields/Choice";
import { answerTo, apart, inOrder, type Answer, type Answers, type ClashOrder } from "@bramble/core/job/told/answers";
import { CLASHES } from "./names";
import { NumberField } from "../../controls/fields/fields";

const STEP = 100;
const ANSWERS: [Answer, string][] = [...CLASHES, ["mean", "the mean of both"]];
const CAME_TO: Record<Answer, string> = {
  stop: "not answered",
  "keep-first": "kept as they are",
  replace: "replaced",
  add: "renumbered",
  mean: "moved to the mean",
};

export function Clashes({
  clashes,
  answers,
  unit,
  change,
  setMeans,
}: {
  clashes: readonly LookedClash[];
  answers: Answers;
  unit: Unit;
  change: (part: Partial<IntakeOptions>) => void;
  setMeans: (means: readonly string[]) => void;
}) {
  const { given, means } = answers,
    own = given.clashes ?? {},
    all = given.clash ?? "stop";
  const answer = (number: string, choice: string) => {
    const { [number]: _, ...rest } = own;
    setMeans(choice === "mean" ? [...means, number] : means.filter((n) => n !== number));
    change({ clashes: choice === "" || choice === "mean" ? rest : { ...rest, [number]: choice as ClashPolicy } });
  };
  const counts = new Map<string, number>();
  for (const c of clashes) {
    const a = answerTo(c, answers),
      what = c.same && a === "keep-first" ? "the same, set aside" : CAME_TO[a];
    counts.set(what, (counts.get(what) ?? 0) + 1);
  }
  const here = new Set(clashes.map((c) => c.number)),
    earlier = Object.keys(own).filter((n) => !here.has(n));
  return (
    <section aria-label="Numbers used twice" className="mt-4">
      <h2 className="heading">
        Numbers used twice{" "}
        <span className="font-sans text-[13px] font-normal text-soft" data-testid="clash-counts">
          {[...counts].map(([what, n]) => `${grouped(n)} ${what}`).join(", ")}
        </span>
      </h2>
      <div className="mt-1 flex flex-wrap items-end gap-2">
        <Choice
          label="Numbers that are there already"
          value={all}
          onChange={(v) => change({ clash: v })}
          options={CLASHES}
        />
        {(all === "add" || Object.values(own).includes("add")) && (
          <NumberField
            label="Add"
            width="w-24"
            value={given.add ?? 1000}
            allowed={(x) => Number.isInteger(x) && x >= 1 && x <= 1_000_000_000}
            hint="A whole number from 1 on."
            onChange={(add) => change({ add })}
          />
        )}
      </div>
      <ClashTable clashes={clashes} answers={answers} unit={unit} answer={answer} />
      {earlier.length > 0 && (
        <p className="mt-1 text-soft">
          Answered earlier, and not used twice any more: {someOf(earlier, 6)}.{" "}
          <button
            className="underline"
            onClick={() => change({ clashes: Object.fromEntries(Object.entries(own).filter(([n]) => here.has(n))) })}
          >
            Forget these answers
          </button>
        </p>
      )}
    </section>
  );
}

/** Each of them with its answer, as many as one asks for. */
function ClashTable({
  clashes,
  answers,
  unit,
  answer,
}: {
  clashes: readonly LookedClash[];
  answers: Answers;
  unit: Unit;
  answer: (number: string, choice: string) => void;
}) {
  const [most, setMost] = useState(STEP),
    [order, setOrder] = useKept<ClashOrder>("intake.clashOrder", "row"),
    d = decimalsOf(unit),
    { given, means } = answers,
    own = given.clashes ?? {};
  const heading = (by: ClashOrder, text: string, numeric = true) => (
    <th
      className={numeric ? "num" : ""}
      aria-sort={order === by ? (by === "row" ? "ascending" : "descending") : "none"}
    >
      <button className="hover:text-bramble" onClick={() => setOrder(by)}>
        {text}
        {order === by && <span aria-hidden>{by === "row" ? " ↑" : " ↓"}</span>}
      </button>
    </th>
  );
  return (
    <>
      <div className="mt-2 max-h-72 overflow-auto">
        <table className="plain">
          <thead className="sticky top-0 bg-bench">
            <tr>
              <th>Number</th>
              {heading("row", "Row")}
              <th>There already</th>
              {heading("plan", `Apart ${unit}`)}
              {heading("level", "In level")}
              <th>Answer</th>
            </tr>
          </thead>
          <tbody>
            {inOrder(clashes, order, answers)
              .slice(0, most)
              .map((c) => {
                const { plan, level } = apart(c),
                  now = answerTo(c, answers);
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
                      <Choice
                        label={`Answer for ${c.number} in row ${c.row}`}
                        named={false}
                        className={`field h-6 w-40 px-1 ${now === "stop" ? "text-amber" : ""}`}
                        value={means.includes(c.number) ? "mean" : (own[c.number] ?? "")}
                        onChange={(v) => answer(c.number, v)}
                        options={[
                          ["", c.same ? "the same: set aside" : "as for all"],
                          ...ANSWERS.map(([v, name]) => [v, name] as const),
                        ]}
                      />
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
    </>
  );
}

/** A delivery that came before, said in one line. */
export function RepeatedDelivery({ repeated: r }: { repeated: Repeated }) {
  return (
    <p className="mb-3 border-l-2 border-bramble px-3 py-1" data-testid="repeated">
      It repeats “{r.file}”: {plural(r.fresh, "point is new", "points are new")}, {grouped(r.same)} the same,{" "}
      {grouped(r.changed)} changed
      {r.gone.length ? `; ${grouped(r.gone.length)} of it did not come again: ${someOf(r.gone, 6)}` : ""}.
    </p>
  );
}

"use client";
/** The words that steer lines: what each action does is fixed, how it is spelt is the book's. */
import { useState } from "react";
import { ACTIONS, isValued, workOf, type Action } from "@bramble/core/codes/book";
import { useParts } from "../../lib/store";
import { putBook } from "./put-book";
import { TakenText } from "../../controls/fields/TakenText";

export function Cues() {
  const { job } = useParts("job");
  const book = job.book,
    cues = (book.cues ?? {}) as Partial<Record<Action, string[]>>;
  const spelt = (a: Action) => cues[a] ?? [a];
  const [problem, setProblem] = useState<{ action: Action; text: string }>();
  const keep = (action: Action, text: string) => {
    const words = [
      ...new Set(
        text
          .toLowerCase()
          .split(/[\s,]+/)
          .filter(Boolean),
      ),
    ];
    const bad = words.find((w) => /[/;="]/.test(w)),
      other = ACTIONS.find((a) => a !== action && spelt(a).some((w) => words.includes(w.toLowerCase())));
    if (bad) return setProblem({ action, text: `“${bad}” holds a sign that a description uses: / ; = "` });
    if (other)
      return setProblem({
        action,
        text: `“${spelt(other).find((w) => words.includes(w.toLowerCase()))}” means ${other} already.`,
      });
    if (words.length === 0) return setProblem({ action, text: "A cue needs one word at least." });
    setProblem(undefined);
    if (words.join(" ") === spelt(action).join(" ")) return;
    const next = { ...cues, [action]: words };
    if (words.length === 1 && words[0] === action) delete next[action];
    void putBook({ ...book, cues: next });
  };
  return (
    <table className="plain max-w-2xl" aria-label="Cue words">
      <thead>
        <tr>
          <th className="w-24">Cue</th>
          <th>What it does</th>
          <th className="w-64">Written as (several words apart)</th>
        </tr>
      </thead>
      <tbody>
        {ACTIONS.map((a) => (
          <tr key={a}>
            <td className="font-medium">
              {a}
              {isValued(a) ? "=…" : ""}
            </td>
            <td className="text-soft">{workOf(a)}</td>
            <td>
              <TakenText
                className="field h-6 w-full"
                label={`Words for ${a}`}
                value={spelt(a).join(" ")}
                maxLength={200}
                invalid={problem?.action === a}
                take={(text) => keep(a, text)}
              />
              {problem?.action === a && (
                <p role="alert" className="text-[11.5px] text-red">
                  {problem.text}
                </p>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

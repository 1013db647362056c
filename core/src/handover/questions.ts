/** What the crew is asked, as it leaves: positions to be set out, and a page of sentences. */
import type { OutTable } from "./table";

export interface Question {
  /** `Q1`, by which page and points name it. */
  mark: string;
  /** What is to be done: “measure again”. */
  task: string;
  /** The finding in a sentence. */
  about: string;
  /** Numbers of the points concerned. */
  numbers: readonly string[];
  /** East, north, level of each; a level that is not known is NaN. */
  at: readonly (readonly [number, number, number])[];
}

/** Positions as points of their own: Q1, or Q1-1, Q1-2 … where a question has several. */
export function questionsTable(questions: readonly Question[], decimals: number): OutTable {
  const rows = questions.flatMap((q) =>
    q.at.map((at, k) => ({
      number: q.at.length > 1 ? `${q.mark}-${k + 1}` : q.mark,
      at,
      words: [q.task, q.numbers[q.at.length > 1 ? k : 0]].filter(Boolean).join(": point "),
    })),
  );
  const number = (title: string, k: 0 | 1 | 2) => ({ title, decimals, number: (row: number) => rows[row]!.at[k] });
  return {
    name: "questions",
    count: rows.length,
    columns: [
      { title: "number", text: (k) => rows[k]!.number },
      number("northing", 1),
      number("easting", 0),
      number("elevation", 2),
      { title: "description", text: (k) => rows[k]!.words },
    ],
  };
}

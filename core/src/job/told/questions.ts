/** What goes back to the crew: open findings that only the field can settle, each with what is to be done and where. */
import { sentenceOf } from "../../finding";
import { kindOfFinding } from "../../finding-kinds";
import type { Question } from "../../handover/questions";
import { rowOf } from "../../points/table";
import type { JobState } from "../model/model";
import { namesIn } from "./summary";
import type { Derived } from "../chain/values";

/** Questions in the order of the findings, numbered Q1, Q2 …; points of a question are told by their numbers. */
export function questionsOf({ points: t }: JobState, { findings, lines }: Derived): Question[] {
  const names = namesIn(t, lines);
  return findings
    .filter((f) => f.accepted === undefined && kindOfFinding(f.kind).asked !== undefined)
    .map((f, k): Question => {
      const rows = f.points.map((id) => rowOf(t, id)).filter((row) => row >= 0);
      return {
        mark: `Q${k + 1}`,
        task: kindOfFinding(f.kind).asked!,
        about: sentenceOf(f, names),
        numbers: rows.map((row) => t.number[row]!),
        // Where it is, or where each of its points stands.
        at:
          f.at && rows.length < 2
            ? [[f.at[0], f.at[1], levelAt(rows[0])]]
            : rows.map((row) => [t.e[row]!, t.n[row]!, t.z[row]!]),
      };
    });

  function levelAt(row: number | undefined): number {
    return row === undefined ? NaN : t.z[row]!;
  }
}

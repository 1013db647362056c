/** What goes back to the crew: open findings that only the field can settle, each with what is to be done and where. */
import { sentenceOf, type FindingKind } from "../../finding";
import type { Question } from "../../handover/questions";
import { rowOf } from "../../points/table";
import type { JobState } from "../model/model";
import { namesIn } from "./summary";
import type { Derived } from "../chain/values";

/** What the crew is asked to do; findings that the office settles alone are not among them. */
const ASKED: Partial<Record<FindingKind, string>> = {
  "no-elevation": "measure the level",
  "zero-elevation": "measure the level again",
  spike: "measure again",
  "height-run": "say the target height, or measure two of them again",
  precision: "measure again, more precisely",
  "control-differs": "measure the control point again",
  "repeat-differs": "measure again",
  "axes-swapped": "say which coordinate is which",
  "far-away": "say whether this was measured here",
  "number-clash": "say which number is right",
  "outside-range": "say which number is right",
  "unknown-code": "say what this is",
  "unread-word": "say what this word means",
  "unread-row": "send this row again",
  "attribute-missing": "say the attribute",
  "attribute-wrong": "say the right value",
  "single-point-line": "measure the rest of the line, or say that it is a point",
  "long-segment": "say how the line runs between",
  "area-unclosed": "say how the area closes",
  "line-nearly-closed": "say whether the line closes",
  "line-crosses-itself": "say how the line runs",
  "breaklines-cross": "measure where they cross",
  "no-ground-near": "measure the ground beside it",
  "shots-far-apart": "measure between them",
  "arc-misfit": "measure the arc again",
  "arc-flat": "measure the arc again",
  "cue-ignored": "say how the line runs",
};

/** Questions in the order of the findings, numbered Q1, Q2 …; points of a question are told by their numbers. */
export function questionsOf({ points: t }: JobState, { findings, lines }: Derived): Question[] {
  const names = namesIn(t, lines);
  return findings
    .filter((f) => f.accepted === undefined && ASKED[f.kind] !== undefined)
    .map((f, k): Question => {
      const rows = f.points.map((id) => rowOf(t, id)).filter((row) => row >= 0);
      return {
        mark: `Q${k + 1}`,
        task: ASKED[f.kind]!,
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

/** Back to the crew: a page of what is open, what is to be done about it, and where. */
import type { JobState } from "../job/model/model";
import { questionsOf } from "../job/told/questions";
import { unplacedRows } from "../job/told/summary";
import type { Derived } from "../job/chain/values";
import { formatFixed } from "../math/round";
import { decimalsOf } from "../math/units";
import { plural } from "../math/words";
import { table, text } from "./blocks";
import type { Chapter, Report } from "./model";

export interface CrewOptions {
  author: string;
  at: string;
  /** Of which state of the job it is. */
  of: string;
}

/** Positions that are told on the page itself; all of them are in the file of points. */
const MOST_TOLD = 3;

export function crewReport(s: JobState, d: Derived, { author, at, of }: CrewOptions): Report {
  const questions = questionsOf(s, d),
    decimals = decimalsOf(s.unit),
    chapters: Chapter[] = [];
  const where = (q: (typeof questions)[number]) => {
    const told = q.at
        .slice(0, MOST_TOLD)
        .map(([e, n]) => `E ${formatFixed(e, decimals)} N ${formatFixed(n, decimals)}`),
      more = q.at.length - told.length;
    return [...told, ...(more > 0 ? [`and ${plural(more, "position")} more`] : [])].join("; ");
  };
  chapters.push({
    title: "To be done",
    blocks: questions.length
      ? [
          table(
            `${plural(questions.length, "question")}, their positions in ${s.unit}`,
            [
              { title: "No." },
              { title: "To do" },
              { title: "What was noticed" },
              { title: "Where" },
              { title: "Done" },
            ],
            questions.map((q) => [q.mark, q.task, q.about, where(q), ""]),
          ),
        ]
      : [text("Nothing is open that the field would have to settle.")],
  });
  const refused = s.intakes.flatMap((k, index) => {
    const rows = [...k.refused, ...unplacedRows(s.points, index)];
    return rows.map((r) => [k.file, r.row, r.reason] as [string, number, string]);
  });
  if (refused.length)
    chapters.push({
      title: "Rows that gave no point",
      blocks: [
        table(
          plural(refused.length, "row"),
          [{ title: "File" }, { title: "Row", decimals: 0 }, { title: "Why" }],
          refused.slice(0, 100),
        ),
        ...(refused.length > 100 ? [text(`and ${refused.length - 100} more`)] : []),
      ],
    });
  return {
    title: "Back to the crew",
    facts: [
      ["Job", s.name],
      ...(s.crew ? [["Crew", s.crew] as [string, string]] : []),
      ["State", of],
      ["Made", `${at}${author ? ` by ${author}` : ""}`],
    ],
    chapters,
  };
}

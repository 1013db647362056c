/** Findings about intakes: rows that could not be read, numbers used twice, stations beyond their line. */
import type { IntakeInfo } from "../intake/model";
import type { CrewRange } from "../points/numbers";
import { finding, type Finding } from "../finding";
import { plural, someOf } from "../math/words";
import type { PointTable } from "../points/table";

/** Rows beyond this many in one intake are told in one finding. */
const ROWS_EACH = 50;

export function intakeFindings(intakes: readonly IntakeInfo[]): Finding[] {
  return intakes.flatMap((k) => {
    const rows = k.refused.slice(0, ROWS_EACH).map((r) =>
      finding("unread-row", "warning", `${k.file}, row ${r.row}: ${r.reason}. The row gave no point; correct the layout or the file.`, {
        data: { intake: k.id, row: r.row },
      }));
    const rest = k.refused.length - ROWS_EACH;
    if (rest > 0) rows.push(finding("unread-row", "warning", `${k.file}: ${rest} more rows could not be read.`, { data: { intake: k.id, rows: rest } }));
    const clashes = k.clashes.map((c) => {
      const what = c.became === "passed over" ? "the later shot was passed over" : c.became === "replaced" ? "the later shot took its place" : `the later shot is point ${c.became}`;
      return finding("number-clash", "warning", `Point ${c.number} came twice (${k.file}, row ${c.row}): ${what}.`, {
        points: c.became === "passed over" || c.became === "replaced" ? [c.number] : [c.number, c.became], data: { intake: k.id, row: c.row, became: c.became },
      });
    });
    const beyond = (k.beyond ?? []).map((b) =>
      finding("far-away", "warning", `Point ${b.number} (${k.file}, row ${b.row}): its station lies ${b.by.toFixed(2)} beyond the end of the line; it was taken along the end leg.`, {
        points: [b.number], data: { intake: k.id, row: b.row, beyond: b.by },
      }));
    return [...rows, ...clashes, ...beyond];
  });
}

/** Numbers of a crew's points outside its range: one finding for each intake. Numbers that are no whole numbers belong to no range. */
export function numbersOutsideRange(t: PointTable, intakes: readonly IntakeInfo[], crews: readonly CrewRange[]): Finding[] {
  const ranges = intakes.map((k) => crews.find((c) => c.crew === k.crew));
  const per = new Map<number, string[]>();
  for (let i = 0; i < t.count; i++) {
    const range = t.deleted[i] ? undefined : ranges[t.intake[i]!];
    if (!range || !/^\d{1,15}$/.test(t.number[i]!)) continue;
    const number = Number(t.number[i]);
    if (number >= range.from && number <= range.to) continue;
    const list = per.get(t.intake[i]!);
    if (list) list.push(t.number[i]!);
    else per.set(t.intake[i]!, [t.number[i]!]);
  }
  return [...per].map(([k, points]) => {
    const range = ranges[k]!;
    return finding("outside-range", "warning", `${plural(points.length, "number")} of crew ${range.crew} (${someOf(points)}, ${intakes[k]!.file}) outside its range ${range.from} to ${range.to}. Renumber them, or widen the range in the job's settings.`, {
      points, data: { intake: intakes[k]!.id, from: range.from, to: range.to },
    });
  });
}

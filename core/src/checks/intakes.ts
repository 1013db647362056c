/** Findings about intakes: rows that could not be read, numbers used twice, stations beyond their line. */
import { finding, type Finding } from "../finding";
import type { IntakeInfo } from "../job/model";

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

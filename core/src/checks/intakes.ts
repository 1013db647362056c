/**
 * Findings about intakes: rows that could not be read or give no position, numbers used twice, stations beyond their line.
 */
import { notice, pts, say, type Noticed } from "../finding";
import type { IntakeInfo } from "../intake/model";
import { lengthText, type Unit } from "../math/units";
import { plural } from "../math/words";
import { numberIndex } from "../points/index";
import type { CrewRange } from "../points/numbers";
import { GONE_UNPLACED, rowIndex, type PointTable } from "../points/table";

/** Rows beyond this many in one intake are told in one finding. */
const ROWS_EACH = 50;

export function intakeFindings(
  t: Pick<PointTable, "count" | "intake" | "row" | "number" | "deleted">,
  intakes: readonly IntakeInfo[],
  unit: Unit,
): Noticed[] {
  const told = intakes.some((k) => k.clashes.length || k.beyond?.length);
  const byRow = told ? rowIndex(t) : () => -1,
    byNumber = told ? numberIndex(t) : new Map<string, number>();
  return intakes.flatMap((k, intake) => {
    const rows = k.refused
      .slice(0, ROWS_EACH)
      .map((r) =>
        notice(
          "unread-row",
          "warning",
          say`${k.file}, row ${r.row}: ${r.reason}. The row gave no point; correct the layout or the file.`,
          { data: { intake: k.id, row: r.row }, subject: `${k.id} row ${r.row}` },
        ),
      );
    const rest = k.refused.length - ROWS_EACH;
    if (rest > 0)
      rows.push(
        notice("unread-row", "warning", say`${k.file}: ${rest} more rows could not be read.`, {
          data: { intake: k.id, rows: rest },
          subject: `${k.id} more`,
        }),
      );
    const clashes = k.clashes.map((c) => {
      const passed = c.became === "passed over",
        replaced = c.became === "replaced";
      const own = byRow(intake, c.row),
        holder = byNumber.get(c.number);
      const points = [...new Set([passed || !replaced ? (holder ?? -1) : -1, passed ? -1 : own])].filter((i) => i >= 0);
      const what = passed
        ? ["the later shot was passed over"]
        : replaced
          ? ["the later shot took its place"]
          : ["the later shot is point ", own >= 0 ? pts(own) : c.became];
      // It was answered before it was taken in: nothing is left to be done.
      return notice(
        "number-clash",
        "note",
        [`Point ${c.number} came twice (${k.file}, row ${c.row}): `, ...what, "."],
        { points, data: { intake: k.id, row: c.row, became: c.became }, subject: `${k.id} row ${c.row}` },
      );
    });
    const beyond = (k.beyond ?? []).map((b) => {
      const own = byRow(intake, b.row);
      const words = say`Point ${own >= 0 ? pts(own) : b.number} (${k.file}, row ${b.row}): its station lies ${lengthText(b.by, unit)} beyond the end of the line; it was taken along the end leg.`;
      return notice("far-away", "warning", words, {
        points: own >= 0 ? [own] : [],
        data: { intake: k.id, row: b.row, beyond: b.by },
        subject: `${k.id} row ${b.row}`,
      });
    });
    return [...rows, ...clashes, ...beyond];
  });
}

/** Why an observed point has no position. */
export const UNPLACED_REASON =
  "observed only from setups whose station or backsight is not known, that are taken out, or where it is another point";

/** Observed points that no reduced setup gives a position. */
export function unplacedFindings(
  t: Pick<PointTable, "count" | "intake" | "row" | "deleted">,
  intakes: readonly IntakeInfo[],
): Noticed[] {
  const per = new Map<number, number[]>();
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i] !== GONE_UNPLACED || t.intake[i]! < 0) continue;
    const list = per.get(t.intake[i]!);
    if (list) list.push(i);
    else per.set(t.intake[i]!, [i]);
  }
  return [...per].flatMap(([intake, rows]) => {
    const { id, file } = intakes[intake]!;
    const each = rows
      .slice(0, ROWS_EACH)
      .map((i) =>
        notice(
          "unread-row",
          "warning",
          say`${file}, row ${t.row[i]!}: point ${pts(i)} was ${UNPLACED_REASON}. It comes back when they are.`,
          { points: [i], data: { intake: id, row: t.row[i]! } },
        ),
      );
    const rest = rows.slice(ROWS_EACH);
    return rest.length
      ? [
          ...each,
          notice(
            "unread-row",
            "warning",
            say`${file}: ${plural(rest.length, "more point")} ${rest.length === 1 ? "was" : "were"} ${UNPLACED_REASON}.`,
            { points: rest, data: { intake: id, rows: rest.length }, subject: `${id} unplaced` },
          ),
        ]
      : each;
  });
}

/**
 * Numbers of a crew's points outside its range: one finding for each intake. Numbers that are no whole numbers belong
 * to no range.
 */
export function numbersOutsideRange(
  t: Pick<PointTable, "count" | "intake" | "number" | "deleted">,
  intakes: readonly IntakeInfo[],
  crews: readonly CrewRange[],
): Noticed[] {
  const ranges = intakes.map((k) => crews.find((c) => c.crew === k.crew));
  const per = new Map<number, number[]>();
  for (let i = 0; i < t.count; i++) {
    const range = t.deleted[i] ? undefined : ranges[t.intake[i]!];
    if (!range || !/^\d{1,15}$/.test(t.number[i]!)) continue;
    const number = Number(t.number[i]);
    if (number >= range.from && number <= range.to) continue;
    const list = per.get(t.intake[i]!);
    if (list) list.push(i);
    else per.set(t.intake[i]!, [i]);
  }
  return [...per].map(([k, points]) => {
    const range = ranges[k]!,
      { file, id } = intakes[k]!;
    const words = say`${plural(points.length, "number")} of crew ${range.crew} (${pts(points)}, ${file}) outside its range ${range.from} to ${range.to}. `;
    return notice("outside-range", "warning", [...words, "Renumber them, or widen the range in the job's settings."], {
      points,
      data: { intake: id, from: range.from, to: range.to },
      subject: id,
    });
  });
}

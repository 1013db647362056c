/** Where the times of a delivery go back: a clock that was set, or a file put together of two. */
import { notice, pts, say, type Noticed } from "../finding";
import type { IntakeInfo } from "../intake/model";
import { plural } from "../math/words";
import type { PointTable } from "../points/table";

const MINUTE = 60_000,
  HOUR = 60 * MINUTE,
  DAY = 24 * HOUR;
/** Rows of two instruments that wrote into one file are out of order by less. */
const LEAST = MINUTE;

/**
 * One finding for each row of an intake whose time lies more than a minute before that of the row before it. Only where
 * every row has a time, for there lines go by it (FIELD-CODES.md); times without a day go back at midnight.
 */
export function clocksSetBack(
  t: Pick<PointTable, "count" | "intake" | "row" | "e" | "n" | "time" | "deleted">,
  intakes: readonly Pick<IntakeInfo, "id" | "file">[],
): Noticed[] {
  const last = new Int32Array(intakes.length).fill(-1),
    timed = new Uint8Array(intakes.length).fill(1),
    back: [i: number, by: number][] = [];
  for (let i = 0; i < t.count; i++) {
    const intake = t.intake[i]!;
    if (intake < 0 || t.deleted[i]) continue;
    const before = last[intake]!,
      time = t.time[i]!;
    if (Number.isNaN(time)) timed[intake] = 0;
    else if (before >= 0) {
      const by = t.time[before]! - time,
        isMidnight = t.time[before]! < DAY && by > DAY / 2;
      if (by > LEAST && !isMidnight) back.push([i, by]);
    }
    last[intake] = i;
  }
  return back
    .filter(([i]) => timed[t.intake[i]!] === 1)
    .map(([i, by]) => {
      const { id, file } = intakes[t.intake[i]!]!,
        words = [
          ...say`${file}, row ${t.row[i]!}: the clock goes back by ${spanText(by)} at point ${pts(i)}. `,
          "Lines go by time; where that is wrong read the file again without its times, so that they go by rows.",
        ];
      return notice("clock-set-back", "warning", words, {
        points: [i],
        at: [t.e[i]!, t.n[i]!],
        data: { intake: id, seconds: by / 1000 },
      });
    });
}

function spanText(milliseconds: number): string {
  const hours = Math.floor(milliseconds / HOUR),
    minutes = Math.floor((milliseconds % HOUR) / MINUTE);
  return [hours > 0 && plural(hours, "hour"), minutes > 0 && plural(minutes, "minute")].filter(Boolean).join(" ");
}

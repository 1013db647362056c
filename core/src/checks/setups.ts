/** Findings about raw observations: shots that differ from control or from one another, setups that give nothing. */
import { notice, pts, say, type Noticed } from "../finding";
import type { IntakeInfo } from "../intake/model";
import { lengthText, misclosureDecimals, type Unit } from "../math/units";
import type { LikelySight } from "../points/likely-sight";
import type { SetupReport } from "../points/setup-report";

/** How well a likely point of a sight fits what was observed of it. */
export function fitOf({ distance, level }: LikelySight, unit: Unit): string {
  const text = (x: number) => lengthText(Math.abs(x), unit, misclosureDecimals(unit));
  const parts = [
    ...(Number.isNaN(distance) ? [] : [`${text(distance)} in distance`]),
    ...(Number.isNaN(level) ? [] : [`${text(level)} in level`]),
  ];
  return parts.length ? `it lies ${parts.join(" and ")} from what was observed` : "all else that was observed fits it";
}

export function setupFindings(setups: readonly SetupReport[], intakes: readonly IntakeInfo[], unit: Unit): Noticed[] {
  return setups.flatMap((s) => {
    const where = `${intakes[s.intake]?.file ?? ""}, setup ${s.id}`,
      intake = intakes[s.intake]?.id;
    const shots = s.outlying.map((o) => {
      const by = [
        `${lengthText(o.plan, unit)} in plan`,
        ...(Number.isNaN(o.level) ? [] : [`${lengthText(o.level, unit)} in level`]),
      ].join(", ");
      const more = {
        points: [o.row],
        at: o.at,
        data: {
          intake,
          setup: s.id,
          plan: o.plan,
          level: o.level,
          likely: s.likely.map(({ was, is }) => ({ was, is })),
        },
      };
      return o.of === "control"
        ? notice(
            "control-differs",
            "warning",
            say`Control point ${pts(o.row)} was observed ${by} from its known position (${where}). Check the station, the backsight and the heights.`,
            more,
          )
        : notice(
            "repeat-differs",
            "warning",
            say`Shots on point ${pts(o.row)} differ by ${by} (${where}). Look at its observations; the point is their mean unless it is known.`,
            more,
          );
    });
    const likely = s.likely.map(({ was, is }) => ({ was, is })),
      first = s.likely[0],
      maybe = first ? ` Backsight ${first.was} was likely point ${first.is}: ${fitOf(first, unit)}.` : "";
    const problem = s.problem
      ? [
          notice("unread-row", "error", say`${where}: ${s.problem}${maybe}`, {
            data: { intake, setup: s.id, likely },
            subject: `${intake} setup ${s.id}`,
          }),
        ]
      : [];
    return [...problem, ...shots];
  });
}

/** Findings about raw observations: shots that differ from control or from one another, setups that give nothing. */
import type { IntakeInfo } from "../intake/model";
import { finding, type Finding } from "../finding";
import type { SetupReport } from "../points/reduce";

export function setupFindings(setups: readonly SetupReport[], intakes: readonly IntakeInfo[]): Finding[] {
  return setups.flatMap((s) => {
    const where = `${intakes[s.intake]?.file ?? ""}, setup ${s.id}`, intake = intakes[s.intake]?.id;
    const shots = s.outlying.map((o) => {
      const by = [`${o.plan.toFixed(3)} in plan`, ...(Number.isNaN(o.level) ? [] : [`${o.level.toFixed(3)} in level`])].join(", ");
      return o.of === "control"
        ? finding("control-differs", "warning", `Control point ${o.number} was observed ${by} from its known place (${where}). Check the station, the backsight and the heights.`, {
          points: [o.number], at: o.at, data: { intake, setup: s.id, plan: o.plan, level: o.level },
        })
        : finding("repeat-differs", "warning", `Shots on point ${o.number} differ by ${by} (${where}). Look at its observations; the point is their mean unless it is known.`, {
          points: [o.number], at: o.at, data: { intake, setup: s.id, plan: o.plan, level: o.level },
        });
    });
    const problem = s.problem ? [finding("unread-row", "error", `${where}: ${s.problem}`, { data: { intake, setup: s.id } })] : [];
    return [...problem, ...shots];
  });
}

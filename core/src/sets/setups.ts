/** Which setups observed which points. */
import type { IntakeInfo } from "../intake/model";
import { rowIndex, type PointTable } from "../points/table";
import { setupName } from "../points/setups";
import type { Survey } from "../records/survey";

/** `intake / id` of each setup that observed the point of a row, in the order of the setups. */
export function setupsOfPoints(
  t: Pick<PointTable, "count" | "intake" | "row">,
  delivered: readonly { survey?: Survey }[],
  intakes: readonly IntakeInfo[],
): Map<number, string[]> {
  const out = new Map<number, string[]>();
  if (!delivered.some((d) => d.survey)) return out;
  const rowOf = rowIndex(t);
  for (const [k, { survey }] of delivered.entries()) {
    if (!survey) continue;
    const { observations: o, setups, numberRow } = survey,
      names = setups.map((s) => setupName({ intake: intakes[k]!.id, setup: s.id }));
    for (let i = 0; i < o.count; i++) {
      const row = rowOf(k, numberRow[o.target[i]!]!),
        name = names[o.setup[i]!]!;
      if (row < 0) continue;
      const known = out.get(row);
      if (!known) out.set(row, [name]);
      else if (!known.includes(name)) known.push(name);
    }
  }
  return out;
}

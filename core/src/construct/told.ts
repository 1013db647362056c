/** What is said of constructed points that are not there. */
import { notice, pts, say, type Noticed } from "../finding";
import type { PointRef } from "../points/refs";
import type { PointTable } from "../points/table";
import { pointsNamed } from "./model";
import type { Program } from "./program";
import type { Lost } from "./solve";

const position = ([e, n]: readonly [number, number]) => `E ${e.toFixed(3)} N ${n.toFixed(3)}`;

/** Why there is no position, in words that go on a sentence. */
export function lostWords(why: Lost, numberOf: (ref: PointRef) => string): string {
  if ("missing" in why) return `point ${numberOf(why.missing)} is not there`;
  if ("both" in why)
    return `two positions fit, ${why.both.map(position).join(" and ")}, and nothing says which is meant`;
  return why.why;
}

/** Constructed points that are not there, with what their sources lack. */
export function lostFindings(
  lost: ReadonlyMap<number, Lost>,
  { steps, circular, rowOf, numbers }: Program,
  t: Pick<PointTable, "e" | "n" | "deleted">,
): Noticed[] {
  const of = new Map([...steps, ...circular].map((s) => [s.row, s.construction]));
  return [...lost].map(([row, why]) => {
    // Told where one of its sources is: it has no position itself.
    const near = pointsNamed(of.get(row)!)
      .map((ref) => rowOf.get(ref)!)
      .find((i) => i >= 0 && !t.deleted[i]);
    return notice(
      "computed-lost",
      "warning",
      say`Point ${pts(row)} ${t.deleted[row] ? "is not there" : "has no level"}: ${lostWords(why, (ref) => numbers.get(ref)!)}.`,
      { points: [row], ...(near === undefined ? {} : { at: [t.e[near]!, t.n[near]!] }) },
    );
  });
}

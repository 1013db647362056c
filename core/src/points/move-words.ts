/** A move in a sentence, for its list and the ledger. */
import { formatFixed } from "../math/round";
import { plural, someOf } from "../math/words";
import type { Move } from "./moves";
import type { PointRef } from "./refs";

const angle = (degrees: number) => `${Number(degrees.toFixed(7))}°`;
const signed = (x: number, decimals: number) => `${x < 0 ? "−" : "+"}${formatFixed(Math.abs(x), decimals)}`;

/** What is moved: “45 points”, “day1, day2”. */
export const movedWords = ({ points }: Pick<Move, "points">): string =>
  "intakes" in points ? points.intakes.join(", ") : plural(points.chosen.length, "point");

/** What becomes of it: “N +12.000, E −3.500, up 0.250”, “fitted to K1, K2 and K3, with a scale”. */
export function moveWords(
  { transform, fit }: Pick<Move, "transform" | "fit">,
  { decimals, numberOf }: { decimals: number; numberOf(ref: PointRef): string },
): string {
  if (fit) {
    const out = fit.pairs.filter((p) => p.out).length,
      to = someOf(
        fit.pairs.filter((p) => !p.out).map((p) => numberOf(p.to)),
        5,
      );
    return [
      `fitted to ${to}`,
      ...(fit.scale === "free" ? ["with a scale"] : []),
      ...(fit.levels === "shift" ? ["levels by their mean"] : fit.levels === "plane" ? ["levels by a plane"] : []),
      ...(out ? [`${plural(out, "pair")} taken out`] : []),
    ].join(", ");
  }
  const { move = [0, 0, 0], rotate = 0, scale = 1, about = [0, 0] } = transform ?? {},
    [de, dn, dz] = move,
    turns = rotate !== 0 || scale !== 1;
  return (
    [
      ...(rotate ? [`turned ${angle(Math.abs(rotate))} ${rotate < 0 ? "to the left" : "to the right"}`] : []),
      ...(scale === 1 ? [] : [`scaled by ${Number(scale.toFixed(9))}`]),
      ...(turns ? [`about N ${formatFixed(about[1], decimals)} E ${formatFixed(about[0], decimals)}`] : []),
      ...(dn ? [`N ${signed(dn, decimals)}`] : []),
      ...(de ? [`E ${signed(de, decimals)}`] : []),
      ...(dz ? [`${dz < 0 ? "lowered" : "raised"} by ${formatFixed(Math.abs(dz), decimals)}`] : []),
    ].join(", ") || "nothing moved yet"
  );
}

/** Symbols with a size of their own, or turned towards a second shot, among those that the codes give. */
import { findPoints, type RefColumns } from "../../points/refs";
import type { PointTable } from "../../points/table";
import { PLAIN_LOOK, type DrawnSymbols } from "../content";
import type { Added, OwnSymbol } from "./model";
import { anchorOn, resolveSymbol } from "./resolve";

type Columns = RefColumns & Pick<PointTable, "e" | "n">;

/**
 * The symbols with what was added to them; the same where nothing was. All symbols of a point that a code gives it are
 * meant; a plain cross, or the dot of a line's shot, has nothing to turn.
 */
export function withOwnSymbols(
  symbols: DrawnSymbols,
  t: Columns,
  intakes: readonly { id: string }[],
  added: readonly Added[],
): DrawnSymbols {
  const own = added.filter((a): a is OwnSymbol => "symbol" in a);
  if (own.length === 0) return symbols;
  const { rowOf } = findPoints(t, intakes),
    at = anchorOn(t, rowOf),
    ground = symbols.ground.slice(),
    turn = symbols.turn.slice(),
    aspect = new Map<number, number>();
  const of = new Map<number, { own: OwnSymbol; toward?: readonly [number, number] }>();
  for (const a of own) {
    const found = resolveSymbol(a, at, rowOf);
    if (found) of.set(found.row, { own: a, ...(found.toward ? { toward: found.toward } : {}) });
  }
  for (let k = 0; k < symbols.point.length; k++) {
    const i = symbols.point[k]!,
      a = of.get(i),
      look = symbols.looks[symbols.look[k]!]!;
    if (!a || look.shot || symbols.look[k] === PLAIN_LOOK) continue;
    if (a.own.size) {
      ground[k] = a.own.size[0];
      aspect.set(k, a.own.size[1] / a.own.size[0]);
    }
    if (a.toward) {
      const [de, dn] = [a.toward[0] - t.e[i]!, a.toward[1] - t.n[i]!];
      if (de !== 0 || dn !== 0) turn[k] = (Math.atan2(de, dn) * 180) / Math.PI;
    }
  }
  return { ...symbols, ground, turn, aspect };
}

/** The drawing's source turned for the paper, so that texts are laid out as they are read there. */
import type { LayoutSource } from "../../drawing/layout";
import type { Contours } from "../../surface/contour";
import { onPaper, type Turned } from "./sheets";

export function turnedSource<S extends Pick<LayoutSource, "table" | "chains" | "contours" | "symbols">>(
  s: S,
  turned: Turned,
): S {
  const put = onPaper(turned),
    { table: t, chains } = s;
  const e = new Float64Array(t.count),
    n = new Float64Array(t.count);
  for (let i = 0; i < t.count; i++) [e[i], n[i]] = put(t.e[i]!, t.n[i]!);
  const xyz = chains.xyz.slice();
  for (let k = 0; k < xyz.length; k += 3) [xyz[k], xyz[k + 1]] = put(xyz[k]!, xyz[k + 1]!);
  const contours = s.contours.map((c): Contours => {
    const [oe, on] = c.origin,
      xy = new Float64Array(c.xy.length);
    for (let k = 0; k < xy.length; k += 2) [xy[k], xy[k + 1]] = put(oe + c.xy[k]!, on + c.xy[k + 1]!);
    return { ...c, origin: [0, 0], xy };
  });
  const degrees = (turned.turn * 180) / Math.PI;
  return {
    ...s,
    table: { ...t, e, n },
    chains: { ...chains, xyz },
    contours,
    symbols: { ...s.symbols, turn: s.symbols.turn.map((x) => x + degrees) },
  };
}

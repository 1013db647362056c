/** The drawing's source turned for the paper, so that texts are laid out as they are read there. */
import type { LayoutSource } from "../../drawing/layout";
import type { ByHand, ResolvedAdded } from "../../drawing/added/resolve";
import type { Contours } from "../../surface/contour";
import { onPaper, type Turned } from "./sheets";

export function turnedSource<S extends Pick<LayoutSource, "table" | "chains" | "contours" | "symbols" | "added">>(
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
    ...(s.added ? { added: turnedAdded(s.added, turned) } : {}),
    table: { ...t, e, n },
    chains: { ...chains, xyz },
    contours,
    symbols: { ...s.symbols, turn: s.symbols.turn.map((x) => x + degrees) },
  };
}

/** What was added, turned: positions and offsets; a turn that somebody gave is of the ground. */
function turnedAdded(a: ResolvedAdded, turned: Turned): ResolvedAdded {
  const put = onPaper(turned),
    along = onPaper({ ...turned, about: [0, 0] }),
    degrees = (turned.turn * 180) / Math.PI,
    at = ([e, n]: readonly [number, number]) => put(e, n);
  const hand = <H extends ByHand>(h: H): H => ({
    ...h,
    ...(h.by ? { by: along(h.by[0], h.by[1]) } : {}),
    ...(h.turn === undefined ? {} : { turn: h.turn + degrees }),
  });
  const all = <K>(of: ReadonlyMap<K, ByHand>) => new Map([...of].map(([key, h]) => [key, hand(h)]));
  return {
    ...a,
    measures: a.measures.map((m) => ({
      ...m,
      texts: m.texts.map((x) => ({
        ...x,
        from: at(x.from),
        middle: at(x.middle),
        to: at(x.to),
        ...(x.ring ? { ring: x.ring.map(at) } : {}),
      })),
    })),
    dimensions: a.dimensions.map((d) => ({ ...d, from: at(d.from), to: at(d.to) })),
    words: a.words.map((w) => ({
      ...w,
      at: at(w.at),
      by: along(w.by[0], w.by[1]),
      ...(w.turn === undefined ? {} : { turn: w.turn + degrees }),
    })),
    notes: all(a.notes),
    lineNotes: all(a.lineNotes),
    labels: all(a.labels),
    contours: a.contours.map((c) => ({ ...hand(c), near: at(c.near) })),
  };
}

/** The names of points in additions, changed one by one: a recipe names those that the office made by their numbers. */
import type { PointRef } from "../../points/refs";
import type { LineRef } from "../../lines/refs";
import type { Added, Anchor, TextRef } from "./model";

/** The addition with every name of a point passed through `to`. */
export function withRefs(a: Added, to: (ref: PointRef) => PointRef): Added {
  const anchor = (x: Anchor): Anchor => ("point" in x ? { point: to(x.point) } : x),
    line = (x: LineRef): LineRef => ("from" in x ? { ...x, from: to(x.from) } : x);
  if ("measures" in a) return { ...a, measures: line(a.measures) };
  if ("dimension" in a) return { ...a, dimension: [anchor(a.dimension[0]), anchor(a.dimension[1])] };
  if ("words" in a) return { ...a, to: anchor(a.to) };
  if ("symbol" in a) return { ...a, symbol: to(a.symbol), ...(a.toward ? { toward: anchor(a.toward) } : {}) };
  const { text } = a;
  const next: TextRef =
    "note" in text
      ? { ...text, note: to(text.note) }
      : "noteOf" in text
        ? { ...text, noteOf: line(text.noteOf) }
        : "label" in text
          ? { label: to(text.label) }
          : text;
  return { ...a, text: next };
}

/** What an addition is called where it is listed. */
import type { LineRef } from "../../lines/refs";
import type { Added } from "./model";

const WRITTEN = { bearing: "bearings", distance: "distances", area: "area", name: "name" };

/** The first of `words 1`, `words 2`, … that no addition has. */
export function freeAddedName(kind: string, added: readonly Added[]): string {
  const taken = new Set(added.map((a) => a.name));
  let k = 1;
  while (taken.has(`${kind} ${k}`)) k++;
  return `${kind} ${k}`;
}

/** `number` tells the number of the point of a reference; undefined where it is gone. */
export function nameOfAdded(a: Added, number: (ref: string) => string | undefined): string {
  const point = (ref: string) => number(ref) ?? "a point that is gone",
    line = (l: LineRef) => ("hand" in l ? l.hand : `${l.code} ${l.run}`);
  if ("words" in a) return inOneLine(a.words);
  if ("dimension" in a)
    return `Distance ${a.dimension.map((x) => ("point" in x ? point(x.point) : "a position")).join(" to ")}`;
  if ("measures" in a) return `${a.show.map((m) => WRITTEN[m]).join(", ")} of ${line(a.measures)}`;
  if ("symbol" in a) return `symbol of point ${point(a.symbol)}`;
  const t = a.text;
  if ("contour" in t) return `label of contour ${t.level}`;
  if ("noteOf" in t) return `note of ${line(t.noteOf)}`;
  return "label" in t ? `label of point ${point(t.label)}` : `note of point ${point(t.note)}`;
}

const inOneLine = (words: string) =>
  words
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean)
    .join(" ");

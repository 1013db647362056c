/** Numbers, codes and elevations beside points, as the first rule whose set holds a point says. */
import { append } from "../../math/many";
import { formatFixed } from "../../math/round";
import { extentOf } from "../../points/table";
import type { PointLabels } from "../model";
import { besideSymbol, halfSize, type Wanted } from "../stand";
import { HOLLOW, isByPerson, type Laying } from "./laying";
import { DEFAULT_POINT_LABELS, TEXT_HEIGHT } from "./source";

/** Labels above which it is asked first whether the paper could hold them. */
const MANY = 2000;

interface Label {
  /** Its symbol. */
  k: number;
  /** Its point's row. */
  i: number;
  w: Wanted;
}

export function placePointLabels(laying: Laying): void {
  const { s, crowd, layout, reach, added, byHand } = laying,
    { table: t } = s,
    { labels, area } = wantedLabels(laying);
  layout.labels = labels.length;
  // Twice as much text as paper: nearly nothing would find a place, and looking for it would take long.
  if (labels.length > MANY && area > 2 * paperArea(laying)) return void (layout.crowded = true);
  const before = { texts: layout.texts.length, unplaced: layout.unplaced.length },
    about = (i: number) => ({ point: i, base: [t.e[i]!, t.n[i]!] as [number, number] });
  for (const { i, w } of labels)
    byHand.place(added.labels.get(i), w, [laying.x(t.e[i]!), laying.y(t.n[i]!)], 0, "point", undefined, "", about(i));
  for (const { k, i, w } of labels) {
    if (added.labels.has(i)) continue;
    const room = Math.min(reach[k]!, HOLLOW),
      stand = besideSymbol(w, laying.x(t.e[i]!), laying.y(t.n[i]!), room, crowd, false);
    if (stand) laying.take(stand, w, "point", undefined, "", about(i));
    else layout.unplaced.push({ text: w.lines.join(" "), is: "point", point: i, line: -1 });
  }
  // A few labels here and there say less than none. The boxes of those taken back only cost contour labels some
  // places.
  if (s.mostOrNone && 2 * (layout.texts.length - before.texts) < labels.length) {
    append(layout.texts, layout.texts.splice(before.texts).filter(isByPerson));
    layout.unplaced.length = before.unplaced;
    layout.crowded = true;
  }
}

/** One label for each point that is drawn and has something to say, and the paper that all take, mm². */
function wantedLabels({ s, reach }: Laying): { labels: Label[]; area: number } {
  const { table: t, symbols } = s,
    rules = s.drawing.points ?? DEFAULT_POINT_LABELS,
    ruleOf = firstRules(s.sets, rules, t.count),
    done = new Uint8Array(t.count),
    labels: Label[] = [];
  let area = 0;
  for (let k = 0; k < symbols.point.length; k++) {
    const i = symbols.point[k]!,
      r = rules[ruleOf[i]! - 1];
    if (!r || done[i] || reach[k] === 0) continue;
    done[i] = 1;
    const { code } = symbols.looks[symbols.look[k]!]!;
    const lines = [
      ...(r.number ? [t.number[i]!] : []),
      ...(r.code && code ? [code] : []),
      ...(r.elevation && !Number.isNaN(t.z[i]!) ? [formatFixed(t.z[i]!, r.decimals ?? 2)] : []),
    ];
    if (lines.length === 0) continue;
    const w: Wanted = { lines, height: r.height ?? TEXT_HEIGHT, place: "auto", align: "middle" },
      [halfWidth, halfHeight] = halfSize(w);
    area += 4 * halfWidth * halfHeight;
    labels.push({ k, i, w });
  }
  return { labels, area };
}

/** Of each row the first rule whose set holds it, counted from 1; 0 for none. */
function firstRules(sets: ReadonlyMap<string, Int32Array>, rules: readonly PointLabels[], count: number): Uint8Array {
  const ruleOf = new Uint8Array(count);
  rules.forEach((r, k) => {
    const rows = r.set === "*" ? undefined : sets.get(r.set);
    if (r.set !== "*" && !rows) return;
    if (!rows) for (let i = 0; i < count; i++) ruleOf[i] ||= k + 1;
    else for (const i of rows) ruleOf[i] ||= k + 1;
  });
  return ruleOf;
}

function paperArea({ s, unitsPerMm }: Laying): number {
  const x = extentOf(s.table);
  return x ? ((x.maxE - x.minE) * (x.maxN - x.minN)) / unitsPerMm ** 2 : 0;
}

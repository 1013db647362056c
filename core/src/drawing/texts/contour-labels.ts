/** Levels along contours, evenly apart, where nothing is in the way. */
import { labelContours } from "../../surface/contour";
import type { ResolvedAdded } from "../added/resolve";
import { halfSize, type Stand, type Wanted } from "../stand";
import { LABELS_APART, lookOfSurface } from "../surface-look";
import type { Laying } from "./laying";
import { TEXT_HEIGHT } from "./source";

export function placeContourLabels(laying: Laying): void {
  const { s, crowd, added, byHand, unitsPerMm } = laying;
  for (const c of s.contours) {
    const [de, dn] = laying.fromOrigin(c.origin),
      look = lookOfSurface(s.drawing, c.surface);
    if (look.hidden) continue;
    const apart = (look.labelEvery ?? LABELS_APART) * unitsPerMm,
      moved = movedByLevel(added, c.surface),
      // A label goes by where it stood: at another scale it is the one that stands nearest there.
      near = apart / 2;
    labelContours(c, apart, TEXT_HEIGHT * unitsPerMm, (label) => {
      const w: Wanted = { lines: [label.text], height: TEXT_HEIGHT, place: "centre", align: "middle" },
        [halfWidth, halfHeight] = halfSize(w);
      const stand: Stand = {
        x: (label.x + de) / unitsPerMm,
        y: (label.y + dn) / unitsPerMm,
        halfWidth,
        halfHeight,
        angle: label.angle,
      };
      const [e, n] = [label.x + c.origin[0], label.y + c.origin[1]],
        own = moved.get(Number(label.text))?.find((a) => Math.hypot(a.near[0] - e, a.near[1] - n) < near);
      if (byHand.place(own, w, [stand.x, stand.y], stand.angle, "contour", undefined, c.surface, { base: [e, n] }))
        return true;
      if (!crowd.isFree(stand)) return false;
      laying.take(stand, w, "contour", undefined, c.surface, { base: [e, n] });
      return true;
    });
  }
}

function movedByLevel({ contours }: ResolvedAdded, surface: string): Map<number, ResolvedAdded["contours"][number][]> {
  const of = new Map<number, ResolvedAdded["contours"][number][]>();
  for (const a of contours) {
    if (a.surface !== surface) continue;
    const list = of.get(a.level);
    if (list) list.push(a);
    else of.set(a.level, [a]);
  }
  return of;
}

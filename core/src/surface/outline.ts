/** The outline of a surface as closed ways: its edge, and one for each hole. */
import { next } from "./mesh";
import type { Surface } from "./model";

/** Ways E, N, E, N … with the surface on their left, the first position repeated; until they have so many vertices. */
export function outlineOf({ tri, twin, x, y, origin }: Surface, most = Infinity): number[][] {
  const from = new Map<number, number[]>();
  for (let h = 0; h < tri.length; h++) {
    if (twin[h] !== -1) continue;
    const list = from.get(tri[h]!);
    if (list) list.push(h);
    else from.set(tri[h]!, [h]);
  }
  const ways: number[][] = [];
  let left = most;
  for (const [first, list] of from)
    // Where parts meet at a vertex more than one side begins there.
    for (let h = list.pop(); h !== undefined && left > 0; h = list.pop()) {
      const way = [origin[0] + x[first]!, origin[1] + y[first]!];
      for (let v = tri[next(h)]!; ;) {
        way.push(origin[0] + x[v]!, origin[1] + y[v]!);
        if (v === first) break;
        const onward = from.get(v)!.pop();
        if (onward === undefined) break;
        v = tri[next(onward)]!;
      }
      left -= way.length / 2;
      ways.push(way);
    }
  return ways;
}

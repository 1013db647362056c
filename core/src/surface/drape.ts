/** Draped breaklines: laid on the finished mesh, which gives their levels. */
import { say } from "../finding";
import { Constrainer, type Crossing, type PieceEnds } from "./constrain";
import type { TriMesh } from "./mesh";
import type { Refused } from "./model";
import type { SurfaceSources } from "./sources";
import { copyOf, insertAll, splitAtVertices, vertexAt } from "./pieces";
import { offset } from "./vertices";

export interface Draped {
  /** How many lines were used, at least in part. */
  used: number;
  /** All pieces that own sides now. */
  pieces: PieceEnds[];
}

/** Adds draped lines to a mesh whose sides `before` owns; a copy of it gives the levels. */
export function drape(
  mesh: TriMesh,
  indices: readonly number[],
  before: readonly PieceEnds[],
  { chains, tolerance }: Pick<SurfaceSources, "chains" | "tolerance">,
  origin: readonly [number, number],
  noise: number,
  refused: Refused[],
): Draped {
  const { xyz, starts } = chains;
  const base = copyOf(mesh);
  const levelAt = (x: number, y: number) => {
    const h = base.locate(x, y);
    return h < 0 ? NaN : base.levelIn(h, x, y);
  };
  const added: PieceEnds[] = [];
  let used = 0;
  for (const index of indices) {
    let previous = -1,
      outside = false;
    for (let i = starts[index]!; i < starts[index + 1]!; i++) {
      const px = offset(xyz[3 * i]!, origin[0]),
        py = offset(xyz[3 * i + 1]!, origin[1]);
      const v = vertexAt(mesh, px, py, levelAt, tolerance.coincident);
      if (v < 0) outside = true;
      else if (previous >= 0 && v !== previous) added.push({ a: previous, b: v, line: index });
      previous = v;
    }
    if (outside)
      refused.push({ what: say`breakline ${{ line: index }}`, why: ["a part of it lies outside the surface"] });
    if (added.at(-1)?.line === index) used++;
  }
  const pieces = splitAtVertices(mesh, added, noise, () => undefined);
  const all = before.concat(pieces);
  const isDraped = (k: number) => k >= before.length;
  const constrainer = new Constrainer(
    mesh,
    all,
    (c: Crossing) => (isDraped(c.pieces[1]) ? levelAt(c.x, c.y) : c.levels[1]),
    noise,
  );
  insertAll(
    constrainer,
    all,
    (line) => refused.push({ what: say`breakline ${{ line }}`, why: ["a piece of it could not be followed"] }),
    before.length,
  );
  return { used, pieces: all };
}

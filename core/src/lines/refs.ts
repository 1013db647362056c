/** Lines as things refer to them: by what outlives another reading of their delivery. */
import { refOf, type PointFinder, type PointRef, type RefColumns } from "../points/refs";
import type { Line } from "./model";

/** A line by its code, run and first shot; a line by hand by its name. */
export type LineRef = { code: string; run: string; from: PointRef } | { hand: string };

/** What references to a line are made of. */
export type ReferredLine = Pick<Line, "code" | "run" | "hand"> & { shots: readonly number[] };

/** The name of a line that outlives another reading; undefined of a parallel, which is its line's. */
export function lineRefOf(
  line: ReferredLine,
  { table, intakes }: { table: RefColumns; intakes: readonly { id: string }[] },
): LineRef | undefined {
  if (line.hand !== undefined) return { hand: line.hand };
  const [first] = line.shots;
  return first === undefined ? undefined : { code: line.code, run: line.run, from: refOf(table, intakes, first) };
}

/** Finds lines by their names: the index of the first that is called so, −1 for none. */
export function lineIndex(lines: readonly ReferredLine[], rowOf: PointFinder["rowOf"]): (ref: LineRef) => number {
  let index: Map<string, number> | undefined;
  const byShot = (code: string, run: string, row: number) => `${code} ${run} ${row}`,
    byHand = (name: string) => `by hand ${name}`;
  return (ref) => {
    if (!index) {
      index = new Map();
      for (const [k, { hand, code, run, shots }] of lines.entries()) {
        // A parallel is its line's.
        if (hand === undefined && shots.length === 0) continue;
        const key = hand === undefined ? byShot(code, run, shots[0]!) : byHand(hand);
        if (!index.has(key)) index.set(key, k);
      }
    }
    return index.get("hand" in ref ? byHand(ref.hand) : byShot(ref.code, ref.run, rowOf(ref.from))) ?? -1;
  };
}

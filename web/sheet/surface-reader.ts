/** Levels and slopes of surfaces: the reader of each is made when it is first asked for. */
import { SurfaceReader, type Underfoot } from "@bramble/core/surface/locate";
import type { Surface } from "@bramble/core/surface/model";
import type { View } from "../lib/view";

const readers = new WeakMap<Surface, SurfaceReader>();

export function readerOf(surface: Surface): SurfaceReader {
  let reader = readers.get(surface);
  if (!reader) readers.set(surface, (reader = new SurfaceReader(surface)));
  return reader;
}

/** The surface that one is at under a position (E, N), and the levels of the others there. */
export function groundUnder(
  { view, surface }: { view: View; surface: string },
  e: number,
  n: number,
): { under: Underfoot | undefined; others: { name: string; level: number }[] } {
  let under: Underfoot | undefined;
  const others: { name: string; level: number }[] = [];
  for (const { name, value } of view.surfaces) {
    const found = value && readerOf(value.surface).at(e, n);
    if (name === surface) under = found;
    else if (found) others.push({ name, level: found.level });
  }
  return { under, others };
}

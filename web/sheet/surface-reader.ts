/** The reader of levels and slopes on a surface: made when first asked for, once for each surface. */
import { SurfaceReader } from "@bramble/core/surface/locate";
import type { Surface } from "@bramble/core/surface/model";

const readers = new WeakMap<Surface, SurfaceReader>();

export function readerOf(surface: Surface): SurfaceReader {
  let reader = readers.get(surface);
  if (!reader) readers.set(surface, (reader = new SurfaceReader(surface)));
  return reader;
}

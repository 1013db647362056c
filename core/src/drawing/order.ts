/** Which things of the drawing are drawn, and in which order. */
import type { CodeKind } from "../codes/model";
import type { DrawingSettings } from "./model";

/** Whether a thing of this group, layer and kind is drawn. */
export function isDrawn(
  x: { group: string; layer: string; kind?: CodeKind },
  hidden: DrawingSettings["hidden"] = {},
): boolean {
  return (
    !hidden.groups?.includes(x.group) && !hidden.layers?.includes(x.layer) && !hidden.kinds?.includes(x.kind ?? "point")
  );
}

/** Kinds from the lowest to the uppermost: areas below lines, symbols above both, unless the job says otherwise. */
export function kindsInOrder(drawing: DrawingSettings): CodeKind[] {
  const given = drawing.kindOrder ?? [];
  return [...(["area", "line", "point"] as const).filter((k) => !given.includes(k)), ...given];
}

/** A number for each thing by which things of one kind are drawn: groups in their order, within them layers. */
export function drawRank(drawing: DrawingSettings): (x: { group: string; layer: string }) => number {
  const groups = new Map((drawing.order ?? []).map((g, k) => [g, k])),
    layers = new Map((drawing.layerOrder ?? []).map((l, k) => [l, k]));
  return (x) => 10_000 * (groups.get(x.group) ?? -1) + (layers.get(x.layer) ?? -1);
}

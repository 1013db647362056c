"use client";
/** What the colours of a map of cut and fill mean, with the area of each class. */
import type { VolumeRecipe } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { className, mapClasses, type DifferenceMap } from "@bramble/core/volumes/map";
import { useParts } from "../lib/store";
import { area } from "../lib/units-shown";

export function MapLegend({ map, recipe, flood }: { map: DifferenceMap; recipe: VolumeRecipe; flood?: number }) {
  const { job } = useParts("job"),
    u = job.unit;
  if (flood !== undefined)
    return (
      <p className="mt-1.5 flex items-center gap-2 first:mt-0">
        <Swatch fill strength={0.6} />
        {recipe.name}: water to {formatFixed(flood, 2)} {u}
      </p>
    );
  const classes = mapClasses(map);
  return (
    <>
      <p className="label mt-1.5 first:mt-0">{recipe.name}</p>
      <ul>
        {classes.toReversed().map((c) =>
          c.area === 0 ? null : (
            <li key={className(c, map.step, u)} className="flex items-center gap-2">
              <Swatch fill={c.isFill} strength={c.strength} />
              <span className="flex-1 whitespace-nowrap">{className(c, map.step, u)}</span>
              {c.area !== undefined && (
                <span className="pl-3 tabular-nums text-soft">{area(c.area, u, job.areaUnit)}</span>
              )}
            </li>
          ),
        )}
      </ul>
      {map.coarse && <p className="text-soft">drawn at the first surface’s corners</p>}
    </>
  );
}

/** Fill is hatched, so that a grey print tells it from cut. */
function Swatch({ fill, strength }: { fill: boolean; strength: number }) {
  const color = fill ? "#3b7ea6" : "#c8632b";
  return (
    <svg width="20" height="11" aria-hidden className="shrink-0">
      <rect width="20" height="11" fill="var(--sheet)" />
      <rect width="20" height="11" fill={color} opacity={strength} />
      {fill && <path d="M-4 9 6 -1M1 13 13 1M8 13 20 1M15 13 25 3" stroke="#1f4a63" strokeWidth="1.2" opacity="0.7" />}
    </svg>
  );
}

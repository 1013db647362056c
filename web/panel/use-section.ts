"use client";
/** What a section of the job shows: its surfaces, those of the comparison that one is at, and the lines that cross it. */
import { useMemo } from "react";
import { levelOn, linesCrossed, lengthOfWay, profileOf, type Section } from "@bramble/core/surface/section";
import type { SectionLine } from "../lib/state/sheet";
import { useParts } from "../lib/store";
import { readerOf } from "../sheet/surface-reader";
import type { Crossing, Named } from "./section-chart";

export function useSection(line: SectionLine | undefined): { named: Named[]; crossings: Crossing[]; length: number } {
  const { job, view, layers, volume } = useParts("job", "view", "layers", "volume"),
    way = line?.way,
    length = way ? lengthOfWay(way) : 0,
    // The map is there while the volumes are: then the comparison's own level or base is seen too.
    recipe = layers.map ? job.volumes.find((v) => v.name === volume) : undefined,
    base = layers.map && view.looked?.name === volume ? view.looked.base : undefined;
  const named = useMemo((): Named[] => {
    if (!way) return [];
    const list: Named[] = view.surfaces.flatMap(({ name, value }) =>
      value ? { name, section: profileOf(value.surface, way, readerOf(value.surface)) } : [],
    );
    // The surface that is compared comes first.
    const first = recipe?.surface ?? recipe?.from ?? recipe?.heap ?? recipe?.storage;
    if (first !== undefined) list.sort((a, b) => Number(b.name === first) - Number(a.name === first));
    if (base) list.splice(1, 0, { name: base.name, section: profileOf(base, way, readerOf(base)) });
    if (recipe?.level !== undefined)
      list.splice(1, 0, { name: `level ${recipe.level}`, section: flat(recipe.level, length) });
    return list.filter((s) => s.section.station.length > 1);
  }, [view.surfaces, way, recipe, base, length]);
  const crossings = useMemo((): Crossing[] => {
    if (!way) return [];
    return linesCrossed(view.chains, way).flatMap(({ line: k, station, level }) => {
      const l = view.lines[k],
        ground = named[0] ? levelOn(named[0].section, station) : NaN,
        at = Number.isNaN(level) ? ground : level;
      return !l || Number.isNaN(at)
        ? []
        : [{ name: `${l.code}${l.run ? ` ${l.run}` : ""}`, color: l.color, station, level: at }];
    });
  }, [view.chains, view.lines, way, named]);
  return { named, crossings, length };
}

const flat = (level: number, length: number): Section => ({ station: [0, length], level: [level, level] });

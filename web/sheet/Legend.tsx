"use client";
/** What the colours mean now, and what is shown alone; in the corner of the sheet. */
import { lookOfSurface, withLook } from "@bramble/core/drawing/surface-look";
import { drawingChange } from "../lib/drawing-change";
import { useParts } from "../lib/store";
import { area, grouped } from "../lib/units-shown";
import { GROUND_LEGEND, STRENGTH } from "./ground";
import { classesNow, glassColor, mapNow } from "./layers";
import { MapLegend } from "./MapLegend";
import { meaningOf } from "./meaning";
import { MEANINGS } from "../lib/state/choices";

/** `above`: in the upper corner, where the lower one has the north arrow. */
export function Legend({ above = false }: { above?: boolean }) {
  const {
    job,
    layers,
    volume,
    flood,
    ring,
    corners,
    picking,
    mesh,
    section,
    view,
    colorBy,
    only,
    setRows,
    groundSeen,
    surface,
    seenAs,
    change,
  } = useParts(
    "job",
    "layers",
    "volume",
    "flood",
    "ring",
    "corners",
    "picking",
    "mesh",
    "section",
    "view",
    "colorBy",
    "only",
    "setRows",
    "groundSeen",
    "surface",
    "seenAs",
    "change",
  );
  const meaning = meaningOf(colorBy, { job, view, setRows });
  const hidden = view.surfaces.filter((x) => x.value && lookOfSurface(job.drawing, x.name).hidden);
  const shown = view.surfaces.find((s) => s.name === surface && !hidden.includes(s))?.value?.surface,
    ground = shown && classesNow({ job, groundSeen }, shown);
  const glass =
    seenAs === "plan" ? [] : view.surfaces.filter((x) => x.value && x.name !== surface && !hidden.includes(x));
  const map = mapNow({ job, view, layers, volume, flood });
  if (!meaning && !only && !ground && !map && hidden.length + glass.length === 0) return null;
  const draw = (name: string) => {
    const { hidden: _, ...look } = lookOfSurface(job.drawing, name);
    change(drawingChange(job, withLook(job.drawing ?? {}, name, look)));
  };
  return (
    <aside
      aria-label="Legend"
      className={[
        above ? "top-2 left-3" : "bottom-3 left-8",
        // What is picked on the sheet may lie under it.
        ring || corners || picking || mesh || section ? "pointer-events-none" : "",
        "absolute z-[5] max-h-[70%] max-w-[max(70%,17.5rem)] overflow-auto",
        "rounded-sm border border-rule bg-paper px-3 py-2 text-[12px] print:hidden",
      ].join(" ")}
    >
      {only && <Alone only={only} />}
      {hidden.map(({ name }) => (
        <p key={name} className="flex items-baseline gap-3">
          <span className="text-soft">{name} is there, not drawn</span>
          <button className="text-bramble underline" onClick={() => draw(name)}>
            Draw it
          </button>
        </p>
      ))}
      {glass.length > 0 && (
        <Classes
          title={`In 3D beside ${surface}`}
          below={only !== undefined}
          classes={glass.map(({ name }) => ({ name, color: glassColor({ job, view }, name), faint: true }))}
        />
      )}
      {ground && (
        <Classes
          title={`${surface}, ${GROUND_LEGEND[groundSeen]}`}
          below={only !== undefined}
          classes={ground.classes
            .toReversed()
            .filter((c) => c.area !== 0)
            .map((c) => ({
              name: c.name,
              color: `color-mix(in srgb, var(--sheet), ${c.color} ${100 * STRENGTH}%)`,
              told: c.area === undefined ? "" : area(c.area, job.unit, job.areaUnit),
              whole: true,
            }))}
        />
      )}
      {map && <MapLegend {...map} />}
      {meaning && (
        <Classes
          title={`Colours ${colorBy.startsWith("set ") ? "by set" : MEANINGS[colorBy as keyof typeof MEANINGS]}`}
          below={only !== undefined}
          dots
          classes={meaning.classes
            .filter((c) => c.count > 0)
            .map((c) => ({ name: c.name, color: c.color, told: grouped(c.count) }))}
        />
      )}
    </aside>
  );
}

/** What is shown alone, and the way back to all. */
function Alone({ only }: { only: { name: string } }) {
  const { onlyRows, set } = useParts("onlyRows", "set"),
    alone = onlyRows?.reduce((sum, x) => sum + x, 0);
  return (
    <p className="flex items-baseline gap-3">
      <span className="font-medium">
        Only {only.name}
        {alone !== undefined && (
          <span className="text-soft"> · {alone === 1 ? "1 point" : `${grouped(alone)} points`}</span>
        )}
      </span>
      <button className="text-bramble underline" onClick={() => set({ only: undefined })}>
        Show all (Esc)
      </button>
    </p>
  );
}

interface Class {
  name: string;
  color: string;
  /** How much of it there is. */
  told?: string;
  /** Seen through. */
  faint?: boolean;
  /** Its name is never cut. */
  whole?: boolean;
}

/** Colours with their names. */
function Classes({
  title,
  below,
  dots,
  classes,
}: {
  title: string;
  /** Something stands above it. */
  below: boolean;
  /** Colours of points are square, those of ground wide. */
  dots?: boolean;
  classes: readonly Class[];
}) {
  return (
    <>
      <p className={`label ${below ? "mt-1.5" : ""}`}>{title}</p>
      <ul>
        {classes.map((c) => (
          <li key={c.name} className="flex items-center gap-2">
            <span
              aria-hidden
              className={`h-2.5 shrink-0 ${dots ? "w-2.5" : "w-4"} ${c.faint ? "opacity-60" : ""}`}
              style={{ background: c.color }}
            />
            <span className={c.whole ? "flex-1 whitespace-nowrap" : "min-w-0 flex-1 truncate"}>{c.name}</span>
            {c.told && <span className="pl-3 tabular-nums text-soft">{c.told}</span>}
          </li>
        ))}
      </ul>
    </>
  );
}

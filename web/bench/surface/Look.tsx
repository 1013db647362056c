"use client";
/** How one surface is drawn: its contours, labels and spot levels, or nothing of it; looks are kept by a name. */
import { useState } from "react";
import type { DrawingSettings, SurfaceLook } from "@bramble/core";
import {
  CONTOUR_WEIGHT,
  INDEX_WEIGHT,
  LABELS_APART,
  lookOfSurface,
  withLook,
} from "@bramble/core/drawing/surface-look";
import { sameJson } from "@bramble/core/math/json";
import { drawingChange } from "../../lib/drawing-change";
import { useParts } from "../../lib/store";
import { OptionalNumberField } from "../../controls/fields/fields";
import { ColorField } from "../../controls/fields/ColorField";
import { NameForm } from "../../controls/fields/NameForm";
import { Choice } from "../../controls/fields/Choice";
import { Tick } from "../../controls/fields/Tick";

/** Colours of contours where none is chosen, as paper has them. */
const PLAIN = "#9b7b4f",
  INDEX = "#7a5a2e";

export function Look({ surface }: { surface: string }) {
  const { job, change } = useParts("job", "change"),
    [naming, setNaming] = useState(false);
  const drawing = job.drawing ?? {},
    { surface: _, ...look } = { surface, ...lookOfSurface(drawing, surface) },
    kept = drawing.looks ?? [];
  const store = (next: DrawingSettings) => change(drawingChange(job, next));
  const put = (part: Partial<SurfaceLook>) => void store(withLook(drawing, surface, { ...look, ...part }));
  const { hidden: _hidden, ...style } = look;
  const now = kept.find(({ name: _name, ...l }) => sameJson(l, style))?.name ?? "";
  return (
    <section aria-label="How it is drawn" className="mt-4">
      <div className="flex flex-wrap items-end gap-3">
        <label className="block">
          <span className="label block">Look</span>
          <Choice
            label="Look of the surface"
            named={false}
            low={false}
            width="w-40"
            value={now || (Object.keys(style).length ? "own" : "")}
            onChange={(v) => {
              const { name: _name, ...chosen } = kept.find((l) => l.name === v) ?? { name: "" };
              void store(withLook(drawing, surface, { ...chosen, ...(look.hidden ? { hidden: true } : {}) }));
            }}
            options={[
              ["", "as usual"],
              ...(Object.keys(style).length > 0 && now === "" ? [["own", "its own"] as const] : []),
              ...kept.map((l) => [l.name, l.name] as const),
            ]}
          />
        </label>
        {now !== "" ? (
          <button
            className="button button-plain"
            onClick={() => {
              const { looks: _looks, ...rest } = drawing,
                others = kept.filter((l) => l.name !== now);
              void store(others.length ? { ...rest, looks: others } : rest);
            }}
          >
            Forget “{now}”
          </button>
        ) : (
          Object.keys(style).length > 0 &&
          !naming && (
            <button className="button" onClick={() => setNaming(true)}>
              Keep this look
            </button>
          )
        )}
        <Tick
          words="This surface drawn"
          on={look.hidden !== true}
          set={(on) => put({ hidden: on ? undefined : true })}
        />
        <Tick words="Contours rounded" on={look.smooth === true} set={(on) => put({ smooth: on || undefined })} />
      </div>
      {naming && (
        <div className="mt-2">
          <NameForm
            label="Name of the look"
            action="Keep it"
            first=""
            taken={[]}
            replaces={kept.map((l) => l.name)}
            make={async (name) => {
              const others = kept.filter((l) => l.name !== name);
              if (await store({ ...drawing, looks: [...others, { ...style, name }] })) setNaming(false);
            }}
            leave={() => setNaming(false)}
          />
        </div>
      )}
      <div className="mt-3 grid grid-cols-[repeat(3,max-content)] gap-x-4 gap-y-2 max-[520px]:grid-cols-2">
        <Colored
          name="Contours"
          color={look.color}
          usual={PLAIN}
          weight={look.weight}
          usualWeight={CONTOUR_WEIGHT}
          put={(color, weight) => put({ color, weight })}
        />
        <Colored
          name="Index contours"
          color={look.indexColor}
          usual={INDEX}
          weight={look.indexWeight}
          usualWeight={INDEX_WEIGHT}
          put={(indexColor, indexWeight) => put({ indexColor, indexWeight })}
        />
        <div className="flex items-end gap-2">
          <OptionalNumberField
            label="Labels every, mm"
            value={look.labelEvery}
            width="w-22"
            placeholder={String(LABELS_APART)}
            least={20}
            onChange={(labelEvery) => put({ labelEvery })}
          />
          <OptionalNumberField
            label="Spot levels, mm"
            value={look.spots}
            width="w-22"
            least={8}
            onChange={(spots) => put({ spots })}
          />
        </div>
      </div>
    </section>
  );
}

/** The colour and the weight of lines; what is not chosen is as usual. */
function Colored({
  name,
  color,
  usual,
  weight,
  usualWeight,
  put,
}: {
  name: string;
  color: string | undefined;
  usual: string;
  weight: number | undefined;
  usualWeight: number;
  put: (color: string | undefined, weight: number | undefined) => void;
}) {
  return (
    <div className="flex items-end gap-2">
      <ColorField
        label={name}
        value={color ?? usual}
        className="w-14"
        onChange={(next) => put(next === usual ? undefined : next, weight)}
      />
      <OptionalNumberField
        label="Weight, mm"
        value={weight}
        width="w-20"
        placeholder={String(usualWeight)}
        least={0.05}
        onChange={(next) => put(color, next)}
      />
    </div>
  );
}

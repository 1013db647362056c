"use client";
/** What a comparison compares: its surfaces, level, toe or levels of storage, and what does not count. */
import type { VolumeRecipe } from "@bramble/core";
import { kindOf } from "@bramble/core/volumes/model";
import { useParts } from "../../lib/store";
import { Choice } from "../../controls/fields/Choice";
import { CornersButton } from "../CornersButton";
import { FactorField, LengthField } from "../../controls/fields/fields";
import { RingButton } from "../RingButton";
import { lineText, toeLines } from "./kinds";
import type { Edit } from "./edit";

export function What({ recipe, edit }: { recipe: VolumeRecipe; edit: Edit }) {
  const { job, view } = useParts("job", "view"),
    u = job.unit,
    kind = kindOf(recipe);
  const surface = (label: string, field: "surface" | "from" | "to" | "heap" | "storage") => (
    <Choice
      label={label}
      value={String(recipe[field])}
      onChange={(name) => edit({ [field]: name })}
      options={job.surfaces.map((s) => [s.name, s.name])}
    />
  );
  const length = (label: string, field: "level" | "from" | "to" | "step", positive = false) => (
    <LengthField
      label={`${label}, ${u}`}
      value={recipe[field] as number}
      unit={u}
      positive={positive}
      width="w-24"
      onChange={(x) => edit({ [field]: x })}
    />
  );
  return (
    <div className="mt-2 flex flex-wrap items-end gap-x-3 gap-y-2">
      {kind === "level" && (
        <>
          {surface("From surface", "surface")}
          {length("To level", "level")}
        </>
      )}
      {kind === "surfaces" && (
        <>
          {surface("From surface", "from")}
          {surface("To surface", "to")}
          <button className="button" onClick={() => edit({ from: recipe.to, to: recipe.from })}>
            Exchange
          </button>
        </>
      )}
      {kind === "heap" && (
        <>
          {surface("Surface", "heap")}
          <Toe recipe={recipe} edit={edit} lines={toeLines(view)} />
        </>
      )}
      {kind === "storage" && (
        <>
          {surface("Surface", "storage")}
          {length("From level", "from")}
          {length("To level", "to")}
          {length("Step", "step", true)}
        </>
      )}
      {kind !== "storage" && (
        <div className="flex gap-3">
          <LengthField
            label={`Deadband, ${u}`}
            value={recipe.deadband ?? 0}
            unit={u}
            width="w-24"
            onChange={(x) => edit({ deadband: x > 0 ? x : undefined })}
          />
          <FactorField
            label="Cut times"
            value={recipe.bulking?.cut}
            onChange={(cut) => edit({ bulking: bulkingOf({ ...recipe.bulking, cut }) })}
          />
          <FactorField
            label="Fill times"
            value={recipe.bulking?.fill}
            onChange={(fill) => edit({ bulking: bulkingOf({ ...recipe.bulking, fill }) })}
          />
        </div>
      )}
    </div>
  );
}

/** Factors that say something; undefined where neither does. */
function bulkingOf({ cut, fill }: { cut?: number; fill?: number }): VolumeRecipe["bulking"] {
  if (cut === undefined && fill === undefined) return undefined;
  return { ...(cut === undefined ? {} : { cut }), ...(fill === undefined ? {} : { fill }) };
}

function Toe({ recipe, edit, lines }: { recipe: VolumeRecipe; edit: Edit; lines: { code: string; run?: string }[] }) {
  const { toe } = recipe,
    drawn = Array.isArray(toe),
    key = (l: { code: string; run?: string }) => JSON.stringify([l.code, l.run ?? ""]);
  return (
    <>
      <Choice
        label="Toe"
        value={drawn || !toe ? "drawn" : key(toe)}
        onChange={(v) => {
          const line = lines.find((l) => key(l) === v);
          if (line) edit({ toe: line });
        }}
        options={[
          ...(drawn ? ([["drawn", `drawn, ${toe.length} corners`]] as const) : []),
          ...lines.map((l) => [key(l), lineText(l)] as const),
        ]}
      />
      <RingButton name="Draw the toe" take={(ring) => edit({ toe: ring })} />
      {drawn && <CornersButton of="toe" ring={toe} take={(ring) => edit({ toe: ring })} />}
    </>
  );
}

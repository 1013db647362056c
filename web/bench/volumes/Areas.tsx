"use client";
/** Within which areas a comparison is made: the whole, drawn rings, or closed lines. */
import type { VolumeRecipe } from "@bramble/core";
import type { AreaWanted } from "@bramble/core/volumes/model";
import { areasWanted } from "@bramble/core/volumes/regions";
import { useParts } from "../../lib/store";
import { CornersButton } from "../CornersButton";
import { RingButton } from "../RingButton";
import { closedLines, lineText } from "./kinds";
import type { Edit } from "./edit";
import { TakenText } from "../../controls/fields/TakenText";
import { Choice } from "../../controls/fields/Choice";

export function Areas({ recipe, edit }: { recipe: VolumeRecipe; edit: Edit }) {
  const { view } = useParts("view"),
    areas = areasWanted(recipe) ?? [],
    put = (list: AreaWanted[]) => edit({ within: list.length ? list : undefined });
  const free = (stem: string) => {
    const taken = new Set(areas.map(nameOf));
    let k = 1;
    while (taken.has(`${stem} ${k}`)) k++;
    return `${stem} ${k}`;
  };
  const lines = closedLines(view),
    codes = [...new Set(lines.map((l) => l.code))],
    choices: AreaWanted[] = [
      ...lines.map((l) => ({ name: lineText(l), ...l })),
      ...codes
        .filter((c) => lines.filter((l) => l.code === c).length > 1)
        .map((code) => ({ name: `all ${code}`, code })),
    ];
  return (
    <section aria-label="Areas" className="mt-2 flex flex-wrap items-center gap-2">
      <span className="text-soft">{areas.length ? "Within" : "All that they have in common"}</span>
      {areas.map((a, k) => (
        <span key={k} className="flex h-7 items-center gap-1.5 rounded-sm border border-rule px-2">
          <TakenText
            className="w-24 bg-transparent"
            label={`Name of area ${k + 1}`}
            value={nameOf(a, k)}
            maxLength={200}
            take={(text) => (text.trim() ? put(areas.with(k, { ...a, name: text.trim() })) : false)}
          />
          {"ring" in a && (
            <CornersButton of={`area ${k}`} ring={a.ring} take={(ring) => put(areas.with(k, { ...a, ring }))} />
          )}
          <button
            className="text-soft hover:text-bramble"
            aria-label={`Take ${nameOf(a, k)} away`}
            onClick={() => put(areas.filter((_, i) => i !== k))}
          >
            ×
          </button>
        </span>
      ))}
      <RingButton name="Draw an area" take={(ring) => put([...areas, { name: free("area"), ring }])} />
      {choices.length > 0 && (
        <Choice
          label="An area by lines"
          named={false}
          low={false}
          value=""
          ask="An area by lines …"
          onChange={(k) => put([...areas, choices[k]!])}
          options={choices.map((c, k) => [k, c.name ?? ""] as const)}
        />
      )}
    </section>
  );
}

const nameOf = (a: AreaWanted, k: number) => a.name ?? ("ring" in a ? `area ${k + 1}` : lineText(a));

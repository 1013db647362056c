"use client";
/** A new comparison: its name and which way it compares. */
import { useState } from "react";
import type { VolumeKind } from "@bramble/core/volumes/model";
import { Coming } from "../../controls/Coming";
import { useParts } from "../../lib/store";
import { Choice, optionsOf } from "../../controls/fields/Choice";
import { NameForm } from "../../controls/fields/NameForm";
import { firstOf, KINDS } from "./kinds";

const NEEDS: Partial<Record<VolumeKind, string>> = {
  surfaces: "It needs a second surface: make one, or take one from a file, in Surface.",
  heap: "It needs a closed line, the heap's toe, in the job.",
};

export function NewComparison({ made, leave }: { made: (name: string) => void; leave?: () => void }) {
  const { job, view, surface, change } = useParts("job", "view", "surface", "change");
  const [kind, setKind] = useState<VolumeKind>("level"),
    source = job.surfaces.some((s) => s.name === surface) ? surface : job.surfaces[0]!.name,
    failure = view.surfaces.find((s) => s.name === source)?.failure,
    first = firstOf(kind, "", source, job.surfaces, view);
  const make = async (name: string) => {
    const recipe = firstOf(kind, name, source, job.surfaces, view);
    if (recipe && (await change({ type: "named", part: "volumes", name, old: null, new: recipe }))) made(name);
  };
  return (
    <div className="flex flex-wrap items-end gap-x-3">
      <div className="pb-3">
        <Choice label="Compare" value={kind} onChange={setKind} options={optionsOf(KINDS)} />
      </div>
      {first ? (
        <NameForm
          label="Name of the comparison"
          action="Make it"
          first=""
          taken={job.volumes.map((v) => v.name)}
          make={make}
          leave={leave}
        />
      ) : (
        <p className="flex items-center gap-3 pb-4 text-amber">
          {NEEDS[kind] ??
            (failure ? `Surface “${source}” cannot be made.` : <Coming what={`Surface “${source}” is `} />)}
          {leave && (
            <button className="button" onClick={leave}>
              Leave it
            </button>
          )}
        </p>
      )}
    </div>
  );
}

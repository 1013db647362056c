"use client";
/** Surface: recipes of terrain, what each used and refused, and its contours. */
import { useState } from "react";
import type { ContoursRecipe, SurfaceRecipe } from "@bramble/core";
import { surfaceOfFile, takeFileSurface } from "../../lib/file-surface";
import { sayMade } from "../../lib/say-made";
import { useParts } from "../../lib/store";
import { Bench } from "../Bench";
import { NameForm } from "../../controls/fields/NameForm";
import { SurfaceOfFile } from "./FromFile";
import { OneSurface } from "./OneSurface";
import { Choice } from "../../controls/fields/Choice";

export function SurfaceBench() {
  const { job, surface, set, change } = useParts("job", "surface", "set", "change");
  const [making, setMaking] = useState(false);
  const recipe = job.surfaces.find((s) => s.name === surface);
  const make = async (name: string) => {
    const body: SurfaceRecipe = {
      name,
      points: "*ground",
      breaklines: { codes: ["*"], crossing: "mean" },
      edge: "hull",
    };
    if (!(await change({ type: "named", part: "surfaces", name, old: null, new: body }))) return;
    set({ surface: name });
    setMaking(false);
    const contours = change({
      type: "named",
      part: "contours",
      name,
      old: null,
      new: { surface: name, interval: job.unit === "m" ? 1 : 2, index: 5, base: 0 } satisfies ContoursRecipe,
    });
    if (contours) sayMade(name, `Surface “${name}” is made, with its contours.`);
  };
  const takeOf = async (file: string, of: string) => {
    const taken = takeFileSurface(job, file, of);
    if (await change(taken)) set({ surface: taken.name });
  };
  const ofFile = (
    <SurfaceOfFile
      isUsed={(file, of) => surfaceOfFile(job, file, of) !== undefined}
      take={(file, of) => void takeOf(file, of)}
    />
  );
  return (
    <Bench
      title="Surface"
      about={job.surfaces.length ? undefined : "No surface yet"}
      figures={job.surfaces.length > 0}
      actions={
        job.surfaces.length > 0 && (
          <div className="flex gap-1.5">
            {job.surfaces.length > 1 && (
              <Choice
                label="Surface"
                named={false}
                low={false}
                value={surface}
                onChange={(v) => set({ surface: v })}
                options={job.surfaces.map((s) => [s.name, s.name] as const)}
              />
            )}
            {ofFile}
            <button className="button" onClick={() => setMaking(true)}>
              New surface
            </button>
          </div>
        )
      }
    >
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        {(making || job.surfaces.length === 0) && (
          <>
            <NameForm
              label="Name of the surface"
              action="Make it from the ground points"
              first={job.surfaces.length ? "" : "existing ground"}
              taken={job.surfaces.map((s) => s.name)}
              make={make}
              leave={job.surfaces.length ? () => setMaking(false) : undefined}
            />
            {job.surfaces.length === 0 && ofFile}
          </>
        )}
        {recipe && !making && <OneSurface key={recipe.name} recipe={recipe} />}
        {job.surfaces.length === 0 && (
          <p className="mt-3 text-soft">
            A surface is a recipe: it takes the ground points and the breaklines of the code book, and follows every
            change of them.
          </p>
        )}
      </div>
    </Bench>
  );
}

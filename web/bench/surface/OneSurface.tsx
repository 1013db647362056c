"use client";
/** One surface: its recipe part by part, what it used and refused, and its contours. */
import { useMemo, useState } from "react";
import { GROUND, refusedInWords, thingRemoved, thingRenamed, type SetRule, type SurfaceRecipe } from "@bramble/core";
import { sameJson } from "@bramble/core/math/json";
import { formatFixed, formatGrouped } from "@bramble/core/math/round";
import { NameForm } from "../../controls/fields/NameForm";
import { Coming } from "../../controls/Coming";
import { attempt } from "../../lib/attempt";
import { thing } from "../../lib/say-made";
import { useParts } from "../../lib/store";
import { BEFORE } from "../../lib/use-known";
import { area, decimalsOf } from "../../lib/units-shown";
import { useTrial } from "../../lib/use-trial";
import { Fact, Failed } from "../Bench";
import { SetChoice } from "../sets/SetChoice";
import { Breaklines } from "./Breaklines";
import { Contours } from "./Contours";
import { Corrections } from "./Corrections";
import { Edge } from "./Edge";
import { Unlevelled } from "./Unlevelled";

/** A set made for a surface begins with what a surface takes by itself. */
const GROUND_POINTS: SetRule = { all: [{ set: GROUND }] };

/** A recipe with a part of it said otherwise; what is said no more is not in it at all. */
function withPart(recipe: SurfaceRecipe, part: Partial<SurfaceRecipe>): SurfaceRecipe {
  const said = Object.entries({ ...recipe, ...part }).filter(([, value]) => value !== undefined);
  return Object.fromEntries(said) as unknown as SurfaceRecipe;
}

export function OneSurface({ recipe }: { recipe: SurfaceRecipe }) {
  const { job, view, change, deriving, stopped, set } = useParts("job", "view", "change", "deriving", "stopped", "set");
  // What is being typed or dragged, seen on the sheet before it is kept.
  const [looked, look] = useState<Partial<SurfaceRecipe>>();
  const trial = useTrial(
      useMemo(() => {
        const next = looked && withPart(recipe, looked);
        if (!next || sameJson(next, recipe)) return undefined;
        return { type: "named" as const, part: "surfaces" as const, name: recipe.name, old: recipe, new: next };
      }, [looked, recipe]),
      true,
    ),
    would = trial && "surfaces" in trial ? trial.surfaces.find((s) => s.name === recipe.name)?.now : undefined;
  const built = view.surfaces.find((s) => s.name === recipe.name),
    report = built?.value?.report;
  const d = decimalsOf(job.unit),
    u = job.unit,
    isGiven = recipe.file !== undefined || recipe.triangles !== undefined;
  const edit = (part: Partial<SurfaceRecipe>) => {
    look(undefined);
    void change({ type: "named", part: "surfaces", name: recipe.name, old: recipe, new: withPart(recipe, part) });
  };
  const [isRenamed, setRenamed] = useState(false);
  const rename = async (to: string) => {
    if (!attempt(() => thingRenamed(job, "surfaces", recipe.name, to))) return;
    setRenamed(false);
    set({ surface: to });
  };
  const removeSurface = () => attempt(() => thingRemoved(job, "surfaces", recipe.name));
  return (
    <>
      <div className="flex items-baseline gap-3">
        <h2 className="heading" {...thing(recipe.name)}>
          {recipe.name}
        </h2>
        <span className="flex-1" />
        <button className="button button-plain" aria-pressed={isRenamed} onClick={() => setRenamed(!isRenamed)}>
          Rename
        </button>
        <button className="button button-plain" onClick={removeSurface}>
          Remove
        </button>
      </div>
      {isRenamed && (
        <div className="mt-2">
          <NameForm
            label="Its new name; all that uses it goes with it"
            action="Rename it"
            first={recipe.name}
            taken={job.surfaces.map((s) => s.name)}
            make={rename}
            leave={() => setRenamed(false)}
          />
        </div>
      )}
      {isGiven ? (
        <p className="mt-2 text-soft">
          {recipe.file !== undefined && `From “${recipe.file}”, surface “${recipe.surface ?? "the first"}”: `}
          {recipe.file === undefined ? "Its own triangles, as they came." : "its own triangles, as they came."}
        </p>
      ) : (
        <>
          <Breaklines {...{ recipe, edit, look, would }}>
            <SetChoice
              label="Points"
              value={recipe.points ?? "*ground"}
              fixed={[["*ground", "all ground points"]]}
              choose={(points) => edit({ points })}
              begin={GROUND_POINTS}
            />
          </Breaklines>
          <Edge {...{ recipe, edit, look, would }} />
          <Corrections {...{ recipe, edit }} />
        </>
      )}
      {built?.failure && <Failed>{built.failure.message}</Failed>}
      {!built && (
        <p className="mt-4">
          <Coming />
        </p>
      )}
      {report && (
        <dl
          className={`rows mt-4 grid grid-cols-2 gap-x-8 ${deriving || stopped ? BEFORE : ""}`}
          data-testid="surface-report"
        >
          <Fact name="Plan area" strong>
            {area(report.area, u, job.areaUnit)}
          </Fact>
          <Fact name="Slope area">{area(report.slopeArea, u, job.areaUnit)}</Fact>
          <Fact name="Lowest">
            {formatFixed(report.minZ, d)} {u}
          </Fact>
          <Fact name="Highest">
            {formatFixed(report.maxZ, d)} {u}
          </Fact>
          <Fact name="Points">{formatGrouped(report.points, 0)}</Fact>
          <Fact name="Triangles">{formatGrouped(report.triangles, 0)}</Fact>
          <Fact name="Breaklines used">{report.breaklines}</Fact>
          <Fact name="Refused">{report.refused.length || "nothing"}</Fact>
          {report.outside > 0 && <Fact name="Points outside">{formatGrouped(report.outside, 0)}</Fact>}
          {report.thinned.count > 0 && (
            <Fact name="Left out as straight">
              {formatGrouped(report.thinned.count, 0)}, at most {formatFixed(report.thinned.most, d)} {u} in level
            </Fact>
          )}
          {report.densified > 0 && <Fact name="Added to breaklines">{formatGrouped(report.densified, 0)}</Fact>}
        </dl>
      )}
      {report &&
        refusedInWords(report.refused, job.points, view.lines).map((r, k) => (
          <p key={k} className="mt-1 text-amber">
            {r.what}: {r.why}.
          </p>
        ))}
      {!isGiven && <Unlevelled />}
      <Contours surface={recipe.name} />
    </>
  );
}

"use client";
/** Points as built against what was designed: one check after another, its points on the sheet. */
import { useEffect, useState, type ReactNode } from "react";
import { METRES, type DifferenceRecipe } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { Coming } from "../../controls/Coming";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { sayMade } from "../../lib/say-made";
import { useKept } from "../../lib/use-kept";
import { BEFORE, useKnown } from "../../lib/use-known";
import { Bench } from "../Bench";
import { NameForm } from "../../controls/fields/NameForm";
import { closedLines } from "../volumes/kinds";
import { OneCheck } from "./OneCheck";

export function BuiltBench({ head }: { head: ReactNode }) {
  const { job, view, change, set } = useParts("job", "view", "change", "set");
  const [chosen, setChosen] = useKept("volumes.built", ""),
    [making, setMaking] = useState(false),
    [texts, setTexts] = useKept("volumes.builtTexts", false),
    recipe = job.differences.find((d) => d.name === chosen) ?? job.differences[0],
    d = decimalsOf(job.unit);
  const { known, before } = useKnown(),
    name = recipe?.name;
  useEffect(() => {
    set({ built: name === undefined ? undefined : { name, texts } });
    return () => set({ built: undefined });
  }, [name, texts, set]);
  const [line] = closedLines(view),
    surface = job.surfaces.at(-1)?.name,
    centimetres = (x: number) => x / 100 / METRES[job.unit];
  const make = async (name: string) => {
    const first: DifferenceRecipe = {
      name,
      points: "*ground",
      ...(surface !== undefined
        ? { surface, tolerance: centimetres(2) }
        : line
          ? { line, tolerance: centimetres(2) }
          : { against: "*", by: "number" as const, tolerance: { plan: centimetres(2), level: centimetres(1) } }),
    };
    if (await change({ type: "named", part: "differences", name, old: null, new: first })) {
      setChosen(name);
      setMaking(false);
      sayMade(name, `Check “${name}” is made.`);
    }
  };
  return (
    <Bench
      title="Volumes"
      about={head}
      figures
      actions={
        job.differences.length > 0 && (
          <button className="button" onClick={() => setMaking(true)}>
            New check
          </button>
        )
      }
    >
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        {(making || job.differences.length === 0) && (
          <>
            {job.differences.length === 0 && (
              <p className="pb-2 text-soft">
                How far points lie from what was designed: from a surface, from a line with stations and offsets, or
                from points, pair by pair.
              </p>
            )}
            <NameForm
              label="Name of the check"
              action="Make it"
              first=""
              taken={job.differences.map((x) => x.name)}
              make={make}
              leave={job.differences.length ? () => setMaking(false) : undefined}
            />
          </>
        )}
        {job.differences.length > 0 && (
          <table className="plain">
            <thead>
              <tr>
                <th>Check</th>
                <th className="num">Points</th>
                <th className="num">Outside</th>
                <th className="num">Mean, {job.unit}</th>
                <th className="num">RMS, {job.unit}</th>
              </tr>
            </thead>
            <tbody>
              {job.differences.map((x) => {
                const made = known?.checks.find((r) => r.name === x.name);
                return (
                  <tr
                    key={x.name}
                    aria-selected={x === recipe}
                    className={`cursor-pointer ${before ? BEFORE : ""}`}
                    onClick={() => setChosen(x.name)}
                  >
                    <td>
                      <button className="text-left font-medium" onClick={() => setChosen(x.name)}>
                        {x.name}
                      </button>
                    </td>
                    {made ? (
                      <>
                        <td className="num">{made.count}</td>
                        <td className={`num ${made.outside ? "text-amber" : "text-leaf"}`}>{made.outside}</td>
                        <td className="num">{formatFixed(made.mean, d).replace("-", "−")}</td>
                        <td className="num">{formatFixed(made.rms, d)}</td>
                      </>
                    ) : (
                      <td colSpan={4}>
                        <Coming failure={view.differences.find((r) => r.name === x.name)?.failure} />
                      </td>
                    )}
                  </tr>
                );
              })}
            </tbody>
          </table>
        )}
        {recipe && !making && <OneCheck key={recipe.name} recipe={recipe} texts={texts} setTexts={setTexts} />}
      </div>
    </Bench>
  );
}

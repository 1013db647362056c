"use client";
/** Volumes: comparisons of a surface with a level, their figures and the map of cut and fill. */
import { useState } from "react";
import type { VolumeRecipe } from "@bramble/core";
import { useJob, useParts } from "../lib/store";
import { area, volume as volumeText } from "../lib/units-shown";
import { Bench, Fact, Failed } from "./Bench";
import { LengthField } from "./LengthField";
import { LevelChart } from "./LevelChart";
import { NameForm } from "./NameForm";
import { useMapOnlyHere } from "./use-map";

export function VolumesBench() {
  const { job, view, volume, set, change } = useParts("job", "view", "volume", "set", "change");
  const [making, setMaking] = useState(false);
  useMapOnlyHere();
  const recipe = job.volumes.find((v) => v.name === volume);
  if (job.surfaces.length === 0) {
    return (
      <Bench title="Volumes">
        <p className="px-4 text-soft">
          A volume compares a surface with a level. Make a{" "}
          <a className="text-bramble underline" href={`/jobs/${useJob.getState().jobId}/surface`}>
            surface
          </a>{" "}
          first.
        </p>
      </Bench>
    );
  }
  const make = async (name: string) => {
    const source = view.surfaces.find((s) => s.value)?.value;
    const level = source ? Math.round((source.report.minZ + source.report.maxZ) / 2) : 0;
    if (
      await change({
        type: "named",
        part: "volumes",
        name,
        old: null,
        new: { name, surface: job.surfaces[0]!.name, level } satisfies VolumeRecipe,
      })
    ) {
      set({ volume: name });
      setMaking(false);
    }
  };
  return (
    <Bench
      title="Volumes"
      about={job.volumes.length ? undefined : "No comparison yet"}
      actions={
        job.volumes.length > 0 && (
          <button className="button" onClick={() => setMaking(true)}>
            New comparison
          </button>
        )
      }
    >
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        {(making || job.volumes.length === 0) && (
          <NameForm
            label="Name of the comparison"
            action="Compare a surface with a level"
            first=""
            taken={job.volumes.map((v) => v.name)}
            make={make}
            leave={job.volumes.length ? () => setMaking(false) : undefined}
          />
        )}
        {job.volumes.length > 0 && (
          <table className="plain">
            <thead>
              <tr>
                <th>Comparison</th>
                <th className="num">Cut</th>
                <th className="num">Fill</th>
                <th className="num">Net, fill − cut</th>
              </tr>
            </thead>
            <tbody>
              {job.volumes.map((v) => {
                const result = view.volumes.find((x) => x.name === v.name);
                return (
                  <tr
                    key={v.name}
                    aria-selected={v.name === volume}
                    className="cursor-pointer"
                    onClick={() => set({ volume: v.name })}
                  >
                    <td>
                      <button className="text-left font-medium" onClick={() => set({ volume: v.name })}>
                        {v.name}
                      </button>
                    </td>
                    {result?.value ? (
                      <>
                        <td className="num">{volumeText(result.value.cut, job.unit)}</td>
                        <td className="num">{volumeText(result.value.fill, job.unit)}</td>
                        <td className="num">{volumeText(result.value.net, job.unit)}</td>
                      </>
                    ) : (
                      <td colSpan={3} className="text-amber">
                        cannot be made
                      </td>
                    )}
                  </tr>
                );
              })}
            </tbody>
          </table>
        )}
        {recipe && <OneComparison key={recipe.name} recipe={recipe} />}
      </div>
    </Bench>
  );
}

function OneComparison({ recipe }: { recipe: VolumeRecipe }) {
  const { job, view, change, layers, toggle, deriving } = useParts(
    "job",
    "view",
    "change",
    "layers",
    "toggle",
    "deriving",
  );
  const result = view.volumes.find((v) => v.name === recipe.name);
  const v = result?.value,
    u = job.unit,
    curve = view.curves[recipe.surface];
  const edit = (part: Partial<VolumeRecipe>) =>
    void change({ type: "named", part: "volumes", name: recipe.name, old: recipe, new: { ...recipe, ...part } });
  const share = (x: number) => (v && v.area > 0 ? `${((100 * x) / v.area).toFixed(1)} %` : "");
  return (
    <>
      <div className="mt-6 flex items-baseline gap-3">
        <h2 className="heading">{recipe.name}</h2>
        <span className="flex-1" />
        <button
          className="button button-plain"
          onClick={() => void change({ type: "named", part: "volumes", name: recipe.name, old: recipe, new: null })}
        >
          Remove
        </button>
      </div>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <label className="block">
          <span className="label block">Surface</span>
          <select
            className="field mt-0.5"
            value={recipe.surface}
            onChange={(event) => edit({ surface: event.target.value })}
          >
            {job.surfaces.map((s) => (
              <option key={s.name}>{s.name}</option>
            ))}
          </select>
        </label>
        <LengthField label={`Level, ${u}`} value={recipe.level} unit={u} onChange={(level) => edit({ level })} />
        <LengthField
          label={`Differences up to this do not count, ${u}`}
          value={recipe.deadband ?? 0}
          unit={u}
          onChange={(x) => edit({ deadband: x > 0 ? x : undefined })}
        />
      </div>
      {result?.failure && <Failed>{result.failure.message}</Failed>}
      {v && (
        <>
          <dl
            className={`rows mt-4 grid grid-cols-2 gap-x-8 ${deriving ? "opacity-60" : ""}`}
            data-testid="volume-figures"
          >
            <Fact name="Cut" strong>
              <span data-testid="cut" data-value={v.cut}>
                {volumeText(v.cut, u)}
              </span>
            </Fact>
            <Fact name="Cut area">
              {area(v.cutArea, u, job.areaUnit)} <span className="text-soft">{share(v.cutArea)}</span>
            </Fact>
            <Fact name="Fill" strong>
              <span data-testid="fill" data-value={v.fill}>
                {volumeText(v.fill, u)}
              </span>
            </Fact>
            <Fact name="Fill area">
              {area(v.fillArea, u, job.areaUnit)} <span className="text-soft">{share(v.fillArea)}</span>
            </Fact>
            <Fact name="Net, fill − cut" strong>
              <span data-testid="net" data-value={v.net}>
                {volumeText(v.net, u)}
              </span>
            </Fact>
            <Fact name="Common area">{area(v.area, u, job.areaUnit)}</Fact>
            {v.bulked && (
              <Fact name={`Cut, loosened by ${recipe.bulking?.cut ?? 1}`}>{volumeText(v.bulked.cut, u)}</Fact>
            )}
            {v.bulked && <Fact name={`Fill, times ${recipe.bulking?.fill ?? 1}`}>{volumeText(v.bulked.fill, u)}</Fact>}
          </dl>
          <p className="mt-2 text-soft">
            Exact over the triangles of “{recipe.surface}”: each is split where it meets the level. What the ground does
            between the shots is not in it.
          </p>
          <div className="mt-4 flex items-center gap-6">
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={layers.map} onChange={() => toggle("map")} />
              Map of cut and fill
            </label>
            <span className="flex items-center gap-2">
              <svg width="28" height="14" aria-hidden>
                <rect width="28" height="14" fill="#c8632b" opacity="0.75" />
              </svg>
              cut, ground above the level
            </span>
            <span className="flex items-center gap-2">
              <svg width="28" height="14" aria-hidden>
                <rect width="28" height="14" fill="#3b7ea6" opacity="0.6" />
                <path d="M-4 10 6 0M0 14 14 0M8 14 22 0M16 14 30 0M24 14 34 4" stroke="#1f4a63" strokeWidth="1.4" />
              </svg>
              fill, hatched
            </span>
          </div>
          <p className="mt-1 text-soft">The deeper the colour, the farther the ground is from the level.</p>
          {curve && <LevelChart curve={curve} level={recipe.level} unit={u} shown={job.volumeUnit ?? "unit"} />}
        </>
      )}
    </>
  );
}

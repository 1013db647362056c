"use client";
/** Surface: recipes of terrain, what each used and refused, and its contours. */
import { useState } from "react";
import { SetChoice } from "./sets/SetChoice";
import { GROUND, refusedInWords, type ContoursRecipe, type SetRule, type SurfaceRecipe } from "@bramble/core";
import { formatFixed, formatGrouped } from "@bramble/core/math/round";
import { useParts } from "../lib/store";
import { area, decimalsOf } from "../lib/units-shown";
import { Bench, Fact, Failed } from "./Bench";
import { LengthField } from "./LengthField";
import { NameForm } from "./NameForm";

/** A set made for a surface begins with what a surface takes by itself. */
const GROUND_POINTS: SetRule = { all: [{ set: GROUND }] };

export function SurfaceBench() {
  const { job, view, surface, set, change } = useParts("job", "view", "surface", "set", "change");
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
    await change({
      type: "named",
      part: "contours",
      name,
      old: null,
      new: { surface: name, interval: job.unit === "m" ? 1 : 2, index: 5, base: 0 } satisfies ContoursRecipe,
    });
  };
  return (
    <Bench
      title="Surface"
      about={job.surfaces.length ? undefined : "No surface yet"}
      actions={
        job.surfaces.length > 0 && (
          <div className="flex gap-1.5">
            {job.surfaces.length > 1 && (
              <select
                className="field"
                aria-label="Surface"
                value={surface}
                onChange={(event) => set({ surface: event.target.value })}
              >
                {job.surfaces.map((s) => (
                  <option key={s.name}>{s.name}</option>
                ))}
              </select>
            )}
            <button className="button" onClick={() => setMaking(true)}>
              New surface
            </button>
          </div>
        )
      }
    >
      <div className="min-h-0 flex-1 overflow-auto px-4 pb-4">
        {(making || job.surfaces.length === 0) && (
          <NameForm
            label="Name of the surface"
            action="Make it from the ground points"
            first={job.surfaces.length ? "" : "existing ground"}
            taken={job.surfaces.map((s) => s.name)}
            make={make}
            leave={job.surfaces.length ? () => setMaking(false) : undefined}
          />
        )}
        {recipe && !making && <OneSurface key={recipe.name} recipe={recipe} />}
        {!recipe && view.surfaces.length === 0 && (
          <p className="mt-3 text-soft">
            A surface is a recipe: it takes the ground points and the breaklines of the code book, and follows every
            change of them.
          </p>
        )}
      </div>
    </Bench>
  );
}

function OneSurface({ recipe }: { recipe: SurfaceRecipe }) {
  const { job, view, layers, toggle, change, deriving } = useParts(
    "job",
    "view",
    "layers",
    "toggle",
    "change",
    "deriving",
  );
  const built = view.surfaces.find((s) => s.name === recipe.name),
    report = built?.value?.report;
  const contours = job.contours.find((c) => c.surface === recipe.name);
  const shown = view.contours.find((c) => c.name === recipe.name)?.value;
  const d = decimalsOf(job.unit),
    u = job.unit;
  const edit = (part: Partial<SurfaceRecipe>) =>
    void change({ type: "named", part: "surfaces", name: recipe.name, old: recipe, new: { ...recipe, ...part } });
  const editContours = (part: Partial<ContoursRecipe>) =>
    void change({
      type: "named",
      part: "contours",
      name: recipe.name,
      old: contours ?? null,
      new: { surface: recipe.name, interval: 1, index: 5, base: 0, ...contours, ...part },
    });
  const removeSurface = async () => {
    if (contours) await change({ type: "named", part: "contours", name: recipe.name, old: contours, new: null });
    await change({ type: "named", part: "surfaces", name: recipe.name, old: recipe, new: null });
  };
  const uses = recipe.breaklines?.codes?.length ? "all" : "none";
  return (
    <>
      <div className="flex items-baseline gap-3">
        <h2 className="heading">{recipe.name}</h2>
        <span className="flex-1" />
        <button className="button button-plain" onClick={() => void removeSurface()}>
          Remove
        </button>
      </div>
      {recipe.file !== undefined ? (
        <p className="mt-2 text-soft">
          From “{recipe.file}”, surface “{recipe.surface ?? "the first"}”: its own triangles, as they came.
        </p>
      ) : (
        <div className="mt-2 flex flex-wrap items-end gap-3">
          <SetChoice
            label="Points"
            value={recipe.points ?? "*ground"}
            fixed={[["*ground", "all ground points"]]}
            choose={(points) => edit({ points })}
            begin={GROUND_POINTS}
          />
          <label className="block">
            <span className="label block">Breaklines</span>
            <select
              className="field mt-0.5"
              value={uses}
              onChange={(event) =>
                edit({ breaklines: { ...recipe.breaklines, codes: event.target.value === "all" ? ["*"] : [] } })
              }
            >
              <option value="all">all that the code book says</option>
              <option value="none">none</option>
            </select>
          </label>
          <label className="block">
            <span className="label block">Where breaklines cross</span>
            <select
              className="field mt-0.5"
              value={recipe.breaklines?.crossing ?? "mean"}
              onChange={(event) =>
                edit({ breaklines: { ...recipe.breaklines, crossing: event.target.value as "mean" } })
              }
            >
              <option value="mean">the mean level</option>
              <option value="higher">the higher</option>
              <option value="lower">the lower</option>
            </select>
          </label>
        </div>
      )}
      {built?.failure && <Failed>{built.failure.message}</Failed>}
      {report && (
        <dl
          className={`rows mt-4 grid grid-cols-2 gap-x-8 ${deriving ? "opacity-60" : ""}`}
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
        </dl>
      )}
      {report &&
        refusedInWords(report.refused, job.points, view.lines).map((r, k) => (
          <p key={k} className="mt-1 text-amber">
            {r.what}: {r.why}.
          </p>
        ))}
      <h2 className="heading mt-6">Contours</h2>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <LengthField
          label={`Interval, ${u}`}
          value={contours?.interval ?? 1}
          unit={u}
          positive
          onChange={(interval) => editContours({ interval })}
        />
        <label className="block">
          <span className="label block">Index contour every</span>
          <select
            className="field mt-0.5"
            value={contours?.index ?? 5}
            onChange={(event) => editContours({ index: Number(event.target.value) })}
          >
            {[0, 2, 4, 5, 10].map((k) => (
              <option key={k} value={k}>
                {k === 0 ? "none" : k === 2 ? "2nd" : `${k}th`}
              </option>
            ))}
          </select>
        </label>
        <LengthField
          label={`Counted from, ${u}`}
          value={contours?.base ?? 0}
          unit={u}
          onChange={(base) => editContours({ base })}
        />
      </div>
      <div className="mt-3 flex flex-wrap gap-4">
        {(
          [
            ["contours", "Contours drawn"],
            ["labels", "Labels"],
            ["triangles", "Triangles drawn"],
          ] as const
        ).map(([key, name]) => (
          <label key={key} className="flex items-center gap-2">
            <input type="checkbox" checked={layers[key]} onChange={() => toggle(key)} />
            {name}
          </label>
        ))}
      </div>
      {shown && (
        <table className="plain mt-4">
          <thead>
            <tr>
              <th className="num">Level {u}</th>
              <th>
                <span className="sr-only">Kind</span>
              </th>
              <th className="num">Lines</th>
              <th className="num">Closed</th>
              <th className="num">Length {u}</th>
            </tr>
          </thead>
          <tbody>
            {shown.levels.slice(0, 200).map((l) => (
              <tr key={l.level} className={l.index ? "font-medium" : ""}>
                <td className="num">{formatFixed(l.level, 2)}</td>
                <td className="text-soft">{l.index ? "index" : ""}</td>
                <td className="num">{l.lines}</td>
                <td className="num">{l.closed}</td>
                <td className="num">{formatFixed(l.length, 1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  );
}

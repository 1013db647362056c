"use client";
/** The figures of a comparison with their ±, second opinions beside them, area by area. */
import type { VolumeRecipe } from "@bramble/core";
import { VOLUME_DECIMALS } from "@bramble/core/math/figures";
import { volumeFactor } from "@bramble/core/math/units";
import { kindOf } from "@bramble/core/volumes/model";
import { formatFixed } from "@bramble/core/math/round";
import type { Figures as Sums, VolumeResult } from "@bramble/core/volumes/model";
import type { Precision } from "@bramble/core/volumes/precision";
import { levelPrecisionOf } from "@bramble/core/volumes/precision";
import { assumptions, figuresTold, type FigureTold } from "@bramble/core/volumes/words";
import { useParts } from "../../lib/store";
import { area, volume, volumeFigure, volumeUnitShort } from "../../lib/units-shown";
import type { VolumeLooked } from "../../lib/view";
import { LengthField } from "../../controls/fields/fields";
import type { Edit } from "./edit";
import { Sections } from "./Sections";

/** Digits that a figure must have before a second opinion of it is told in percent: below them rounding speaks. */
const TELLING = 100;

export function Figures({
  recipe,
  result: v,
  looked,
  edit,
}: {
  recipe: VolumeRecipe;
  result: VolumeResult;
  looked: VolumeLooked | undefined;
  edit: Edit;
}) {
  const { job } = useParts("job"),
    u = job.unit,
    shown = job.volumeUnit ?? "unit",
    text = (x: number) => volumeFigure(x, u, shown),
    told = figuresTold(kindOf(recipe)),
    { precision, endAreas, grid } = looked?.opinions ?? {};
  /** A second opinion and how far it is off, in percent of all that is moved. */
  const beside = (o: { cut: number; fill: number } | undefined, { key, sign }: FigureTold) => {
    if (!o) return <span className="text-soft">{looked?.done ? "none" : "…"}</span>;
    const x = sign * (key === "net" ? o.fill - o.cut : o[key]),
      moved = key === "net" ? v.cut + v.fill : v[key],
      off = x - sign * v[key],
      percent = formatFixed(Math.abs((100 * off) / moved), 2);
    return (
      <>
        {text(x)}
        {moved >= (TELLING * 10 ** -VOLUME_DECIMALS[shown]) / volumeFactor(u, shown) && (
          <span className="ml-1.5 inline-block w-16 text-soft whitespace-nowrap">
            {percent === "0.00" ? "" : off < 0 ? "−" : "+"}
            {percent} %
          </span>
        )}
      </>
    );
  };
  const share = (x: number) => (v.area > 0 ? `${((100 * x) / v.area).toFixed(1)} %` : "");
  return (
    <div data-testid="volume-figures">
      <table className="plain mt-4">
        <thead>
          <tr>
            <th>{volumeUnitShort(u, job.volumeUnit)}</th>
            <th className="num">Exact</th>
            <th className="num" title="What the precision of the shots makes of it, one σ">
              ±
            </th>
            <th className="num">By end areas</th>
            <th className="num">By a grid</th>
          </tr>
        </thead>
        <tbody>
          {told.map(({ key, name, sign }) => (
            <tr key={key}>
              <td>{name}</td>
              <td className="num font-semibold">
                <span data-testid={key} data-value={v[key]}>
                  {text(sign * v[key])}
                </span>
              </td>
              <td className="num" data-testid={`${key}-sigma`} data-value={precision?.[key].total}>
                {precision ? text(precision[key].total) : looked?.done ? "" : "…"}
              </td>
              <td className="num">{beside(endAreas, { key, name, sign })}</td>
              <td className="num">{beside(grid, { key, name, sign })}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2">
        {told[0]!.name} on {area(v.cutArea, u, job.areaUnit)} <span className="text-soft">({share(v.cutArea)})</span>,{" "}
        {told[1]!.name.toLowerCase()} on {area(v.fillArea, u, job.areaUnit)}{" "}
        <span className="text-soft">({share(v.fillArea)})</span>, in common {area(v.area, u, job.areaUnit)}.
        {v.bulked && (
          <>
            {" "}
            {recipe.bulking?.cut !== undefined &&
              `Cut times ${recipe.bulking.cut}: ${volume(v.bulked.cut, u, job.volumeUnit)}. `}
            {recipe.bulking?.fill !== undefined &&
              `Fill times ${recipe.bulking.fill}: ${volume(v.bulked.fill, u, job.volumeUnit)}.`}
          </>
        )}
      </p>
      {v.byArea && <ByArea of={v.byArea} told={told} precision={looked?.opinions.byArea} />}
      {looked?.opinions && (endAreas || looked.done) && (
        <Sections recipe={recipe} endAreas={endAreas} grid={grid} edit={edit} />
      )}
      {precision && <Assumptions precision={precision} />}
    </div>
  );
}

function ByArea({
  of,
  told,
  precision,
}: {
  of: (Sums & { name: string })[];
  told: readonly FigureTold[];
  precision: (Precision | undefined)[] | undefined;
}) {
  const { job } = useParts("job"),
    u = job.unit,
    text = (x: number) => volumeFigure(x, u, job.volumeUnit),
    short = volumeUnitShort(u, job.volumeUnit);
  return (
    <table className="plain mt-3" aria-label="By area">
      <thead>
        <tr>
          <th>Area</th>
          {told.map(({ key, name }) => (
            <th key={key} className="num">
              {name.split(",")[0]}, {short}
            </th>
          ))}
          <th className="num">±</th>
          <th className="num">On</th>
        </tr>
      </thead>
      <tbody>
        {of.map((a, k) => (
          <tr key={a.name}>
            <td>{a.name}</td>
            {told.map(({ key, sign }) => (
              <td key={key} className="num">
                {text(sign * a[key])}
              </td>
            ))}
            <td className="num">{precision?.[k] ? text(precision[k].net.total) : ""}</td>
            <td className="num">{area(a.area, u, job.areaUnit)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What the ± rests on, and what it leaves out. */
function Assumptions({ precision: p }: { precision: Precision }) {
  const { job, change } = useParts("job", "change"),
    u = job.unit,
    held = levelPrecisionOf(job.levelPrecision, u);
  const put = (part: Partial<typeof held>) =>
    void change({
      type: "setting",
      field: "levelPrecision",
      old: job.levelPrecision ?? null,
      new: { ...job.levelPrecision, ...part },
    });
  return (
    <>
      <p className="mt-2 text-soft">{assumptions(p, u, job.volumeUnit)}</p>
      <div className="mt-2 flex flex-wrap gap-3">
        <LengthField
          label={`Level of a shot without precision, ±${u}`}
          value={held.shot}
          unit={u}
          width="w-24"
          onChange={(shot) => shot >= 0 && put({ shot })}
        />
        <LengthField
          label={`Shared by all shots, ±${u}`}
          value={held.common}
          unit={u}
          width="w-24"
          onChange={(common) => common >= 0 && put({ common })}
        />
      </div>
    </>
  );
}

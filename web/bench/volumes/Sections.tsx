"use client";
/** How the sections of end areas lie: at a direction, or across a line at its stations. */
import { settingOf, type VolumeRecipe } from "@bramble/core";
import { formatFixed, formatGrouped } from "@bramble/core/math/round";
import { plural } from "@bramble/core/math/words";
import { stationText } from "@bramble/core/math/station-text";
import type { EndAreas, GridOpinion } from "@bramble/core/volumes/second-opinion";
import { designLines, unlisted, wordsOfLine } from "../../lib/design-lines";
import { useParts } from "../../lib/store";
import { volumeFigure, volumeUnitShort } from "../../lib/units-shown";
import { Choice } from "../../controls/fields/Choice";
import { DirectionField, LengthField } from "../../controls/fields/fields";
import type { Edit } from "./edit";

const STRAIGHT = "lie in one direction";
/** Azimuth to begin with where sections lay across a line before. */
const NORTH = 0;

export function Sections({
  recipe,
  endAreas,
  grid,
  edit,
}: {
  recipe: VolumeRecipe;
  endAreas: EndAreas | undefined;
  grid: GridOpinion | undefined;
  edit: Edit;
}) {
  const { job, view, lines: selected } = useParts("job", "view", "lines"),
    u = job.unit,
    { sections } = recipe,
    lines = designLines(job, view, selected),
    across = typeof sections === "object" && "line" in sections ? sections : undefined,
    azimuth = endAreas && "azimuth" in endAreas.lie ? endAreas.lie.azimuth : NORTH,
    spacing = endAreas?.spacing ?? across?.spacing;
  if (spacing === undefined) return null;
  const now = across ? `across ${wordsOfLine(lines, across.line)}` : STRAIGHT,
    options = [STRAIGHT, ...[...lines.keys()].map((k) => `across ${k}`)];
  const reach = endAreas && "half" in endAreas.lie ? endAreas.lie : undefined;
  return (
    <>
      <div className="mt-3 flex flex-wrap items-end gap-3">
        <LengthField
          label={`End areas every, ${u}`}
          value={spacing}
          unit={u}
          positive
          width="w-24"
          onChange={(spacing) => edit({ sections: across ? { ...across, spacing } : { spacing, azimuth } })}
        />
        <Choice
          label="Sections"
          width="max-w-52"
          value={now}
          onChange={(v) => {
            const line = lines.get(v.replace(/^across /, ""));
            edit({ sections: line ? { spacing, line } : { spacing, azimuth } });
          }}
          options={[...options, ...(options.includes(now) ? [] : [now])].map((v) => [v, v] as const)}
          more={unlisted(view)}
        />
        {across ? (
          reach && (
            <LengthField
              label={`To either side, ${u}`}
              value={across.half ?? reach.half}
              unit={u}
              positive
              width="w-24"
              decimals={1}
              onChange={(half) => edit({ sections: { ...across, half } })}
            />
          )
        ) : (
          <DirectionField
            label="Direction"
            value={azimuth}
            onChange={(azimuth) => edit({ sections: { spacing, azimuth } })}
          />
        )}
        <span className="pb-1 text-soft">
          {endAreas
            ? plural(endAreas.sections.length, "section")
            : "The line is not there any more, or has too many stations."}
          {grid && `; grid of ${formatGrouped(grid.cells, 0)} cells of ${formatFixed(grid.cell, 3)} ${u}`}
        </span>
      </div>
      {reach && endAreas && <AtStations of={endAreas} />}
    </>
  );
}

/** What each section cuts and fills, at its station. */
function AtStations({ of }: { of: EndAreas }) {
  const { job } = useParts("job"),
    u = job.unit,
    style = settingOf(job, "stations"),
    text = (x: number) => formatGrouped(x, 2),
    some = of.sections.slice(0, 400);
  return (
    <details className="mt-2">
      <summary className="text-soft">Areas and volumes by station</summary>
      <table className="plain mt-1" aria-label="End areas by station">
        <thead>
          <tr>
            <th className="num">Station</th>
            <th className="num">Cut, {u}²</th>
            <th className="num">Fill, {u}²</th>
            <th className="num">Cut between, {volumeUnitShort(u, job.volumeUnit)}</th>
            <th className="num">Fill between, {volumeUnitShort(u, job.volumeUnit)}</th>
          </tr>
        </thead>
        <tbody>
          {some.map((s, k) => {
            const before = some[k - 1],
              half = before ? (s.at - before.at) / 2 : 0;
            return (
              <tr key={s.at}>
                <td className="num">{stationText(s.at, u, style)}</td>
                <td className="num">{text(s.cut)}</td>
                <td className="num">{text(s.fill)}</td>
                <td className="num">{before ? volumeFigure((before.cut + s.cut) * half, u, job.volumeUnit) : ""}</td>
                <td className="num">{before ? volumeFigure((before.fill + s.fill) * half, u, job.volumeUnit) : ""}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {of.sections.length > some.length && (
        <p className="text-soft">And {of.sections.length - some.length} more stations.</p>
      )}
    </details>
  );
}

"use client";
/**
 * The section along a line of the sheet: dragged, or along a line of the job, or one after another across it; every surface
 * and the lines that cross it, read by hovering, with where that is on the sheet.
 */
import { useCallback, useMemo } from "react";
import { lengthText } from "@bramble/core";
import { largest, smallest } from "@bramble/core/math/many";
import { formatFixed } from "@bramble/core/math/round";
import { acrossWay, lengthOfWay, positionOnWay, type PlanWay } from "@bramble/core/surface/section";
import { Chart } from "../controls/Chart";
import { axesOfFiles, wayOfLine } from "../lib/line-way";
import { useJob, useParts } from "../lib/store";
import { decimalsOf } from "../lib/units-shown";
import { useKept } from "../lib/use-kept";
import type { SheetColors } from "../lib/theme";
import { Across } from "./Across";
import { known, SECTION_COLORS, sectionOption } from "./section-chart";
import { useSection } from "./use-section";
import { Choice } from "../controls/fields/Choice";

/** Times that heights may be drawn larger; 0 fills the room. */
const HEIGHTS = [0, 1, 2, 5, 10] as const;

export function SectionPanel() {
  const { job, view, lines, section, set } = useParts("job", "view", "lines", "section", "set");
  const line = section === "begun" ? undefined : section,
    [heights, setHeights] = useKept("section.heights", 0),
    { named, crossings, length } = useSection(line),
    d = decimalsOf(job.unit);
  const hovered = useCallback(
    (station: number | undefined) => {
      const now = useJob.getState().section;
      if (!now || now === "begun") return;
      set({ sectionAt: station === undefined ? undefined : positionOnWay(now.way, station) });
    },
    [set],
  );
  const optionOf = useCallback(
    (colors: SheetColors, room: { width: number; height: number }) =>
      sectionOption({ named, crossings, length, unit: job.unit, decimals: d, heights }, colors, room),
    [named, crossings, job.unit, d, length, heights],
  );
  const axes = useMemo(() => axesOfFiles(job), [job]);
  if (!section) return null;
  const [key] = lines,
    selected = lines.size === 1 ? wayOfLine(view, key!) : undefined;
  const along = () => selected && set({ section: { way: selected.way, name: selected.name }, sectionAt: undefined });
  const across = (axis: { way: PlanWay; name: string; start?: number } | undefined) => {
    if (!axis) return;
    const whole = lengthOfWay(axis.way),
      half = Math.max(1, Math.round(whole / 10)),
      every = Math.max(1, Math.round(whole / 20)),
      { start = 0, name } = axis;
    const way = acrossWay(axis.way, 0, half);
    if (way)
      set({ section: { way, across: { axis: axis.way, name, start, station: 0, every, half } }, sectionAt: undefined });
  };
  return (
    <aside
      aria-label="Section"
      className="flex h-60 shrink-0 flex-col border-t border-rule bg-paper print:hidden"
      onKeyDown={(event) => event.key === "Escape" && set({ section: undefined, sectionAt: undefined })}
    >
      <div className="flex h-8 items-center gap-3 overflow-hidden pl-4 pr-2 text-[12px] whitespace-nowrap">
        <span className="text-[13px] font-medium">{line?.name ? `Along ${line.name}` : "Section"}</span>
        {line && <span className="tabular-nums text-soft">{lengthText(length, job.unit, 2)}</span>}
        {line?.across && <Across line={line} across={line.across} />}
        <span className="min-w-0 flex-1" />
        {axes.length > 0 && (
          <Choice
            label="Sections across a line of a file"
            named={false}
            width="max-w-44 px-1 text-[12px]"
            value=""
            ask="across a file’s line …"
            onChange={(k) => across(axes[k])}
            options={axes.map((a, k) => [k, a.name] as const)}
          />
        )}
        {line && (
          <Choice
            label="Heights of the section"
            named={false}
            width="px-1 text-[12px]"
            value={heights}
            onChange={setHeights}
            options={HEIGHTS.map((h) => [h, h === 0 ? "heights fill the room" : `heights × ${h}`] as const)}
          />
        )}
        <button className="button button-plain h-6" onClick={() => set({ section: undefined, sectionAt: undefined })}>
          Close
        </button>
      </div>
      {(named.length > 0 || selected) && (
        <div className="flex h-6 items-center gap-3 overflow-hidden pl-4 pr-2 text-[12px] whitespace-nowrap">
          <Surfaces named={named} decimals={d} />
          <span className="min-w-0 flex-1" />
          {selected && (
            <>
              <button className="button button-plain h-6" onClick={along}>
                Along {selected.name}
              </button>
              <button className="button button-plain h-6" onClick={() => across(selected)}>
                One after another across it
              </button>
            </>
          )}
        </div>
      )}
      {!line ? (
        <p className="px-4 text-soft">
          Drag across the sheet: what lies under the line stands here.{" "}
          {!selected && "With a line selected, also along it, or across it one after another."}
        </p>
      ) : named.length === 0 ? (
        <p className="px-4 text-soft">No surface lies under this line.</p>
      ) : (
        <Chart
          optionOf={optionOf}
          onStation={hovered}
          label={
            `Section of ${lengthText(length, job.unit, 2)}: ` +
            named
              .map(
                (s) =>
                  `${s.name} from ${formatFixed(known(s.section)[0]!, d)} to ${formatFixed(known(s.section).at(-1)!, d)}`,
              )
              .join(", ") +
            (crossings.length ? `; crosses ${crossings.map((c) => c.name).join(", ")}` : "")
          }
          className="min-h-0 flex-1"
        />
      )}
    </aside>
  );
}

/** The surfaces under the line by their colours, with their lowest and highest level there. */
function Surfaces({ named, decimals }: { named: ReturnType<typeof useSection>["named"]; decimals: number }) {
  return (
    <>
      {named.map(({ name, section: s }, k) => (
        <span key={name} className="flex items-center gap-1.5 tabular-nums">
          <span
            aria-hidden
            className="h-0 w-5 border-t-2"
            style={{ borderColor: SECTION_COLORS[k % SECTION_COLORS.length], borderStyle: k % 2 ? "dashed" : "solid" }}
          />
          {name}
          <span className="text-soft">
            {formatFixed(smallest(known(s)), decimals)} to {formatFixed(largest(known(s)), decimals)}
          </span>
        </span>
      ))}
    </>
  );
}

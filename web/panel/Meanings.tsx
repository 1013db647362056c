"use client";
/** Only these, and colours by meaning: at hand over the sheet in every place. Esc shows all again. */
import { useEffect, useMemo } from "react";
import { FINDING_KINDS, type SetRule } from "@bramble/core";
import { rowOf } from "@bramble/core/points/table";
import { EVERY_POINT, ruleOfFilter, type RowFilter } from "../bench/table/rows";
import { useRule } from "../bench/sets/use-rule";
import { useJob, useParts } from "../lib/store";
import { GROUND_SEEN, type GroundSeen } from "../lib/state/choices";
import { MEANINGS, type ColorBy, type OnlyThese } from "../lib/state/choices";

/** The points selected now are shown alone, or all again. */
export function toggleOnlySelected(): void {
  const { only, points, set } = useJob.getState();
  if (only) set({ only: undefined });
  else if (points.size) set({ only: selectedNow() });
  else set({ notice: { text: "Select points first: then only these are shown.", tone: "plain" } });
}

function selectedNow(): OnlyThese {
  const { points } = useJob.getState();
  return {
    name: points.size === 1 ? "the selected point" : `the ${points.size} selected points`,
    ids: new Set(points),
  };
}

/** The rule of the table's filter; undefined where it leaves all. */
function ruleNow(): SetRule | undefined {
  const { kept, job, points } = useJob.getState(),
    filter = (kept["points.filter"] as RowFilter | undefined) ?? EVERY_POINT;
  if (JSON.stringify(filter) === JSON.stringify(EVERY_POINT)) return undefined;
  const numbers = [...points].flatMap((id) => job.points.number[rowOf(job.points, id)] ?? []);
  return ruleOfFilter(filter, numbers, FINDING_KINDS);
}

export function Meanings() {
  const { job, view, only, colorBy, groundSeen, set } = useParts("job", "view", "only", "colorBy", "groundSeen", "set");
  useOnlyRows(only);
  useSetRows(colorBy);
  const codes = useMemo(() => view.codes.filter((c) => c !== "").sort(), [view.codes]);
  const choose = (value: string) => {
    const [what, name] = [value.slice(0, value.indexOf(" ")), value.slice(value.indexOf(" ") + 1)];
    if (what === "selection") set({ only: selectedNow() });
    else if (what === "code") set({ only: { name, rule: { codes: [name] } } });
    else if (what === "set") set({ only: { name: `set ${name}`, rule: { set: name } } });
    else if (what === "filter") {
      const rule = ruleNow();
      if (rule) set({ only: { name: "the points of the filter", rule } });
      else set({ notice: { text: "The table of points is not filtered now.", tone: "plain" } });
    } else set({ only: undefined });
  };
  return (
    <>
      <select
        className="field h-6 w-23 shrink-0 px-1.5 text-[12px]"
        aria-label="Only these"
        title="Show some alone, the rest faint; Esc shows all again (O: the selection)"
        value={only ? "now" : "all "}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="all ">all shown</option>
        {only && <option value="now">only {only.name}</option>}
        <option value="selection ">only the selection</option>
        <option value="filter ">only the filter</option>
        {job.sets.length > 0 && (
          <optgroup label="Only a set">
            {job.sets.map((x) => (
              <option key={x.name} value={`set ${x.name}`}>
                {x.name}
              </option>
            ))}
          </optgroup>
        )}
        <optgroup label="Only a code">
          {codes.map((c) => (
            <option key={c} value={`code ${c}`}>
              {c}
            </option>
          ))}
        </optgroup>
      </select>
      <select
        className="field h-6 w-33 shrink-0 px-1.5 text-[12px]"
        aria-label="Colours"
        value={colorBy}
        onChange={(event) => set({ colorBy: event.target.value as ColorBy })}
      >
        {Object.entries(MEANINGS).map(([value, text]) => (
          <option key={value} value={value}>
            {value === "code" ? "colours by code" : text}
          </option>
        ))}
        {job.sets.length > 0 && (
          <optgroup label="In a set or not">
            {job.sets.map((x) => (
              <option key={x.name} value={`set ${x.name}`}>
                {x.name}
              </option>
            ))}
          </optgroup>
        )}
      </select>
      {job.surfaces.length > 0 && (
        <select
          className="field h-6 w-30 shrink-0 px-1.5 text-[12px]"
          aria-label="Ground"
          value={groundSeen}
          onChange={(event) => set({ groundSeen: event.target.value as GroundSeen })}
        >
          {Object.entries(GROUND_SEEN).map(([value, text]) => (
            <option key={value} value={value}>
              {text}
            </option>
          ))}
        </select>
      )}
    </>
  );
}

/** Keeps the rows that are shown alone current. */
function useOnlyRows(only: OnlyThese | undefined): void {
  const { job, set } = useParts("job", "set"),
    { points: t } = job,
    taken = useRule(only && "rule" in only ? only.rule : undefined);
  useEffect(() => {
    if (!only) return set({ onlyRows: undefined });
    const rows = new Uint8Array(t.count);
    if ("ids" in only) {
      for (const id of only.ids) {
        const i = rowOf(t, id);
        if (i >= 0) rows[i] = 1;
      }
    } else if (!taken) return;
    else if ("problem" in taken) return set({ only: undefined, notice: { text: taken.problem, tone: "problem" } });
    else for (const i of taken.rows) rows[i] = 1;
    set({ onlyRows: rows });
  }, [only, taken, t, set]);
}

/** Keeps the rows of the set by which colours are chosen current. */
function useSetRows(by: ColorBy): void {
  const { job, set } = useParts("job", "set"),
    name = by.startsWith("set ") ? by.slice(4) : undefined,
    known = name !== undefined && job.sets.some((x) => x.name === name);
  const rule = useMemo((): SetRule | undefined => (known ? { set: name! } : undefined), [known, name]),
    taken = useRule(rule);
  useEffect(() => {
    if (name !== undefined && !known) set({ colorBy: "code" });
    set({ setRows: taken && "rows" in taken ? taken.rows : undefined });
  }, [taken, name, known, set]);
}

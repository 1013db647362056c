"use client";
/** Only these, and colours by meaning: at hand over the sheet in every place. Esc shows all again. */
import { useEffect, useMemo } from "react";
import { FINDING_KINDS, type SetRule } from "@bramble/core";
import { EVERY_POINT, ruleOfFilter, type RowFilter } from "../bench/table/rows";
import { useRule } from "../bench/sets/use-rule";
import { rowOf } from "@bramble/core/points/table";
import { refsOf } from "../lib/rows";
import { useJob, useParts } from "../lib/store";
import { GROUND_SEEN } from "../lib/state/choices";
import { MEANINGS, type ColorBy, type OnlyThese } from "../lib/state/choices";
import { Choice, optionsOf } from "../controls/fields/Choice";

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
  return ruleOfFilter(filter, refsOf(job, points), FINDING_KINDS);
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
      <Choice
        label="Only these"
        named={false}
        width="w-23 shrink-0 px-1.5 text-[12px]"
        title="Show some alone, the rest faint; Esc shows all again (O: the selection)"
        value={only ? "now" : "all "}
        onChange={choose}
        options={[
          ["all ", "all shown"],
          ...(only ? [["now", `only ${only.name}`] as const] : []),
          ["selection ", "only the selection"],
          ["filter ", "only the filter"],
          ...(job.sets.length > 0
            ? [{ group: "Only a set", of: job.sets.map((x) => [`set ${x.name}`, x.name] as const) }]
            : []),
          { group: "Only a code", of: codes.map((c) => [`code ${c}`, c] as const) },
        ]}
      />
      <Choice
        label="Colours"
        named={false}
        width="w-33 shrink-0 px-1.5 text-[12px]"
        value={colorBy}
        onChange={(v) => set({ colorBy: v })}
        options={[
          ...optionsOf({ ...MEANINGS, code: "colours by code" }),
          ...(job.sets.length > 0
            ? [{ group: "In a set or not", of: job.sets.map((x) => [`set ${x.name}` as const, x.name] as const) }]
            : []),
        ]}
      />
      {job.surfaces.length > 0 && (
        <Choice
          label="Ground"
          named={false}
          width="w-30 shrink-0 px-1.5 text-[12px]"
          value={groundSeen}
          onChange={(v) => set({ groundSeen: v })}
          options={optionsOf(GROUND_SEEN)}
        />
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

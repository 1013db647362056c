"use client";
/** Points: one table of all, like a spreadsheet, with the sheet's selection in it; and the sets that rules make of them. */
import { useDeferredValue, useEffect, useMemo, useState } from "react";
import { Tabs } from "radix-ui";
import { livingCount, rowOf } from "@bramble/core/points/table";
import { PlaceLink } from "../components/PlaceLink";
import { useParts } from "../lib/store";
import { grouped } from "../lib/units-shown";
import { useKept } from "../lib/use-kept";
import { Bench } from "./Bench";
import { SetsPanel } from "./sets/SetsPanel";
import { useRule } from "./sets/use-rule";
import { columnsOf } from "./table/columns";
import { Filter } from "./table/Filter";
import { Grid, type Sorted } from "./table/Grid";
import { Renumber } from "./table/Renumber";
import { EVERY_POINT, filterRows, sortRows } from "./table/rows";
import { Selected } from "./table/Selected";

const NOBODY: ReadonlySet<number> = new Set();

export function PointsBench() {
  const { job, view, points, arrival } = useParts("job", "view", "points", "arrival");
  const [tab, setTab] = useKept("points.tab", "table"),
    [filter, setFilter] = useKept("points.filter", EVERY_POINT),
    [sort, setSort] = useKept<Sorted | undefined>("points.sort", undefined),
    [renumbering, setRenumbering] = useState(false);
  const wanted = useDeferredValue(filter),
    taken = useRule(wanted.rule),
    ruled = taken && "rows" in taken ? taken.rows : undefined;
  const attributes = job.points.attributes.map((a) => a.name).join("\n");
  const columns = useMemo(
    () => columnsOf(job.unit, job.order, attributes ? attributes.split("\n") : []),
    [job.unit, job.order, attributes],
  );
  // Selecting changes the rows only when just the selected are shown.
  const among = wanted.only === "selected" ? points : NOBODY;
  const { rows: found, missing } = useMemo(
    () => filterRows(job, view, wanted, among, ruled),
    [job, view, wanted, among, ruled],
  );
  const by = columns.find((c) => c.key === sort?.key),
    down = sort?.down === true;
  const rows = useMemo(() => sortRows({ job, view }, found, by, down), [job, view, found, by, down]);

  // A point that is gone to is shown, whatever the filter was.
  useEffect(() => {
    if (!arrival) return;
    const row = rowOf(job.points, arrival.point);
    setTab("table");
    setFilter((f) =>
      f === EVERY_POINT || filterRows(job, view, f, points, ruled).rows.includes(row) ? f : EVERY_POINT,
    );
    // Only the going: what is filtered after it is the person's own wish.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [arrival]);

  const living = useMemo(() => livingCount(job.points), [job.points]);
  if (living === 0 && !filter.rule) {
    return (
      <Bench title="Points">
        <p className="px-4 text-soft">
          No points yet. They come with the first{" "}
          <PlaceLink className="text-bramble underline" place="intake">
            intake
          </PlaceLink>
          .
        </p>
      </Bench>
    );
  }
  return (
    <Bench
      title="Points"
      about={
        <span className="tabular-nums">
          {tab === "sets" || filter === EVERY_POINT
            ? `${grouped(living)} in all`
            : `${grouped(rows.length)} of ${grouped(living)}`}
          {points.size > 0 && `, ${grouped(points.size)} selected`}
        </span>
      }
      actions={
        points.size > 0 &&
        tab === "table" && <Selected renumbering={renumbering} renumber={() => setRenumbering(!renumbering)} />
      }
    >
      <Tabs.Root value={tab} onValueChange={setTab} className="flex min-h-0 flex-1 flex-col">
        <Tabs.List aria-label="Points and sets" className="mb-2 flex shrink-0 gap-4 border-b border-rule px-4">
          {[
            ["table", "Table"],
            ["sets", `Sets ${job.sets.length}`],
          ].map(([value, name]) => (
            <Tabs.Trigger
              key={value}
              value={value!}
              className="h-7 border-b-2 border-transparent px-0.5 font-medium text-soft data-[state=active]:border-bramble data-[state=active]:text-ink"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="table" className="flex min-h-0 flex-1 flex-col" tabIndex={-1}>
          <Filter filter={filter} setFilter={setFilter} missing={missing} taken={taken} found={rows.length} />
          {renumbering && points.size > 0 && <Renumber rows={rows} close={() => setRenumbering(false)} />}
          <Grid
            rows={rows}
            columns={columns}
            sort={sort}
            sortBy={(key) =>
              setSort(sort?.key !== key ? { key, down: false } : sort.down ? undefined : { key, down: true })
            }
          />
        </Tabs.Content>
        <Tabs.Content value="sets" className="flex min-h-0 flex-1 flex-col">
          <SetsPanel />
        </Tabs.Content>
      </Tabs.Root>
    </Bench>
  );
}

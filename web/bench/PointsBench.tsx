"use client";
/** Points: one table of all, like a spreadsheet, and the sheet's selection in it. */
import { useDeferredValue, useEffect, useMemo, useState } from "react";
import { livingCount, rowOf } from "@bramble/core/points/table";
import { PlaceLink } from "../components/PlaceLink";
import { boxOfPoints } from "../lib/box";
import { rowsOf } from "../lib/rows";
import { useParts } from "../lib/store";
import { grouped } from "../lib/units-shown";
import { useKept } from "../lib/use-kept";
import { Bench } from "./Bench";
import { columnsOf } from "./table/columns";
import { Renumber } from "./table/Renumber";
import { EVERY_POINT, filterRows, sortRows } from "./table/rows";
import { Grid, type Sorted } from "./table/Grid";

const NOBODY: ReadonlySet<number> = new Set();

export function PointsBench() {
  const { job, view, points, intakes, change, select, show, arrival } = useParts(
    ...(["job", "view", "points", "intakes", "change", "select", "show", "arrival"] as const),
  );
  const [filter, setFilter] = useKept("points.filter", EVERY_POINT);
  const [sort, setSort] = useKept<Sorted | undefined>("points.sort", undefined);
  const wanted = useDeferredValue(filter);
  const attributes = job.points.attributes.map((a) => a.name).join("\n");
  const columns = useMemo(
    () => columnsOf(job.unit, job.order, attributes ? attributes.split("\n") : []),
    [job.unit, job.order, attributes],
  );
  // Selecting changes the rows only when just the selected are shown.
  const among = wanted.only === "selected" ? points : NOBODY;
  const { rows: found, missing } = useMemo(() => filterRows(job, view, wanted, among), [job, view, wanted, among]);
  const by = columns.find((c) => c.key === sort?.key),
    down = sort?.down === true;
  const rows = useMemo(() => sortRows({ job, view }, found, by, down), [job, view, found, by, down]);

  // A point that is gone to is shown, whatever the filter was.
  useEffect(() => {
    if (!arrival) return;
    const row = rowOf(job.points, arrival.point);
    setFilter((f) => (f === EVERY_POINT || filterRows(job, view, f, points).rows.includes(row) ? f : EVERY_POINT));
    // Only the going: what is filtered after it is the person's own wish.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [arrival]);

  const [renumbering, setRenumbering] = useState(false);
  const living = useMemo(() => livingCount(job.points), [job.points]);
  const setSelectedIn = (surface: "auto" | "in" | "out") =>
    void change({
      type: "points",
      edits: [...points].flatMap((id) => {
        const i = rowOf(job.points, id),
          old = (["auto", "in", "out"] as const)[job.points.surface[i]!]!;
        return old === surface ? [] : [{ id, field: "surface" as const, old, new: surface }];
      }),
    });
  const remove = () => {
    void change({
      type: "points",
      edits: [...points].map((id) => ({ id, field: "deleted" as const, old: false, new: true })),
    });
    select({});
  };

  if (living === 0) {
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
          {rows.length === living ? `${grouped(living)} in all` : `${grouped(rows.length)} of ${grouped(living)}`}
          {points.size > 0 && `, ${grouped(points.size)} selected`}
        </span>
      }
      actions={
        points.size > 0 && (
          <div className="flex flex-wrap items-center justify-end gap-1.5">
            <button
              className="button px-2"
              onClick={() => setSelectedIn("out")}
              title="Keep the selected points out of surfaces; their elevations stay"
            >
              Out of surfaces
            </button>
            <button className="button px-2" onClick={() => setSelectedIn("auto")} title="Let the code decide again">
              Surfaces by code
            </button>
            <button className="button px-2" onClick={() => show(boxOfPoints(job.points, rowsOf(job.points, points)))}>
              Zoom to them
            </button>
            <button className="button px-2" aria-pressed={renumbering} onClick={() => setRenumbering(!renumbering)}>
              Renumber
            </button>
            <button className="button px-2" onClick={remove}>
              Delete
            </button>
          </div>
        )
      }
    >
      <div className="flex shrink-0 flex-wrap items-center gap-2 px-4 pb-2">
        <input
          className="field min-w-24 flex-1"
          aria-label="Filter points"
          placeholder="12, 40-52 or HEDGE*"
          value={filter.text}
          onChange={(event) => setFilter({ ...filter, text: event.target.value })}
        />
        <select
          className="field w-30"
          aria-label="Code"
          value={filter.code}
          onChange={(event) => setFilter({ ...filter, code: event.target.value })}
        >
          <option value="*">every code</option>
          {[...view.codes].sort().map((c) => (
            <option key={c} value={c}>
              {c || "no code"}
            </option>
          ))}
        </select>
        <select
          className="field w-30"
          aria-label="Intake"
          value={filter.intake}
          onChange={(event) => setFilter({ ...filter, intake: event.target.value })}
        >
          <option value="*">every intake</option>
          {intakes.map((k) => (
            <option key={k.id} value={k.id}>
              {k.id}
            </option>
          ))}
        </select>
        <select
          className="field w-24"
          aria-label="Which"
          value={filter.only}
          onChange={(event) => setFilter({ ...filter, only: event.target.value as typeof filter.only })}
        >
          <option value="all">all</option>
          <option value="findings">with findings</option>
          <option value="selected">selected</option>
        </select>
        {filter !== EVERY_POINT && (
          <button className="button px-2" onClick={() => setFilter(EVERY_POINT)}>
            Show all
          </button>
        )}
      </div>
      {renumbering && points.size > 0 && <Renumber rows={rows} close={() => setRenumbering(false)} />}
      {missing.length > 0 && (
        <p role="status" className="px-4 pb-2 text-amber">
          No point is called {missing.map((w) => `“${w}”`).join(", ")}.
        </p>
      )}
      <Grid
        rows={rows}
        columns={columns}
        sort={sort}
        sortBy={(key) =>
          setSort(sort?.key !== key ? { key, down: false } : sort.down ? undefined : { key, down: true })
        }
      />
    </Bench>
  );
}

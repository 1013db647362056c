"use client";
/** Points: one table of all, like a spreadsheet, with the sheet's selection in it; and the sets that rules make of them. */
import { useDeferredValue, useEffect, useMemo, useState } from "react";
import { Tabs } from "radix-ui";
import { GONE_DELETED, livingCount, rowOf } from "@bramble/core/points/table";
import { PlaceLink } from "../controls/PlaceLink";
import { attributeNames } from "@bramble/core/job/edit/attributed";
import { useParts } from "../lib/store";
import { grouped } from "../lib/units-shown";
import { useKept } from "../lib/use-kept";
import { Bench } from "./Bench";
import { MEASURED_FIELDS } from "@bramble/core/records/measured";
import { beginMove } from "./moves/begin";
import { MovesPanel } from "./moves/MovesPanel";
import { SetsPanel } from "./sets/SetsPanel";
import { useRule } from "./sets/use-rule";
import { ChangeMany } from "./table/ChangeMany";
import { columnsOf } from "./table/columns";
import { Filter } from "./table/Filter";
import { ColumnsForm, useColumns } from "./table/ColumnsForm";
import { Grid } from "./table/Grid";
import { Renumber } from "./table/Renumber";
import { EVERY_POINT, filterRows, sortedBy, sortRows, type RowFilter, type Sorted } from "./table/rows";
import { Story } from "./table/Story";
import { Selected, type SelectedForm } from "./table/Selected";
import { unless } from "../controls/unless";

const NOBODY: ReadonlySet<number> = new Set();
const NOT_SORTED: readonly Sorted[] = [];

export function PointsBench() {
  const { job, view, points, arrival } = useParts("job", "view", "points", "arrival");
  const [tab, setTab] = useKept("points.tab", "table"),
    [filter, setFilter] = useKept("points.filter", EVERY_POINT),
    [sort, setSort] = useKept<readonly Sorted[]>("points.sort", NOT_SORTED),
    [keeping, setKeeping] = useKept("points.keeping", false),
    [choosing, setChoosing] = useState(false),
    [form, setForm] = useKept<SelectedForm | undefined>("points.form", undefined);
  const { every, found, missing, rows, taken, ruled } = useRowsOf(filter, sort),
    { all, shown: columns, keep: keepColumns } = useColumns(every);

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

  const withGone = useMemo(
    () => found.some((i) => (job.points.deleted[i]! & GONE_DELETED) !== 0),
    [found, job.points.deleted],
  );
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
        <span className="whitespace-nowrap tabular-nums">
          {tab !== "table" || filter === EVERY_POINT
            ? `${grouped(living)} in all`
            : `${grouped(rows.length)} of ${grouped(living)}`}
          {points.size > 0 && `, ${grouped(points.size)} selected`}
        </span>
      }
      actions={
        tab === "table" && (
          <Selected open={form} toggle={(f) => setForm(form === f ? undefined : f)} withGone={withGone} />
        )
      }
    >
      <Tabs.Root value={tab} onValueChange={setTab} className="flex min-h-0 flex-1 flex-col">
        <div className="mb-2 flex shrink-0 items-center border-b border-rule px-4">
          <Tabs.List aria-label="Points, sets and moves" className="flex gap-4">
            {[
              ["table", "Table"],
              ["sets", `Sets ${job.sets.length}`],
              ["moves", job.moves.length ? `Moves ${job.moves.length}` : "Moves"],
            ].map(([value, name]) => (
              <Tabs.Trigger key={value} value={value!} className="tab h-7">
                {name}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <span className="flex-1" />
          {tab === "table" && (
            <TableActions
              filter={filter}
              setFilter={setFilter}
              keeping={keeping}
              setKeeping={setKeeping}
              form={form}
              setForm={setForm}
              choosing={choosing}
              setChoosing={setChoosing}
            />
          )}
        </div>
        <Tabs.Content value="table" className="flex min-h-0 flex-1 flex-col" tabIndex={-1}>
          <Filter
            filter={filter}
            setFilter={setFilter}
            missing={missing}
            taken={taken}
            found={rows.length}
            keeping={keeping}
            setKeeping={setKeeping}
          />
          {choosing && <ColumnsForm all={all} shown={columns} keep={keepColumns} />}
          {form === "renumber" && points.size > 0 && <Renumber rows={rows} close={() => setForm(undefined)} />}
          {form === "change" && points.size > 0 && <ChangeMany rows={rows} close={() => setForm(undefined)} />}
          <Grid
            rows={rows}
            columns={columns}
            sort={sort}
            sortBy={(key, more) => setSort((now) => sortedBy(now, key, more))}
          />
          {form === "story" && points.size === 1 && <Story id={[...points][0]!} close={() => setForm(undefined)} />}
        </Tabs.Content>
        <Tabs.Content value="sets" className="flex min-h-0 flex-1 flex-col">
          <SetsPanel />
        </Tabs.Content>
        <Tabs.Content value="moves" className="flex min-h-0 flex-1 flex-col">
          <MovesPanel />
        </Tabs.Content>
      </Tabs.Root>
    </Bench>
  );
}

/** The columns that there are, and the rows that the filter leaves, as they are sorted. */
function useRowsOf(filter: RowFilter, sort: readonly Sorted[]) {
  const { job, view, points } = useParts("job", "view", "points");
  const wanted = useDeferredValue(filter),
    taken = useRule(wanted.rule),
    ruled = taken && "rows" in taken ? taken.rows : undefined;
  const attributes = useMemo(() => attributeNames({ job, view }).join("\n"), [job, view]);
  const measured = Object.keys(job.points.measured).join(" ");
  const every = useMemo(
    () =>
      columnsOf(
        job.unit,
        job.order,
        attributes ? attributes.split("\n") : [],
        MEASURED_FIELDS.filter((f) => measured.split(" ").includes(f)),
      ),
    [job.unit, job.order, attributes, measured],
  );
  // Selecting changes the rows only when just the selected are shown.
  const among = wanted.only === "selected" ? points : NOBODY;
  const { rows: found, missing } = useMemo(
    () => filterRows(job, view, wanted, among, ruled),
    [job, view, wanted, among, ruled],
  );
  const rows = useMemo(() => sortRows({ job, view }, found, every, sort), [job, view, found, every, sort]);
  return { every, found, missing, rows, taken, ruled };
}

function TableActions({
  filter,
  setFilter,
  keeping,
  setKeeping,
  form,
  setForm,
  choosing,
  setChoosing,
}: {
  filter: RowFilter;
  setFilter: (filter: RowFilter) => void;
  keeping: boolean;
  setKeeping: (keeping: boolean) => void;
  form: SelectedForm | undefined;
  setForm: (form: SelectedForm | undefined) => void;
  choosing: boolean;
  setChoosing: (choosing: boolean) => void;
}) {
  const { points } = useParts("points");
  return (
    <>
      {filter !== EVERY_POINT && (
        <button
          className="button button-plain h-6 px-1.5"
          aria-expanded={keeping}
          title="What the filter says, under a name and always current (K, in the table Alt K)"
          onClick={() => setKeeping(!keeping)}
        >
          Keep as a set
        </button>
      )}
      <button
        className="button button-plain h-6 px-1.5"
        title="How the selected point came, what was done to it, what uses it"
        aria-expanded={form === "story"}
        {...unless(points.size !== 1 && "Of one point: select one row.")}
        onClick={() => setForm(form === "story" ? undefined : "story")}
      >
        Story
      </button>
      <button
        className="button button-plain h-6 px-1.5"
        title="Move, turn, scale or raise the selected points, or fit them to others"
        {...unless(points.size === 0 && "Select points first; a whole delivery is moved under Moves.")}
        onClick={beginMove}
      >
        Move
      </button>
      {!filter.rule && (
        <button
          className="button button-plain h-6 px-1.5"
          title="Elevation, kind, crew, time, attributes, a ring, deleted points …"
          onClick={() => setFilter({ ...filter, rule: { all: [] } })}
        >
          Conditions
        </button>
      )}
      <button
        className="button button-plain h-6 px-1.5"
        aria-expanded={choosing}
        onClick={() => setChoosing(!choosing)}
      >
        Columns
      </button>
    </>
  );
}

"use client";
/** The attribute that points lack or have wrong: asked for point by point, with its type and choices. */
import { useMemo, useState, type KeyboardEvent } from "react";
import type { EditableChange, Finding } from "@bramble/core";
import { rowOf } from "@bramble/core/points/table";
import { changeOfCells, definitionAt, refusedAttribute, type NewCell } from "@bramble/core/job/edit/cells";
import type { TableData } from "../../bench/table/columns";
import { useParts } from "../../lib/store";
import { Typed } from "../../controls/fields/Typed";

/** More are filled in the table. */
const MOST = 12;

interface About {
  f: Finding;
  attribute: string;
  open: boolean;
  setOpen: (open: boolean) => void;
  /** Told what the values typed so far would change. */
  made: (change: EditableChange | undefined) => void;
  take: () => void;
}

export function AttributeForm({ f, attribute, open, setOpen, made, take }: About) {
  const { job, view } = useParts("job", "view");
  const data = useMemo((): TableData => ({ job, view }), [job, view]);
  const rows = f.points.map((id) => rowOf(job.points, id)).filter((i) => i >= 0);
  const [typed, setTyped] = useState<ReadonlyMap<number, string>>(new Map());

  const put = (row: number, text: string) => {
    const next = new Map(typed).set(row, text);
    setTyped(next);
    const cells = [...next].flatMap(([i, t]): NewCell[] =>
      t.trim() === "" || refusedAttribute(data, i, attribute, t.trim())
        ? []
        : [{ row: i, field: "attributes", attribute, value: t.trim() }],
    );
    made(cells.length ? changeOfCells(data, cells).change : undefined);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    // What is typed is not meant for the list.
    event.stopPropagation();
    if (event.key === "Escape") setOpen(false);
    if (event.key === "Enter") take();
  };
  return (
    <div onKeyDown={open ? onKeyDown : undefined}>
      <button
        className={`flex w-full items-baseline gap-2 px-1 py-0.5 text-left hover:text-bramble ${open ? "bg-bramble-wash font-medium" : ""}`}
        aria-pressed={open}
        onClick={() => setOpen(!open)}
      >
        <kbd className="w-4 shrink-0 text-soft">1</kbd>
        {rows.length === 1 ? `Say its ${attribute}` : `Say the ${attribute} of each`}
      </button>
      {open &&
        rows
          .slice(0, MOST)
          .map((row, k) => (
            <Field
              key={job.points.id[row]}
              first={k === 0}
              name={`${attribute} of ${job.points.number[row]}`}
              text={typed.get(row) ?? ""}
              put={(text) => put(row, text)}
              refused={refusedAttribute(data, row, attribute, (typed.get(row) ?? "").trim())}
              choices={definitionAt(data, row, attribute)?.choices}
            />
          ))}
      {open && rows.length > MOST && (
        <p className="px-7 text-soft">The other {rows.length - MOST} are filled in the table.</p>
      )}
    </div>
  );
}

function Field({
  first,
  name,
  text,
  put,
  refused,
  choices,
}: {
  first: boolean;
  name: string;
  text: string;
  put: (text: string) => void;
  refused: string | undefined;
  choices: readonly string[] | undefined;
}) {
  return (
    <div className="py-0.5 pl-7">
      <label className="flex items-center gap-2">
        <span className="w-36 shrink-0 truncate text-soft">{name}</span>
        <Typed
          label={name}
          named={false}
          // Opened to be typed into.
          autoFocus={first}
          width="w-32"
          {...(choices ? { offers: choices.map((c) => [c] as const) } : {})}
          text={text}
          most={200}
          wrong={refused !== undefined}
          onType={put}
        />
      </label>
      {refused && (
        <p role="alert" className="text-red">
          {refused}
        </p>
      )}
    </div>
  );
}

"use client";
/** One change for all selected points, seen before it is made: how many, from what to what. */
import { useMemo, useState } from "react";
import { Refusal } from "@bramble/core";
import { formatFixed } from "@bramble/core/math/round";
import { plural } from "@bramble/core/math/words";
import { cellValue } from "@bramble/core/points/differing";
import type { EditValue } from "@bramble/core/points/edits";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { changeOfCells } from "@bramble/core/job/edit/cells";
import { attributeText } from "@bramble/core/job/edit/attributed";
import type { Deed } from "@bramble/core/records/fields";
import { cellsOfMany, manyOf, type Many } from "@bramble/core/job/edit/many-cells";
import { unless } from "../../controls/unless";
import { Choice } from "../../controls/fields/Choice";
import { Typed } from "../../controls/fields/Typed";

const DEEDS: Record<Deed, string> = { set: "becomes", add: "is raised by", replace: "has the word" };
const EXAMPLES = 3;

/** What is asked for: of which field, what becomes of it, with which value or word. */
interface AskedOfMany {
  key: string;
  deed: Deed;
  text: string;
  by: string;
}

export function ChangeMany({ rows, close }: { rows: Int32Array; close: () => void }) {
  const { job, view, points, change, set } = useParts("job", "view", "points", "change", "set");
  const [asked, setAsked] = useState<AskedOfMany>({ key: "targetHeight", deed: "set", text: "", by: "" }),
    { key, deed, text, by } = asked;
  const of = { job, view },
    many = useMemo(() => manyOf({ job, view }), [job, view]),
    // An attribute that nobody has any more is no choice.
    about = many.find((m) => m.key === key) ?? many[0]!,
    t = job.points;
  const chosen = useMemo(() => rows.filter((i) => points.has(t.id[i]!)), [rows, points, t]);
  const made = useMemo(
    () => (text === "" && deed !== "set" ? undefined : cellsOfMany({ job, view }, chosen, about, deed, text, by)),
    [job, view, chosen, about, deed, text, by],
  );
  const cells = made && "cells" in made ? made.cells : [];
  const keep = () => {
    try {
      const { change: all } = changeOfCells(of, cells);
      if (all) change(all);
      close();
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      set({ notice: { text: e.message, tone: "problem" } });
    }
  };
  return (
    <form
      aria-label="Change many"
      className="mx-4 mb-2 border-l-2 border-bramble px-3 py-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (cells.length) keep();
      }}
      onKeyDown={(event) => event.key === "Escape" && close()}
    >
      <div className="flex flex-wrap items-center gap-2">
        <Asked many={many} about={about} asked={asked} put={(part) => setAsked({ ...asked, ...part })} />
        <button className="button button-main h-7" {...unless(cells.length === 0 && "Nothing would become another.")}>
          Change {plural(cells.length, "point")}
        </button>
        <button type="button" className="button h-7" onClick={close}>
          Leave it
        </button>
      </div>
      <Effect about={about} made={made} chosen={chosen} asked={asked} />
    </form>
  );
}

/** The fields of one change. */
function Asked({
  many,
  about,
  asked: { deed, text, by },
  put,
}: {
  many: readonly Many[];
  about: Many;
  asked: AskedOfMany;
  put: (part: Partial<AskedOfMany>) => void;
}) {
  return (
    <>
      <Choice
        label="What changes"
        named={false}
        low={false}
        width="h-7 w-28"
        value={about.key}
        autoFocus
        onChange={(key) => {
          const next = many.find((m) => m.key === key)!;
          put({ key, deed: next.deeds[0]!, text: next.choices?.[0] ?? "" });
        }}
        options={many.map((m) => [m.key, m.name] as const)}
      />
      {about.deeds.length > 1 ? (
        <Choice
          label="How"
          named={false}
          low={false}
          width="h-7 w-32"
          value={deed}
          onChange={(deed) => put({ deed })}
          options={about.deeds.map((d) => [d, DEEDS[d]] as const)}
        />
      ) : (
        <span className="text-soft">{DEEDS[deed]}</span>
      )}
      {about.choices ? (
        <Choice
          label="Value"
          named={false}
          low={false}
          width="h-7 w-28"
          value={text}
          onChange={(text) => put({ text })}
          options={about.choices.map((c) => [c, c === "auto" ? "by code" : c] as const)}
        />
      ) : (
        <Typed
          label={deed === "replace" ? "Word" : "Value"}
          named={false}
          text={text}
          onType={(text) => put({ text })}
          className="field h-7 w-28"
          most={1000}
        />
      )}
      {deed === "replace" && (
        <label className="flex items-center gap-2">
          replaced by
          <Typed
            label="replaced by"
            named={false}
            className="field h-7 w-28"
            text={by}
            most={1000}
            onType={(by) => put({ by })}
          />
        </label>
      )}
    </>
  );
}

/** How many points become what, the first few by name; or what is wrong. */
function Effect({
  about: { field, attribute },
  made,
  chosen,
  asked: { text },
}: {
  about: Many;
  made: ReturnType<typeof cellsOfMany> | undefined;
  chosen: readonly number[] | Int32Array;
  asked: AskedOfMany;
}) {
  const { job, view } = useParts("job", "view"),
    t = job.points,
    cells = made && "cells" in made ? made.cells : [];
  const say = (value: EditValue) =>
    typeof value === "number"
      ? formatFixed(value, decimalsOf(job.unit))
      : value === null || value === ""
        ? "none"
        : String(value);
  const was = (row: number) =>
    attribute === undefined ? cellValue(t, row, field) : attributeText({ job, view }, row, attribute);
  return (
    <div className="pt-1 text-soft tabular-nums" role="status">
      {made && "problem" in made && text !== "" && <p className="text-red">{made.problem}</p>}
      {made && "cells" in made && (
        <p>
          {cells.length} of {plural(chosen.length, "point")} {cells.length === 1 ? "changes" : "change"}
          {cells
            .slice(0, EXAMPLES)
            .map((c) => `${t.number[c.row]}: ${say(was(c.row))} → ${say(c.value)}`)
            .map((line, k) => `${k ? ";" : ":"} ${line}`)
            .join("")}
          {cells.length > EXAMPLES ? " …" : "."}
          {made.without > 0 && ` ${plural(made.without, "point")} without a value stay.`}
          {made.refused && ` ${plural(made.refused.count, "point")} passed over: ${made.refused.why}`}
          {made.readOnly > 0 && ` ${plural(made.readOnly, "point")} from drawings are read-only.`}
          {field === "targetHeight" && cells.length > 0 && " Elevations follow by as much."}
        </p>
      )}
    </div>
  );
}

"use client";
/** Points: one table of all, like a spreadsheet, and the sheet's selection in it. */
import { useDeferredValue, useMemo, useState } from "react";
import { livingCount, placeOf } from "@bramble/core/points/table";
import { compareNumbers, readNumberList } from "@bramble/core/points/numbers";
import { useJob } from "../lib/store";
import { Bench } from "./Bench";
import { columnsOf } from "./columns";
import { Grid } from "./Grid";

export function PointsBench() {
  const { job, view, points, intakes, change, select } = useJob();
  const [filter, setFilter] = useState(""),
    [code, setCode] = useState("*"),
    [intake, setIntake] = useState("*"),
    [only, setOnly] = useState("all");
  const [sort, setSort] = useState<{ key: string; down: boolean }>();
  const wanted = useDeferredValue(filter);
  const columns = useMemo(() => columnsOf(job, view), [job, view]);

  const rows = useMemo(() => {
    const t = job.points;
    const test = textTest(wanted);
    const found = only === "findings" ? new Set(view.findings.flatMap((f) => f.points)) : undefined;
    const list: number[] = [];
    for (let i = 0; i < t.count; i++) {
      if (t.deleted[i]) continue;
      if (code !== "*" && view.codes[view.code[i] ?? 0] !== code) continue;
      if (intake !== "*" && job.intakes[t.intake[i]!]?.id !== intake) continue;
      if (found && !found.has(t.id[i]!)) continue;
      if (only === "selected" && !points.has(t.id[i]!)) continue;
      if (test && !test(t.number[i]!, view.codes[view.code[i] ?? 0] ?? "", t.texts[t.description[i]!]!)) continue;
      list.push(i);
    }
    const by = columns.find((c) => c.key === sort?.key);
    if (by) {
      const keys = new Map(list.map((i) => [i, by.sort(i)]));
      list.sort((a, b) => {
        const x = keys.get(a)!,
          y = keys.get(b)!;
        const order = typeof x === "string" ? compareNumbers(x, y as string) : x - (y as number);
        return (sort!.down ? -order : order) || a - b;
      });
    }
    return Int32Array.from(list);
    // Selecting changes the rows only when just the selected are shown.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [
    job.points,
    job.intakes,
    view.code,
    view.codes,
    view.findings,
    wanted,
    code,
    intake,
    only,
    sort,
    columns,
    only === "selected" ? points : undefined,
  ]);

  const living = useMemo(() => livingCount(job.points), [job.points]);
  const setSelectedIn = (surface: "auto" | "in" | "out") =>
    void change({
      type: "points",
      edits: [...points].flatMap((id) => {
        const i = placeOf(job.points, id),
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
  const number = (x: number) => x.toLocaleString("en-GB").replaceAll(",", "\u202f");

  if (living === 0) {
    return (
      <Bench title="Points">
        <p className="px-4 text-soft">
          No points yet. They come with the first{" "}
          <a className="text-bramble underline" href={`/jobs/${useJob.getState().jobId}/intake`}>
            intake
          </a>
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
          {rows.length === living ? `${number(living)} in all` : `${number(rows.length)} of ${number(living)}`}
          {points.size > 0 && `, ${number(points.size)} selected`}
        </span>
      }
      actions={
        points.size > 0 && (
          <div className="flex items-center gap-1.5">
            <button
              className="button"
              onClick={() => setSelectedIn("out")}
              title="Keep the selected points out of surfaces; their elevations stay"
            >
              Out of surfaces
            </button>
            <button className="button" onClick={() => setSelectedIn("auto")} title="Let the code decide again">
              By code
            </button>
            <button className="button" onClick={remove}>
              Delete
            </button>
          </div>
        )
      }
    >
      <div className="flex shrink-0 items-center gap-2 px-4 pb-2">
        <input
          className="field w-40"
          aria-label="Filter points"
          placeholder="12, 40-52 or HEDGE*"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
        />
        <select className="field w-32" aria-label="Code" value={code} onChange={(event) => setCode(event.target.value)}>
          <option value="*">every code</option>
          {[...view.codes].sort().map((c) => (
            <option key={c} value={c}>
              {c || "no code"}
            </option>
          ))}
        </select>
        <select
          className="field w-32"
          aria-label="Intake"
          value={intake}
          onChange={(event) => setIntake(event.target.value)}
        >
          <option value="*">every intake</option>
          {intakes.map((k) => (
            <option key={k.id} value={k.id}>
              {k.id}
            </option>
          ))}
        </select>
        <select
          className="field w-28"
          aria-label="Which"
          value={only}
          onChange={(event) => setOnly(event.target.value)}
        >
          <option value="all">all</option>
          <option value="findings">with findings</option>
          <option value="selected">selected</option>
        </select>
      </div>
      <Grid rows={rows} columns={columns} sort={sort} setSort={setSort} />
    </Bench>
  );
}

/**
 * A number list names numbers; anything else is looked for in number, code and description, `*` and `?` standing for
 * any letters.
 */
function textTest(text: string): ((number: string, code: string, description: string) => boolean) | undefined {
  const q = text.trim();
  if (!q) return undefined;
  if (/^[\dA-Za-z]*\d[\s\d,-]*$/.test(q) && /[,-]/.test(q)) {
    const list = readNumberList(q.replace(/,\s*$/, ""));
    if (list) return (number) => list.has(number);
  }
  const source = q
    .replace(/[.+^${}()|[\]\\]/g, "\\$&")
    .replace(/\*+/g, ".*")
    .replace(/\?/g, ".");
  const regex = new RegExp(/[*?]/.test(q) ? `^${source}$` : source, "is");
  return (number, code, description) => regex.test(number) || regex.test(code) || regex.test(description);
}

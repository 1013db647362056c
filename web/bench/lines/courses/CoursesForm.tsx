"use client";
/** A string of courses of a document: typed or pasted, seen and closed before its points and its line are made. */
import { useEffect } from "react";
import { UNITS } from "@bramble/core";
import { MOST_COURSES } from "@bramble/core/construct/courses/read";
import { wayOfCorners } from "@bramble/core/construct/courses/run";
import { stringMade } from "@bramble/core/job/edit/courses";
import { nextFreeNumber, numberedFrom } from "@bramble/core/job/change/next-number";
import type { Snap } from "@bramble/core/lines/snap";
import { formatFixed } from "@bramble/core/math/round";
import { Choice } from "../../../controls/fields/Choice";
import { Tick } from "../../../controls/fields/Tick";
import { Typed } from "../../../controls/fields/Typed";
import { TypedLines } from "../../../controls/fields/TypedLines";
import { unless } from "../../../controls/unless";
import { boxOf } from "../../../lib/box";
import { useJob, useParts } from "../../../lib/store";
import { decimalsOf, UNIT_SHORT } from "../../../lib/units-shown";
import { makeWithPoints } from "../make";
import { MakerForm } from "../MakerForm";
import { CoursesRun } from "./CoursesRun";
import { useCourses } from "./use-courses";

export function CoursesForm({ leave: left }: { leave: () => void }) {
  const { job, picking, set, show } = useParts("job", "picking", "set", "show"),
    drawable = (job.book.codes ?? []).filter((c) => c.kind === "line" || c.kind === "area");
  const { draft, read, put, forget } = useCourses(),
    { start, corners, closure, wanted } = read;
  useEffect(() => {
    if (!start || !corners) return set({ preview: [] });
    const [e, n] = corners.at(-1)!.at,
      { de, dn } = closure ?? { de: 0, dn: 0 };
    // What is missing to its end is drawn too, unless it is shared out.
    set({ preview: [wayOfCorners(start.at, corners), ...(draft.distribute ? [] : [[e, n, e + de, n + dn]])] });
  }, [start, corners, closure, draft.distribute, set]);
  useEffect(() => () => set({ preview: [], picking: undefined }), [set]);
  const leave = () => {
    forget();
    left();
  };
  const pick = (field: "start" | "at") =>
    set({
      picking: picking
        ? undefined
        : {
            hint: `Click where it ${field === "start" ? "starts" : "ends"}; Esc ends`,
            points: field === "at",
            take(snap: Snap) {
              set({ picking: undefined });
              put({ [field]: positionText(snap) });
            },
          },
    });
  const keep = async () => {
    if (!wanted) return;
    const made = await makeWithPoints((now, ids) => stringMade(now, wanted, ids));
    if (!made) return;
    set({ notice: { text: `${made}. Undo takes all of it out again.`, tone: "settled" } });
    leave();
  };
  const pickButton = (field: "start" | "at") => (
    <button
      type="button"
      className={`button ${picking ? "button-main" : ""}`}
      aria-pressed={picking !== undefined}
      onClick={() => pick(field)}
    >
      {picking ? "Stop picking" : "Pick"}
    </button>
  );
  return (
    <MakerForm label="Courses of a document" keep={() => void keep()}>
      <div className="flex flex-wrap items-end gap-2">
        <Typed
          label="Starts at"
          text={draft.start}
          onType={(text) => put({ start: text })}
          width="w-28"
          placeholder={job.order === "EN" ? "point, or E N" : "point, or N E"}
          autoFocus
        />
        {pickButton("start")}
        <Choice
          label="Ends"
          value={draft.ends}
          onChange={(ends) => put({ ends })}
          options={[
            ["start", "where it starts"],
            ["point", "at a point"],
            ["open", "anywhere"],
          ]}
        />
        {draft.ends === "point" && (
          <>
            <Typed label="Ends at" text={draft.at} onType={(text) => put({ at: text })} width="num w-16" />
            {pickButton("at")}
          </>
        )}
        <Choice
          label="Lengths in"
          value={draft.lengths ?? job.unit}
          onChange={(lengths) => put({ lengths })}
          options={UNITS.map((u) => [u, UNIT_SHORT[u]] as const)}
        />
        <Typed
          label="Bearings turned by"
          text={draft.turned}
          onType={(text) => put({ turned: text })}
          width="num w-24"
          placeholder="0°"
        />
      </div>
      <div className="mt-2">
        <TypedLines
          label="Courses, one a line"
          text={draft.text}
          onType={(text) => put({ text })}
          rows={5}
          most={MOST_COURSES * 100}
          placeholder={"N 45°30′ E 125.40\n170.25 38.6 ft\narc left radius 30 angle 45\narc right R 20 chord N 10 E 25"}
          wrong={read.lines.some((l) => "problem" in l)}
        />
      </div>
      <CoursesRun read={read} distribute={draft.distribute} put={(text) => put({ text })} text={draft.text} />
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <Choice
          label="Code"
          value={draft.code}
          onChange={(code) => put({ code })}
          ask="choose"
          options={drawable.map((c) => [c.code, c.name ? `${c.code}, ${c.name}` : c.code])}
          width="w-40"
        />
        <Typed
          label="Run"
          text={draft.run}
          onType={(text) => put({ run: text.replace(/\D/g, "") })}
          width="num w-12"
          numeric
        />
        <Typed label="Its own name" text={draft.name} onType={(name) => put({ name })} width="w-24" most={200} />
        <Typed
          label="First number"
          text={draft.number}
          onType={(number) => put({ number })}
          width="num w-20"
          most={100}
          placeholder={nextFreeNumber(job, numberedFrom(job, "computed"))}
        />
        <Typed
          label="Description"
          text={draft.description}
          onType={(description) => put({ description })}
          width="w-24"
          most={400}
        />
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {draft.ends !== "open" && (
          <Tick words="Share the error out by length" on={draft.distribute} set={(distribute) => put({ distribute })} />
        )}
        <span className="flex-1" />
        {start && corners && (
          <button type="button" className="button" onClick={() => show(boxOfWay(wayOfCorners(start.at, corners)))}>
            Show it
          </button>
        )}
        <button type="button" className="button" onClick={leave}>
          Leave it
        </button>
        <button className="button button-main" {...unless(!wanted && (read.needs ?? ""))}>
          Make it
        </button>
      </div>
      {read.needs && (
        <p role="status" className="mt-1 text-soft">
          {read.needs}
        </p>
      )}
    </MakerForm>
  );
}

const boxOfWay = (way: readonly number[]) =>
  boxOf(
    way.length / 2,
    (k) => way[2 * k]!,
    (k) => way[2 * k + 1]!,
  );

/** A point by its number; else coordinates in the job's order. */
function positionText({ point, e, n }: Snap): string {
  const { job } = useJob.getState(),
    written = (x: number) => formatFixed(x, decimalsOf(job.unit));
  if (point !== undefined) return job.points.number[point]!;
  return (job.order === "EN" ? [e, n] : [n, e]).map(written).join(" ");
}

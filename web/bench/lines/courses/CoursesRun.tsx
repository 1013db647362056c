"use client";
/** Courses as they were read, with where each leads; how the string closes, and slips by which it would. */
import { settingOf } from "@bramble/core";
import { isArc, type Course } from "@bramble/core/construct/courses/model";
import { writeCourse } from "@bramble/core/construct/courses/read";
import type { Slip } from "@bramble/core/construct/courses/run";
import { directionText } from "@bramble/core/math/angles";
import { formatFixed } from "@bramble/core/math/round";
import { useParts } from "../../../lib/store";
import { decimalsOf } from "../../../lib/units-shown";
import { withLine, type CoursesRead } from "./draft";

interface RunProps {
  read: CoursesRead;
  distribute: boolean;
  text: string;
  put: (text: string) => void;
}

export function CoursesRun({ read, distribute, text, put }: RunProps) {
  if (read.lines.length === 0) return null;
  return (
    <>
      <CoursesTable read={read} />
      <Closes read={read} distribute={distribute} />
      {read.slips.map((slip) => (
        <SlipTold key={`${slip.course} ${slip.kind}`} slip={slip} read={read} text={text} put={put} />
      ))}
    </>
  );
}

/** Only so many rows are written; a string of a document is rarely longer. */
const MOST_SHOWN = 200;

function CoursesTable({ read: { lines, courses, corners } }: { read: CoursesRead }) {
  const { job } = useParts("job"),
    d = decimalsOf(job.unit),
    turn = new Map(courses.map((c, k) => [c.line, k]));
  return (
    <div className="mt-2 max-h-44 overflow-auto border-y border-rule">
      <table className="plain [&_td]:px-1.5 [&_th]:px-1.5" aria-label="Courses as they are read">
        <thead className="sticky top-0 bg-paper">
          <tr>
            <th className="num">Line</th>
            <th>Course</th>
            <th className="num">Length {job.unit}</th>
            {(job.order === "EN" ? ["Easting", "Northing"] : ["Northing", "Easting"]).map((x) => (
              <th key={x} className="num">
                {x}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.slice(0, MOST_SHOWN).map((l) => {
            if ("problem" in l)
              return (
                <tr key={l.line}>
                  <td className="num">{l.line + 1}</td>
                  <td colSpan={4} role="alert" className="text-amber">
                    {l.problem}
                  </td>
                </tr>
              );
            const corner = corners?.[turn.get(l.line)!],
              [e, n] = corner?.at ?? [];
            return (
              <tr key={l.line}>
                <td className="num">{l.line + 1}</td>
                <td>
                  <CourseWords course={l.course} />
                </td>
                <td className="num">{corner && formatFixed(corner.length, d)}</td>
                {(job.order === "EN" ? [e, n] : [n, e]).map((x, k) => (
                  <td key={k} className="num">
                    {x === undefined ? "" : formatFixed(x, d)}
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
      {lines.length > MOST_SHOWN && (
        <p className="px-1.5 py-1 text-soft">And {lines.length - MOST_SHOWN} more, which are read as well.</p>
      )}
    </div>
  );
}

function CourseWords({ course }: { course: Course }) {
  const { job } = useParts("job"),
    angle = settingOf(job, "angle"),
    towards = (degrees: number) => directionText((degrees * Math.PI) / 180, angle);
  if (!isArc(course)) return towards(course.azimuth);
  const { radius, turn, chord } = course;
  return [
    `arc ${turn > 0 ? "right" : "left"}, radius ${formatFixed(radius, decimalsOf(job.unit))}, ${formatFixed(Math.abs(turn), 4)}°`,
    chord === undefined ? "" : `, chord ${towards(chord)}`,
  ].join("");
}

/** How it closes: the error, its direction, one in how much, and who takes it. */
function Closes({ read: { closure, wanted, courses }, distribute }: { read: CoursesRead; distribute: boolean }) {
  const { job } = useParts("job"),
    d = decimalsOf(job.unit);
  if (!closure) return null;
  const { error, azimuth, length, ratio } = closure,
    isNothing = Number(formatFixed(error, d)) === 0;
  return (
    <p role="status" className="mt-2" data-testid="closure">
      {isNothing ? (
        "It closes. "
      ) : (
        <>
          <b>
            It fails to close by {formatFixed(error, d)} {job.unit}
          </b>
          , {directionText(azimuth, settingOf(job, "angle"))}, 1 in {formatFixed(ratio, 0)} of{" "}
        </>
      )}
      {isNothing && "It is "}
      {formatFixed(length, d)} {job.unit}
      {isNothing ? " long." : "."}{" "}
      {!isNothing && (
        <span className="text-soft">
          {distribute
            ? "It is shared out in proportion to length."
            : wanted?.ends === "open"
              ? ""
              : `Course ${courses.length}, the last, takes it.`}
        </span>
      )}
    </p>
  );
}

const SLIP_WORDS: Record<Slip["kind"], string> = {
  reversed: "run the other way",
  "east for west": "with east and west exchanged",
  "north for south": "with north and south exchanged",
  "other side": "turning to the other side",
};

function SlipTold({
  slip,
  read,
  text,
  put,
}: {
  slip: Slip;
  read: CoursesRead;
  text: string;
  put: (text: string) => void;
}) {
  const { job } = useParts("job"),
    { line } = read.courses[slip.course]!,
    written = writeCourse(slip.instead, read.written);
  return (
    <p className="mt-1 flex items-center gap-2 text-amber">
      <span>
        Line {line + 1} {SLIP_WORDS[slip.kind]}, {written}, it would close to{" "}
        {formatFixed(slip.error, decimalsOf(job.unit))} {job.unit}.
      </span>
      <button type="button" className="button h-6 shrink-0" onClick={() => put(withLine(text, line, written))}>
        Read it so
      </button>
    </p>
  );
}

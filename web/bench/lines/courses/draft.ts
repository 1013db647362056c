/** Courses of a document while they are typed: read, run, closed, and what is still needed to make them. */
import { settingOf, type JobState, type Unit } from "@bramble/core";
import type { Course } from "@bramble/core/construct/courses/model";
import { readCourses, type CourseLine, type CoursesWritten } from "@bramble/core/construct/courses/read";
import {
  closureOf,
  distributed,
  runCourses,
  slipsOf,
  type Closure,
  type Corner,
  type Slip,
} from "@bramble/core/construct/courses/run";
import type { InPlan } from "@bramble/core/construct/solve";
import type { StringWanted } from "@bramble/core/job/edit/courses";
import { nextFreeNumber, numberedFrom } from "@bramble/core/job/change/next-number";
import { numberTyped } from "@bramble/core/math/typed";
import { numberIndex } from "@bramble/core/points/index";
import { refOf, type PointRef } from "@bramble/core/points/refs";
import { directionReading } from "../../../controls/fields/reading";

export interface CoursesDraft {
  /** A point's number, or coordinates in the job's order. */
  start: string;
  text: string;
  /** Of lengths that say no unit; the job's where it is not said. */
  lengths?: Unit;
  /** What all bearings of the document are turned by. */
  turned: string;
  ends: "open" | "start" | "point";
  /** The point at which it ends. */
  at: string;
  distribute: boolean;
  code: string;
  run: string;
  name: string;
  /** Of its first point; the next of its kind where it is not said. */
  number: string;
  description: string;
}

export const BLANK: CoursesDraft = {
  start: "",
  text: "",
  turned: "",
  ends: "start",
  at: "",
  distribute: false,
  code: "",
  run: "",
  name: "",
  number: "",
  description: "",
};

export interface CoursesRead {
  written: CoursesWritten;
  lines: CourseLine[];
  /** Those of the lines that can be read, by their turn among the courses. */
  courses: { course: Course; line: number }[];
  start?: Start;
  /** Where each course leads, as they are or shared out. */
  corners?: Corner[];
  closure?: Closure;
  slips: Slip[];
  /** Everything that is made, once nothing is missing. */
  wanted?: StringWanted;
  /** What it still needs, in a sentence. */
  needs?: string;
}

type Start = { at: InPlan; point?: PointRef; number?: string };

const unread = (line: number) => `Line ${line + 1} cannot be read: the table says why.`;

/** A point by its number, or two coordinates. */
function startOf(text: string, job: JobState): Start | { problem: string } | undefined {
  const typed = text.trim(),
    t = job.points,
    row = numberIndex(t).get(typed);
  if (typed === "") return undefined;
  if (row !== undefined)
    return { at: [t.e[row]!, t.n[row]!], point: refOf(t, job.intakes, row), number: t.number[row]! };
  const [a = NaN, b = NaN, ...more] = typed.split(/\s+/).map(numberTyped);
  if (more.length || !Number.isFinite(a) || !Number.isFinite(b)) return { problem: `There is no point ${typed}.` };
  return { at: job.order === "EN" ? [a, b] : [b, a] };
}

export function readDraft(draft: CoursesDraft, job: JobState): CoursesRead {
  const written: CoursesWritten = {
      unit: job.unit,
      lengths: draft.lengths ?? job.unit,
      angle: settingOf(job, "angle"),
    },
    lines = readCourses(draft.text, written),
    courses = lines.flatMap((l) => ("course" in l ? [{ course: l.course, line: l.line }] : [])),
    read: CoursesRead = { written, lines, courses, slips: [] };
  const lost = (needs: string): CoursesRead => ({ ...read, needs });
  const start = startOf(draft.start, job);
  if (!start) return lost("It starts at a point: type its number, coordinates, or pick it.");
  if ("problem" in start) return lost(start.problem);
  read.start = start;
  const angle = draft.turned.trim() === "" ? { value: 0 } : turnedOf(draft.turned, written);
  if (!angle) return lost("What its bearings are turned by is an angle, such as 1°30′ or −0.25.");
  if (courses.length === 0)
    return lines.length
      ? lost("No course of it can be read yet.")
      : lost("Write or paste its courses, one a line: N 45°30′ E 125.40, or arc left radius 30 angle 45.");
  const list = courses.map((c) => c.course),
    ran = runCourses(start.at, list, angle.value);
  if ("problem" in ran) {
    const { line } = courses[ran.course]!;
    read.lines = lines.map((l) => (l.line === line ? { line, problem: ran.problem } : l));
    return lost(unread(line));
  }
  const target = draft.ends === "start" ? start : draft.ends === "point" ? startOf(draft.at, job) : undefined;
  read.corners = ran.corners;
  if (target && "problem" in target) return lost(target.problem);
  if (draft.ends === "point" && target?.point === undefined) return lost("It ends at a point: type its number.");
  if (target) {
    read.closure = closureOf(ran.corners, target.at);
    read.slips = slipsOf(start.at, list, target.at, angle.value);
    if (draft.distribute) read.corners = distributed(ran.corners, target.at);
  }
  const wrong = lines.find((l) => "problem" in l);
  if (wrong) return lost(unread(wrong.line));
  if (draft.ends === "start" && courses.length < 3) return lost("A ring has three courses at least.");
  if (draft.code === "") return lost("Its line has a code: choose one.");
  return {
    ...read,
    wanted: {
      start: start.point === undefined ? { at: start.at } : { point: start.point, at: start.at },
      corners: read.corners,
      ends: draft.ends === "point" ? { point: target!.point! } : draft.ends,
      code: draft.code + draft.run,
      name: draft.name.trim(),
      number: draft.number.trim() || nextFreeNumber(job, numberedFrom(job, "computed")),
      description: draft.description.trim(),
    },
  };
}

function turnedOf(text: string, { angle }: CoursesWritten): { value: number } | undefined {
  const read = directionReading(angle).read(text);
  return "value" in read ? read : undefined;
}

/** The text with another course on one of its lines. */
export const withLine = (text: string, line: number, course: string): string =>
  text.split("\n").with(line, course).join("\n");

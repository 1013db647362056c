/**
 * Courses as a document has them, one a line: `N 45°30' E 125.40`, `47.5 12.25 ft`, `Thence South 20-15-00 West, 80.20;`,
 * `arc left radius 30 angle 45`, `curve to the right, radius 20, chord N 10 E 25`. Words that say nothing are passed over.
 */
import { directionText, readDirection, type AngleStyle } from "../../math/angles";
import { formatFixed, plainNumber } from "../../math/round";
import { readTypedLength } from "../../math/typed";
import { decimalsOf, fromMetres, unitFactor, type Unit } from "../../math/units";
import { chordOver, isArc, type Course } from "./model";

export interface CoursesWritten {
  /** The job's unit, and that of lengths which say none. */
  unit: Unit;
  lengths: Unit;
  angle: AngleStyle;
}

export type ReadCourse = { course: Course } | { problem: string };
/** A line of the text that says something, by its place in it. */
export type CourseLine = ReadCourse & { line: number };

export const MOST_COURSES = 2000;
const LONGEST = 300;

/** Every line that says something: its course, or what is wrong with it. */
export function readCourses(text: string, w: CoursesWritten): CourseLine[] {
  const out: CourseLine[] = [];
  for (const [line, written] of text.split("\n").entries()) {
    if (written.trim() === "") continue;
    if (out.length === MOST_COURSES) {
      out.push({ line, problem: `A string has at most ${MOST_COURSES} courses.` });
      break;
    }
    out.push({
      line,
      ...(written.length > LONGEST ? { problem: "This line is too long for a course." } : read(written, w)),
    });
  }
  return out;
}

/** Words that stand for a sign of a direction. */
const SIGNS: ReadonlyMap<string, string> = new Map(
  Object.entries({
    N: ["north"],
    S: ["south"],
    E: ["east"],
    W: ["west"],
    "°": ["degrees", "degree", "deg"],
    "'": ["minutes", "minute", "min"],
    '"': ["seconds", "second", "sec"],
  }).flatMap(([sign, words]) => words.map((word) => [word, sign] as const)),
);
const SAY_NOTHING = new Set(
    "thence then due a an the of to and with for having along on distance dist az azimuth central".split(" "),
  ),
  OF_ARCS = new Set(["arc", "curve", "left", "right", "radius", "chord"]);

function read(written: string, w: CoursesWritten): ReadCourse {
  const words = wordsOf(written),
    small = words.map((x) => x.toLowerCase());
  if (small.some((x) => OF_ARCS.has(x))) return readArc(words, w);
  const straight = directed(
    words.filter((_, k) => small[k] !== "bearing"),
    w,
  );
  if (!straight)
    return {
      problem: `“${written.trim()}” is no course: write a direction and a distance, such as N 45°30′ E 125.40, or an arc.`,
    };
  return straight.distance > 0
    ? { course: straight }
    : { problem: `“${written.trim()}”: a distance is above 0; a course the other way has the other bearing.` };
}

/** Words without what says nothing: a count or name before them, signs that end a phrase, fillers. */
function wordsOf(written: string): string[] {
  const parts = written.trim().replaceAll(";", " ").split(/\s+/).map(withoutEnd).filter(Boolean),
    [first = ""] = written.trim().split(/\s+/),
    isCount = /^(?:\d{1,4}[.)]|[^\s:]{1,20}:)$/.test(first);
  return (isCount ? parts.slice(1) : parts)
    .filter((x) => !SAY_NOTHING.has(x.toLowerCase()))
    .map((x) => SIGNS.get(x.toLowerCase()) ?? x);
}

/** Without the comma or full stop that ends a phrase. */
const withoutEnd = (word: string) => (word.endsWith(",") || word.endsWith(".") ? word.slice(0, -1) : word);

const DUE: ReadonlyMap<string, number> = new Map([
  ["n", 0],
  ["e", 90],
  ["s", 180],
  ["w", 270],
]);

/** A direction in degrees; `N` alone is due north, and hyphens part minutes and seconds. */
function direction(text: string, { angle }: CoursesWritten): number | undefined {
  const due = DUE.get(text.toLowerCase());
  if (due !== undefined) return due;
  const radians = readDirection(text.replace(/(\d)-(?=\d)/g, "$1 "), angle);
  return radians === undefined ? undefined : (radians * 180) / Math.PI;
}

/** A length in the job's unit. */
function length(text: string, { unit, lengths }: CoursesWritten): number | undefined {
  const typed = readTypedLength(text, lengths);
  return "value" in typed ? typed.value * unitFactor(lengths, unit) : undefined;
}

/** A direction and a length after it, parted wherever both can be read. */
function directed(words: readonly string[], w: CoursesWritten): { azimuth: number; distance: number } | undefined {
  for (let k = 1; k < words.length; k++) {
    const distance = length(words.slice(k).join(" "), w),
      azimuth = distance === undefined ? undefined : direction(words.slice(0, k).join(" "), w);
    if (distance !== undefined && azimuth !== undefined) return { azimuth, distance };
  }
  return undefined;
}

type ArcWord = "radius" | "angle" | "chord" | "length" | "towards";
/** What is said of an arc, by the words that begin it. */
const ARC_WORDS: ReadonlyMap<string, ArcWord> = new Map([
  ["radius", "radius"],
  ["r", "radius"],
  ["angle", "angle"],
  ["delta", "angle"],
  ["chord", "chord"],
  ["length", "length"],
  ["towards", "towards"],
  ["bearing", "towards"],
]);

function readArc(words: readonly string[], w: CoursesWritten): ReadCourse {
  const said: Partial<Record<ArcWord, string[]>> = {};
  let side = 0,
    now: string[] | undefined;
  for (const word of words) {
    const small = word.toLowerCase(),
      key = ARC_WORDS.get(small);
    if (small === "left" || small === "right") side = small === "right" ? 1 : -1;
    // “Chord bearing” is one word of two.
    else if (key === "towards" && now === said.chord && now?.length === 0) {
      delete said.chord;
      said.towards = now;
    } else if (key) {
      if (said[key]) return { problem: `Its ${key === "towards" ? "direction" : key} is said twice.` };
      said[key] = now = [];
    } else if (!["arc", "curve"].includes(small)) {
      if (!now)
        return { problem: `“${word}” says nothing of an arc: radius, angle, chord, length, towards, left, right.` };
      now.push(word);
    }
  }
  if (!side) return { problem: "An arc turns left or right: say which." };
  const chordToo = said.chord && directed(said.chord, w),
    sizes = {
      radius: sizeOf(said.radius, w),
      chord: chordToo?.distance ?? sizeOf(said.chord, w),
      length: sizeOf(said.length, w),
      angle: said.angle && direction(said.angle.join(" "), w),
      towards: chordToo?.azimuth ?? (said.towards && direction(said.towards.join(" "), w)),
    };
  for (const key of ["radius", "chord", "length", "angle", "towards"] as const) {
    if (said[key] && sizes[key] === undefined)
      return { problem: `The arc's ${key} “${said[key].join(" ")}” cannot be read.` };
    if (key !== "towards" && sizes[key] !== undefined && !(sizes[key] > 0))
      return { problem: `The arc's ${key} is above 0.` };
  }
  if (sizes.radius === undefined) return { problem: "An arc has a radius: say it, such as radius 30." };
  const turn = turnOf({ ...sizes, radius: sizes.radius }, w);
  if (typeof turn === "string") return { problem: turn };
  return {
    course: {
      radius: sizes.radius,
      turn: side * turn,
      ...(sizes.towards === undefined ? {} : { chord: sizes.towards }),
    },
  };
}

const sizeOf = (words: string[] | undefined, w: CoursesWritten) => words && length(words.join(" "), w);

/** What an arc turns, by its angle, else its length, else its chord; what is said beside it agrees to 2 cm, or it is told. */
function turnOf(
  { radius, angle, length: along, chord }: { radius: number; angle?: number; length?: number; chord?: number },
  { unit }: CoursesWritten,
): number | string {
  if (chord !== undefined && chord > 2 * radius) return "Its chord is longer than two radii: no such arc.";
  const turn =
    angle ??
    (along !== undefined
      ? (along / radius) * (180 / Math.PI)
      : chord !== undefined
        ? (2 * Math.asin(chord / (2 * radius)) * 180) / Math.PI
        : undefined);
  if (turn === undefined) return "An arc has an angle, a chord or a length beside its radius: say one.";
  if (turn >= 360) return "An arc turns less than a whole turn.";
  const near = fromMetres(0.02, unit),
    d = decimalsOf(unit),
    length = (radius * turn * Math.PI) / 180;
  if (along !== undefined && Math.abs(along - length) > near)
    return `By its angle it is ${formatFixed(length, d)} long, not ${formatFixed(along, d)}: leave one out.`;
  if (chord !== undefined && Math.abs(chord - chordOver(radius, turn)) > near)
    return `Its chord would be ${formatFixed(chordOver(radius, turn), d)}, not ${formatFixed(chord, d)}: leave one out.`;
  return turn;
}

/** A course as it is written, to be read again: directions to a hundredth of a second. */
export function writeCourse(course: Course, { unit, lengths, angle }: CoursesWritten): string {
  const towards = (degrees: number) => directionText((degrees * Math.PI) / 180, angle, 2),
    long = (x: number) => plainNumber(Number((x * unitFactor(unit, lengths)).toFixed(6)));
  if (!isArc(course)) return `${towards(course.azimuth)} ${long(course.distance)}`;
  const { radius, turn, chord } = course;
  return [
    `arc ${turn > 0 ? "right" : "left"} radius ${long(radius)} angle ${sizeText(Math.abs(turn))}`,
    ...(chord === undefined ? [] : [`towards ${towards(chord)}`]),
  ].join(" ");
}

/** An angle's size, in degrees with their sign, in whatever style directions are. */
const sizeText = (degrees: number) => `${plainNumber(Number(degrees.toFixed(9)))}°`;

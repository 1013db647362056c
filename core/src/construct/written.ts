/**
 * Constructions as a person writes them in one line: `12 az 47.5 12.25`, `between 12 13 share 0.25 level along`. Points by
 * their numbers (in quotes where they hold a blank), lengths and angles in any unit and style that is read elsewhere.
 */
import { directionText, readDirection, type AngleStyle } from "../math/angles";
import { formatFixed, plainNumber } from "../math/round";
import { readStation } from "../math/station-text";
import { numberTyped, readTypedLength } from "../math/typed";
import type { Unit } from "../math/units";
import { hasAlong, type By, type LevelBy, type LineAsked, type LineRef, type Ray } from "./model";

/** What a line says, with points by their numbers. */
export interface Written {
  by: By;
  elevation?: number | LevelBy;
}
export type ReadWritten = Written | { problem: string };

export interface Writing {
  unit: Unit;
  angle: AngleStyle;
  /** Which coordinate is written first. */
  order: "NE" | "EN";
  /** Whether there is a point, a surface. */
  hasPoint(number: string): boolean;
  hasSurface(name: string): boolean;
}

/** How each way is written, for whoever asks; the first word tells them apart, or what follows a number. */
export const WRITTEN_FORMS: readonly (readonly [form: string, means: string])[] = [
  ["12 az 47.5 12.25", "azimuth or bearing and distance from a point"],
  ["12 to 13 forward 10 right 2", "along two points, and to the right (left: a minus)"],
  ["12 to 13 beyond 2.5", "on beyond the second"],
  ["12 to 13 angle 90 8", "turned clockwise at the first, and a distance"],
  ["between 12 13", "the middle; share 0.25, or a distance such as 4.5, may follow"],
  ["foot 14 on 12 13", "the foot of a perpendicular"],
  ["mirror 14 on 12 13", "mirrored at the line through two points"],
  ["meet 12 az 40 and 13 az 310", "two rays; also 12 dist 20, and the line 12 13 right 1"],
  ["centre 12 13 14", "of the circle through three"],
  ["fourth 12 13 14", "the fourth corner of a parallelogram"],
  ["rectangle 12 13 width 4 corner 3", "the third or fourth corner"],
  ["line KERB 1 station 25 offset 2", "station and offset of a line"],
  ["tangents KERB 1 at 1007", "where the tangents of an arc meet"],
  ["at 100.25 200.50", "coordinates in the job's order; or N 200.5 E 100.25"],
  ["… level 101.2", "also: level of 12 up 0.5, level along, level on a surface's name"],
];

class Problem extends Error {}
const wrong = (why: string): never => {
  throw new Problem(why);
};

/** What a line of words says; a sentence where it says nothing that can be made. Undefined for what does not begin like one. */
export function readWritten(text: string, w: Writing): ReadWritten | undefined {
  const words = wordsOf(text);
  if (!words || words.length < 2 || words.length > 60 || !beginsLikeOne(words)) return undefined;
  try {
    const at = words.findIndex((x) => x.is("level")),
      by = readBy(new Reader(at < 0 ? words : words.slice(0, at), w));
    if (at < 0) return { by };
    const elevation = readLevel(new Reader(words.slice(at + 1), w));
    if (typeof elevation === "object" && "along" in elevation && !hasAlong(by))
      wrong("Its way names no two points along which a level could run.");
    return { by, elevation };
  } catch (e) {
    if (e instanceof Problem) return { problem: e.message };
    throw e;
  }
}

/** A word as it stands, and whether it is a word of this language: what stands in quotes is none. */
class Word {
  constructor(
    readonly text: string,
    private readonly quoted: boolean,
  ) {}
  is(...words: string[]): boolean {
    return !this.quoted && words.includes(this.text.toLowerCase());
  }
}

function wordsOf(text: string): Word[] | undefined {
  const out: Word[] = [];
  for (let rest = text.trim(); rest !== "";) {
    const quoted = /^"((?:[^"]|"")*)"(?:\s|$)/.exec(rest),
      plain = /^\S+/.exec(rest)![0];
    if (!quoted && plain.startsWith('"')) return undefined;
    out.push(quoted ? new Word(quoted[1]!.replaceAll('""', '"'), true) : new Word(plain, false));
    rest = rest.slice(quoted ? quoted[0].length : plain.length).trim();
  }
  return out;
}

const FIRST = [
    "between",
    "foot",
    "mirror",
    "meet",
    "centre",
    "center",
    "fourth",
    "rectangle",
    "line",
    "tangents",
    "at",
  ],
  AZIMUTH = ["az", "azimuth", "bearing"];

function beginsLikeOne([first, second, third]: readonly Word[]): boolean {
  if (first!.is(...FIRST)) return true;
  if (first!.is("n", "e") && third) return Number.isFinite(numberTyped(second!.text));
  return second!.is("to", ...AZIMUTH);
}

class Reader {
  private next = 0;

  constructor(
    private readonly words: readonly Word[],
    readonly w: Writing,
  ) {}

  get over(): boolean {
    return this.next >= this.words.length;
  }

  /** Whether one of some words comes now; it is passed. */
  takes(...words: string[]): boolean {
    if (!this.words[this.next]?.is(...words)) return false;
    this.next++;
    return true;
  }

  needs(word: string): void {
    if (!this.takes(word))
      wrong(this.over ? `“${word}” is missing at the end.` : `“${this.now}” stands where “${word}” should.`);
  }

  private get now(): string {
    return this.words[this.next]!.text;
  }

  text(what: string): string {
    if (this.over) wrong(`${what} is missing at the end.`);
    return this.words[this.next++]!.text;
  }

  point(): string {
    const number = this.text("The number of a point");
    return this.w.hasPoint(number) ? number : wrong(`There is no point ${number}.`);
  }

  points<const N extends number>(count: N): string[] {
    return Array.from({ length: count }, () => this.point());
  }

  /** All words up to one of some, or to the end: a name, a direction, a length of feet and inches. */
  until(what: string, ...words: string[]): string {
    const from = this.next;
    while (!this.over && !this.words[this.next]!.is(...words)) this.next++;
    if (this.next === from) wrong(`${what} is missing${this.over ? " at the end" : ""}.`);
    return this.words
      .slice(from, this.next)
      .map((x) => x.text)
      .join(" ");
  }

  length(what: string, ...before: string[]): number {
    const read = readTypedLength(this.until(what, ...before), this.w.unit);
    return "value" in read ? read.value : wrong(read.problem);
  }

  angle(text: string): number {
    const read = readDirection(text, this.w.angle);
    return read === undefined ? wrong(`“${text}” is no direction.`) : (read * 180) / Math.PI;
  }

  /** A direction, and the length behind it: the last word that is one, with its feet before its inches. */
  direction(what: string, ...before: string[]): [degrees: number, length: number] {
    const words = this.until(`A direction and a distance`, ...before).split(" ");
    for (const behind of [2, 1]) {
      const [turn, far] = [words.slice(0, -behind).join(" "), words.slice(-behind).join(" ")],
        length = readTypedLength(far, this.w.unit),
        direction = turn === "" ? undefined : readDirection(turn, this.w.angle);
      if ("value" in length && direction !== undefined) return [(direction * 180) / Math.PI, length.value];
    }
    return wrong(`“${words.join(" ")}” is no ${what}.`);
  }

  end(): void {
    if (!this.over) wrong(`“${this.now}” stands where nothing more is expected.`);
  }
}

function readBy(r: Reader): By {
  const by = readWay(r);
  r.end();
  return by;
}

function readWay(r: Reader): By {
  if (r.takes("at")) return readPosition(r);
  if (r.takes("n")) return readNamed(r, "n");
  if (r.takes("e")) return readNamed(r, "e");
  if (r.takes("between")) {
    const [a, b] = r.points(2) as [string, string];
    if (r.over) return { between: [a, b], ratio: 0.5 };
    if (!r.takes("share")) return { between: [a, b], distance: r.length("The distance") };
    const ratio = numberTyped(r.text("The share"));
    return Number.isFinite(ratio) ? { between: [a, b], ratio } : wrong("The share is a number such as 0.25.");
  }
  if (r.takes("foot")) {
    const foot = r.point();
    r.needs("on");
    return { foot, on: r.points(2) as [string, string] };
  }
  if (r.takes("mirror")) {
    const mirror = r.point();
    r.needs("on");
    return { mirror, on: r.points(2) as [string, string] };
  }
  if (r.takes("centre", "center")) return { centre: r.points(3) as [string, string, string] };
  if (r.takes("fourth")) return { fourth: r.points(3) as [string, string, string] };
  if (r.takes("rectangle")) {
    const rectangle = r.points(2) as [string, string];
    r.needs("width");
    const width = r.length("The width", "corner");
    r.needs("corner");
    const corner = r.text("The corner, 3 or 4,");
    return corner === "3" || corner === "4"
      ? { rectangle, width, corner: corner === "3" ? 3 : 4 }
      : wrong("The corner is 3 or 4.");
  }
  if (r.takes("line")) {
    const line: LineAsked = readLine(r, "station");
    r.needs("station");
    const text = r.until("The station", "offset"),
      read = readTypedLength(text, r.w.unit),
      station = readStation(text) ?? ("value" in read ? read.value : wrong(`“${text}” is no station.`));
    return r.takes("offset") ? { line, station, offset: r.length("The offset") } : { line, station };
  }
  if (r.takes("tangents")) {
    const tangents = readLine(r, "at");
    r.needs("at");
    return { tangents, piece: r.point() };
  }
  if (r.takes("meet")) {
    const first = readRay(r, "and");
    r.needs("and");
    const second = readRay(r, "near");
    return r.takes("near") ? { meet: [first, second], near: r.point() } : { meet: [first, second] };
  }
  const from = r.point();
  if (r.takes(...AZIMUTH)) {
    const [azimuth, distance] = r.direction("direction with a distance behind it, such as 47.5 12.25");
    return { from, azimuth, distance };
  }
  r.needs("to");
  const to = r.point();
  if (r.takes("angle")) {
    const [angle, distance] = r.direction("angle with a distance behind it, such as 90 8");
    return { from, to, angle, distance };
  }
  const ways = { forward: r.takes("forward"), beyond: false };
  ways.beyond = !ways.forward && r.takes("beyond");
  if (!ways.forward && !ways.beyond) {
    if (!r.takes("right")) wrong("Say forward, beyond, right or angle behind the two points.");
    return { from, to, forward: 0, right: r.length("How far to the right") };
  }
  const along = r.length("How far", "right"),
    right = r.takes("right") ? { right: r.length("How far to the right") } : {};
  return ways.beyond ? { from, to, beyond: along, ...right } : { from, to, forward: along, ...right };
}

function readPosition(r: Reader): By {
  const both = [1, 2].map(() => {
    const read = readTypedLength(r.text("A coordinate"), r.w.unit);
    return "value" in read ? read.value : wrong(read.problem);
  }) as [number, number];
  return { at: r.w.order === "EN" ? both : [both[1], both[0]] };
}

function readNamed(r: Reader, first: "n" | "e"): By {
  const one = r.length("A coordinate", first === "n" ? "e" : "n");
  r.needs(first === "n" ? "e" : "n");
  const other = r.length("A coordinate");
  return { at: first === "n" ? [other, one] : [one, other] };
}

/** `KERB 1`: a code with its run, or without one; `from 12` says which by its first shot. */
function readLine(r: Reader, before: string): LineRef & { code: string } {
  const [code, ...run] = r.until("The line", before, "from").split(" ");
  if (r.takes("from")) return { code: code!, run: run.join(" "), from: r.point() };
  return run.length ? { code: code!, run: run.join(" ") } : { code: code! };
}

function readRay(r: Reader, before: string): Ray {
  const from = r.point();
  if (r.takes(...AZIMUTH)) return { from, azimuth: r.angle(r.until("A direction", before)) };
  if (r.takes("dist", "distance")) {
    const distance = r.length("A distance", before);
    return distance > 0 ? { from, distance } : wrong("The distance of a circle is above 0.");
  }
  const line: [string, string] = [from, r.point()];
  return r.takes("right") ? { line, right: r.length("How far to the right", before) } : { line };
}

function readLevel(r: Reader): number | LevelBy {
  const level = ((): number | LevelBy => {
    if (r.takes("of")) return { of: r.point() };
    if (r.takes("along")) return { along: true };
    if (!r.takes("on")) return r.length("The level");
    const surface = r.until("The name of a surface", "up");
    return r.w.hasSurface(surface) ? { surface } : wrong(`There is no surface “${surface}”.`);
  })();
  const up = r.takes("up") ? r.length("How far up") : 0;
  r.end();
  return typeof level === "number" ? level + up : up ? { ...level, up } : level;
}

/** How constructions are written: with a person's decimals, or with all that people type. */
export interface WritingOut {
  angle: AngleStyle;
  order: "NE" | "EN";
  /** Of lengths; the shortest that reads back, where it is not said. */
  decimals?: number;
}

/** A construction in the same words, which read back as it. Points are named as `By` names them. */
export function writeConstruction({ by, elevation }: Written, out: WritingOut): string {
  const level = elevation === undefined ? "" : ` level ${levelWords(elevation, out)}`;
  return wayWords(by, out) + level;
}

const quoted = (word: string) =>
    /^[^\s"]+$/.test(word) && !RESERVED.has(word.toLowerCase()) ? word : `"${word.replaceAll('"', '""')}"`,
  RESERVED: ReadonlySet<string> = new Set(
    [FIRST, AZIMUTH, ["to", "and", "on", "near", "right", "dist", "distance", "level", "share", "up", "n", "e"]].flat(),
  );

const length = (x: number, { decimals }: WritingOut) =>
    decimals === undefined ? plainNumber(x) : formatFixed(x, decimals),
  direction = (degrees: number, { angle, decimals }: WritingOut) =>
    directionText((degrees * Math.PI) / 180, angle, decimals === undefined ? 6 : 0),
  many = (refs: readonly string[]) => refs.map(quoted).join(" "),
  rightWords = (right: number | undefined, out: WritingOut) => (right ? ` right ${length(right, out)}` : "");

function wayWords(by: By, out: WritingOut): string {
  const l = (x: number) => length(x, out);
  if ("at" in by) return `at ${(out.order === "EN" ? by.at : [by.at[1], by.at[0]]).map(l).join(" ")}`;
  if ("azimuth" in by) return `${quoted(by.from)} az ${direction(by.azimuth, out)} ${l(by.distance)}`;
  if ("from" in by) {
    const pair = `${quoted(by.from)} to ${quoted(by.to)}`;
    if ("angle" in by)
      return `${pair} angle ${directionText((by.angle * Math.PI) / 180, out.angle === "bearing-dms" ? "azimuth-dms" : out.angle, out.decimals === undefined ? 6 : 0)} ${l(by.distance)}`;
    return "beyond" in by
      ? `${pair} beyond ${l(by.beyond)}${rightWords(by.right, out)}`
      : `${pair} forward ${l(by.forward)}${rightWords(by.right, out)}`;
  }
  if ("between" in by)
    return `between ${many(by.between)}${"distance" in by ? ` ${l(by.distance)}` : by.ratio === 0.5 ? "" : ` share ${plainNumber(by.ratio)}`}`;
  if ("foot" in by) return `foot ${quoted(by.foot)} on ${many(by.on)}`;
  if ("mirror" in by) return `mirror ${quoted(by.mirror)} on ${many(by.on)}`;
  if ("centre" in by) return `centre ${many(by.centre)}`;
  if ("fourth" in by) return `fourth ${many(by.fourth)}`;
  if ("rectangle" in by) return `rectangle ${many(by.rectangle)} width ${l(by.width)} corner ${by.corner}`;
  if ("tangents" in by) return `tangents ${lineWords(by.tangents)} at ${quoted(by.piece)}`;
  if ("line" in by)
    return `line ${lineWords(by.line)} station ${l(by.station)}${by.offset ? ` offset ${l(by.offset)}` : ""}`;
  const near = typeof by.near === "string" ? ` near ${quoted(by.near)}` : "";
  return `meet ${by.meet.map((r) => rayWords(r, out)).join(" and ")}${near}`;
}

function rayWords(r: Ray, out: WritingOut): string {
  if ("line" in r) return many(r.line) + rightWords(r.right, out);
  return "azimuth" in r
    ? `${quoted(r.from)} az ${direction(r.azimuth, out)}`
    : `${quoted(r.from)} dist ${length(r.distance, out)}`;
}

/** What a line is called; one that is drawn, or of a file, has no words that read back. */
export function lineWords(line: LineAsked): string {
  if ("hand" in line) return `“${line.hand}”`;
  if ("code" in line)
    return [line.code, line.run, ...("from" in line ? ["from", quoted(line.from)] : [])].filter(Boolean).join(" ");
  return "file" in line ? `“${line.alignment}” of ${line.file}` : "drawn by its corners";
}

function levelWords(level: number | LevelBy, out: WritingOut): string {
  if (typeof level === "number") return length(level, out);
  const up = level.up ? ` up ${length(level.up, out)}` : "";
  if ("of" in level) return `of ${quoted(level.of)}${up}`;
  return ("surface" in level ? `on ${level.surface}` : "along") + up;
}

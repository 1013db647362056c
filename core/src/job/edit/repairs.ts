/**
 * Repairs that findings offer: each a change of the job like any other, so that its effect can be seen before it is taken
 * and undone after. What needs a person's own knowledge (a missing attribute, say) has none.
 */
import type { Explained } from "../../checks/far-away";
import type { Finding, FindingKind } from "../../finding";
import { lengthText, METRES } from "../../math/units";
import { lineName, type Line } from "../../lines/model";
import { plural } from "../../math/words";
import { withAlias } from "../../codes/teach";
import { fieldValue } from "../../points/edits";
import { setupName, withSight } from "../../points/setups";
import { rowOf } from "../../points/table";
import { append } from "../../math/many";
import type { Move } from "../../points/moves";
import { formatFixed } from "../../math/round";
import type { PointEdit } from "../change/change";
import { repairsOfCrossing } from "./crossing-repairs";
import { joinLines, jointsOf } from "./join-lines";
import { cueChange, type DrawnLine, type LineEdit } from "./drawn-lines";
import { coordinateEdits, levelIsObserved, whyNotGiven } from "./coordinates";
import { closeLine, removeLine } from "./line-edits";
import type { JobState } from "../model/model";
import { edits, ofLine, rounded, type Repair, type RepairContext } from "./repair-parts";

export type { Repair, RepairContext };

type Offer = (f: Finding, rows: readonly number[], context: RepairContext) => (Repair | undefined)[];

/** What may be done about a finding, the likeliest first; nothing where only a person knows. */
export function repairsOf(f: Finding, context: RepairContext): Repair[] {
  const { points: t } = context.state,
    rows = f.points.map((id) => rowOf(t, id)).filter((i) => i >= 0 && !t.deleted[i]);
  return (OFFERS[f.kind]?.(f, rows, context) ?? []).filter((r): r is Repair => r !== undefined);
}

const OFFERS: Partial<Record<FindingKind, Offer>> = {
  spike: (f, rows, { state }) => [
    levelInWords(state, rows, Number(f.data.predicted)),
    toLevels(state, rows, [f.data.predicted]),
    outOfSurfaces(state, rows),
  ],
  "zero-elevation": (f, rows, { state }) => [
    levelInWords(state, rows, Number(f.data.predicted)),
    toLevels(state, rows, [f.data.predicted]),
    edits("Say that it has no elevation", state, rows, "elevation", () => null),
    outOfSurfaces(state, rows),
  ],
  "no-elevation": (f, rows, { state }) => [
    toLevels(state, rows, Array.isArray(f.data.predicted) ? f.data.predicted : [f.data.predicted]),
  ],
  // Where it is not clear by how much they are off, only the crew knows.
  "height-run": (f, rows, { state }) => [
    typeof f.data.shift === "number" ? otherTarget(state, rows, f.data.shift) : undefined,
  ],
  "unknown-code": (f, rows, { state }) =>
    typeof f.data.nearest !== "string" || typeof f.data.code !== "string"
      ? []
      : [
          rewritten(state, rows, f.data.code, f.data.nearest),
          {
            name: `Read ${f.data.code} as ${f.data.nearest} always`,
            change: {
              type: "setting",
              field: "book",
              old: state.book,
              new: withAlias(state.book, f.data.code, f.data.nearest),
            },
          },
        ],
  "unread-row": (f, _, { state }) => otherSights(f, state),
  "control-differs": (f, _, { state }) => otherSights(f, state),
  "scale-differs": (f, _, { state }) => toOneScale(f, state),
  "axes-swapped": (_, rows, { state: { points: t } }) => [
    {
      name: `Exchange northing and easting of ${plural(rows.length, "point")}`,
      change: {
        type: "points",
        edits: rows.flatMap((i): PointEdit[] => [
          { id: t.id[i]!, field: "northing", old: fieldValue(t, i, "northing"), new: fieldValue(t, i, "easting") },
          { id: t.id[i]!, field: "easting", old: fieldValue(t, i, "easting"), new: fieldValue(t, i, "northing") },
        ]),
      },
    },
  ],
  "far-away": (f, rows, { state }) => [
    ...(rows.length === 1 ? ((f.data.explained ?? []) as Explained[]) : []).map((x) => moved(state, rows[0]!, x)),
    outOfSurfaces(state, rows),
    edits("Take it out of the job", state, rows, "deleted", () => true),
  ],
  "long-triangle": (f, _, { state }) => {
    const old = state.surfaces.find((s) => s.name === f.data.surface),
      gap = Number(Number(f.data.gap).toPrecision(2));
    if (!old) return [];
    const name = `Fit the edge of “${old.name}” to gaps of up to ${lengthText(gap, state.unit, 1)}`;
    return [
      { name, change: { type: "named", part: "surfaces", name: old.name, old, new: { ...old, edge: { fit: gap } } } },
    ];
  },
  coincident: (_, rows, { state }) => [outOfSurfaces(state, rows.slice(1))],
  "single-point-line": (f, _, c) => [
    ofLine("Let the shot stand alone", f.lines[0], c, (l) => ({
      change: cueChange(c.state, l, [{ row: l.shots[0]!, add: ["lone"] }]),
    })),
    toNearestEnd(f.lines[0], c),
  ],
  "line-nearly-closed": (f, _, c) => [ofLine("Close the line", f.lines[0], c, (l) => closeLine(c.state, l, true))],
  "area-unclosed": (f, _, c) => [ofLine("Close the line", f.lines[0], c, (l) => closeLine(c.state, l, true))],
  "line-interrupted": (f, _, c) => {
    const other = f.lines[1] === undefined ? undefined : c.line(f.lines[1]);
    return [other && ofLine("Join the two lines", f.lines[0], c, (l) => joinAtGap(c.state, l, other, f.points))];
  },
  "line-doubled": (f, _, c) => [ofLine("Remove the later of the two", f.lines[1], c, (l) => removeLine(c.state, l))],
  "breaklines-cross": (f, _, context) => repairsOfCrossing(f, context),
};

function toLevels(state: JobState, rows: readonly number[], levels: readonly unknown[]): Repair | undefined {
  const known = rows
    .map((row, k) => ({ row, z: levels[k] }))
    .filter((x): x is { row: number; z: number } => Number.isFinite(x.z));
  if (known.length === 0) return undefined;
  const name =
    known.length === 1
      ? `Give it the level of its neighbours, ${lengthText(known[0]!.z, state.unit)}`
      : `Give ${plural(known.length, "point")} the level of their neighbours`;
  return edits(
    name,
    state,
    known.map((x) => x.row),
    "elevation",
    (_, k) => rounded(state, known[k]!.z),
  );
}

/** Within this many metres of what the neighbours say a number in the words is taken for the level. */
const IN_WORDS = 0.5;

/** A level that stands in the point's description or note. */
function levelInWords(state: JobState, rows: readonly number[], predicted: number): Repair | undefined {
  const [row] = rows,
    { points: t } = state;
  if (row === undefined || !Number.isFinite(predicted)) return undefined;
  const words = `${t.texts[t.description[row]!]} ${t.texts[t.note[row]!]}`,
    said = (words.match(/-?\d+(?:[.,]\d+)?/g) ?? []).map((w) => Number(w.replace(",", "."))),
    level = said.find((z) => Math.abs(z - predicted) <= IN_WORDS / METRES[state.unit]);
  return level === undefined
    ? undefined
    : edits(
        `Give it the level that its words say, ${lengthText(level, state.unit)}`,
        state,
        [row],
        "elevation",
        () => level,
      );
}

/** What brings a delivery to the scale of another: a fit of all of it, or the factor of distances of what was observed. */
function toOneScale(f: Finding, state: JobState): Repair[] {
  const { intake, against, scale, rotation, from, to } = f.data as unknown as {
    intake: string;
    against: string;
    scale: number;
    rotation: number;
    from: [number, number];
    to: [number, number];
  };
  const at = state.intakes.findIndex((k) => k.id === intake),
    other = state.intakes.find((k) => k.id === against);
  if (at < 0 || !other) return [];
  const { file } = state.intakes[at]!,
    name = freeMoveName(`${file} to ${other.file}`, state.moves),
    move: Move = {
      name,
      points: { intakes: [intake] },
      transform: { move: [to[0] - from[0], to[1] - from[1], 0], rotate: rotation, scale, about: from },
    },
    factor = (state.scaleFactor ?? 1) * scale,
    isObserved = Boolean(state.delivered[at]?.survey);
  return [
    {
      name: `Fit all of “${file}” to “${other.file}” with scale ${formatFixed(scale, 7)}`,
      change: { type: "named", part: "moves", name, old: null, new: move },
    },
    ...(isObserved
      ? [
          {
            name: `Reduce observed distances with the factor ${formatFixed(factor, 7)}`,
            change: {
              type: "setting" as const,
              field: "scaleFactor" as const,
              old: state.scaleFactor ?? null,
              new: factor,
            },
          },
        ]
      : []),
  ];
}

/** A name that no move has. */
function freeMoveName(wanted: string, moves: readonly { name: string }[]): string {
  const taken = new Set(moves.map((m) => m.name));
  let name = wanted;
  for (let k = 2; taken.has(name); k++) name = `${wanted} ${k}`;
  return name;
}

/** A point moved to what explains its coordinates. */
function moved(state: JobState, row: number, x: Explained): Repair | undefined {
  const { points: t } = state,
    wanted = { ...(x.e === t.e[row] ? {} : { easting: x.e }), ...(x.n === t.n[row] ? {} : { northing: x.n }) };
  if (whyNotGiven(t, row, "easting")) return undefined;
  const all = coordinateEdits(t, row, wanted),
    to = Object.entries(wanted)
      .map(([field, value]) => `${field} ${lengthText(value, state.unit)}`)
      .join(", ");
  return all.length ? { name: `Correct it to ${to}`, change: { type: "points", edits: all } } : undefined;
}

function outOfSurfaces(state: JobState, rows: readonly number[]): Repair | undefined {
  const name =
    rows.length === 1
      ? "Keep it out of surfaces, its level as it is"
      : `Keep ${plural(rows.length, "point")} out of surfaces, their levels as they are`;
  return edits(name, state, rows, "surface", () => "out");
}

/** Another target height for a run: observed levels follow it, others are moved with it. */
/** What a setup wrote as one number is the point that the geometry of its observations says. */
function otherSights(f: Finding, { setups }: JobState): Repair[] {
  const { intake, setup, likely } = f.data as {
    intake?: string;
    setup?: string;
    likely?: { was: string; is: string }[];
  };
  if (intake === undefined || setup === undefined || !likely) return [];
  const name = setupName({ intake, setup }),
    old = setups.find((s) => setupName(s) === name);
  return likely.map(({ was, is }) => ({
    name: `Take ${was} at setup ${setup} as point ${is}`,
    change: {
      type: "named",
      part: "setups",
      name,
      old: old ?? null,
      new: withSight(old ?? { intake, setup }, was, is),
    },
  }));
}

function otherTarget(state: JobState, rows: readonly number[], shift: number): Repair | undefined {
  const { points: t } = state,
    by = rounded(state, shift, 2);
  const changed = rows.flatMap((i): PointEdit[] => {
    const id = t.id[i]!,
      height = t.targetHeight[i]!,
      out: PointEdit[] = [];
    if (!Number.isNaN(height))
      out.push({ id, field: "targetHeight", old: height, new: rounded(state, height + by, 4) });
    if (Number.isNaN(height) || !levelIsObserved(t, i))
      if (!Number.isNaN(t.z[i]!) && !whyNotGiven(t, i, "elevation"))
        append(out, coordinateEdits(t, i, { elevation: rounded(state, t.z[i]! - by, 6) }));
    return out;
  });
  if (changed.length === 0) return undefined;
  const heights = new Set(rows.map((i) => t.targetHeight[i]!)),
    [height] = heights,
    length = (x: number) => lengthText(x, state.unit, 2);
  const name =
    heights.size === 1 && !Number.isNaN(height!)
      ? `Set the target height of ${plural(rows.length, "shot")} from ${length(height!)} to ${length(height! + by)}`
      : `${by > 0 ? "Lower" : "Raise"} ${plural(rows.length, "shot")} by ${length(Math.abs(by))}`;
  return { name, change: { type: "points", edits: changed } };
}

/** A word in the descriptions of points written otherwise; its run and what follows stay. */
function rewritten(state: JobState, rows: readonly number[], from: string, to: string): Repair | undefined {
  const word = new RegExp(`(^|[\\s/])${from.replace(/[^A-Za-z0-9]/g, "\\$&")}(?=\\d*(?:$|[\\s/;]))`, "gi");
  return edits(
    `Write ${to} in place of ${from} in ${plural(rows.length, "description")}`,
    state,
    rows,
    "description",
    (i) => state.points.texts[state.points.description[i]!]!.replace(word, `$1${to}`),
  );
}

/** Two lines made one across a gap between two of their points: the one goes on with the other. */
function joinAtGap(state: JobState, one: DrawnLine, other: DrawnLine, [from, to]: readonly number[]): LineEdit {
  const { id } = state.points,
    gap = [from, to];
  const joint = jointsOf(state, one, other).find(({ rows }) => rows.every((i) => gap.includes(id[i])));
  return joint ? joinLines(state, one, other, joint) : { refused: "Neither ends there any more." };
}

/** A line of one shot joined to the end, of an open line of its code, that is nearest to it. */
function toNearestEnd(key: string | undefined, c: RepairContext): Repair | undefined {
  const { points: t } = c.state,
    alone = c.lines?.find((l) => l.key === key),
    shot = alone?.shots[0];
  if (!alone || shot === undefined) return undefined;
  let nearest: { line: Line; end: number; far: number } | undefined;
  for (const line of c.lines!) {
    if (line === alone || line.code !== alone.code || line.closed || line.shots.length < 2) continue;
    for (const end of [line.shots[0]!, line.shots.at(-1)!]) {
      const far = Math.hypot(t.e[end]! - t.e[shot]!, t.n[end]! - t.n[shot]!);
      if (!nearest || far < nearest.far) nearest = { line, end, far };
    }
  }
  if (!nearest) return undefined;
  const { line, end, far } = nearest;
  return ofLine(
    `Join it to ${lineName(line)} at ${t.number[end]}, ${lengthText(far, c.state.unit)} away`,
    line.key,
    c,
    (other) => {
      const single = c.line(alone.key)!;
      return end === line.shots.at(-1) ? joinLines(c.state, other, single) : joinLines(c.state, single, other);
    },
  );
}

/**
 * What may be done where breaklines cross at two levels: one of them is wrong in level, one of them is no breakline (all
 * of it, or the piece that runs below or above), it is to be split there, or one of the two levels is taken as it is.
 */
import { acceptanceOf } from "../../checks/accepted";
import type { Finding } from "../../finding";
import { lengthText } from "../../math/units";
import { lineName } from "../../lines/model";
import { plural } from "../../math/words";
import { lineWanted } from "../../surface/breaklines";
import type { PiecesLeftOut, SurfaceRecipe } from "../../surface/model";
import { applyChange, type OneChange } from "../change/change";
import type { DrawnLine } from "./drawn-lines";
import { splitLine } from "./line-edits";
import { insertShot } from "./shot-edits";
import type { JobState } from "../model/model";
import { refOf, type PointRef } from "../../points/refs";
import { nextFreeNumber } from "../change/next-number";
import { edits, ofLine, rounded, type Repair, type RepairContext } from "./repair-parts";

type Rule = NonNullable<NonNullable<SurfaceRecipe["breaklines"]>["crossing"]>;
const RULES = ["mean", "higher", "lower"] as const satisfies Rule[];
const levelOf = (levels: readonly [number, number], rule: Rule) =>
  rule === "mean" ? (levels[0] + levels[1]) / 2 : rule === "higher" ? Math.max(...levels) : Math.min(...levels);

/** The likeliest first. */
export function repairsOfCrossing(f: Finding, c: RepairContext): (Repair | undefined)[] {
  const levels = f.data.levels as [number, number] | undefined,
    surface = c.state.surfaces.find((s) => s.name === f.data.surface);
  if (!levels || f.lines.length === 0) return [];
  const both = f.lines.length === 2,
    each = both ? [0, 1] : [0];
  return [
    ...(both ? each.map((k) => toAll(f, f.lines[k]!, c)).sort(fewestFirst) : []),
    ...(both ? each.map((k) => toOther(f, levels, k, c)).sort(fewestFirst) : []),
    ...(both ? joinedThere(f, levels, c) : []),
    ...(surface ? each.map((k) => withoutPiece(f, levels, k, surface, c)) : []),
    ...(surface ? each.map((k) => withoutLine(f.lines[k]!, surface, c)) : []),
    ...(surface ? RULES.map((rule) => taking(f, levels, rule, surface, c)) : []),
    ...each.map((k) => splitThere(f, f.lines[k]!, c)),
  ];
}

const fewestFirst = (a: Repair | undefined, b: Repair | undefined) => sizeOf(a) - sizeOf(b);
const sizeOf = (r: Repair | undefined) => (r?.change.type === "points" ? r.change.edits.length : Infinity);

/** One of two crossing lines raised or lowered to the level of the other. */
function toOther(f: Finding, levels: readonly [number, number], k: number, c: RepairContext): Repair | undefined {
  const line = c.line(f.lines[k]!),
    { state } = c,
    t = state.points;
  if (!line || line.companion) return undefined;
  const by = levels[1 - k]! - levels[k]!,
    rows = [...new Set(line.shots)].filter((i) => i >= 0 && !Number.isNaN(t.z[i]!));
  const much = lengthText(Math.abs(by), state.unit),
    name = `${by < 0 ? "Lower" : "Raise"} ${lineName(line)} by ${much} at its ${plural(rows.length, "shot")}`;
  return edits(name, state, rows, "elevation", (i) => rounded(state, t.z[i]! + by));
}

/** A line brought to the level of each that it crosses: between crossings its shots are moved in proportion. */
function toAll(f: Finding, key: string, { state, findings = [], line }: RepairContext): Repair | undefined {
  const drawn = line(key),
    t = state.points,
    crossings = findings.filter(
      (x) =>
        x.kind === f.kind && x.accepted === undefined && x.data.surface === f.data.surface && x.lines.includes(key),
    );
  if (!drawn || drawn.companion || crossings.length < 2) return undefined;
  const rows = drawn.shots.filter((i) => i >= 0),
    chainage = [0];
  for (let k = 1; k < rows.length; k++)
    chainage.push(
      chainage[k - 1]! + Math.hypot(t.e[rows[k]!]! - t.e[rows[k - 1]!]!, t.n[rows[k]!]! - t.n[rows[k - 1]!]!),
    );
  const knots = crossings
    .flatMap((x): [number, number][] => {
      const own = x.lines.indexOf(key),
        [at, levels] = [x.at, x.data.levels as [number, number]];
      return at && x.lines.length === 2 ? [[stationOf(t, rows, chainage, at), levels[1 - own]! - levels[own]!]] : [];
    })
    .sort((a, b) => a[0] - b[0]);
  if (knots.length < 2 || knots.some((k, i) => i > 0 && !(k[0] > knots[i - 1]![0]))) return undefined;
  const by = (at: number) => {
    let k = 1;
    while (k + 1 < knots.length && at > knots[k]![0]) k++;
    const [[c0, b0], [c1, b1]] = [knots[k - 1]!, knots[k]!];
    return b0 + ((b1 - b0) * (at - c0)) / (c1 - c0);
  };
  const moved = rows.flatMap((row, k) => (Number.isNaN(t.z[row]!) ? [] : [{ row, by: by(chainage[k]!) }]));
  return edits(
    `Bring ${lineName(drawn)} to the levels of the ${knots.length} lines that it crosses, at its ${plural(moved.length, "shot")}`,
    state,
    moved.map((m) => m.row),
    "elevation",
    (row, k) => rounded(state, t.z[row]! + moved[k]!.by),
  );
}

/** How far along a line of shots a position is, on the leg that it is nearest to. */
function stationOf(
  t: JobState["points"],
  rows: readonly number[],
  chainage: readonly number[],
  at: readonly [number, number],
): number {
  let best = 0,
    least = Infinity;
  for (let k = 1; k < rows.length; k++) {
    const { far, along } = nearestOn(t, rows[k - 1]!, rows[k]!, at);
    if (far < least) [least, best] = [far, chainage[k - 1]! + along];
  }
  return best;
}

/** How far a position is from the leg between two points, and how far along it. */
function nearestOn(t: JobState["points"], a: number, b: number, [e, n]: readonly [number, number]) {
  const [de, dn] = [t.e[b]! - t.e[a]!, t.n[b]! - t.n[a]!],
    share = Math.max(0, Math.min(1, ((e - t.e[a]!) * de + (n - t.n[a]!) * dn) / (de * de + dn * dn || 1)));
  return { far: Math.hypot(t.e[a]! + share * de - e, t.n[a]! + share * dn - n), along: share * Math.hypot(de, dn) };
}

/** The shots between which a line is crossed, by their rows, and the first one's place in the line. */
function pieceAt(
  line: DrawnLine,
  f: Finding,
  { points: t }: JobState,
): { k: number; rows: [number, number] } | undefined {
  const rows = [...line.shots, ...(line.closed ? line.shots.slice(0, 1) : [])];
  if (!f.at || rows.length < 2 || rows.some((i) => i < 0)) return undefined;
  let [k, least] = [0, Infinity];
  for (let j = 1; j < rows.length; j++) {
    const far = nearestOn(t, rows[j - 1]!, rows[j]!, f.at).far;
    if (far < least) [k, least] = [j - 1, far];
  }
  return { k, rows: [rows[k]!, rows[k + 1]!] };
}

const changed = (old: SurfaceRecipe, breaklines: SurfaceRecipe["breaklines"]): OneChange => ({
  type: "named",
  part: "surfaces",
  name: old.name,
  old,
  new: { ...old, breaklines: { ...old.breaklines, ...breaklines } },
});

/** The crossing piece of a line drawn, and no breakline: it runs below the other, or above. */
function withoutPiece(
  f: Finding,
  levels: readonly [number, number],
  k: number,
  surface: SurfaceRecipe,
  c: RepairContext,
): Repair | undefined {
  const line = c.line(f.lines[k]!),
    piece = line && !line.companion ? pieceAt(line, f, c.state) : undefined;
  if (!piece) return undefined;
  const [a, b] = piece.rows.map((row) => c.state.points.number[row]!) as [string, string],
    runs = f.lines.length < 2 ? "beside" : levels[k]! < levels[1 - k]! ? "below" : "above",
    except = surface.breaklines?.except ?? [],
    known = except.find((x): x is PiecesLeftOut => "pieces" in x);
  const ends = piece.rows.map((row) => refOf(c.state.points, c.state.intakes, row)) as [PointRef, PointRef],
    pieces: [PointRef, PointRef][] = [...(known?.pieces ?? []), ends];
  return {
    name: `${lineName(line!)} runs ${runs} between ${a} and ${b}: drawn there, no breakline`,
    change: changed(surface, { except: [...except.filter((x) => x !== known), { pieces }] }),
  };
}

function withoutLine(key: string, surface: SurfaceRecipe, c: RepairContext): Repair | undefined {
  const line = c.line(key);
  if (!line || line.companion) return undefined;
  const except = surface.breaklines?.except ?? [];
  return {
    name: `Leave ${lineName(line)} out of “${surface.name}”: drawn, no breakline`,
    change: changed(surface, { except: [...except, lineWanted(line, c.state.intakes)] }),
  };
}

/** One level for both, by the surface's rule; what was found is settled with it. */
function taking(
  f: Finding,
  levels: readonly [number, number],
  rule: Rule,
  surface: SurfaceRecipe,
  c: RepairContext,
): Repair {
  const length = lengthText(levelOf(levels, rule), c.state.unit),
    accepted = acceptanceOf(f, `the ${rule} of both levels is taken`, (key) => {
      const line = c.line(key);
      return line ? lineName(line) : key;
    });
  const settled: OneChange = {
    type: "named",
    part: "accepted",
    name: accepted.name,
    old: c.state.accepted.find((x) => x.name === accepted.name) ?? null,
    new: accepted,
  };
  if ((surface.breaklines?.crossing ?? "mean") === rule)
    return { name: `Accept the ${rule} level there, ${length}`, change: settled };
  const name = `Take the ${rule} level, ${length} there, at every crossing of “${surface.name}”`;
  return { name, change: { type: "several", text: name, changes: [changed(surface, { crossing: rule }), settled] } };
}

/**
 * A point at the crossing becomes a shot of both lines: they meet there at one level, whatever the surface's rule. A
 * piece that is steered is no straight way to put a shot into.
 */
function joinedThere(f: Finding, levels: readonly [number, number], c: RepairContext): Repair[] {
  const lines = f.lines.map((key) => c.line(key)),
    pieces = lines.map((line) => (line && !line.companion ? pieceAt(line, f, c.state) : undefined));
  const isSteered = (line: DrawnLine, k: number) =>
    [k, k + 1].some((j) => line.steering?.[j % line.shots.length]?.trim());
  if (!f.at || lines.some((line, j) => !line || !pieces[j] || isSteered(line, pieces[j].k))) return [];
  const [e, n] = f.at,
    number = nextFreeNumber(c.state),
    id = 1 + Math.max(0, c.state.points.id.at(-1) ?? 0);
  const addAt = (z: number): OneChange => ({
    type: "add",
    points: { id: [id], number: [number], easting: [e], northing: [n], elevation: [z], description: [""] },
  });
  // What becomes of the lines is the same at any level: found once, since each step looks through all points.
  const intoLines: OneChange[] = [];
  let state = applyChange(c.state, addAt(0));
  for (const [j, line] of lines.entries()) {
    const edit = insertShot(state, line!, state.points.count - 1, pieces[j]!.k);
    if ("refused" in edit) return [];
    intoLines.push(...(edit.change.type === "several" ? edit.change.changes : [edit.change as OneChange]));
    if (j === 0) state = applyChange(state, edit.change);
  }
  const text = `${lineName(lines[0]!)} and ${lineName(lines[1]!)} joined by point ${number}`;
  return RULES.map((rule) => {
    const z = rounded(c.state, levelOf(levels, rule));
    return {
      name: `Join both there by a point at ${lengthText(z, c.state.unit)}, the ${rule} level`,
      change: { type: "several", text, changes: [addAt(z), ...intoLines] },
      makes: { number, e, n, z, description: "" },
    };
  });
}

function splitThere(f: Finding, key: string, c: RepairContext): Repair | undefined {
  const line = c.line(key),
    piece = line && pieceAt(line, f, c.state);
  if (!piece) return undefined;
  const [a, b] = piece.rows.map((row) => c.state.points.number[row]!);
  return ofLine(`Split ${lineName(line)} between ${a} and ${b}: nothing is drawn there`, key, c, (l) =>
    splitLine(c.state, l, piece.k, true),
  );
}

/**
 * What a change did, thing by thing, in words: the point, line or setting with its value before and after. For the
 * ledger on the screen and for its extract; never a code, a brace or an id.
 */
import { lineNamed, type LineName } from "../../lines/names";
import type { Accepted } from "../../checks/accepted";
import type { Construction } from "../../construct/model";
import { writeConstruction } from "../../construct/written";
import { fieldName, isLength, type EditField } from "../../records/fields";
import { decodeAttributes } from "../../points/attributes";
import { decodeCueEdits } from "../../points/cue-edits";
import type { EditValue } from "../../points/edits";
import { sameJson } from "../../math/json";
import { plural } from "../../math/words";
import { valueText, type Change, type NamedChange, type OneChange } from "./change";
import { findPoints, type PointRef, type RefColumns } from "../../points/refs";
import { movedWords, moveWords } from "../../points/move-words";
import type { Move } from "../../points/moves";
import { rowOf } from "../../points/table";
import { partOf, type NamedState } from "../model/parts";
import { AS_IT_IS, passed } from "../model/references";
import { SETTINGS, type Setting, type SettingField } from "../model/settings";

/** What a detail speaks of, by identity. */
export type Subject =
  | { point: number; field?: EditField }
  | { part: NamedChange["part"]; name: string }
  | { setting: SettingField }
  | { intake: string };

export interface ChangeDetail {
  subject: Subject;
  /** As it is called: “Point 12, elevation”. */
  what: string;
  from: string;
  to: string;
}

export interface DetailNames {
  /** The number that a point has now; undefined when it is gone. */
  point(id: number): string | undefined;
  /** What a point is called that something refers to. */
  ref(ref: PointRef): string;
  /** The job's length unit, as it is written after a figure. */
  unit: string;
}

/** Names of a job as it is. */
export function detailNames(t: RefColumns, intakes: readonly { id: string }[], unit: string): DetailNames {
  return { point: (id) => t.number[rowOf(t, id)], ref: findPoints(t, intakes).numberOf, unit };
}

/** The details of a change, at most so many; `more` counts those left out. */
export function changeDetails(
  change: Change,
  names: DetailNames,
  most = Infinity,
): { details: ChangeDetail[]; more: number } {
  const details: ChangeDetail[] = [];
  let more = 0;
  for (const d of eachDetail(change, names)) {
    if (details.length < most) details.push(d);
    else more++;
  }
  return { details, more };
}

function* eachDetail(change: Change, names: DetailNames): Generator<ChangeDetail> {
  if (change.type === "intake") {
    const [out, taken] = ["not in the job", "in the job"];
    yield {
      subject: { intake: change.intake },
      what: `“${change.file}”`,
      from: change.instead !== undefined ? "read another way" : change.action === "take" ? out : taken,
      to: change.action === "take" ? taken : out,
    };
  } else for (const c of change.type === "several" ? change.changes : [change]) yield* detailsOfOne(c, names);
}

function* detailsOfOne(c: OneChange, names: DetailNames): Generator<ChangeDetail> {
  switch (c.type) {
    case "points":
      for (const e of c.edits) {
        const number = names.point(e.id);
        yield {
          subject: { point: e.id, field: e.field },
          what: `${number === undefined ? "A point that is gone" : `Point ${number}`}, ${fieldName(e.field)}`,
          from: fieldText(e.field, e.old, names.unit),
          to: fieldText(e.field, e.new, names.unit),
        };
      }
      return;
    case "add":
    case "remove":
      for (const [k, id] of c.points.id.entries()) {
        const at = `${lengthText(c.points.easting[k]!, names.unit)} E, ${lengthText(c.points.northing[k]!, names.unit)} N`;
        yield {
          subject: { point: id },
          what: `Point ${names.point(id) ?? c.points.number[k]}`,
          from: c.type === "add" ? "not there" : at,
          to: c.type === "add" ? at : "not there",
        };
      }
      return;
    case "named": {
      if (c.part === "accepted") {
        const [old, now] = [c.old, c.new].map((a) => (a as Accepted | null)?.reason),
          { kind, points } = (c.new ?? c.old) as Accepted,
          numbers = points.slice(0, 3).flatMap((id) => names.point(id) ?? []);
        yield {
          subject: { part: c.part, name: c.name },
          what: ["Finding", kind.replaceAll("-", " "), ...numbers, ...(points.length > 3 ? ["…"] : [])].join(" "),
          from: old === undefined ? "to look at" : `accepted: ${old}`,
          to: now === undefined ? "to look at" : `accepted: ${now}`,
        };
        return;
      }
      if (c.part === "computed") {
        const [old, now] = [c.old, c.new] as [Construction | null, Construction | null],
          id = (now ?? old)!.point;
        yield {
          subject: { point: id },
          what: `Point ${names.point(id) ?? "that is gone"}, construction`,
          from: constructionText(old, names),
          to: constructionText(now, names),
        };
        return;
      }
      const what = `${capital(partOf(c.part).words)} “${c.name}”`;
      if (c.part === "moves") {
        const [from, to] = [c.old, c.new].map((m) => moveText(m as Move | null, names));
        yield { subject: { part: c.part, name: c.name }, what, from: from!, to: to! };
        return;
      }
      if (c.part === "names") {
        const [from, to] = [c.old, c.new].map((n) => ownNameText(n as LineName | null)),
          { line } = passed("names", (c.new ?? c.old) as LineName, { ...AS_IT_IS, point: names.ref });
        yield { subject: { part: c.part, name: c.name }, what: `Line ${lineNamed(line)}`, from: from!, to: to! };
        return;
      }
      if (c.part === "states") {
        const [from, to] = [c.old, c.new].map((s) => (s ? `after entry ${(s as NamedState).seq}` : "none"));
        yield { subject: { part: c.part, name: c.name }, what, from: from!, to: to! };
        return;
      }
      // Points that it refers to are told by their numbers.
      const said = (thing: unknown) =>
        c.part === "codes" || !thing ? thing : passed(c.part, thing as never, { ...AS_IT_IS, point: names.ref });
      for (const d of differences(said(c.old), said(c.new)))
        yield { subject: { part: c.part, name: c.name }, what: [what, ...d.way].join(", "), from: d.from, to: d.to };
      return;
    }
    case "setting": {
      const what = capital((SETTINGS[c.field] as Setting<unknown>).words);
      for (const d of differences(c.old, c.new))
        yield { subject: { setting: c.field }, what: [what, ...d.way].join(", "), from: d.from, to: d.to };
    }
  }
}

const ownNameText = (n: LineName | null) =>
  n ? [n.name && `called “${n.name}”`, n.color && `in ${n.color}`].filter(Boolean).join(", ") : "as its code says";

/** What is moved and how. */
const moveText = (m: Move | null, names: DetailNames) =>
  m ? `${movedWords(m)}: ${moveWords(m, { decimals: 3, numberOf: names.ref })}` : "none";

/** What a point follows, as a person would write it. */
function constructionText(c: Construction | null, names: DetailNames): string {
  if (!c) return "none";
  const { by, elevation } = passed("computed", c, { ...AS_IT_IS, point: names.ref }),
    out = { angle: "azimuth-dms", order: "NE", decimals: 3 } as const;
  if (by) return writeConstruction({ by, ...(elevation ? { elevation } : {}) }, out);
  // Its position is its own: the level alone follows.
  return writeConstruction({ by: { at: [0, 0] }, ...(elevation ? { elevation } : {}) }, out).replace(
    /^at \S+ \S+ /,
    "",
  );
}

const lengthText = (x: EditValue, unit: string) => (typeof x === "number" ? `${valueText(x)} ${unit}` : valueText(x));

/** A value of a point as it is written, lengths with their unit. */
export function fieldText(field: EditField, value: EditValue, unit: string): string {
  if (isLength(field)) return lengthText(value, unit);
  if (field === "deleted") return value ? "deleted" : "there";
  if (field === "surface") return value === "auto" ? "by code" : `${String(value)} always`;
  if (field === "attributes" && typeof value === "string")
    return (
      Object.entries(decodeAttributes(value))
        .map(([name, x]) => (x === null ? `no ${name}` : `${name} ${x}`))
        .join(" ") || "none"
    );
  if (field !== "cues" || typeof value !== "string") return valueText(value);
  const edits = decodeCueEdits(value).map((e) =>
    [e.element, ...(e.add ?? []).map((w) => `with ${w}`), ...(e.remove ?? []).map((w) => `without ${w}`)].join(" "),
  );
  return edits.join("; ") || "as shot";
}

interface Difference {
  /** The names on the way to it, outermost first. */
  way: string[];
  from: string;
  to: string;
}

type Thing = Record<string, unknown>;
const isThing = (x: unknown): x is Thing => typeof x === "object" && x !== null && !Array.isArray(x);

/** Where two values of a setting or of a named thing differ. */
function* differences(old: unknown, now: unknown, way: string[] = []): Generator<Difference> {
  if (sameJson(old ?? null, now ?? null)) return;
  if (isThing(old) && isThing(now)) {
    for (const key of new Set([...Object.keys(old), ...Object.keys(now)]))
      yield* differences(old[key], now[key], [...way, inWords(key)]);
    return;
  }
  const olds = namedItems(old),
    news = namedItems(now);
  if (olds && news && (olds.size || news.size)) {
    let told = false;
    for (const name of new Set([...olds.keys(), ...news.keys()])) {
      for (const d of differences(olds.get(name), news.get(name), [...way, `“${name}”`])) {
        told = true;
        yield d;
      }
    }
    if (!told) yield { way, from: [...olds.keys()].join(", "), to: [...news.keys()].join(", ") };
    return;
  }
  yield { way, from: brief(old), to: brief(now) };
}

/** The items of a list of things by what they are called; undefined when they are not called anything. */
function namedItems(list: unknown): Map<string, Thing> | undefined {
  if (list === undefined || list === null) return new Map();
  if (!Array.isArray(list) || !list.every(isThing)) return undefined;
  const items = new Map<string, Thing>();
  for (const thing of list) {
    const name = ["code", "name", "crew", "set", "from", "word"]
      .map((k) => thing[k])
      .find((x) => typeof x === "string");
    if (name === undefined || items.has(name as string)) return undefined;
    items.set(name as string, thing);
  }
  return items;
}

/** A value in a few words. */
function brief(value: unknown): string {
  if (value === undefined || value === null) return "none";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) {
    if (value.length === 0) return "none";
    return value.some((x) => typeof x === "object") ? plural(value.length, "item") : value.map(valueText).join(", ");
  }
  if (!isThing(value)) return valueText(value);
  const parts = Object.entries(value).map(([key, x]) => `${inWords(key)} ${isThing(x) ? "set" : brief(x)}`);
  return parts.slice(0, 4).join(", ") + (parts.length > 4 ? " and more" : "");
}

const inWords = (key: string) => key.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);
const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

export interface ReportedEntry {
  seq: number;
  author: string;
  at: string;
  text: string;
  undone: boolean;
  change: Change;
}

/** Details of one entry in a report; a paste of a whole sheet has more than anybody reads. */
const MOST_REPORTED = 500;

/** Entries as a plain text, oldest first: who, when, what, and each value before and after. Times in UTC. */
export function ledgerReport(title: string, entries: readonly ReportedEntry[], names: DetailNames): string {
  const lines = [`Ledger of ${title}`, `${plural(entries.length, "entry", "entries")}, times in UTC`, ""];
  for (const e of entries) {
    const when = e.at.slice(0, 19).replace("T", " ");
    lines.push(`${e.seq}. ${when}  ${e.author}: ${e.text}${e.undone ? " (taken back since)" : ""}`);
    const { details, more } = changeDetails(e.change, names, MOST_REPORTED);
    for (const d of details) lines.push(`    ${d.what}: ${d.from} -> ${d.to}`);
    if (more > 0) lines.push(`    and ${more} more`);
  }
  return `${lines.join("\n")}\n`;
}

/** What a change did to one point: the same change with its other edits left out; undefined where it did nothing to it. */
export function changeAbout<C extends Change>(change: C, point: number): C | undefined {
  switch (change.type) {
    case "points": {
      const edits = change.edits.filter((e) => e.id === point);
      return edits.length ? { ...change, edits } : undefined;
    }
    case "add":
    case "remove": {
      const k = change.points.id.indexOf(point);
      if (k < 0) return undefined;
      const points = Object.fromEntries(Object.entries(change.points).map(([name, column]) => [name, [column[k]]]));
      return { ...change, points };
    }
    case "several": {
      const changes = change.changes.flatMap((c) => changeAbout(c, point) ?? []);
      return changes.length ? { ...change, changes } : undefined;
    }
    case "intake":
      return change.replaced.includes(point) ? { ...change, replaced: [point] } : undefined;
    default:
      return undefined;
  }
}

/** The beginning of a change: as much as shows at least so many of its details, where it can be cut. */
export function beginningOf<C extends Change>(change: C, most: number): C {
  switch (change.type) {
    case "points":
      return { ...change, edits: change.edits.slice(0, most) };
    case "add":
    case "remove": {
      const cut = Object.entries(change.points).map(([name, column]) => [name, column.slice(0, most)]);
      return { ...change, points: Object.fromEntries(cut) };
    }
    case "several":
      return { ...change, changes: change.changes.slice(0, most).map((c) => beginningOf(c, most)) };
    default:
      return change;
  }
}

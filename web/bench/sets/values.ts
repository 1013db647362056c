/** Conditions as texts in fields and back. */
import { UNITS, type Condition, type ConditionKind, type JobState, type SetRule, GROUND } from "@bramble/core";
import { readTypedLength, readTypedNumber } from "@bramble/core/math/typed";
import { plainNumber } from "@bramble/core/math/round";
import { someOf } from "@bramble/core/math/words";
import { orderedNumbers, readNumberList, writeNumbers } from "@bramble/core/points/numbers";
import type { PointRef } from "@bramble/core/points/refs";

/** What a row of the form is about: a condition, or another set. */
export type RowKind = ConditionKind | "set";

export const KIND_NAMES: Record<RowKind, string> = {
  codes: "Code",
  numbers: "Number",
  points: "Points",
  kind: "Kind",
  intake: "Intake",
  crew: "Crew",
  setup: "Setup",
  elevation: "Elevation",
  precision: "Precision",
  time: "Time",
  text: "Description or note",
  attribute: "Attribute",
  inside: "Inside a ring",
  finding: "Finding",
  deleted: "Deleted",
  set: "Set",
};

/** One row: a condition or a set, as it is or not. */
export interface FormRow {
  not: boolean;
  kind: RowKind;
  rule: SetRule;
}

/** A rule as rows under “all” or “any”; undefined where it is nested deeper than the form shows. */
export function rowsOfRule(rule: SetRule): { word: "all" | "any"; rows: FormRow[] } | undefined {
  const [word, parts] =
    "all" in rule
      ? (["all", rule.all] as const)
      : "any" in rule
        ? (["any", rule.any] as const)
        : (["all", [rule]] as const);
  const rows = parts.map((part) => {
    const not = "not" in part,
      of = not ? (part as { not: SetRule }).not : part,
      kind = Object.keys(of)[0] as RowKind;
    return kind in KIND_NAMES ? { not, kind, rule: of } : undefined;
  });
  return rows.every((r) => r !== undefined) ? { word, rows } : undefined;
}

export const ruleOfRows = (word: "all" | "any", rows: readonly FormRow[]): SetRule => {
  const parts = rows.map((r): SetRule => (r.not ? { not: r.rule } : r.rule));
  return word === "all" ? { all: parts } : { any: parts };
};

/** What a new row of a kind asks for at first; chosen points are those that are selected. */
export function blank(kind: RowKind, job: JobState, selected: readonly PointRef[]): SetRule {
  const first: Record<RowKind, SetRule> = {
    codes: { codes: ["*"] },
    numbers: { numbers: "1-100" },
    points: { points: selected },
    kind: { kind: ["measured"] },
    intake: { intake: job.intakes[0] ? [job.intakes[0].id] : [] },
    crew: { crew: job.intakes.flatMap((k) => k.crew ?? []).slice(0, 1) },
    setup: { setup: [] },
    elevation: { elevation: [null, null] },
    precision: { precision: [null, null] },
    time: { time: [null, null] },
    text: { text: "*" },
    attribute: { attribute: { name: job.points.attributes[0]?.name ?? "height", is: "*" } },
    inside: { inside: [] },
    finding: { finding: ["unknown-code"] },
    deleted: { deleted: true },
    set: { set: GROUND },
  };
  return first[kind];
}

/** The points that a row chooses. */
export const chosenIn = ({ rule }: FormRow): readonly PointRef[] => ("points" in rule ? rule.points : []);

type Read = { rule: SetRule } | { problem: string };

/** Words with commas; blanks within a word stay. */
const listOf = (text: string) =>
  text
    .split(",")
    .map((w) => w.trim())
    .filter(Boolean);

/** The text of a row's one field; undefined where it has two ends or another control. */
export function rowText({ kind, rule }: FormRow, numberOf: (ref: PointRef) => string): string | undefined {
  const r = rule as Condition & Record<string, unknown>;
  switch (kind) {
    case "codes":
    case "kind":
    case "intake":
    case "crew":
    case "setup":
    case "finding":
      return (r[kind] as string[]).join(", ");
    case "numbers":
      return typeof r.numbers === "string" ? r.numbers : writeNumbers(r.numbers as string[]);
    case "points":
      return writeNumbers((r.points as PointRef[]).map(numberOf));
    case "text":
      return r.text as string;
    default:
      return undefined;
  }
}

/** `refOf` is who has a number, where somebody has. */
export function readRow(kind: RowKind, text: string, refOf: (number: string) => PointRef | undefined): Read {
  const words = listOf(text);
  if (kind === "text")
    return text.trim() ? { rule: { text: text.trim() } } : { problem: "Write a word, with * for the rest." };
  if (words.length === 0) return { problem: `Write at least one ${KIND_NAMES[kind].toLowerCase()}.` };
  if (kind === "numbers")
    return readNumberList(text) ? { rule: { numbers: text.trim() } } : { problem: "Write numbers such as 12, 40-52." };
  if (kind === "points") {
    const numbers = orderedNumbers(text),
      unknown = numbers.filter((n) => refOf(n) === undefined);
    if (numbers.length === 0) return { problem: "Write numbers such as 12, 40-52." };
    return unknown.length
      ? { problem: `There is no point ${someOf(unknown)}.` }
      : { rule: { points: numbers.map((n) => refOf(n)!) } };
  }
  return {
    rule: { [kind]: kind === "finding" ? words.map((w) => w.replaceAll(" ", "-")) : words } as unknown as SetRule,
  };
}

/** Both ends of a row that has two, as texts. */
export function endsOf({ kind, rule }: FormRow): [string, string] | undefined {
  if (kind !== "elevation" && kind !== "precision" && kind !== "time") return undefined;
  const ends = (rule as Record<string, [unknown, unknown]>)[kind]!;
  return ends.map((x) => (x === null ? "" : typeof x === "number" ? plainNumber(x) : String(x))) as [string, string];
}

export function readEnds(kind: RowKind, texts: [string, string], unit: (typeof UNITS)[number]): Read {
  const ends: (string | number | null)[] = [];
  for (const text of texts) {
    if (text.trim() === "") ends.push(null);
    else if (kind === "time") ends.push(text.trim());
    else {
      const read = readTypedLength(text, unit);
      if ("problem" in read) return read;
      ends.push(read.value);
    }
  }
  return { rule: { [kind]: ends } as unknown as SetRule };
}

export interface AttributeTexts {
  name: string;
  is: string;
  from: string;
  to: string;
}

export function attributeTexts(rule: SetRule): AttributeTexts {
  const { attribute: a } = rule as { attribute: { name: string; is?: string; from?: number; to?: number } };
  const number = (x: number | undefined) => (x === undefined ? "" : plainNumber(x));
  return { name: a.name, is: a.is ?? "", from: number(a.from), to: number(a.to) };
}

/** A word to be like, or else two ends. */
export function readAttribute({ name, is, from, to }: AttributeTexts): Read {
  if (!name.trim()) return { problem: "Name the attribute." };
  if (is.trim()) return { rule: { attribute: { name: name.trim(), is: is.trim() } } };
  const ends: { from?: number; to?: number } = {};
  for (const [key, text] of [
    ["from", from],
    ["to", to],
  ] as const) {
    if (!text.trim()) continue;
    const read = readTypedNumber(text);
    if ("problem" in read) return read;
    ends[key] = read.value;
  }
  return { rule: { attribute: { name: name.trim(), ...ends } } };
}

/**
 * The codes of a book as a table of text, for spreadsheets: one row for each code, one column for each field. Aliases
 * and cue words go by JSON only.
 */
import { UNITS, type Unit } from "../math/units";
import { decodeWestern } from "../math/western";
import { bookIn } from "./book-units";
import {
  type AttributeDefinition,
  type BreaklineKind,
  type CodeBook,
  type CodeEntry,
  type CodeKind,
  LABEL_PLACES,
  type LabelPlace,
} from "./model";
import { guessEncoding } from "../intake/bytes";
import { RecordScanner } from "../intake/scan";

const FIELDS = [
  "code",
  "name",
  "kind",
  "group",
  "layer",
  "color",
  "style",
  "symbol",
  "size mm",
  "size from",
  "rotation",
  "rotation from",
  "opens",
  "ground",
  "breakline",
  "longest segment",
  "attributes",
  "note",
  "note place",
  "note align",
  "note every",
  "note height mm",
  "companions",
  "unit",
] as const;
type Field = (typeof FIELDS)[number];

const ENTRY: Record<Exclude<Field, "unit">, (c: CodeEntry) => string | number | undefined> = {
  code: (c) => c.code,
  name: (c) => c.name,
  kind: (c) => c.kind,
  group: (c) => c.group,
  layer: (c) => c.layer,
  color: (c) => c.color,
  style: (c) => c.style,
  symbol: (c) => c.symbol,
  "size mm": (c) => c.size?.fixed,
  "size from": (c) => c.size?.attribute,
  rotation: (c) => c.rotation?.fixed,
  "rotation from": (c) => c.rotation?.attribute,
  opens: (c) => c.opens,
  ground: (c) => (c.ground === undefined ? undefined : c.ground ? "yes" : "no"),
  breakline: (c) => c.breakline,
  "longest segment": (c) => c.maxSegment,
  attributes: (c) => c.attributes?.map(attributeText).join("; "),
  note: (c) => c.label,
  "note place": (c) => c.labelAt?.place,
  "note align": (c) => c.labelAt?.align,
  "note every": (c) => c.labelAt?.every,
  "note height mm": (c) => c.labelAt?.height,
  companions: (c) => c.companions?.map((x) => [x.right, x.up, ...(x.code ? [x.code] : [])].join(" ")).join("; "),
};

/** `spread:number:m:required`, `kind:choice::wire|mesh` with the parts at the end left out where they say nothing. */
function attributeText(a: AttributeDefinition): string {
  const parts = [a.name, a.type ?? "", a.unit ?? "", a.required ? "required" : "", (a.choices ?? []).join("|")];
  while (parts.length > 1 && parts.at(-1) === "") parts.pop();
  return parts.join(":");
}

/** The codes of a book; `unit` is that of its lengths, said in each row. */
export function bookToTable(book: CodeBook, unit: Unit): string {
  const quote = (x: string | number | undefined) => {
    const text = String(x ?? "");
    return /[",\r\n]|^#|^\s|\s$/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  };
  return (
    [
      FIELDS.join(","),
      ...(book.codes ?? []).map((c) => FIELDS.map((f) => quote(f === "unit" ? unit : ENTRY[f](c))).join(",")),
    ].join("\n") + "\n"
  );
}

export interface ReadTable {
  codes: CodeEntry[];
  /** Of their lengths, where the table says it. */
  unit?: Unit;
  /** What could not be read, in sentences; its row or field is left out. */
  problems: string[];
}

/** Reads such a table back; columns may be in any order and some may be missing. */
export function tableToCodes(file: string, bytes: Uint8Array): ReadTable {
  const utf8 = guessEncoding(bytes) === "utf-8" ? bytes : new TextEncoder().encode(decodeWestern(bytes));
  const decoder = new TextDecoder(),
    head = decoder.decode(utf8.subarray(0, 2000)).split(/\r?\n/)[0] ?? "";
  const delimiter = [",", ";", "\t"].sort((a, b) => head.split(b).length - head.split(a).length)[0]!;
  const scanner = new RecordScanner(file, utf8, { delimiter, quote: '"', comment: "" });
  const record = () =>
    Array.from({ length: scanner.fields }, (_, k) => {
      const text = decoder.decode(utf8.subarray(scanner.starts[k]!, scanner.ends[k]!));
      return scanner.quoted[k] ? text.replaceAll('""', '"') : text;
    });
  const problems: string[] = [],
    codes: CodeEntry[] = [],
    seen = new Set<string>();
  let unit: Unit | undefined;
  if (!scanner.next()) return { codes, problems: ["The table is empty."] };
  const columns = record().map((c) => c.trim().toLowerCase());
  for (const c of columns)
    if (!FIELDS.includes(c as Field)) problems.push(`The column “${c}” is none of a code book and was passed over.`);
  if (!columns.includes("code")) return { codes, problems: [...problems, "There is no column “code”."] };
  while (scanner.next()) {
    const row = scanner.row,
      cells = record();
    const of = (f: Field) => (cells[columns.indexOf(f)] ?? "").trim();
    const tell = (what: string) => problems.push(`Row ${row}${of("code") ? `, ${of("code")}` : ""}: ${what}`);
    const code = of("code").toUpperCase();
    if (!/^[A-Z][A-Z0-9_-]*$/.test(code)) {
      tell(`“${of("code")}” is no code: a letter first, then letters, digits, _ or -. The row was left out.`);
      continue;
    }
    if (seen.has(code)) {
      tell("the code is there twice; the first stays.");
      continue;
    }
    seen.add(code);
    const oneOf = <T extends string>(f: Field, allowed: readonly T[]): T | undefined => {
      const text = of(f).toLowerCase();
      if (text === "" || allowed.includes(text as T)) return (text || undefined) as T | undefined;
      tell(`${f} “${of(f)}” is none of ${allowed.join(", ")}.`);
      return undefined;
    };
    const number = (f: Field, least = -Infinity): number | undefined => {
      const text = of(f),
        x = Number(text.replace(",", "."));
      if (text === "") return undefined;
      if (Number.isFinite(x) && x > least) return x;
      tell(`${f} “${text}” is no ${least === 0 ? "number above 0" : "number"}.`);
      return undefined;
    };
    const ground = oneOf("ground", ["yes", "no"]),
      color = of("color");
    if (color && !/^#[0-9a-f]{6}$/i.test(color)) tell(`color “${color}” is not written as #4b6b3c.`);
    const sizeFrom = of("size from"),
      size = number("size mm", 0),
      turnFrom = of("rotation from"),
      turn = number("rotation");
    const labelAt = clean({
      place: oneOf("note place", LABEL_PLACES) as LabelPlace | undefined,
      align: oneOf("note align", ["start", "middle", "end"] as const),
      every: number("note every", 0),
      height: number("note height mm", 0),
    });
    const own = UNITS.find((u) => u.toLowerCase() === of("unit").toLowerCase());
    if (of("unit") && !own) tell(`unit “${of("unit")}” is none of ${UNITS.join(", ")}.`);
    unit ??= own;
    const entry = clean({
      code,
      name: of("name") || undefined,
      kind: oneOf<CodeKind>("kind", ["point", "line", "area"]),
      group: of("group") || undefined,
      layer: of("layer") || undefined,
      color: /^#[0-9a-f]{6}$/i.test(color) ? color.toLowerCase() : undefined,
      style: of("style") || undefined,
      symbol: of("symbol") || undefined,
      size: sizeFrom ? { attribute: sizeFrom } : size !== undefined ? { fixed: size } : undefined,
      rotation: turnFrom ? { attribute: turnFrom } : turn !== undefined ? { fixed: turn } : undefined,
      opens: oneOf("opens", ["auto", "cue"] as const),
      ground: ground && ground === "yes",
      breakline: oneOf<BreaklineKind>("breakline", ["fixed", "draped", "none"]),
      maxSegment: number("longest segment", 0),
      attributes: list(of("attributes"), (text) => attributeOf(text, tell)),
      label: of("note") || undefined,
      labelAt: Object.keys(labelAt).length ? labelAt : undefined,
      companions: list(of("companions"), (text) => companionOf(text, tell)),
    }) as CodeEntry;
    // All rows are in the unit of the first that says one.
    codes.push(own && unit ? bookIn({ unit: own, codes: [entry] }, unit).book.codes![0]! : entry);
  }
  return { codes, problems, ...(unit && { unit }) };
}

function clean<T extends object>(x: T): T {
  return Object.fromEntries(Object.entries(x).filter(([, v]) => v !== undefined)) as T;
}

function list<T>(text: string, read: (item: string) => T | undefined): T[] | undefined {
  const items = text
    .split(";")
    .map((s) => s.trim())
    .filter(Boolean)
    .flatMap((s) => read(s) ?? []);
  return items.length ? items : undefined;
}

function attributeOf(text: string, tell: (what: string) => void): AttributeDefinition | undefined {
  const [name = "", type = "", unit = "", required = "", choices = ""] = text.split(":").map((s) => s.trim());
  if (!name || !["", "number", "text", "choice"].includes(type))
    return void tell(`attribute “${text}” is not written as name:number:m:required or name:choice:::a|b.`);
  return clean({
    name,
    type: (type || undefined) as AttributeDefinition["type"],
    unit: unit || undefined,
    required: required === "required" ? true : undefined,
    choices: choices ? choices.split("|") : undefined,
  });
}

function companionOf(
  text: string,
  tell: (what: string) => void,
): NonNullable<CodeEntry["companions"]>[number] | undefined {
  const [right, up, code] = text.split(/\s+/),
    numbers = [right, up].map(Number);
  if (numbers.some((x) => !Number.isFinite(x)) || up === undefined)
    return void tell(`companion “${text}” is not written as RIGHT UP or RIGHT UP CODE.`);
  return { right: numbers[0]!, up: numbers[1]!, ...(code ? { code: code.toUpperCase() } : {}) };
}

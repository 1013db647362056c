/** Guesses how a text of points is laid out, from its first rows. What is guessed is shown and can be corrected. */
import { decodeWestern } from "../math/western";
import { meaningOfHead } from "./columns";
import type { Column, FixedColumn, Layout } from "./model";
import { guessEncoding, readNumber, ByteText } from "./bytes";
import { scannerOf } from "./scan";

const SAMPLE_BYTES = 1 << 16;
const SAMPLE_ROWS = 200;

/** Heads that name the point only when no other does, the better one first. */
const WEAK_NUMBERS = ["name", "id"];

/** Counts rows for the container's own use: it names no point. */
const ROW_COUNT = /^(fid|ogcfid|rowid|objectid)$/;

/** Beside latitude and longitude a height of these heads is above the ellipsoid, unless it says otherwise. */
const PLAIN_HEIGHT = /^(h|height)$/;

const wordOf = (head: string) =>
  head
    .normalize("NFD")
    .replace(/\p{M}/gu, "")
    .replace(/[øØ]/g, "o")
    .replace(/[łŁ]/g, "l")
    .toLowerCase()
    .replace(/[\s_]/g, "");

export type CompleteLayout = Omit<Required<Layout>, "table"> & { table?: string };

/**
 * A complete layout for these bytes. Given parts of a layout stay as they are. Without heads the usual order is
 * assumed: number, the two plan coordinates in the job's order, elevation, description.
 */
export function guessLayout(
  bytes: Uint8Array,
  order: "NE" | "EN",
  given: Layout = {},
  head?: string[],
): CompleteLayout {
  let end = Math.min(bytes.length, SAMPLE_BYTES);
  if (end < bytes.length) while (end > 0 && bytes[end - 1] !== 10 && bytes[end - 1] !== 13) end--;
  const sample = bytes.subarray(0, end || Math.min(bytes.length, SAMPLE_BYTES));
  const quote = given.quote ?? '"',
    comment = given.comment ?? "#";
  const rest = {
    quote,
    comment,
    noElevation: given.noElevation ?? [""],
    ...(given.table !== undefined ? { table: given.table } : {}),
  };
  if (given.columns?.some((c) => typeof c === "object")) {
    return {
      ...rest,
      delimiter: " ",
      decimal: given.decimal ?? ".",
      skipRows: given.skipRows ?? 0,
      columns: given.columns,
    };
  }
  const delimiter = given.delimiter ?? guessDelimiter(sample, quote, comment);
  const base = { delimiter, ...rest };
  const read = (skipRows: number) => sampleRows(sample, { ...base, skipRows });
  const decimal = given.decimal ?? guessDecimal(read(0));
  const skipRows = given.skipRows ?? (head ? 0 : guessSkip(sample, base, decimal));
  const columns =
    given.columns ??
    guessColumns(head ?? read(0).find((r) => r.row === skipRows)?.fields, read(skipRows), decimal, order);
  return { ...base, decimal, skipRows, columns };
}

/**
 * Fixed columns from the positions that are blank in every sampled line; the meanings as guessed for blanks as delimiter.
 */
export function guessFixed(bytes: Uint8Array, order: "NE" | "EN", given: Layout = {}): CompleteLayout {
  const lines = sampleLines(bytes, 300)
    .slice(given.skipRows ?? 0)
    .filter((l) => l.trim() !== "" && !((given.comment ?? "#") ? l.startsWith(given.comment ?? "#") : false));
  const width = Math.max(0, ...lines.map((l) => l.length));
  const used = Array.from({ length: width }, (_, k) =>
    lines.some((l) => l[k] !== undefined && l[k] !== " " && l[k] !== "\t"),
  );
  const spans: [number, number][] = [];
  used.forEach((u, k) => {
    if (u && !used[k - 1]) spans.push([k, k + 1]);
    else if (u) spans.at(-1)![1] = k + 1;
  });
  // A column owns the blanks before it, so that longer values still fit.
  const cut = spans.map(([, to], k): FixedColumn => ({
    from: k === 0 ? 0 : spans[k - 1]![1],
    to: k === spans.length - 1 ? Math.max(to, 200) : to,
    is: "skip",
  }));
  const rows = lines
    .slice(0, SAMPLE_ROWS)
    .map((l, i) => ({ row: i + 1, fields: cut.map((c) => l.slice(c.from, c.to).trim()) }));
  const meanings = guessColumns(undefined, rows, given.decimal ?? ".", order);
  // Words of a description stand apart as well: it goes on to the end of the line.
  const words = meanings.indexOf("description");
  const columns = cut.map((c, k) => ({ ...c, is: meanings[k] ?? "skip" }));
  if (words >= 0) columns.splice(words, columns.length, { ...columns[words]!, to: columns.at(-1)!.to });
  return guessLayout(bytes, order, { ...given, columns });
}

/** The first lines as texts, for the view over a fixed-width file. */
export function sampleLines(bytes: Uint8Array, most: number): string[] {
  const sample = bytes.subarray(0, SAMPLE_BYTES);
  const text = guessEncoding(sample) === "utf-8" ? new TextDecoder().decode(sample) : decodeWestern(sample);
  return text
    .split(/\r\n|\n|\r/)
    .slice(0, most)
    .map((l) => l.slice(0, 2000));
}

/** The headings of a text: the fields of the line above its first row; undefined where there is none. */
export function headingsOf(bytes: Uint8Array, layout: Layout): string[] | undefined {
  const at = layout.skipRows ?? 0;
  if (at === 0 || layout.columns?.some((c) => typeof c === "object")) return undefined;
  return sampleRows(bytes.subarray(0, SAMPLE_BYTES), { ...layout, skipRows: 0 }, at + 1).find((r) => r.row === at)
    ?.fields;
}

interface SampleRow {
  row: number;
  fields: string[];
}

/** The first rows cut into fields, for the guess and for the view over the file. */
export function sampleRows(bytes: Uint8Array, layout: Layout, most = SAMPLE_ROWS): SampleRow[] {
  const encoding = guessEncoding(bytes);
  const text = new ByteText(bytes, encoding);
  const scan = scannerOf("", bytes, layout, encoding);
  const rows: SampleRow[] = [];
  while (rows.length < most && scan.next()) {
    rows.push({
      row: scan.row,
      fields: Array.from({ length: scan.fields }, (_, k) => {
        const field = text.slice(scan.starts[k]!, scan.ends[k]!);
        return scan.quoted[k] ? field.replaceAll(scan.quoteText + scan.quoteText, scan.quoteText) : field;
      }),
    });
  }
  return rows;
}

/** The delimiter that cuts most rows into the same count of at least three fields. */
function guessDelimiter(sample: Uint8Array, quote: string, comment: string): string {
  let best = ",",
    bestScore = 0;
  for (const delimiter of [",", ";", "\t", "|", " "]) {
    const counts = new Map<number, number>();
    const rows = sampleRows(sample, { delimiter, quote, comment });
    for (const r of rows) counts.set(r.fields.length, (counts.get(r.fields.length) ?? 0) + 1);
    for (const [fields, times] of counts) {
      if (fields < 3) continue;
      const numeric = rows.filter(
        (r) => r.fields.length === fields && r.fields.filter((f) => /^[+-]?\d/.test(f)).length >= 2,
      ).length;
      const score = (times + numeric) * (delimiter === " " ? 0.9 : 1) + Math.min(fields, 12) * 0.01;
      if (score > bestScore) [best, bestScore] = [delimiter, score];
    }
  }
  return best;
}

function guessDecimal(rows: SampleRow[]): "." | "," {
  // Where the comma parts columns, a number with one stood in quotes.
  let commas = 0,
    points = 0;
  for (const r of rows)
    for (const f of r.fields) {
      if (/^[+-]?\d+,\d+$/.test(f)) commas++;
      if (/^[+-]?\d+\.\d+$/.test(f)) points++;
    }
  return commas > points ? "," : ".";
}

function isNumber(text: string, decimal: "." | ","): boolean {
  if (text.length > 40) return false;
  const bytes = Uint8Array.from(text, (c) => Math.min(c.charCodeAt(0), 255));
  return !Number.isNaN(readNumber(bytes, 0, bytes.length, decimal.charCodeAt(0)));
}

/** Physical lines before the first row that has at least two numbers, when the rows above it have fewer. */
function guessSkip(sample: Uint8Array, base: Layout, decimal: "." | ","): number {
  const rows = sampleRows(sample, { ...base, skipRows: 0 });
  const numbers = (r: SampleRow) => r.fields.slice(1).filter((f) => isNumber(f, decimal)).length;
  const first = rows.findIndex((r) => numbers(r) >= 2);
  return first <= 0 ? 0 : rows[first]!.row - 1 - commentsBefore(rows, first);
}

/** Comment and blank lines between the last head and the first record are skipped anyway; the head decides. */
function commentsBefore(rows: SampleRow[], first: number): number {
  return rows[first]!.row - 1 - rows[first - 1]!.row;
}

/**
 * A column without a meaning in which every row says something of its own; the container's count of rows when there is
 * no other. −1 for none.
 */
function numberAmong(head: readonly string[], columns: readonly Column[], rows: readonly SampleRow[]): number {
  const free = columns.flatMap((c, i) => (c === "skip" ? [i] : [])),
    isCount = (i: number) => ROW_COUNT.test(wordOf(head[i] ?? ""));
  const own = (i: number) =>
    rows.length > 0 &&
    new Set(rows.map((r) => r.fields[i] ?? "")).size === rows.length &&
    rows.every((r) => (r.fields[i] ?? "") !== "");
  return free.find((i) => !isCount(i) && own(i)) ?? free.find(isCount) ?? -1;
}

function guessColumns(head: string[] | undefined, rows: SampleRow[], decimal: "." | ",", order: "NE" | "EN"): Column[] {
  const width = rows.reduce((w, r) => Math.max(w, r.fields.length), head?.length ?? 0);
  const columns = Array.from({ length: width }, (): Column => "skip");
  if (head) {
    head.forEach((h, i) => {
      const word = wordOf(h);
      const meaning = meaningOfHead(word);
      if (meaning && !columns.includes(meaning)) columns[i] = meaning;
      else if (/^attr:.+/i.test(h)) columns[i] = `attr:${h.slice(5)}`;
    });
    const height = columns.indexOf("elevation");
    if (
      columns.includes("latitude") &&
      columns.includes("longitude") &&
      height >= 0 &&
      PLAIN_HEIGHT.test(wordOf(head[height]!))
    )
      columns[height] = "height";
    const positions = [
      ["northing", "easting"],
      ["station", "offset"],
      ["latitude", "longitude"],
    ] as const;
    const placed = positions.some((pair) => pair.every((c) => columns.includes(c)));
    if (!columns.includes("number")) {
      const named = WEAK_NUMBERS.map((w) => head.findIndex((h, i) => columns[i] === "skip" && wordOf(h) === w)).find(
        (i) => i >= 0,
      );
      const at = named ?? (placed ? numberAmong(head, columns, rows) : -1);
      if (at >= 0) columns[at] = "number";
    }
    if (columns.includes("number") && placed) return columns;
    columns.fill("skip");
  }
  const share = (i: number, test: (f: string) => boolean) =>
    rows.length ? rows.filter((r) => r.fields[i] !== undefined && test(r.fields[i]!)).length / rows.length : 0;
  const numeric = Array.from({ length: width }, (_, i) => share(i, (f) => f === "" || isNumber(f, decimal)) > 0.6);
  columns[0] = "number";
  const plan = numeric.flatMap((is, i) => (is && i > 0 ? [i] : []));
  const [first, second, third] = plan;
  if (first !== undefined) columns[first] = order === "NE" ? "northing" : "easting";
  if (second !== undefined) columns[second] = order === "NE" ? "easting" : "northing";
  if (third !== undefined) columns[third] = "elevation";
  const words = numeric.findIndex((is, i) => !is && i > (second ?? 0));
  if (words > 0) columns[words] = "description";
  return columns;
}

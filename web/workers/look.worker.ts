/** The look at a file before it is taken in: read by the same reader as on the server, counted, nothing stored. */
import { refusal, Refusal, type CodeBook, type Layout, type Unit, unitFactor } from "@bramble/core";
import { compileBook } from "@bramble/core/codes/book";
import { parseDescription } from "@bramble/core/codes/parse";
import { readDelimited } from "@bramble/core/intake/delimited";
import { guessLayout, sampleRows, type CompleteLayout } from "@bramble/core/intake/guess";
import { checkText } from "@bramble/core/intake/delimited";
import { nearestName } from "@bramble/core/math/words";

export interface LookRequest {
  serial: number;
  file: string;
  bytes: ArrayBuffer;
  layout: Layout;
  order: "NE" | "EN";
  unit: Unit;
  jobUnit: Unit;
  encoding?: "utf-8" | "latin1";
  book: CodeBook;
  /** Numbers in use in the job. */
  taken: string[];
}

export interface LookedCode { code: string; count: number; by: "code" | "alias" | "cut-off" | "unknown"; written: string; nearest?: string }

export interface Look {
  serial: number;
  layout: CompleteLayout;
  sample: { row: number; fields: string[] }[];
  /** Why nothing could be read; the sample still shows the file. */
  problem?: string;
  rows: number;
  points: number;
  withoutElevation: number;
  refused: { row: number; reason: string }[];
  clashes: { number: string; row: number }[];
  codes: LookedCode[];
  notes: string[];
  /** East, north of each point, in the job's unit. */
  places: Float64Array;
}

self.onmessage = ({ data }: MessageEvent<LookRequest>) => self.postMessage(look(data));

function look(q: LookRequest): Look | { serial: number; problem: string } {
  const bytes = new Uint8Array(q.bytes);
  try {
    checkText(q.file, bytes);
  } catch (e) {
    return { serial: q.serial, problem: (e as Error).message };
  }
  const layout = guessLayout(bytes, q.order, q.layout);
  const sample = sampleRows(bytes, layout, 40);
  const empty: Look = { serial: q.serial, layout, sample, rows: 0, points: 0, withoutElevation: 0, refused: [], clashes: [], codes: [], notes: [], places: new Float64Array(0) };
  try {
    const r = readDelimited(q.file, bytes, layout, q.encoding);
    if (r.count === 0) throw refusal("file-no-rows", { file: q.file });
    const factor = unitFactor(q.unit, q.jobUnit);
    const places = new Float64Array(2 * r.count);
    const taken = new Set(q.taken), clashes: Look["clashes"] = [];
    let withoutElevation = 0;
    const perText = new Map<number, number>();
    for (let i = 0; i < r.count; i++) {
      places[2 * i] = r.e[i]! * factor;
      places[2 * i + 1] = r.n[i]! * factor;
      if (Number.isNaN(r.z[i]!)) withoutElevation++;
      if (taken.has(r.number[i]!)) clashes.push({ number: r.number[i]!, row: r.row[i]! });
      taken.add(r.number[i]!);
      perText.set(r.description[i]!, (perText.get(r.description[i]!) ?? 0) + 1);
    }
    return { ...empty, rows: r.rows, points: r.count, withoutElevation, refused: r.refused, clashes, codes: countCodes(r.texts, perText, q.book), notes: r.notes, places };
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    return { ...empty, problem: e.message };
  }
}

function countCodes(texts: string[], perText: Map<number, number>, codeBook: CodeBook): LookedCode[] {
  const book = compileBook(codeBook);
  const codes = new Map<string, LookedCode>();
  for (const [text, count] of perText) {
    for (const e of parseDescription(texts[text]!, book).elements) {
      const by = e.entry ? e.by! : "unknown";
      const written = by === "code" || by === "unknown" ? e.code : e.word.replace(/\d+$/, "").toUpperCase();
      const key = `${by} ${written} ${e.code}`;
      const known = codes.get(key) ?? { code: e.code, count: 0, by, written, ...(by === "unknown" ? { nearest: nearestName(e.code, book.codes.keys()) } : {}) };
      known.count += count;
      codes.set(key, known);
    }
  }
  const rank = { unknown: 0, "cut-off": 1, alias: 2, code: 3 };
  return [...codes.values()].sort((a, b) => rank[a.by] - rank[b.by] || b.count - a.count);
}

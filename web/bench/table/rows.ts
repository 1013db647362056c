/** Which points the table shows, and in which order. */
import type { JobState } from "@bramble/core";
import { filterWords } from "@bramble/core/points/filter";
import { compareNumbers } from "@bramble/core/points/numbers";
import type { View } from "../../lib/view";
import type { Column, TableData } from "./columns";

export interface RowFilter {
  text: string;
  /** A code, or * for every one. */
  code: string;
  /** The key of an intake, or *. */
  intake: string;
  only: "all" | "findings" | "selected";
}

export const EVERY_POINT: RowFilter = { text: "", code: "*", intake: "*", only: "all" };

export interface Rows {
  /** Rows of the table of points. */
  rows: Int32Array;
  /** Words of the filter that no point is like. */
  missing: string[];
}

export function filterRows(job: JobState, view: View, f: RowFilter, selected: ReadonlySet<number>): Rows {
  const t = job.points,
    words = filterWords(f.text),
    hits = words.map(() => 0);
  const found = f.only === "findings" ? new Set(view.findings.flatMap((x) => x.points)) : undefined;
  const code = f.code === "*" ? -1 : view.codes.indexOf(f.code),
    intake = f.intake === "*" ? -1 : job.intakes.findIndex((k) => k.id === f.intake);
  const rows = new Int32Array(t.count),
    named: number[] = [];
  let count = 0;
  for (let i = 0; i < t.count; i++) {
    if (t.deleted[i]) continue;
    if (f.code !== "*" && view.code[i] !== code) continue;
    if (f.intake !== "*" && t.intake[i] !== intake) continue;
    if (found && !found.has(t.id[i]!)) continue;
    if (f.only === "selected" && !selected.has(t.id[i]!)) continue;
    if (words.length) {
      const number = t.number[i]!,
        itsCode = view.codes[view.code[i] ?? 0] ?? "",
        description = t.texts[t.description[i]!]!;
      let any = false;
      words.forEach((w, k) => {
        if (!w.means(number, itsCode, description)) return;
        hits[k]!++;
        any = true;
      });
      if (!any) continue;
      if (words.length === 1 && words[0]!.isNamed(number)) {
        named.push(i);
        continue;
      }
    }
    rows[count++] = i;
  }
  // The very point that is named comes first.
  const rest = rows.subarray(0, count);
  const all = named.length ? Int32Array.from([...named, ...rest]) : rest.slice();
  return { rows: all, missing: words.length > 1 ? words.filter((_, k) => hits[k] === 0).map((w) => w.text) : [] };
}

/** The rows by one column: numbers by their size, texts as people sort point numbers; equal ones stay as they were. */
export function sortRows(of: TableData, rows: Int32Array, by: Column | undefined, down: boolean): Int32Array {
  if (!by) return rows;
  const turn = down ? -1 : 1,
    keys = Array.from(rows, (i) => by.sort(of, i)),
    order = Int32Array.from(rows.keys());
  const compare =
    typeof keys[0] === "string"
      ? (a: number, b: number) => compareNumbers(keys[a] as string, keys[b] as string)
      : (a: number, b: number) => (keys[a] as number) - (keys[b] as number);
  order.sort((a, b) => turn * compare(a, b) || a - b);
  return order.map((k) => rows[k]!);
}

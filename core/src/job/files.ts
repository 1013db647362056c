/**
 * What is drawn and what leaves: texts asked for at a scale, and each entry of the handover written from the job's
 * state and what was derived.
 */
import { layOutTexts, TEXT_HEIGHT, type LayoutSource, type TextsWanted } from "../drawing/layout";
import { writeCsv } from "../handover/csv";
import { writeDxf } from "../handover/dxf/write";
import type { HandoverFile } from "../handover/model";
import type { Derived } from "./values";
import type { JobState } from "./model";
import { METRES } from "../math/units";
import { extentOf, type PointTable } from "../points/table";
import { pointsOfSelection } from "../sets/sets";
import { setContext } from "./sets";

/** What a job's state and everything derived from it give to lay out. */
export function layoutSource(state: JobState, d: Derived, want: TextsWanted): LayoutSource {
  const context = setContext(state, d);
  const sets = new Map(
    (state.drawing?.points ?? []).flatMap(({ set }) => {
      // A set that was renamed or cannot be told labels nothing until it is put right.
      try {
        return set === "*" ? [] : [[set, pointsOfSelection(set, context, "labels")] as const];
      } catch {
        return [];
      }
    }),
  );
  return {
    table: state.points,
    symbols: d.symbols,
    notes: d.notes,
    chains: d.chains,
    contours: d.drawnContours.flatMap((c) => (c.ok ? [c.value] : [])),
    drawing: state.drawing ?? {},
    sets,
    want,
    lines: d.lines.map((l) => ({
      code: l.code,
      kind: l.entry.kind,
      group: l.entry.group ?? "",
      layer: l.entry.layer ?? l.code,
      style: l.entry.style,
      closed: l.closed,
    })),
  };
}

/** What a writer of files is given: the job, what follows from it, and the points that the file is of. */
interface Handover {
  file: HandoverFile;
  state: JobState;
  derived: Derived;
  /** Their rows in the table, in the file's order. */
  rows: Int32Array;
}

/** One format that leaves. Throws a Refusal when something that it needs could not be made. */
interface Writer {
  format: HandoverFile["format"];
  write(handover: Handover): Uint8Array;
}

const utf8 = (text: string) => new TextEncoder().encode(text);

const WRITERS: readonly Writer[] = [
  {
    format: "csv",
    write: ({ file, state, derived, rows }) => utf8(writeCsv(file, state.points, derived.coded, state.intakes, rows)),
  },
  {
    format: "dxf",
    write({ state, derived, rows }) {
      for (const c of derived.contours) if (!c.ok) throw c.refusal;
      const metres = METRES[state.unit],
        unitsPerMm = (state.drawing?.scale ?? paperScale(state.points, metres)) / 1000 / metres;
      const source = layoutSource(state, derived, { notes: true, points: true, contours: true });
      return utf8(
        writeDxf({
          unit: state.unit,
          book: state.book,
          table: state.points,
          coded: derived.coded,
          rows,
          lines: derived.lines,
          chains: derived.chains,
          symbols: derived.symbols,
          contours: source.contours,
          layout: layOutTexts(source, unitsPerMm),
          drawing: source.drawing,
          textHeight: TEXT_HEIGHT * unitsPerMm,
          unitsPerMm,
        }),
      );
    },
  },
];

/** The bytes of one file. Throws a Refusal when something it names could not be made. */
export function writeFile(file: HandoverFile, state: JobState, derived: Derived): Uint8Array {
  const rows = pointsOfSelection(file.points ?? "*", setContext(state, derived), `handover “${file.file}”`);
  return WRITERS.find((w) => w.format === file.format)!.write({ file, state, derived, rows });
}

const SCALES = [50, 100, 200, 250, 500, 1000, 2000, 2500, 5000, 10_000, 20_000, 25_000, 50_000];

/** The largest usual scale (as its denominator) at which the points fit a sheet of 0.8 m by 0.55 m. */
export function paperScale(t: PointTable, metres: number): number {
  const x = extentOf(t);
  if (!x) return 500;
  const needed = Math.max(((x.maxE - x.minE) * metres) / 0.8, ((x.maxN - x.minN) * metres) / 0.55);
  return SCALES.find((s) => s >= needed) ?? SCALES.at(-1)!;
}

/**
 * One thing changed in an open job, to all that follows from it, against a run of the whole: what a person waits for in
 * the worker.
 */
import { applyChange, Chain, GENERAL_BOOK, tolerancesIn, type EditableChange, type JobState } from "../src";
import type { EditField } from "../src/records/fields";
import type { EditValue } from "../src/points/edits";
import { fieldValue } from "../src/points/edits";
import { emptyTable } from "../src/points/table";
import { ground } from "./data";
import { least, tell } from "./measure";

/** A job with a surface through its breaklines, contours and a volume, on rolling ground. */
export function jobOf(size: number): JobState {
  const { table } = ground(size),
    inLines = Math.floor(size / 10),
    texts = ["", "SPOT"];
  // Of each chain of twenty shots one run.
  for (let l = 0; 20 * l < inLines; l++) texts.push(`TOP${l + 1}`);
  const description = Uint32Array.from({ length: size }, (_, i) => (i < inLines ? 2 + Math.floor(i / 20) : 1));
  return {
    name: "bench",
    unit: "m",
    order: "NE",
    tolerance: tolerancesIn("m"),
    book: GENERAL_BOOK,
    delivered: [{}],
    setups: [],
    lines: [],
    computed: [],
    sets: [],
    handover: [],
    accepted: [],
    added: [],
    states: [],
    differences: [],
    intakes: [
      {
        id: "day1",
        file: "day1.csv",
        format: "delimited",
        clash: "stop",
        kind: "measured",
        rows: size,
        points: size,
        refused: [],
        clashes: [],
        setups: 0,
        beyond: [],
        notes: [],
      },
    ],
    surfaces: [{ name: "ground", breaklines: { codes: ["TOP"] } }],
    contours: [{ surface: "ground", interval: 0.5 }],
    volumes: [{ name: "to 100", surface: "ground", level: 100 }],
    points: {
      ...emptyTable(),
      ...table,
      description,
      texts,
      follows: new Uint8Array(size),
      cues: new Uint32Array(size),
    },
  };
}

const CHANGES: [string, EditField, (k: number, now: EditValue) => EditValue][] = [
  ["elevation", "elevation", (k, now) => Number(now) + (k % 2 ? 0.25 : -0.25)],
  ["note", "note", (k) => `note ${k}`],
  ["number", "number", (k) => `N${k}`],
];

export function benchChanges(size: number, rounds: number): void {
  const chain = new Chain();
  let state = jobOf(size),
    serial = 0;
  // What comes after the check of levels is waited for; that check is measured by itself.
  chain.run(state, true);
  const one = (field: EditField, value: (k: number, now: EditValue) => EditValue) => () => {
    const row = Math.floor(size / 2),
      old = fieldValue(state.points, row, field);
    const edit: EditableChange = {
      type: "points",
      edits: [{ id: state.points.id[row]!, field, old, new: value(++serial, old) }],
    };
    state = applyChange(state, edit);
    chain.run(state, true);
  };
  const times = least(
    [
      { name: "full", run: () => new Chain().run(state, true) },
      ...CHANGES.map(([name, field, value]) => ({ name, run: one(field, value) })),
    ],
    rounds,
  );
  for (const [name] of CHANGES)
    tell(`one ${name} changed`, size, times.get(name)!, "the whole chain", times.get("full")!, "0.15 or less");
}

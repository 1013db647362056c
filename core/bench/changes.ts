/**
 * One thing changed in an open job, to all that follows from it, against a run of the whole: what a person waits for in
 * the worker.
 */
import { applyChange, Chain, GENERAL_BOOK, tolerancesIn, type EditableChange, type JobState } from "../src";
import type { EditField } from "../src/records/fields";
import type { EditValue } from "../src/points/edits";
import { fieldValue } from "../src/points/edits";
import type { Construction } from "../src/construct/model";
import { tableOfAdded } from "../src/points/add";
import { refOf, refOfMade } from "../src/points/refs";
import { emptyTable, insertPoints } from "../src/points/table";
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
    moves: [],
    names: [],
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

/** Points that follow others, every twentieth a chain of two: in no surface and no line. */
function following({ points: t, intakes, ...job }: JobState, count: number): JobState {
  const first = t.id[t.count - 1]! + 1,
    source = (k: number) => refOf(t, intakes, Math.floor(((k + 1) * t.count) / (count + 2)));
  const points = insertPoints(
    t,
    tableOfAdded({
      id: Array.from({ length: count }, (_, k) => first + k),
      number: Array.from({ length: count }, (_, k) => `C${k}`),
      easting: Array.from({ length: count }, () => t.e[0]!),
      northing: Array.from({ length: count }, () => t.n[0]!),
      elevation: Array.from({ length: count }, () => null),
      description: Array.from({ length: count }, () => "WATERLEVEL"),
      kind: Array.from({ length: count }, () => "design" as const),
    }),
  );
  const computed = Array.from({ length: count }, (_, k): Construction => {
    const from = k % 20 === 1 ? refOfMade(first + k - 1, `C${k - 1}`) : source(k);
    return k % 2
      ? { point: first + k, by: { from, azimuth: k % 360, distance: 5 }, elevation: { of: from, up: 0.5 } }
      : { point: first + k, by: { between: [from, source(k + 1)], ratio: 0.25 }, elevation: { along: true } };
  });
  return { ...job, intakes, points, computed };
}

const FOLLOWERS = 10_000;

/** One source raised, with and without very many points that follow others; the two jobs are otherwise the same. */
export function benchFollowing(size: number, rounds: number): void {
  const plain = jobOf(size),
    times = least(
      [plain, following(plain, FOLLOWERS)].map((job, k) => {
        const chain = new Chain();
        let state = job,
          serial = 0;
        chain.run(state, true);
        return {
          name: k ? "followed" : "plain",
          run: () => {
            const row = Math.floor(((5000 + 1) * size) / (FOLLOWERS + 2)),
              old = fieldValue(state.points, row, "elevation"),
              edit = {
                id: state.points.id[row]!,
                field: "elevation" as const,
                old,
                new: Number(old) + (++serial % 2 ? 0.25 : -0.25),
              };
            state = applyChange(state, { type: "points", edits: [edit] });
            chain.run(state, true);
          },
        };
      }),
      rounds,
    );
  tell(
    `one source raised, ${FOLLOWERS} follow`,
    size,
    times.get("followed")!,
    "nobody follows",
    times.get("plain")!,
    "about 1",
  );
}

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

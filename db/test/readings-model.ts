/**
 * Deliveries with overlapping numbers taken in, read again, withdrawn, restored and edited by two people in any order, with
 * answers lost and asked for again, against a plain model of what must be there. npm run soak -- readings [RUNS] tries it for long.
 */
import { randomUUID } from "node:crypto";
import fc from "fast-check";
import {
  GENERAL_BOOK,
  Refusal,
  type ClashPolicy,
  type EditableChange,
  type IntakeOptions,
  type Layout,
} from "@bramble/core";
import { fieldValue, type EditValue } from "@bramble/core/points/edits";
import type { EditField } from "@bramble/core/records/fields";
import {
  createJob,
  getPool,
  listJobs,
  loadJob,
  loadJobState,
  readIntakeAgain,
  redoLast,
  storeChange,
  takeIntake,
  turnOneIntake,
  undoLast,
  type ToldEntry,
} from "../src/index";

const LAYOUT: Layout = { delimiter: ",", columns: ["number", "easting", "northing", "elevation", "description"] };
const FILES = [
  [1, 2, 3, 4, 5],
  [3, 4, 5, 6, 3],
  [4, 6, 7, 1],
];
const NAMES = ["a", "b", "c"];
const POLICIES = ["stop", "keep-first", "replace", "add"] as const;
const PEOPLE = ["Ada", "Ben"];

/** A shot of one reading as the office has it. */
interface Shot {
  row: number;
  came: string;
  number: string;
  note: string;
  isOut: boolean;
}
interface Reading {
  policy: ClashPolicy;
  crew: string;
  shots: Shot[];
}
/** What stood aside when a delivery came, went or was read again last. */
let away = new Set<Shot>();
interface Delivery {
  name: string;
  stands: boolean;
  reading: Reading;
}
type Deed =
  | {
      kind: "edit";
      of: string;
      reading: Reading;
      row: number;
      field: "number" | "note" | "isOut";
      old: unknown;
      new: unknown;
    }
  | { kind: "stand"; of: string; reading: Reading; stands: boolean }
  | { kind: "read"; of: string; old: Reading; new: Reading };

/** In the order in which they were first taken in. */
type Model = Delivery[];

class Refused extends Error {}

/** What is there. */
const present = (model: Model) =>
  model.flatMap(({ name: of, stands, reading }) =>
    stands ? reading.shots.filter((shot) => !shot.isOut && !away.has(shot)).map((shot) => ({ of, shot })) : [],
  );

/** What stands aside as living() sees it. */
let aside = new Set<Shot>();

/** Settles anew what stands aside; refused, with nothing changed, where one number would be there twice. */
function settle(model: Model): void {
  living(model);
  away = aside;
}

/** What is there of the standing deliveries as they answer; refused where one number would be there twice. */
function living(model: Model, before = model.length): { of: string; shot: Shot }[] {
  aside = new Set();
  let there: { of: string; shot: Shot }[] = [];
  // Who came with a number and has it still, whatever became of it.
  const came: { of: string; shot: Shot }[] = [];
  for (const { name: of, stands, reading } of model.slice(0, before)) {
    if (!stands) continue;
    for (const shot of reading.shots) {
      const same = there.find((x) => x.shot.number === shot.number);
      if (reading.policy === "replace") {
        const gone = new Set(came.filter((x) => x.shot.came === shot.came).map((x) => x.shot));
        for (const shot of gone) aside.add(shot);
        if (same) aside.add(same.shot);
        there = there.filter((x) => x !== same && !gone.has(x.shot));
      }
      if (shot.number === shot.came) came.push({ of, shot });
      if (reading.policy === "keep-first" && same) aside.add(shot);
      if (shot.isOut || (reading.policy === "keep-first" && same)) continue;
      if (same && reading.policy !== "replace") throw new Refused("twice");
      there.push({ of, shot });
    }
  }
  return there;
}

/** A file read as it is in its turn. */
function read(model: Model, which: number, policy: ClashPolicy, crew: string): Reading {
  const at = model.findIndex((d) => d.name === NAMES[which]),
    taken = new Set(living(model, at < 0 ? model.length : at).map((x) => x.shot.number)),
    shots: Shot[] = [];
  FILES[which]!.forEach((n, k) => {
    let number = String(n);
    const isTaken = (x: string) => taken.has(x) || shots.some((s) => s.number === x);
    if (isTaken(number)) {
      if (policy === "stop") throw new Refused("clash");
      if (policy === "add")
        do number = String(Number(number) + 1000);
        while (isTaken(number));
    }
    shots.push({ row: k + 1, came: number, number, note: "", isOut: false });
  });
  return { policy, crew, shots };
}

const shotOf = (reading: Reading, row: number) => reading.shots.find((s) => s.row === row)!;

function carryOut(model: Model, deed: Deed, back = false): void {
  const [from, to] = back ? (["new", "old"] as const) : (["old", "new"] as const);
  const delivery = model.find((d) => d.name === deed.of)!;
  if (deed.kind === "edit") {
    const shot = shotOf(deed.reading, deed.row);
    if (!delivery.stands || delivery.reading !== deed.reading) throw new Refused("not there");
    const there = present(model);
    if (shot[deed.field] !== deed[from]) throw new Refused("outdated");
    // What gives way is touched by nobody; what is out is, since it can be brought back.
    if (away.has(shot)) throw new Refused("gives way");
    const was = shot[deed.field];
    (shot as unknown as Record<string, unknown>)[deed.field] = deed[to];
    const numbers = there.filter((x) => x.shot !== shot).map((x) => x.shot.number);
    if (deed.field !== "note" && !shot.isOut && numbers.includes(shot.number)) {
      (shot as unknown as Record<string, unknown>)[deed.field] = was;
      throw new Refused("taken");
    }
    return;
  }
  const [stood, reading] = [delivery.stands, delivery.reading];
  try {
    if (deed.kind === "stand") {
      if (delivery.reading !== deed.reading || delivery.stands === (deed.stands !== back)) throw new Refused("not so");
      delivery.stands = deed.stands !== back;
    } else {
      if (!delivery.stands || delivery.reading !== deed[from]) throw new Refused("not there");
      delivery.reading = deed[to];
    }
    settle(model);
  } catch (e) {
    [delivery.stands, delivery.reading] = [stood, reading];
    throw e;
  }
}

export type Step = [what: number, which: number, policy: number, row: number, who: number];
export const steps = fc.array(fc.tuple(fc.nat(99), fc.nat(2), fc.nat(3), fc.nat(9), fc.nat(1)) as fc.Arbitrary<Step>, {
  minLength: 4,
  maxLength: 22,
});

/** Carries steps out in the database and in the model; throws where they come apart. */
export async function checkSteps(list: readonly Step[]): Promise<void> {
  const job = await createJob({ name: "Readings", unit: "m", order: "EN", book: GENERAL_BOOK }),
    model: Model = [],
    ledger: { who: string; deed: Deed; undone: number; seq: number }[] = [],
    // When somebody last did something new.
    lastNew = new Map<string, number>();
  let seq = 0;
  away = new Set();
  const state = async () => loadJobState(getPool(), await loadJob(getPool(), job));

  for (const [what, which, policyAt, rowAt, whoAt] of list) {
    const who = PEOPLE[whoAt]!,
      name = NAMES[which]!,
      policy = POLICIES[policyAt]!,
      // The name under which a request is asked again when its answer was lost.
      request = randomUUID(),
      delivery = model.find((d) => d.name === name);
    let deed: Deed | undefined, steps: "undo" | "redo" | undefined, run: () => Promise<ToldEntry>, expected: () => void;
    if (!delivery) {
      const options = { file: `${name}.csv`, layout: LAYOUT, clash: policy, crew: "x" },
        bytes = new TextEncoder().encode(FILES[which]!.map((n, k) => `${n},${k},${which},5,SPOT`).join("\n"));
      run = () => takeIntake(job, who, options, bytes, request).then((x) => x.entry);
      expected = () => {
        const made: Delivery = { name, stands: true, reading: read(model, which, policy, "x") };
        settle([...model, made]);
        model.push(made);
        deed = { kind: "stand", of: name, reading: made.reading, stands: true };
      };
    } else if (what < 20 && delivery.stands) {
      const crew = `crew ${what % 3}`,
        given: IntakeOptions = { layout: LAYOUT, clash: policy, crew };
      if (delivery.reading.policy === policy && delivery.reading.crew === crew) continue;
      run = () => readIntakeAgain(job, who, name, given, request).then((x) => x.entry);
      expected = () => {
        const reading = read(model, which, policy, crew);
        for (const shot of reading.shots) {
          const was = shotOf(delivery.reading, shot.row);
          shot.note = was.note;
          shot.isOut = was.isOut;
          if (was.number !== was.came) shot.number = was.number;
        }
        const read2: Deed = { kind: "read", of: name, old: delivery.reading, new: reading };
        carryOut(model, read2);
        deed = read2;
      };
    } else if (what < 45) {
      const stands = !delivery.stands,
        turn: Deed = { kind: "stand", of: name, reading: delivery.reading, stands };
      run = () => turnOneIntake(job, who, name, stands ? "take" : "withdraw", request);
      expected = () => {
        carryOut(model, turn);
        deed = turn;
      };
    } else if (what < 75) {
      const shots = model.flatMap((d) => (d.stands ? d.reading.shots.map((shot) => ({ d, shot })) : [])),
        can = shots.filter(({ shot }) => !away.has(shot)),
        one = can[(7 * rowAt + which) % can.length];
      if (!one) continue;
      const { shot, d } = one,
        field = what < 55 ? "note" : what < 65 ? "number" : "isOut",
        value =
          field === "note"
            ? `note ${seq}`
            : field === "number"
              ? String(1 + ((rowAt + 3 * policyAt) % 9))
              : !shot.isOut;
      if (shot[field] === value || (shot.isOut && field !== "isOut")) continue;
      const edit: Deed = {
          kind: "edit",
          of: d.name,
          reading: d.reading,
          row: shot.row,
          field,
          old: shot[field],
          new: value,
        },
        asked = await editOf(await state(), d.name, shot.row, field, value);
      run = () => storeChange(job, who, asked, request);
      expected = () => {
        carryOut(model, edit);
        deed = edit;
      };
    } else {
      steps = what < 90 ? "undo" : "redo";
      const mine = ledger.filter((x) => x.who === who),
        entry =
          steps === "undo"
            ? mine.filter((x) => x.undone === 0).at(-1)
            : mine.filter((x) => x.undone > (lastNew.get(who) ?? 0)).sort((a, b) => b.undone - a.undone)[0];
      run = () => (steps === "undo" ? undoLast(job, who, true, request) : redoLast(job, who, true, request));
      expected = () => {
        if (!entry) throw new Refused("nothing");
        carryOut(model, entry.deed, steps === "undo");
        entry.undone = steps === "undo" ? seq + 1 : 0;
      };
    }

    let refused: string | undefined, refusedByModel: string | undefined;
    try {
      const { seq: stored } = await run();
      if (rowAt % 4 === 0) {
        const again = await run();
        if (again.seq !== stored) throw new Error(`asked again it was stored again, as ${again.seq} beside ${stored}`);
      }
    } catch (e) {
      if (!(e instanceof Refusal)) throw e;
      refused = e.message;
    }
    try {
      expected();
    } catch (e) {
      if (!(e instanceof Refused)) throw e;
      refusedByModel = e.message;
    }
    if ((refused === undefined) !== (refusedByModel === undefined))
      throw new Error(`refused “${refused}”, by the model “${refusedByModel}”`);
    if (refused === undefined) {
      seq++;
      if (!steps) {
        ledger.push({ who, deed: deed!, undone: 0, seq });
        lastNew.set(who, seq);
      }
    }
    const { points: t, intakes } = await state(),
      is: string[] = [];
    for (let i = 0; i < t.count; i++)
      if (t.deleted[i] === 0)
        is.push(`${t.number[i]}: ${intakes[t.intake[i]!]!.id} row ${t.row[i]} ${t.texts[t.note[i]!]}`);
    const wanted = present(model).map(({ of, shot }) => `${shot.number}: ${of} row ${shot.row} ${shot.note}`);
    if (is.sort().join("\n") !== wanted.sort().join("\n"))
      throw new Error(`There is\n${is.join("\n")}\nand there must be\n${wanted.join("\n")}`);
    const { points } = (await listJobs()).find((j) => j.id === job)!;
    if (points !== wanted.length) throw new Error(`${points} points are counted, ${wanted.length} are there`);
  }
}

async function editOf(
  state: Awaited<ReturnType<typeof loadJobState>>,
  of: string,
  row: number,
  field: "number" | "note" | "isOut",
  value: unknown,
): Promise<EditableChange> {
  const { points: t, intakes } = state,
    name: EditField = field === "isOut" ? "deleted" : field,
    i = Array.from({ length: t.count }, (_, k) => k).find((k) => intakes[t.intake[k]!]?.id === of && t.row[k] === row)!;
  return {
    type: "points",
    edits: [{ id: t.id[i]!, field: name, old: fieldValue(t, i, name), new: value as EditValue }],
  };
}

/**
 * Takes the records of one intake, in the job's unit, into the job's points, deciding what happens to numbers that are
 * there already.
 */
import type { Clash, IntakeOptions } from "../intake/model";
import { FOLLOWS_ALL, KINDS } from "../records/kinds";
import { refusal } from "../errors";
import { LENGTH_FIELDS, TEXT_FIELDS } from "../records/fields";
import type { Records } from "../records/records";
import { addToNumber } from "./numbers";
import { numberIndex } from "./index";
import { concatTables, emptyTable, GONE_GAVE_WAY, type PointTable } from "./table";

export interface Taken {
  /** The new points only, ids from `firstId` on, in row order; those passed over are there and give way. */
  added: PointTable;
  /** Rows in the job's table of points that an incoming one replaces. */
  replaced: number[];
  clashes: Clash[];
}

export interface TakeOptions extends IntakeOptions {
  id: string;
  intakeIndex: number;
  firstId: number;
  /** Every record is let in under its own number and clashes are only listed: for the look before commit. */
  lookOnly?: boolean;
}

/**
 * Numbers are unique in a job; a repeat inside one file clashes too. `stop` refuses the intake, `keep-first`
 * passes the later one over, `replace` lets it take the place, `add` adds to its last digits until it is free.
 */
export function takeRecords(table: PointTable, records: Records, options: TakeOptions): Taken {
  const { add = 1000, clashes: answers = {} } = options;
  const taken = numberIndex(table);
  const mine = new Map<string, number>();
  const numbers = records.number.all();
  const passed = new Uint8Array(records.count);
  const replaced: number[] = [];
  const clashes: Clash[] = [];
  const nextFree = freeNumbers(add, (n) => mine.has(n) || taken.has(n));
  const note = (i: number, became: string) =>
    clashes.push({ number: records.number.at(i), row: records.row[i]!, became });

  for (let i = 0; i < records.count; i++) {
    const number = numbers[i]!;
    const before = mine.get(number),
      inJob = taken.get(number);
    if (before === undefined && inJob === undefined) {
      mine.set(number, i);
      continue;
    }
    if (options.lookOnly) {
      note(i, number);
      continue;
    }
    const clash = Object.hasOwn(answers, number) ? answers[number]! : (options.clash ?? "stop");
    if (clash === "stop") throw refusal("number-clash", { intake: options.id, number, row: records.row[i]! });
    if (clash === "keep-first") {
      passed[i] = 1;
      note(i, "passed over");
    } else if (clash === "replace") {
      if (before !== undefined) passed[before] = 1;
      else replaced.push(inJob!);
      mine.set(number, i);
      note(i, "replaced");
    } else {
      const free = nextFree(number);
      numbers[i] = free;
      mine.set(free, i);
      note(i, free);
    }
  }

  const added = toTable(records, numbers, options);
  for (let i = 0; i < added.count; i++) {
    added.id[i] = options.firstId + i;
    if (passed[i] === 1) added.deleted[i] = GONE_GAVE_WAY;
  }
  return { added, replaced, clashes };
}

/**
 * Numbers that are free, each by adding to one that is not. A number that was passed on the way leads on to where that way
 * ended, so that of many equal ones none goes the way of the others again (path compression, as of disjoint sets).
 */
function freeNumbers(add: number, isTaken: (number: string) => boolean): (number: string) => string {
  const onward = new Map<string, string>();
  return (number) => {
    const passed: string[] = [];
    let free = number;
    do {
      passed.push(free);
      free = onward.get(free) ?? addToNumber(free, add);
    } while (isTaken(free));
    for (const n of passed) onward.set(n, free);
    return free;
  };
}

function toTable(r: Records, number: string[], options: TakeOptions): PointTable {
  const fields = [...LENGTH_FIELDS, ...TEXT_FIELDS].map(({ column }) => [column, r[column]]);
  return {
    ...emptyTable(),
    ...Object.fromEntries(fields),
    count: r.count,
    number,
    id: new Int32Array(r.count),
    intake: new Int32Array(r.count).fill(options.intakeIndex),
    row: r.row,
    kind: kindsOf(r, KINDS.indexOf(options.kind ?? "measured")),
    surface: new Uint8Array(r.count),
    deleted: new Uint8Array(r.count),
    follows: r.observed ? r.observed.map((o) => o * FOLLOWS_ALL) : new Uint8Array(r.count),
    time: r.time,
    cues: new Uint32Array(r.count),
    texts: r.texts,
    attributes: r.attributes,
    measured: r.measured,
  };
}

/** The file's own kinds, else the intake's. */
function kindsOf(r: Records, given: number): Uint8Array {
  return r.kind ? r.kind.map((k) => (k < KINDS.length ? k : given)) : new Uint8Array(r.count).fill(given);
}

/** The job's table after an intake: replaced points give way, new ones are at the end. */
export function withTaken(table: PointTable, taken: Taken): PointTable {
  const out = concatTables(table, taken.added);
  for (const i of taken.replaced) out.deleted[i]! |= GONE_GAVE_WAY;
  return out;
}

/**
 * What a window shows: the job as it is stored, with the person's own changes that are still on their way on top. Knows
 * neither network nor page. Entries of the ledger come in any order, twice or late, and are carried out in theirs; at
 * the end every window shows what is stored. Each step gives the changes that lead from what was shown to what is
 * shown, for the worker to follow.
 */
import { append } from "../../math/many";
import { Refusal } from "../../errors";
import {
  applyChange,
  applyChanges,
  inverse,
  withIndices,
  type EditableChange,
  type OneChange,
  type ToldChange,
} from "../change/change";
import type { JobState } from "../model/model";
import { nameOf } from "../model/parts";
import { sameJson } from "../../math/json";
import { fieldValue } from "../../points/edits";
import { rowOf } from "../../points/table";
import { areApart, withOwn } from "./with-own";

/** A change of the person's own that is not known to be stored. */
export interface Waiting {
  name: string;
  change: EditableChange;
}

/** One that was not stored, since something else stands in its way; the person says what becomes of it. */
export interface Clash extends Waiting {
  why: Refusal;
}

/** An entry of the ledger, as far as it matters here. */
export interface Entry {
  seq: number;
  author: string;
  change: ToldChange;
  /** The name that the window which asked gave its change. */
  client: string | null;
}

/** How to get from what was shown to what is shown; `reload` where only the whole job tells. */
export interface Step<E extends Entry> {
  changes: EditableChange[];
  reload: boolean;
  arrived: E[];
}

export class Sync<E extends Entry = Entry> {
  /** Stored, and on top of it what is waiting. */
  job: JobState;
  /** The last entry of the ledger that is in `job`. */
  version: number;
  waiting: readonly Waiting[] = [];
  clashes: readonly Clash[] = [];
  private readonly early = new Map<number, E>();

  /** `newName` gives a name that no other change has. */
  constructor(
    job: JobState,
    version: number,
    private readonly newName: () => string,
  ) {
    this.job = job;
    this.version = version;
  }

  /**
   * The person changes something: it shows at once, and waits to be stored. Throws a Refusal when it cannot be done
   * here.
   */
  make(name: string, wanted: EditableChange): EditableChange[] {
    const change = withIndices(this.job, wanted);
    this.job = applyChange(this.job, change);
    this.waiting = [...this.waiting, { name, change }];
    return [change];
  }

  /** An entry of the ledger, from the stream or as the answer to a change. */
  arrive(entry: E): Step<E> {
    const step: Step<E> = { changes: [], reload: false, arrived: [] };
    if (entry.seq > this.version) this.early.set(entry.seq, entry);
    else if (this.waiting.some((w) => w.name === entry.client))
      // It is in what is stored, with all that came after it.
      append(
        step.changes,
        this.rebase(
          this.waiting.filter((w) => w.name !== entry.client),
          [],
        ),
      );
    for (let e = this.early.get(this.version + 1); e; e = this.early.get(this.version + 1)) {
      // Beside a delivery, one that is too large to come by itself.
      if (e.change.type === "intake" || e.change.type === "large") return { ...step, reload: true };
      this.early.delete(e.seq);
      try {
        append(step.changes, this.carryOut(e, e.change));
      } catch {
        // What is shown is not what the entry was made on: the whole job is asked for.
        return { ...step, reload: true };
      }
      this.version = e.seq;
      step.arrived.push(e);
    }
    append(step.changes, this.joinUp());
    return step;
  }

  /**
   * Changes of one code by two people that touch different fields both hold: those that clashed go on upon what is there
   * now, under another name, since the server has refused the one.
   */
  private joinUp(): EditableChange[] {
    const out: EditableChange[] = [],
      left: Clash[] = [];
    for (const c of this.clashes) {
      const both = c.why.code === "change-outdated" ? ofBoth(c.change, this.job) : undefined;
      if (!both) {
        left.push(c);
        continue;
      }
      this.job = applyChange(this.job, both);
      this.waiting = [...this.waiting, { name: this.newName(), change: both }];
      out.push(both);
    }
    this.clashes = left;
    return out;
  }

  /** Whether entries between the last one and those that came early are missing. */
  get behind(): boolean {
    return this.early.size > 0;
  }

  private carryOut(entry: E, change: EditableChange): EditableChange[] {
    const [first] = this.waiting;
    if (first && first.name === entry.client && sameJson(first.change, change)) {
      // It shows already, beneath all others that wait.
      this.waiting = this.waiting.slice(1);
      return [];
    }
    return this.rebase(
      this.waiting.filter((w) => w.name !== entry.client),
      [change],
      entry.author,
    );
  }

  /** Takes what waits off, carries out what was stored, and puts on again what of it can stay; the rest are clashes. */
  private rebase(stay: readonly Waiting[], stored: readonly EditableChange[], author?: string): EditableChange[] {
    const back = this.waiting.map((w) => inverse(w.change) as EditableChange).reverse(),
      changes = [...back, ...stored];
    this.job = applyChanges(this.job, changes);
    return [...changes, ...this.putOn(stay, author)];
  }

  private putOn(list: readonly Waiting[], author?: string): EditableChange[] {
    const kept: Waiting[] = [],
      clashes: Clash[] = [];
    for (const w of list) {
      try {
        this.job = applyChange(this.job, w.change);
        kept.push(w);
      } catch (e) {
        if (!(e instanceof Refusal)) throw e;
        const both = e.code === "change-outdated" ? ofBoth(w.change, this.job) : undefined;
        if (both) {
          this.job = applyChange(this.job, both);
          kept.push({ ...w, change: both });
        } else clashes.push({ ...w, why: withAuthor(e, author) });
      }
    }
    this.waiting = kept;
    this.clashes = [...this.clashes, ...clashes];
    return kept.map((w) => w.change);
  }

  /**
   * The server will not store a change: it is taken off, and the person is asked. `sent` is what was sent, which may have
   * been joined with another's since.
   */
  refuse(name: string, why: Refusal, sent?: EditableChange): EditableChange[] {
    const refused = this.waiting.find((w) => w.name === name);
    if (!refused) return [];
    const changes = this.rebase(
      this.waiting.filter((w) => w !== refused),
      [],
    );
    this.clashes = [...this.clashes, { name, change: sent ?? refused.change, why }];
    return [...changes, ...this.joinUp()];
  }

  /** The person gives a change up, whether it waits or clashes. */
  giveUp(name: string): EditableChange[] {
    this.clashes = this.clashes.filter((c) => c.name !== name);
    return this.waiting.some((w) => w.name === name)
      ? this.rebase(
          this.waiting.filter((w) => w.name !== name),
          [],
        )
      : [];
  }

  /** The same wish on what is there now; undefined where there is nothing any more to change. */
  anew(name: string): EditableChange | undefined {
    const clash = this.clashes.find((c) => c.name === name);
    return clash && onPresent(clash.change, this.job);
  }

  /**
   * The whole job as it is stored at a version; `known` are names of changes that are in it. What waits is put on
   * again.
   */
  reload(job: JobState, version: number, known: ReadonlySet<string>, more: readonly Waiting[] = []): EditableChange[] {
    const names = new Set([...known, ...this.waiting.map((w) => w.name)]);
    const list = [...this.waiting.filter((w) => !known.has(w.name)), ...more.filter((w) => !names.has(w.name))];
    this.job = job;
    this.version = version;
    for (const seq of this.early.keys()) if (seq <= version) this.early.delete(seq);
    return this.putOn(list);
  }
}

function withAuthor(e: Refusal, author: string | undefined): Refusal {
  if (author === undefined || e.code !== "change-outdated" || e.data.author) return e;
  return new Refusal(
    e.code,
    { ...e.data, author },
    e.message.replace("was changed meanwhile", `was changed meanwhile by ${author}`),
  );
}

/**
 * A change of a code of the book upon what the code has become, where that became another in other fields alone; undefined
 * where it did not, or where both changed one field: then the person is asked.
 */
function ofBoth(change: EditableChange, job: JobState): EditableChange | undefined {
  if (change.type !== "named" || change.part !== "codes") return undefined;
  const { old, new: mine, name } = change as { old: object | null; new: object | null; name: string },
    theirs = job.book.codes?.find((c) => nameOf("codes", c) === name);
  if (!old || !mine || !theirs || sameJson(theirs, old) || !areApart(theirs, old, mine)) return undefined;
  const both = withOwn<object>(theirs, old, mine);
  return sameJson(both, theirs) ? undefined : { ...change, old: theirs, new: both as never };
}

/** A change whose old values are those of now; undefined where nothing is left to change. */
function onPresent(change: EditableChange, job: JobState): EditableChange | undefined {
  switch (change.type) {
    case "points": {
      const edits = change.edits.flatMap((e) => {
        const i = rowOf(job.points, e.id),
          old = i < 0 ? undefined : fieldValue(job.points, i, e.field);
        return old === undefined || old === e.new ? [] : [{ ...e, old }];
      });
      return edits.length ? { type: "points", edits } : undefined;
    }
    case "setting":
      return { ...change, old: job[change.field] ?? null };
    case "named": {
      const list: readonly unknown[] = change.part === "codes" ? (job.book.codes ?? []) : job[change.part];
      return { ...change, old: list.find((x) => nameOf(change.part, x) === change.name) ?? null };
    }
    case "several": {
      const changes = change.changes.flatMap((c) => (onPresent(c, job) as OneChange | undefined) ?? []);
      return changes.length ? { ...change, changes } : undefined;
    }
    default:
      return change;
  }
}

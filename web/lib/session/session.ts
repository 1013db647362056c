"use client";
/**
 * One open job in one window: what is shown (sync), its changes on their way to the server (one after another, tried
 * again until they are stored, refused or given up), the stream of all others', and the worker that derives from it.
 * Tells what became different; knows no component.
 */
import { Refusal, type EditableChange, type JobState, type RefusalCode } from "@bramble/core";
import type { ToldEntry, StoredIntake } from "@bramble/db";
import { currentAuthor } from "../author";
import { getBytes, getJson, LOST, postJson, Refused } from "../client";
import { jobOfBytes, type JobSent } from "../../sent/job-sent";
import { Outbox } from "./outbox";
import { Stream } from "./stream";
import { Sync, type Clash, type Waiting } from "@bramble/core/job/sync/sync";

/** What the window knows of the job and of how it is stored. */
export interface Shown {
  job: JobState;
  version: number;
  intakes: StoredIntake[];
  withdrawn: StoredIntake[];
  intakeLimit: number;
  ledger: ToldEntry[];
  /** The person's changes that are not stored. */
  waiting: readonly Waiting[];
  clashes: readonly Clash[];
  /** Why what waits is not stored yet; undefined while it is on its way. */
  stuck: string | undefined;
  /** Whether the stream of changes is there: without it the window may be behind. */
  live: boolean;
  /** Who else has the job open. */
  others: string[];
  /** While a rehearsal is on: what was changed in it, none of it stored. */
  held: readonly Waiting[] | undefined;
}

export interface Told {
  show(part: Partial<Shown>): void;
  /** The whole job, as bytes that are the worker's own. */
  load(bytes: ArrayBuffer): void;
  follow(changes: EditableChange[]): void;
  /** Somebody else's change has come. */
  arrived(entry: ToldEntry): void;
}

/** Refusals that say nothing against the change itself: it is tried again. */
const TRY_AGAIN: ReadonlySet<string> = new Set([
  ...LOST,
  "unexpected",
  "job-busy",
  "storing-slow",
  "disk-full",
  "database-read-only",
  "work-ended",
  "work-many",
]);
const SOONEST = 700,
  LATEST = 15_000;
/** Ids reserved at once for points that this window makes. */
const BLOCK = 20;

export class Session {
  private sync: Sync<ToldEntry> | undefined;
  private outbox: Outbox | undefined;
  private stream: Stream | undefined;
  private ledger: ToldEntry[] = [];
  private loading: Promise<void> | undefined;
  private sending = false;
  private wait = SOONEST;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private ids = { next: 0, end: 0 };
  private closed = false;
  /** Names of changes that a rehearsal holds back. */
  private held: Set<string> | undefined;

  constructor(
    readonly jobId: number,
    private readonly told: Told,
  ) {}

  async open(): Promise<void> {
    await this.load();
    const { outbox, left } = await Outbox.open(this.jobId);
    if (this.closed) return;
    this.outbox = outbox;
    if (left.length) await this.load(left);
    // Who is at the keyboard is asked for anew each time: they may have changed.
    this.stream = new Stream(
      () =>
        `/api/jobs/${this.jobId}/stream?${new URLSearchParams({
          after: String(this.sync!.version),
          who: currentAuthor(),
          window: outbox.window,
        })}`,
      {
        entry: (e) => this.arrive(e),
        here: (names) => this.told.show({ others: withoutOne(names, currentAuthor()) }),
        live: (live) => {
          this.told.show(live ? { live } : { live, others: [] });
          if (live) this.retry();
        },
      },
    );
    void this.send();
  }

  close(): void {
    this.closed = true;
    this.stream?.close();
    clearTimeout(this.timer);
  }

  get job(): JobState {
    return this.sync!.job;
  }

  /** The job whole as it is stored now; asked for once at a time. */
  reload(): Promise<void> {
    return (this.loading ??= this.load().finally(() => (this.loading = undefined)));
  }

  private async load(left: readonly Waiting[] = []): Promise<void> {
    const { buffer } = await getBytes(`/api/jobs/${this.jobId}/state`);
    if (this.closed) return;
    // The worker gets bytes of its own: copying a million texts one by one would hold the page for seconds.
    const copy = buffer.slice(0),
      { sent, state } = jobOfBytes(buffer);
    const before = this.sync;
    // What was asked for before another change came is older than what is shown.
    if (before && sent.version < before.version) return this.load(left);
    const known = new Set(sent.ledger.flatMap((e) => e.client ?? []));
    this.sync = before ?? new Sync<ToldEntry>(state, sent.version, () => crypto.randomUUID());
    const changes = this.sync.reload(state, sent.version, known, left);
    this.ledger = sent.ledger;
    this.told.load(copy);
    if (changes.length) this.told.follow(changes);
    this.show(sent);
  }

  private show(sent?: JobSent): void {
    const { job, version, waiting, clashes } = this.sync!;
    const isHeld = (w: Waiting) => this.held?.has(w.name) === true;
    // A rehearsal ends with its window: what it holds is nobody's to send later.
    this.outbox?.keep([...waiting, ...clashes].filter((w) => !isHeld(w)));
    this.told.show({
      job,
      version,
      waiting,
      clashes,
      ledger: this.ledger,
      held: this.held && waiting.filter(isHeld),
      ...(waiting.length ? {} : { stuck: undefined }),
      ...(sent ? { intakes: sent.intakes, withdrawn: sent.withdrawn, intakeLimit: sent.intakeLimit } : {}),
    });
  }

  /** Carries a change out here and sends it on its way. Throws a Refusal when it cannot be done. */
  make(change: EditableChange): void {
    const name = crypto.randomUUID(),
      changes = this.sync!.make(name, change);
    this.held?.add(name);
    this.told.follow(changes);
    this.show();
    // A request takes the page some milliseconds to begin: what the hand did is painted first.
    setTimeout(() => void this.send());
  }

  /** From now on what is changed shows and is held back, until it is taken or dropped. */
  rehearse(): void {
    this.held ??= new Set();
    this.show();
  }

  /** Ends the rehearsal: what it holds goes its way like any other change, or is as if it had never been. */
  endRehearsal(take: boolean): void {
    const held = [...(this.held ?? [])];
    this.held = undefined;
    if (!take) {
      for (const name of held.reverse()) {
        const changes = this.sync!.giveUp(name);
        if (changes.length) this.told.follow(changes);
      }
    }
    this.show();
    void this.send();
  }

  /** An entry of the ledger has come: from the stream, or as the answer to what was asked. */
  arrive(entry: ToldEntry): void {
    const mine = this.sync!.waiting.some((w) => w.name === entry.client),
      step = this.sync!.arrive(entry);
    if (step.changes.length) this.told.follow(step.changes);
    for (const e of step.arrived) {
      const turned =
        e.target === null
          ? this.ledger
          : this.ledger.map((l) =>
              l.seq === e.target
                ? { ...l, undone: e.kind === "undo" }
                : l.alone && l.target === e.target && l.author === e.author
                  ? { ...l, undone: true }
                  : l,
            );
      this.ledger = [e, ...turned];
      if (!mine && e.author !== currentAuthor()) this.told.arrived(e);
    }
    if (step.reload) {
      if (entry.author !== currentAuthor()) this.told.arrived(entry);
      void this.reload().then(
        () => this.told.show({ live: true }),
        () => this.stream?.again(),
      );
    } else if (this.sync!.behind) this.stream?.again();
    this.show();
    // What was joined with another's goes its way.
    if (step.changes.length && this.sync!.waiting.length) void this.send();
  }

  /** An entry that the server made for the person, and all before it, is in what is shown. */
  async arrived(entry: ToldEntry): Promise<void> {
    this.arrive(entry);
    if (this.sync!.version < entry.seq && !this.loading) await this.catchUp();
    await this.loading;
  }

  /** What waits, one after another in the order made. */
  private async send(): Promise<void> {
    if (this.sending || this.closed) return;
    this.sending = true;
    try {
      for (let first = this.sync!.waiting[0]; first && !this.closed; first = this.sync!.waiting[0]) {
        if (this.held?.has(first.name)) return;
        try {
          this.arrive(
            await postJson<ToldEntry>(`/api/jobs/${this.jobId}/changes`, first.change, { "x-change": first.name }),
          );
          this.wait = SOONEST;
          this.told.show({ stuck: undefined });
          // Stored beyond what is known here: what lies between is asked for, and this one is not sent again meanwhile.
          if (this.sync!.waiting[0]?.name === first.name) await this.catchUp();
        } catch (e) {
          if (!(e instanceof Refused)) throw e;
          if (TRY_AGAIN.has(e.code)) return this.later(e.message);
          const changes = this.sync!.refuse(
            first.name,
            new Refusal(e.code as RefusalCode, e.data, e.message),
            first.change,
          );
          if (changes.length) this.told.follow(changes);
          this.show();
          this.stream?.again();
        }
      }
    } catch (e) {
      this.later(e instanceof Error ? e.message : String(e));
    } finally {
      this.sending = false;
    }
  }

  /** The entries that are stored and not known here yet. */
  private async catchUp(): Promise<void> {
    for (let before = -1; before < this.sync!.version && !this.closed;) {
      before = this.sync!.version;
      for (const e of await getJson<ToldEntry[]>(`/api/jobs/${this.jobId}/ledger?after=${before}`)) this.arrive(e);
      if (this.loading) await this.loading;
    }
  }

  private later(why: string): void {
    this.told.show({ stuck: why });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(), this.wait);
    this.wait = Math.min(LATEST, 2 * this.wait);
  }

  /** Tries at once what waits. */
  retry(): void {
    this.wait = SOONEST;
    clearTimeout(this.timer);
    void this.send();
  }

  giveUp(name: string): void {
    const changes = this.sync!.giveUp(name);
    if (changes.length) this.told.follow(changes);
    this.show();
  }

  /** The person's wish once more, on what is there now. False when nothing is left of it. */
  insist(name: string): boolean {
    const change = this.sync!.anew(name);
    if (!change) {
      this.giveUp(name);
      return false;
    }
    // Only when it can be done is the clash settled.
    this.make(change);
    this.giveUp(name);
    return true;
  }

  /** All that waits is stored, or as much of it as can be now. */
  async idle(): Promise<boolean> {
    while (this.sending) await new Promise((r) => setTimeout(r, 20));
    if (this.sync!.waiting.length) await this.send();
    return this.sync!.waiting.length === 0;
  }

  /** The first of so many ids for points that are made here. */
  async takeIds(count: number): Promise<number> {
    if (this.ids.end - this.ids.next < count) {
      const size = Math.max(BLOCK, count),
        { first } = await postJson<{ first: number }>(`/api/jobs/${this.jobId}/ids`, { count: size });
      this.ids = { next: first, end: first + size };
    }
    const first = this.ids.next;
    this.ids.next += count;
    return first;
  }
}

/** All names but one of the person's own. */
function withoutOne(names: string[], own: string): string[] {
  const at = names.indexOf(own);
  return at < 0 ? names : [...names.slice(0, at), ...names.slice(at + 1)];
}

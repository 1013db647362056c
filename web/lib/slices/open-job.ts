/** The open job: what it holds, what follows from it, how it is stored, and what a person does to it. */
import { describeChange, type JobState } from "@bramble/core";
import { withStanding, type StandingRows } from "@bramble/core/construct/rows";
import { LOST, Refused, whenWaiting } from "../client";
import { keepKnown, knownOf } from "../known";
import { mark } from "../marks";
import { NOTHING_OPEN } from "../session/blank";
import { Computation } from "../session/computation";
import { Session } from "../session/session";
import type { OpenJob } from "../state/open-job";
import type { StoreApi } from "zustand";
import type { Slice, Store } from "../state/store";
import { deliveries, step, type OwnWay } from "./deliveries";
import { NOTHING_SELECTED } from "./selection";
import { BLANK_SHEET } from "./sheet";

/** Milliseconds after which a job that could not be opened is tried again. */
const OPEN_AGAIN = 2000;

/** A name while something has it; else that of the first there is. */
const stillNamed = (name: string, all: readonly { name: string }[]) =>
  all.some((x) => x.name === name) ? name : (all[0]?.name ?? "");

/** The job with points as they stand; the very same where none is constructed. */
function standing(job: JobState, rows: StandingRows): JobState {
  const points = withStanding(job.points, rows);
  return points === job.points ? job : { ...job, points };
}

let computation: Computation | undefined;
let session: Session | undefined;
/** What goes its own way to the server, deliveries and steps back, one after another. */
let queue: Promise<unknown> = Promise.resolve();

/** What follows from the open job goes where it is shown. */
function startComputation(
  set: StoreApi<Store>["setState"],
  get: () => Store,
  problem: (e: unknown) => void,
): Computation {
  return new Computation({
    busy: () => set({ deriving: true, stopped: false }),
    stage: (stage) => set({ stage }),
    stopped: () => set({ deriving: false, stage: "", stopped: true }),
    again: () => void session?.reload().catch(problem),
    layout: (layout) => set({ layout }),
    looked: (looked) => set((s) => ({ view: { ...s.view, looked } })),
    more: (part) => set((s) => ({ view: { ...s.view, looked: s.view.looked && { ...s.view.looked, ...part } } })),
    failed: () => set({ status: "failed", failure: "The computation stopped unexpectedly. Open the job again." }),
    view(part, milliseconds, last) {
      mark("followed");
      const view = { ...get().view, ...part },
        // Constructed points are shown where their sources put them.
        job = part.standing && session ? { job: standing(session.job, part.standing) } : {};
      set({ ...job, view, derivedIn: milliseconds, deriving: !last, ...(last ? { stage: "" } : {}) });
      if (last) keepKnown(get().jobId, knownOf(view));
    },
  });
}

/** The job's changes, and those of others, go where they are shown and computed. */
function startSession(
  jobId: number,
  set: StoreApi<Store>["setState"],
  get: () => Store,
  computing: Computation,
): Session {
  return new Session(jobId, {
    show: (part) => {
      // The points are shown at once; lines, surfaces and findings follow from the worker.
      const first = part.job && get().status !== "ready";
      set({
        ...part,
        ...(part.job && { job: standing(part.job, get().view.standing) }),
        ...(first && { status: "ready", paperScale: part.job!.drawing?.scale }),
        ...(part.job && {
          surface: stillNamed(get().surface, part.job.surfaces),
          volume: stillNamed(get().volume, part.job.volumes),
        }),
      });
    },
    load: (bytes) => computing.load(bytes),
    follow: (changes) => computing.follow(changes),
    arrived: (entry) => set({ notice: { text: `${entry.author}: ${entry.text}.`, tone: "plain" } }),
  });
}

/** Does work that goes its own way to the server; what it refuses is said. */
function ownWay(set: StoreApi<Store>["setState"], get: () => Store, problem: (e: unknown) => void): OwnWay {
  const store = <T>(work: (open: Session) => Promise<T>): Promise<T | undefined> => {
    if (get().held) {
      problem(new Error("A rehearsal is on, and this would be stored at once: take the rehearsal or drop it first."));
      return Promise.resolve(undefined);
    }
    set((s) => ({ saving: s.saving + 1 }));
    const run = queue.then(async () => {
      try {
        return session && (await work(session));
      } catch (e) {
        problem(e);
        return undefined;
      } finally {
        set((s) => ({ saving: s.saving - 1 }));
      }
    });
    queue = run;
    return run;
  };
  return { set, get, store };
}

export const openJobSlice: Slice<OpenJob> = (set, get) => {
  const failed = (e: unknown): string => (e instanceof Error ? e.message : String(e));
  const problem = (e: unknown) => set({ notice: { text: failed(e), tone: "problem" } });

  whenWaiting((words) => set({ notice: { text: words, tone: "problem" } }));

  const way = ownWay(set, get, problem);

  return {
    ...NOTHING_OPEN,
    ...deliveries(way),
    jobId: 0,

    async open(jobId) {
      session?.close();
      computation?.close();
      set({ ...NOTHING_SELECTED, ...BLANK_SHEET, ...NOTHING_OPEN, jobId, kept: {} });
      const computing = (computation = startComputation(set, get, problem));
      const opening = (session = startSession(jobId, set, get, computing));
      const begin = async (): Promise<void> => {
        try {
          await opening.open();
        } catch (e) {
          if (session !== opening) return;
          set({ status: "failed", failure: failed(e) });
          // It goes on by itself when the server or the database is back.
          if (e instanceof Refused && LOST.has(e.code))
            setTimeout(() => session === opening && void begin(), OPEN_AGAIN);
        }
      };
      await begin();
    },

    stored: () => session?.job ?? get().job,
    change(change) {
      try {
        session!.make(change);
        set({ notice: undefined });
        return true;
      } catch (e) {
        problem(e);
        return false;
      }
    },

    async undo(delivery = false) {
      const { held } = get();
      if (!held) return step(way, "undo", delivery);
      // What is stored stays as it is while a rehearsal is on.
      const last = held.at(-1);
      if (!last) return set({ notice: { text: "Nothing was changed in this rehearsal yet.", tone: "plain" } });
      session?.giveUp(last.name);
      set({ notice: { text: `${describeChange(last.change)}: taken back in the rehearsal`, tone: "plain" } });
    },
    stepEntry: (kind, seq) => step(way, kind, false, seq),
    redo: (delivery = false) => step(way, "redo", delivery),
    retry: () => session?.retry(),
    giveUp: (name) => session?.giveUp(name),
    insist(name) {
      try {
        if (!session!.insist(name)) set({ notice: { text: "Nothing is left of it to change.", tone: "plain" } });
      } catch (e) {
        problem(e);
      }
    },

    stop: () => computation?.stop(),
    goOn: () => void session?.reload().catch(problem),

    askTexts: (ask) => computation?.askTexts(ask),
    lookAtVolume: (name) => computation?.lookAt(name),
    rehearse() {
      if (get().held) return;
      computation?.rehearse(true);
      session?.rehearse();
    },
    endRehearsal(take) {
      if (!get().held) return;
      computation?.rehearse(false);
      session?.endRehearsal(take);
    },

    ask: (question) => computation!.ask(question),

    async idsToTake(count) {
      try {
        const first = await session!.takeIds(count);
        return Array.from({ length: count }, (_, k) => first + k);
      } catch (error) {
        problem(error);
        return undefined;
      }
    },
    async pointToMake({ number, e, n, z, description, kind }) {
      const id = await get().idsToTake(1);
      return (
        id && {
          id,
          number: [number],
          easting: [e],
          northing: [n],
          elevation: [Number.isNaN(z) ? null : z],
          description: [description],
          ...(kind && { kind: [kind] }),
        }
      );
    },
  };
};

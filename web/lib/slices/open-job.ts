/** The open job: what it holds, what follows from it, how it is stored, and what a person does to it. */
import { describeChange, unplacedPerIntake, type JobState } from "@bramble/core";
import { plural } from "@bramble/core/math/words";
import { emptyTable } from "@bramble/core/points/table";
import type { LedgerEntry, ReadAgain, StoredIntake } from "@bramble/db";
import { boxOf, boxOfPoints } from "../box";
import { LOST, postFile, postJson, putJson, Refused, remove, whenLost } from "../client";
import { keepKnown, knownOf } from "../known";
import { mark } from "../marks";
import { Computation } from "../session/computation";
import { Session } from "../session/session";
import type { OpenJob } from "../state/open-job";
import type { Slice } from "../state/store";
import { EMPTY_VIEW } from "../view";
import { NOTHING_SELECTED } from "./selection";
import { BLANK_SHEET } from "./sheet";

const EMPTY: JobState = {
  name: "",
  unit: "m",
  order: "NE",
  tolerance: { arc: 0.02, chord: 0.01, coincident: 0.001, crossing: 0.02, precision: 0.05, repeat: 0.02 },
  book: {},
  sets: [],
  surfaces: [],
  contours: [],
  volumes: [],
  differences: [],
  added: [],
  handover: [],
  accepted: [],
  states: [],
  setups: [],
  lines: [],
  intakes: [],
  delivered: [],
  points: emptyTable(),
};

const NOTHING_OPEN = {
  status: "loading" as const,
  failure: "",
  version: 0,
  job: EMPTY,
  intakes: [],
  withdrawn: [],
  intakeLimit: Infinity,
  ledger: [],
  waiting: [],
  clashes: [],
  stuck: undefined,
  live: false,
  others: [],
  held: undefined,
  view: EMPTY_VIEW,
  derivedIn: 0,
  deriving: false,
  stage: "",
  stopped: false,
  saving: 0,
  notice: undefined,
};

/** Milliseconds after which a job that could not be opened is tried again. */
const OPEN_AGAIN = 2000;

/** A name while something has it; else that of the first there is. */
const stillNamed = (name: string, all: readonly { name: string }[]) =>
  all.some((x) => x.name === name) ? name : (all[0]?.name ?? "");

let computation: Computation | undefined;
let session: Session | undefined;
/** What goes its own way to the server, deliveries and steps back, one after another. */
let queue: Promise<unknown> = Promise.resolve();

export const openJobSlice: Slice<OpenJob> = (set, get) => {
  const startComputation = () =>
    new Computation({
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
        const view = { ...get().view, ...part };
        set({ view, derivedIn: milliseconds, deriving: !last, ...(last ? { stage: "" } : {}) });
        if (last) keepKnown(get().jobId, knownOf(view));
      },
    });

  const failed = (e: unknown): string => (e instanceof Error ? e.message : String(e));
  const problem = (e: unknown) => set({ notice: { text: failed(e), tone: "problem" } });

  whenLost((words) => set({ notice: { text: words, tone: "problem" } }));

  /** Does work that goes its own way to the server; what it refuses is said. */
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

  const step = async (kind: "undo" | "redo", delivery: boolean, entrySeq?: number) => {
    await store(async (open) => {
      if (!(await open.idle())) {
        // What never reached the server is taken back here.
        const last = get().waiting.at(-1);
        if (kind === "redo" || entrySeq !== undefined || !last)
          throw new Error("Something is not stored yet; it comes first.");
        open.giveUp(last.name);
        return set({
          notice: { text: `${describeChange(last.change)}: taken back before it was stored`, tone: "plain" },
        });
      }
      try {
        const asked = new URLSearchParams({
          ...(delivery ? { delivery: "yes" } : {}),
          ...(entrySeq === undefined ? {} : { entry: String(entrySeq) }),
        });
        const entry = await postJson<LedgerEntry>(`/api/jobs/${get().jobId}/${kind}?${asked}`);
        await open.arrived(entry);
        set({ notice: { text: entry.text, tone: "plain" } });
      } catch (e) {
        if (!(e instanceof Refused) || e.code !== "undo-delivery") throw e;
        const name = kind === "undo" ? `Take “${String(e.data.file)}” back` : `Do “${String(e.data.file)}” again`;
        set({
          notice: { text: e.message, tone: "plain", action: { name, go: () => void step(kind, true, entrySeq) } },
        });
      }
    });
  };

  /** After an intake came: its points selected, the sheet at them. */
  const showIntake = async (open: Session, entry: LedgerEntry, key: string) => {
    await open.arrived(entry);
    const state = open.job,
      row = state.intakes.findIndex((k) => k.id === key),
      t = state.points;
    const mine: number[] = [];
    for (let i = 0; i < t.count; i++) if (t.intake[i] === row && !t.deleted[i]) mine.push(i);
    get().select({ points: mine.map((i) => t.id[i]!) });
    const lines = state.delivered[row]?.reference?.lines ?? [];
    const all = lines.flatMap((l) =>
      Array.from({ length: l.xyz.length / 3 }, (_, k) => [l.xyz[3 * k]!, l.xyz[3 * k + 1]!] as const),
    );
    get().show(
      boxOfPoints(t, mine) ??
        boxOf(
          all.length,
          (k) => all[k]![0],
          (k) => all[k]![1],
        ),
    );
    set({ incoming: undefined });
  };

  /** Points of a delivery that were observed and have no position yet. */
  const unplacedOf = ({ id }: { id: string }) => {
    const { points, intakes } = get().job;
    return unplacedPerIntake(points, intakes.length)[intakes.findIndex((k) => k.id === id)] ?? 0;
  };
  const withoutPosition = (info: { id: string }) => {
    const n = unplacedOf(info);
    return n ? `; ${plural(n, "observed point has", "observed points have")} no position yet: look at the setups` : "";
  };

  const taken = (info: StoredIntake) => {
    const r = info.reference,
      points = info.points - unplacedOf(info);
    const parts = [
      points > 0 || !r ? plural(points, "point") : "",
      r?.lines ? plural(r.lines, "reference line") : "",
      r?.surfaces.length ? plural(r.surfaces.length, "reference surface") : "",
    ];
    return `${parts.filter(Boolean).join(", ")} taken in`;
  };

  const intakeUrl = (key = "") => `/api/jobs/${get().jobId}/intakes${key && `/${encodeURIComponent(key)}`}`;

  return {
    ...NOTHING_OPEN,
    jobId: 0,

    async open(jobId) {
      session?.close();
      computation?.close();
      set({ ...NOTHING_SELECTED, ...BLANK_SHEET, ...NOTHING_OPEN, jobId, kept: {} });
      const computing = (computation = startComputation());
      const opening = (session = new Session(jobId, {
        show: (part) => {
          // The points are shown at once; lines, surfaces and findings follow from the worker.
          const first = part.job && get().status !== "ready";
          set({
            ...part,
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
      }));
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
      if (!held) return step("undo", delivery);
      // What is stored stays as it is while a rehearsal is on.
      const last = held.at(-1);
      if (!last) return set({ notice: { text: "Nothing was changed in this rehearsal yet.", tone: "plain" } });
      session?.giveUp(last.name);
      set({ notice: { text: `${describeChange(last.change)}: taken back in the rehearsal`, tone: "plain" } });
    },
    stepEntry: (kind, seq) => step(kind, false, seq),
    redo: (delivery = false) => step("redo", delivery),
    retry: () => session?.retry(),
    giveUp: (name) => session?.giveUp(name),
    insist(name) {
      try {
        if (!session!.insist(name)) set({ notice: { text: "Nothing is left of it to change.", tone: "plain" } });
      } catch (e) {
        problem(e);
      }
    },

    async takeIn(file, options) {
      return (
        (await store(async (open) => {
          const { entry, info } = await postFile<{ entry: LedgerEntry; info: StoredIntake }>(
            intakeUrl(),
            file,
            options,
          );
          await showIntake(open, entry, info.id);
          const refused = info.refused.length ? `; ${plural(info.refused.length, "row")} refused` : "";
          set({
            notice: { text: `${taken(info)} from “${info.file}”${refused}${withoutPosition(info)}.`, tone: "settled" },
          });
          return true;
        })) ?? false
      );
    },

    async readAgain(key, options) {
      return (
        (await store(async (open) => {
          const file = get().intakes.find((k) => k.id === key)!.file;
          const { entry, info, lost } = await putJson<ReadAgain>(intakeUrl(key), { ...options, file });
          await showIntake(open, entry, key);
          const edits = lost.length
            ? ` ${plural(lost.length, "edit")} found no point any more: ` +
              `${lost.slice(0, 3).join(" ")}${lost.length > 3 ? " The ledger lists all." : ""}`
            : "";
          const points = plural(info.points - unplacedOf(info), "point");
          set({
            notice: {
              text: `“${info.file}” was read again: ${points}${withoutPosition(info)}.${edits}`,
              tone: lost.length ? "problem" : "settled",
            },
          });
          return true;
        })) ?? false
      );
    },

    async withdraw(key) {
      await store(async (open) => {
        const entry = await remove<LedgerEntry>(intakeUrl(key));
        await open.arrived(entry);
        set({ notice: { text: `${entry.text}. It can be restored below.`, tone: "plain" } });
      });
    },

    async restore(key) {
      await store(async (open) => {
        await showIntake(open, await postJson<LedgerEntry>(intakeUrl(key), { action: "restore" }), key);
        set({
          notice: { text: `“${get().intakes.find((k) => k.id === key)?.file ?? key}” is back.`, tone: "settled" },
        });
      });
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

    async pointToMake({ number, e, n, z, description }) {
      try {
        const id = await session!.takeIds(1);
        return {
          id: [id],
          number: [number],
          easting: [e],
          northing: [n],
          elevation: [Number.isNaN(z) ? null : z],
          description: [description],
        };
      } catch (error) {
        problem(error);
        return undefined;
      }
    },
  };
};

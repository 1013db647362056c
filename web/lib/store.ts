"use client";
/** The open job on the screen: its state, what the worker derived, and what is selected everywhere at once. */
import { create } from "zustand";
import {
  describeChange,
  namesIn,
  sentenceOf,
  type AddedPoints,
  type EditableChange,
  type Finding,
  type IntakeOptions,
  type JobState,
  type Names,
} from "@bramble/core";
import type { Snap } from "@bramble/core/lines/snap";
import type { Layout } from "@bramble/core/drawing/layout";
import { plural } from "@bramble/core/math/words";
import { emptyTable, placeOf, type PointTable } from "@bramble/core/points/table";
import type { LedgerEntry, ReadAgain, StoredIntake } from "@bramble/db";
import { postFile, postJson, putJson, Refused, remove } from "./client";
import { Session, type Shown } from "./session/session";
import { EMPTY_VIEW, lineAt, type View } from "./view";
import type { Answers, FromWorker, Question, TextsAsked, ToWorker } from "../workers/chain.worker";

export interface Notice {
  text: string;
  tone: "plain" | "settled" | "problem";
  /** What may be done about it at once. */
  action?: { name: string; go: () => void };
}

/** What of the survey is drawn. */
export interface Layers {
  points: boolean;
  shots: boolean;
  numbers: boolean;
  notes: boolean;
  lines: boolean;
  contours: boolean;
  labels: boolean;
  triangles: boolean;
  map: boolean;
  reference: boolean;
}

/** Picking on the sheet: what for, which places are meant, and where the last one was. */
export interface Picking {
  hint: string;
  /** Points only, or any place that the eye means. */
  points: boolean;
  from?: [number, number];
  take(snap: Snap): void;
}

/** A rectangle of the plan. */
export interface Box {
  minE: number;
  minN: number;
  maxE: number;
  maxN: number;
}

/** A place to show: the sheet goes there when it changes. */
export interface Target extends Box {
  serial: number;
}

/** The smallest rectangle round places; undefined for none. */
export function boxOf(count: number, east: (k: number) => number, north: (k: number) => number): Box | undefined {
  const box: Box = { minE: Infinity, minN: Infinity, maxE: -Infinity, maxN: -Infinity };
  for (let k = 0; k < count; k++) {
    const e = east(k),
      n = north(k);
    if (e < box.minE) box.minE = e;
    if (e > box.maxE) box.maxE = e;
    if (n < box.minN) box.minN = n;
    if (n > box.maxN) box.maxN = n;
  }
  return box.minE <= box.maxE ? box : undefined;
}

/** The rectangle round points by their places in the table. */
export function boxOfPoints(t: PointTable, places: ArrayLike<number>): Box | undefined {
  return boxOf(
    places.length,
    (k) => t.e[places[k]!]!,
    (k) => t.n[places[k]!]!,
  );
}

interface Store extends Shown {
  status: "loading" | "ready" | "failed";
  failure: string;
  jobId: number;
  view: View;
  /** Texts of the drawing at their places, for one scale. */
  layout: Layout | undefined;
  /** Scale that sizes on paper are for, 1 : this; as the sheet is seen when there is none. */
  paperScale: number | undefined;
  /** Milliseconds of the last run of the chain. */
  derivedIn: number;
  deriving: boolean;
  /** Deliveries and the like that are being stored. */
  saving: number;
  notice: Notice | undefined;
  points: ReadonlySet<number>;
  /** Keys of the selected lines. */
  lines: ReadonlySet<string>;
  finding: Finding | undefined;
  layers: Layers;
  surface: string;
  volume: string;
  target: Target | undefined;
  /** Ways (E, N, E, N, …) of a line that is being drawn, shown before it is kept. */
  preview: readonly (readonly number[])[];
  /** What a click on the sheet is for now, instead of selecting. */
  picking: Picking | undefined;
  /** Points of an intake that is looked at before it is taken in: east, north pairs. */
  incoming: Float64Array | undefined;
  open(jobId: number): Promise<void>;
  /** Carries a change out here and sends it on its way; false when it cannot be done. */
  change(change: EditableChange): boolean;
  undo(delivery?: boolean): Promise<void>;
  redo(delivery?: boolean): Promise<void>;
  /** Tries to store at once what waits. */
  retry(): void;
  giveUp(name: string): void;
  /** The person's wish once more, on what is there now. */
  insist(name: string): void;
  takeIn(file: File, options: unknown): Promise<boolean>;
  /** Reads the file of an intake in another way, in its place. */
  readAgain(key: string, options: IntakeOptions): Promise<boolean>;
  withdraw(key: string): Promise<void>;
  restore(key: string): Promise<void>;
  select(what: { points?: Iterable<number>; lines?: Iterable<string>; finding?: Finding }): void;
  show(box: Box | undefined): void;
  set(
    part: Partial<Pick<Store, "surface" | "volume" | "notice" | "incoming" | "paperScale" | "preview" | "picking">>,
  ): void;
  askTexts(ask: TextsAsked): void;
  /** Asks the worker about lines, whose exact pieces only it has. */
  ask<Q extends Question>(question: Q): Promise<Answers[Q["what"]]>;
  /**
   * The columns of one point that the office makes, with an id of its own; undefined when the server does not answer.
   */
  pointToMake(point: {
    number: string;
    e: number;
    n: number;
    z: number;
    description: string;
  }): Promise<AddedPoints | undefined>;
  toggle(layer: keyof Layers, on?: boolean): void;
}

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
  handover: [],
  setups: [],
  lines: [],
  intakes: [],
  delivered: [],
  points: emptyTable(),
};

let worker: Worker | undefined;
let session: Session | undefined;
let serial = 0;
/** What goes its own way to the server, deliveries and steps back, one after another. */
let queue: Promise<unknown> = Promise.resolve();
/** Questions to the worker that it has not answered yet. */
let questions = 0;
const answers = new Map<number, (answer: unknown) => void>();

export const useJob = create<Store>((set, get) => {
  const tell = (message: ToWorker, transfer: Transferable[] = []) => {
    set({ deriving: true });
    worker?.postMessage(message, transfer);
  };

  const startWorker = () => {
    worker?.terminate();
    worker = new Worker(new URL("../workers/chain.worker.ts", import.meta.url), { type: "module" });
    worker.onmessage = ({ data }: MessageEvent<FromWorker>) => {
      if ("layout" in data) return set({ layout: data.layout });
      if ("answer" in data) {
        answers.get(data.id)?.(data.answer);
        answers.delete(data.id);
        return;
      }
      const view = { ...get().view, ...data.view };
      const names = view.surfaces.map((s) => s.name);
      set({
        view,
        derivedIn: data.milliseconds,
        deriving: data.serial !== serial,
        surface: names.includes(get().surface) ? get().surface : (names[0] ?? ""),
        volume: view.volumes.some((v) => v.name === get().volume) ? get().volume : (view.volumes[0]?.name ?? ""),
      });
    };
    worker.onerror = () =>
      set({ status: "failed", failure: "The computation stopped unexpectedly. Open the job again." });
  };

  const failed = (e: unknown): string => (e instanceof Error ? e.message : String(e));
  const problem = (e: unknown) => set({ notice: { text: failed(e), tone: "problem" } });

  /** Does work that goes its own way to the server; what it refuses is said. */
  const store = <T>(work: (open: Session) => Promise<T>): Promise<T | undefined> => {
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

  const step = async (kind: "undo" | "redo", delivery: boolean) => {
    await store(async (open) => {
      if (!(await open.idle())) {
        // What never reached the server is taken back here.
        const last = get().waiting.at(-1);
        if (kind === "redo" || !last) throw new Error("Something is not stored yet; it comes first.");
        open.giveUp(last.name);
        return set({
          notice: { text: `${describeChange(last.change)}: taken back before it was stored`, tone: "plain" },
        });
      }
      try {
        const entry = await postJson<LedgerEntry>(`/api/jobs/${get().jobId}/${kind}${delivery ? "?delivery=yes" : ""}`);
        await open.arrived(entry);
        set({ notice: { text: entry.text, tone: "plain" } });
      } catch (e) {
        if (!(e instanceof Refused) || e.code !== "undo-delivery") throw e;
        const name = kind === "undo" ? `Take “${String(e.data.file)}” back` : `Do “${String(e.data.file)}” again`;
        set({ notice: { text: e.message, tone: "plain", action: { name, go: () => void step(kind, true) } } });
      }
    });
  };

  /** After an intake came: its points selected, the sheet at them. */
  const showIntake = async (open: Session, entry: LedgerEntry, key: string) => {
    await open.arrived(entry);
    const state = open.job,
      place = state.intakes.findIndex((k) => k.id === key),
      t = state.points;
    const mine: number[] = [];
    for (let i = 0; i < t.count; i++) if (t.intake[i] === place && !t.deleted[i]) mine.push(i);
    // Rings around more than a few thousand points would only hide them.
    get().select({ points: mine.length <= 5000 ? mine.map((i) => t.id[i]!) : [] });
    const lines = state.delivered[place]?.reference?.lines ?? [];
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

  const taken = (info: StoredIntake) => {
    const r = info.reference;
    const parts = [
      info.points > 0 || !r ? plural(info.points, "point") : "",
      r?.lines ? plural(r.lines, "reference line") : "",
      r?.surfaces.length ? plural(r.surfaces.length, "reference surface") : "",
    ];
    return `${parts.filter(Boolean).join(", ")} taken in`;
  };

  const intakeUrl = (key = "") => `/api/jobs/${get().jobId}/intakes${key && `/${encodeURIComponent(key)}`}`;

  return {
    status: "loading",
    failure: "",
    jobId: 0,
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
    view: EMPTY_VIEW,
    layout: undefined,
    paperScale: undefined,
    derivedIn: 0,
    deriving: false,
    saving: 0,
    preview: [],
    picking: undefined,
    notice: undefined,
    points: new Set(),
    lines: new Set(),
    finding: undefined,
    surface: "",
    volume: "",
    target: undefined,
    incoming: undefined,
    layers: {
      points: true,
      shots: false,
      numbers: true,
      notes: true,
      lines: true,
      contours: true,
      labels: true,
      triangles: false,
      map: false,
      reference: true,
    },

    async open(jobId) {
      session?.close();
      set({
        status: "loading",
        view: EMPTY_VIEW,
        layout: undefined,
        points: new Set(),
        lines: new Set(),
        finding: undefined,
        notice: undefined,
        target: undefined,
        job: EMPTY,
        jobId,
        incoming: undefined,
        waiting: [],
        clashes: [],
        stuck: undefined,
        live: false,
        others: [],
      });
      startWorker();
      const opening = (session = new Session(jobId, {
        show: (part) => {
          // The points are shown at once; lines, surfaces and findings follow from the worker.
          if (part.job && get().status === "loading")
            set({ ...part, status: "ready", paperScale: part.job.drawing?.scale });
          else set(part);
        },
        load: (bytes) => tell({ type: "load", bytes, serial: ++serial }, [bytes]),
        follow: (changes) => tell({ type: "changes", changes, serial: ++serial }),
        arrived: (entry) => set({ notice: { text: `${entry.author}: ${entry.text}.`, tone: "plain" } }),
      }));
      try {
        await opening.open();
      } catch (e) {
        if (session === opening) set({ status: "failed", failure: failed(e) });
      }
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

    undo: (delivery = false) => step("undo", delivery),
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
          set({
            notice: {
              text: `${taken(info)} from “${info.file}”${info.refused.length ? `; ${plural(info.refused.length, "row")} refused` : ""}.`,
              tone: "settled",
            },
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
            ? ` ${plural(lost.length, "edit")} found no point any more: ${lost.slice(0, 3).join(" ")}${lost.length > 3 ? " The ledger lists all." : ""}`
            : "";
          set({
            notice: {
              text: `“${info.file}” was read again: ${plural(info.points, "point")}.${edits}`,
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

    select: ({ points = [], lines = [], finding }) => set({ points: new Set(points), lines: new Set(lines), finding }),

    show(box) {
      if (box) set({ target: { ...box, serial: (get().target?.serial ?? 0) + 1 } });
    },

    askTexts: (ask) => worker?.postMessage({ type: "texts", ask } satisfies ToWorker),

    ask: (question) =>
      new Promise((resolve) => {
        const id = ++questions;
        answers.set(id, resolve as (answer: unknown) => void);
        worker?.postMessage({ type: "question", id, question } satisfies ToWorker);
      }),

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

    set: (part) => set(part),
    toggle: (layer, on) => set((s) => ({ layers: { ...s.layers, [layer]: on ?? !s.layers[layer] } })),
  };
});

/** The names that points and lines have now. */
export function namesNow(): Names<number, string> {
  const { job, view } = useJob.getState();
  return namesIn(job.points, view.lines);
}

/** A finding in words. */
export function sayFinding(f: Finding): string {
  return sentenceOf(f, namesNow());
}

/** Selects a finding's points and lines and goes to its place. */
export function goToFinding(f: Finding): void {
  const {
    job: { points: t },
    view,
    select,
    show,
  } = useJob.getState();
  const places = f.points.map((id) => placeOf(t, id)).filter((i) => i >= 0 && !t.deleted[i]);
  const around = f.lines.flatMap((key) => view.lines[lineAt(view, key) ?? -1]?.shots ?? []);
  select({ points: places.map((i) => t.id[i]!), lines: f.lines, finding: f });
  const { at } = f;
  const [e, n] = at ?? [];
  const box = boxOfPoints(t, places.length ? places : around);
  if (!at || e === undefined || n === undefined) return show(box);
  // A place of its own is shown alone, unless several points are meant.
  show(
    !box || places.length <= 1
      ? { minE: e, maxE: e, minN: n, maxN: n }
      : {
          minE: Math.min(box.minE, e),
          maxE: Math.max(box.maxE, e),
          minN: Math.min(box.minN, n),
          maxN: Math.max(box.maxN, n),
        },
  );
}

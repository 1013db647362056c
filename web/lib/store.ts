"use client";
/** The open job on the screen: its state, what the worker derived, and what is selected everywhere at once. */
import { create } from "zustand";
import {
  applyChange, type Change, type IntakeOptions, type EditableChange, type Finding, type JobDefinition, type JobState,
} from "@bramble/core";
import type { Snap } from "@bramble/core/lines/snap";
import type { Layout } from "@bramble/core/drawing/layout";
import { plural } from "@bramble/core/math/words";
import { emptyTable, numberIndex, type PointTable } from "@bramble/core/points/table";
import type { LedgerEntry, ReadAgain, StoredIntake, StoredJob } from "@bramble/db";
import { getBytes, getJson, postFile, postJson, putJson, Refused, remove } from "./client";
import { stateOfBytes } from "./state-of-bytes";
import { EMPTY_VIEW, type View } from "./view";
import type { Answers, FromWorker, Question, TextsAsked, ToWorker } from "../workers/chain.worker";

export interface Notice { text: string; tone: "plain" | "settled" | "problem" }

/** What of the survey is drawn. */
export interface Layers { points: boolean; shots: boolean; numbers: boolean; notes: boolean; lines: boolean; contours: boolean; labels: boolean; triangles: boolean; map: boolean; reference: boolean }

/** Picking on the sheet: what for, which places are meant, and where the last one was. */
export interface Picking {
  hint: string;
  /** Points only, or any place that the eye means. */
  points: boolean;
  from?: [number, number];
  take(snap: Snap): void;
}

/** A rectangle of the plan. */
export interface Box { minE: number; minN: number; maxE: number; maxN: number }

/** A place to show: the sheet goes there when it changes. */
export interface Target extends Box { serial: number }

/** The smallest rectangle round places; undefined for none. */
export function boxOf(count: number, east: (k: number) => number, north: (k: number) => number): Box | undefined {
  const box: Box = { minE: Infinity, minN: Infinity, maxE: -Infinity, maxN: -Infinity };
  for (let k = 0; k < count; k++) {
    const e = east(k), n = north(k);
    if (e < box.minE) box.minE = e;
    if (e > box.maxE) box.maxE = e;
    if (n < box.minN) box.minN = n;
    if (n > box.maxN) box.maxN = n;
  }
  return box.minE <= box.maxE ? box : undefined;
}

/** The rectangle round points by their places in the table. */
export function boxOfPoints(t: PointTable, places: ArrayLike<number>): Box | undefined {
  return boxOf(places.length, (k) => t.e[places[k]!]!, (k) => t.n[places[k]!]!);
}

interface Store {
  status: "loading" | "ready" | "failed";
  failure: string;
  jobId: number;
  version: number;
  job: JobState;
  intakes: StoredIntake[];
  withdrawn: StoredIntake[];
  /** The largest file that the server takes, in bytes. */
  intakeLimit: number;
  ledger: LedgerEntry[];
  view: View;
  /** Milliseconds of the last run of the chain. */
  /** Texts of the drawing at their places, for one scale. */
  layout: Layout | undefined;
  /** Scale that sizes on paper are for, 1 : this; as the sheet is seen when there is none. */
  paperScale: number | undefined;
  derivedIn: number;
  deriving: boolean;
  saving: number;
  notice: Notice | undefined;
  points: ReadonlySet<number>;
  lines: ReadonlySet<number>;
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
  reload(): Promise<void>;
  change(change: EditableChange): Promise<boolean>;
  undo(): Promise<void>;
  redo(): Promise<void>;
  takeIn(file: File, options: unknown): Promise<boolean>;
  /** Reads the file of an intake in another way, in its place. */
  readAgain(key: string, options: IntakeOptions): Promise<boolean>;
  withdraw(key: string): Promise<void>;
  restore(key: string): Promise<void>;
  select(what: { points?: Iterable<number>; lines?: Iterable<number>; finding?: Finding }): void;
  show(box: Box | undefined): void;
  set(part: Partial<Pick<Store, "surface" | "volume" | "notice" | "incoming" | "paperScale" | "preview" | "picking">>): void;
  askTexts(ask: TextsAsked): void;
  /** Asks the worker about lines, whose exact pieces only it has. */
  ask<Q extends Question>(question: Q): Promise<Answers[Q["what"]]>;
  /** Makes a point by the office: a delivery of its own with this one row. */
  makePoint(point: { number: string; e: number; n: number; z: number; description: string }): Promise<boolean>;
  toggle(layer: keyof Layers, on?: boolean): void;
}

const EMPTY: JobState = {
  name: "", unit: "m", order: "NE", tolerance: { arc: 0.02, chord: 0.01, coincident: 0.001, crossing: 0.02, precision: 0.05, repeat: 0.02 }, book: {},
  sets: [], surfaces: [], contours: [], volumes: [], handover: [], setups: [], lines: [], intakes: [], delivered: [], points: emptyTable(),
};

let worker: Worker | undefined;
let serial = 0;
/** Changes go to the server one after another, in the order made. */
let queue: Promise<unknown> = Promise.resolve();
/** Questions to the worker that it has not answered yet. */
let questions = 0;
const waiting = new Map<number, (answer: unknown) => void>();

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
        waiting.get(data.id)?.(data.answer);
        waiting.delete(data.id);
        return;
      }
      const view = { ...get().view, ...data.view };
      const names = view.surfaces.map((s) => s.name);
      set({
        view, derivedIn: data.milliseconds, deriving: data.serial !== serial,
        surface: names.includes(get().surface) ? get().surface : (names[0] ?? ""),
        volume: view.volumes.some((v) => v.name === get().volume) ? get().volume : (view.volumes[0]?.name ?? ""),
      });
    };
    worker.onerror = () => set({ status: "failed", failure: "The computation stopped unexpectedly. Open the job again." });
  };

  const load = async (jobId: number) => {
    const [job, { buffer }] = await Promise.all([getJson<StoredJob & { ledger: LedgerEntry[]; intakeLimit: number }>(`/api/jobs/${jobId}`), getBytes(`/api/jobs/${jobId}/points`)]);
    const more = job.intakes.some((k) => k.setups > 0 || k.reference);
    const extras = more ? (await getBytes(`/api/jobs/${jobId}/delivered`)).buffer : undefined;
    const definition: JobDefinition & Pick<JobState, "intakes"> = { ...(job.definition as JobDefinition), intakes: job.intakes };
    // The worker gets bytes of its own: copying a million texts one by one would hold the page for seconds.
    const copies = { points: buffer.slice(0), delivered: extras?.slice(0) };
    const state = stateOfBytes(definition, buffer, extras);
    // The points are shown at once; lines, surfaces and findings follow from the worker.
    if (get().status === "loading") set({ paperScale: definition.drawing?.scale });
    set({ status: "ready", jobId, version: job.version, job: state, intakes: job.intakes, withdrawn: job.withdrawn, intakeLimit: job.intakeLimit, ledger: job.ledger });
    tell({ type: "load", definition, ...copies, serial: ++serial }, [copies.points, ...(copies.delivered ? [copies.delivered] : [])]);
    return state;
  };

  const failed = (e: unknown): string => (e instanceof Error ? e.message : String(e));

  /** Does work that stores something; what the server refuses is said, and its state is read again. */
  const store = <T>(work: () => Promise<T>): Promise<T | undefined> => {
    set((s) => ({ saving: s.saving + 1 }));
    const run = queue.then(async () => {
      try {
        return await work();
      } catch (e) {
        set({ notice: { text: failed(e), tone: "problem" } });
        if (e instanceof Refused && e.code !== "offline") await load(get().jobId).catch(() => undefined);
        return undefined;
      } finally {
        set((s) => ({ saving: s.saving - 1 }));
      }
    });
    queue = run;
    return run;
  };

  const applyHere = (change: EditableChange) => {
    set({ job: applyChange(get().job, change) });
    tell({ type: "change", change, serial: ++serial });
  };

  const entered = (entry: LedgerEntry) => set((s) => ({ version: entry.seq, ledger: [entry, ...s.ledger] }));

  const step = async (kind: "undo" | "redo") => {
    await store(async () => {
      const entry = await postJson<LedgerEntry>(`/api/jobs/${get().jobId}/${kind}`);
      entered(entry);
      set((s) => ({ ledger: s.ledger.map((l) => (l.seq === entry.target ? { ...l, undone: kind === "undo" } : l)) }));
      const change: Change = entry.change;
      if (change.type === "intake") await load(get().jobId);
      else applyHere(change);
      set({ notice: { text: `${kind === "undo" ? "Undone" : "Done again"}: ${entry.text.toLowerCase().replace(/^./, (c) => c.toUpperCase())}`, tone: "plain" } });
    });
  };

  /** After an intake came: its state, its points selected, the sheet at them. */
  const showIntake = async (key: string) => {
    const state = await load(get().jobId);
    const place = state.intakes.findIndex((k) => k.id === key);
    const t = state.points;
    const mine: number[] = [];
    for (let i = 0; i < t.count; i++) if (t.intake[i] === place && !t.deleted[i]) mine.push(i);
    // Rings around more than a few thousand points would only hide them.
    get().select({ points: mine.length <= 5000 ? mine.map((i) => t.id[i]!) : [] });
    const lines = state.delivered[place]?.reference?.lines ?? [];
    const all = lines.flatMap((l) => Array.from({ length: l.xyz.length / 3 }, (_, k) => [l.xyz[3 * k]!, l.xyz[3 * k + 1]!] as const));
    get().show(boxOfPoints(t, mine) ?? boxOf(all.length, (k) => all[k]![0], (k) => all[k]![1]));
    set({ incoming: undefined });
  };

  const taken = (info: StoredIntake) => {
    const r = info.reference;
    const parts = [info.points > 0 || !r ? plural(info.points, "point") : "", r?.lines ? plural(r.lines, "reference line") : "", r?.surfaces.length ? plural(r.surfaces.length, "reference surface") : ""];
    return `${parts.filter(Boolean).join(", ")} taken in`;
  };

  return {
    status: "loading", failure: "", jobId: 0, version: 0, job: EMPTY, intakes: [], withdrawn: [], intakeLimit: Infinity, ledger: [], view: EMPTY_VIEW, layout: undefined, paperScale: undefined, derivedIn: 0, deriving: false, saving: 0,
    preview: [], picking: undefined, notice: undefined, points: new Set(), lines: new Set(), finding: undefined, surface: "", volume: "", target: undefined, incoming: undefined,
    layers: { points: true, shots: false, numbers: true, notes: true, lines: true, contours: true, labels: true, triangles: false, map: false, reference: true },

    async open(jobId) {
      set({ status: "loading", view: EMPTY_VIEW, layout: undefined, points: new Set(), lines: new Set(), finding: undefined, notice: undefined, target: undefined, job: EMPTY, jobId, incoming: undefined });
      startWorker();
      try {
        await load(jobId);
      } catch (e) {
        set({ status: "failed", failure: failed(e) });
      }
    },

    async reload() {
      await load(get().jobId);
    },

    async change(change) {
      try {
        applyHere(change);
      } catch (e) {
        set({ notice: { text: failed(e), tone: "problem" } });
        return false;
      }
      return (await store(async () => {
        entered(await postJson<LedgerEntry>(`/api/jobs/${get().jobId}/changes`, change));
        set({ notice: undefined });
        return true;
      })) ?? false;
    },

    undo: () => step("undo"),
    redo: () => step("redo"),

    async takeIn(file, options) {
      return (await store(async () => {
        const { entry, info } = await postFile<{ entry: LedgerEntry; info: StoredIntake }>(`/api/jobs/${get().jobId}/intakes`, file, options);
        await showIntake(info.id);
        set({
          notice: { text: `${taken(info)} from “${info.file}”${info.refused.length ? `; ${plural(info.refused.length, "row")} refused` : ""}.`, tone: "settled" }, version: entry.seq,
        });
        return true;
      })) ?? false;
    },

    async readAgain(key, options) {
      return (await store(async () => {
        const file = get().intakes.find((k) => k.id === key)!.file;
        const { entry, info, lost } = await putJson<ReadAgain>(`/api/jobs/${get().jobId}/intakes/${encodeURIComponent(key)}`, { ...options, file });
        await showIntake(key);
        const edits = lost.length ? ` ${plural(lost.length, "edit")} found no point any more: ${lost.slice(0, 3).join(" ")}${lost.length > 3 ? " The ledger lists all." : ""}` : "";
        set({ notice: { text: `“${info.file}” was read again: ${plural(info.points, "point")}.${edits}`, tone: lost.length ? "problem" : "settled" }, version: entry.seq });
        return true;
      })) ?? false;
    },

    async withdraw(key) {
      await store(async () => {
        const entry = await remove<LedgerEntry>(`/api/jobs/${get().jobId}/intakes/${encodeURIComponent(key)}`);
        await load(get().jobId);
        set({ notice: { text: `${entry.text}. Undo brings it back.`, tone: "plain" } });
      });
    },

    async restore(key) {
      await store(async () => {
        await postJson<LedgerEntry>(`/api/jobs/${get().jobId}/intakes/${encodeURIComponent(key)}`, { action: "restore" });
        await showIntake(key);
        set({ notice: { text: `“${get().intakes.find((k) => k.id === key)?.file ?? key}” is back.`, tone: "settled" } });
      });
    },

    select: ({ points = [], lines = [], finding }) => set({ points: new Set(points), lines: new Set(lines), finding }),

    show(box) {
      if (box) set({ target: { ...box, serial: (get().target?.serial ?? 0) + 1 } });
    },

    askTexts: (ask) => worker?.postMessage({ type: "texts", ask } satisfies ToWorker),

    ask: (question) => new Promise((resolve) => {
      const id = ++questions;
      waiting.set(id, resolve as (answer: unknown) => void);
      worker?.postMessage({ type: "question", id, question } satisfies ToWorker);
    }),

    async makePoint({ number, e, n, z, description }) {
      const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`, file = `point-${number.replace(/[^\w-]+/g, "_")}.csv`;
      const bytes = new File([`${quoted(number)},${e},${n},${Number.isNaN(z) ? "" : z},${quoted(description)}\n`], file);
      const layout = { delimiter: ",", quote: '"', columns: ["number", "easting", "northing", "elevation", "description"] };
      return (await store(async () => {
        const { entry } = await postFile<{ entry: LedgerEntry }>(`/api/jobs/${get().jobId}/intakes`, bytes, { file, format: "delimited", layout, kind: "computed", clash: "stop" });
        const { points } = await load(get().jobId);
        const place = numberIndex(points).get(number);
        get().select({ points: place === undefined ? [] : [points.id[place]!] });
        set({ version: entry.seq, notice: { text: `Point ${number} was made. Undo takes it back.`, tone: "settled" } });
        return true;
      })) ?? false;
    },

    set: (part) => set(part),
    toggle: (layer, on) => set((s) => ({ layers: { ...s.layers, [layer]: on ?? !s.layers[layer] } })),
  };
});

/** Selects a finding's points and lines and goes to its place. */
export function goToFinding(f: Finding): void {
  const { job, view, select, show } = useJob.getState();
  const index = numberIndex(job.points);
  const places = f.points.flatMap((n) => (index.has(n) ? [index.get(n)!] : []));
  const around = f.lines.flatMap((l) => view.lines[l]?.shots ?? []);
  select({ points: places.map((i) => job.points.id[i]!), lines: f.lines, finding: f });
  const { at } = f;
  const [e, n] = at ?? [];
  const box = boxOfPoints(job.points, places.length ? places : around);
  if (!at || e === undefined || n === undefined) return show(box);
  // A place of its own is shown alone, unless several points are meant.
  show(!box || places.length <= 1 ? { minE: e, maxE: e, minN: n, maxN: n } : { minE: Math.min(box.minE, e), maxE: Math.max(box.maxE, e), minN: Math.min(box.minN, n), maxN: Math.max(box.maxN, n) });
}

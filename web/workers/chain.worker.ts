/** Runs the chain beside the page: keeps the job's state, applies each change to it, and sends what became different. */
import { applyChange, Chain, layoutSource, type Derived, type EditableChange, type Finding, type JobDefinition, type JobState, type Made } from "@bramble/core";
import { codeOf } from "@bramble/core/codes/read";
import { layOutTexts, type Layout, type LayoutSource, type TextsWanted } from "@bramble/core/drawing/layout";
import { explainLine, type PieceFacts } from "@bramble/core/lines/explain";
import { lineCrossings, rightOf, snapAt, snapBoxes, type LineCrossing, type Snap } from "@bramble/core/lines/snap";
import { contourLevels } from "@bramble/core/surface/contour";
import type { BuiltSurface } from "@bramble/core/surface/model";
import { volumeCurve } from "@bramble/core/volumes/curve";
import { stateOfBytes } from "../lib/state-of-bytes";
import { lineShown } from "../lib/line-shown";
import type { Shown, View } from "../lib/view";

export type ToWorker =
  | { type: "load"; definition: JobDefinition & Pick<JobState, "intakes">; points: ArrayBuffer; delivered: ArrayBuffer | undefined; serial: number }
  | { type: "change"; change: EditableChange; serial: number }
  | { type: "texts"; ask: TextsAsked }
  | { type: "question"; id: number; question: Question };
/** What the page asks about lines, whose exact pieces stay here. */
export type Question =
  | { what: "snap"; e: number; n: number; reach: number; from?: [number, number] }
  | { what: "pieces"; line: number }
  | { what: "crossings"; line: number; other: number }
  | { what: "right of"; line: number; e: number; n: number };
export interface Answers { snap: Snap | undefined; pieces: PieceFacts[]; crossings: LineCrossing[]; "right of": number | undefined }
/** The sheet's wish for texts: at which scale, which, and for a large job within which rectangle. */
export interface TextsAsked { unitsPerMm: number; want: TextsWanted; within: LayoutSource["within"]; mostOrNone: boolean }
export type FromWorker = { serial: number; view: Partial<View>; milliseconds: number } | { layout: Layout } | { id: number; answer: Answers[keyof Answers] };

const chain = new Chain();
let state: JobState | undefined;
/** The last thing sent under each name, to send only what is new. */
const sent = new Map<string, unknown>();

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  if (data.type === "texts") {
    asked = data.ask;
    return layOut();
  }
  if (data.type === "question") return self.postMessage({ id: data.id, answer: answer(data.question) } satisfies FromWorker);
  const begun = performance.now();
  if (data.type === "load") {
    state = stateOfBytes(data.definition, data.points, data.delivered);
    sent.clear();
  } else if (state) state = applyChange(state, data.change);
  if (!state) return;
  const view = derive(state);
  const milliseconds = performance.now() - begun;
  self.postMessage({ serial: data.serial, view, milliseconds } satisfies FromWorker);
  layOut();
  // The curves are for looking at and come after what an edit waits for.
  const curves = deriveCurves();
  if (curves) self.postMessage({ serial: data.serial, view: { curves }, milliseconds } satisfies FromWorker);
};

let derived: Derived | undefined, asked: TextsAsked | undefined;

/** Texts find their places after what an edit waits for, and only when something that they depend on is new. */
function layOut(): void {
  if (!state || !derived || !asked) return;
  const { points: t } = state, d = derived;
  const needs = [d.symbols, d.notes, d.lines, d.chains, t.e, t.n, t.z, t.number, t.deleted, state.drawing, state.sets, asked, ...d.contours.map((c) => (c.ok ? c.value : c.refusal))];
  const last = sent.get("texts") as unknown[] | undefined;
  if (last && last.length === needs.length && last.every((x, k) => x === needs[k])) return;
  sent.set("texts", needs);
  const layout = layOutTexts({ ...layoutSource(state, d, asked.want), within: asked.within, mostOrNone: asked.mostOrNone }, asked.unitsPerMm);
  self.postMessage({ layout } satisfies FromWorker);
}

let boxes: { of: Derived["lines"]; boxes: Float64Array } | undefined;

function answer(q: Question): Answers[keyof Answers] {
  const lines = derived?.lines ?? [];
  if (!state || !derived) return undefined;
  const { chord } = state.tolerance;
  if (q.what === "snap") {
    if (boxes?.of !== lines) boxes = { of: lines, boxes: snapBoxes(lines) };
    return snapAt(state.points, lines, boxes.boxes, q.e, q.n, q.reach, chord, q.from);
  }
  const line = lines[q.line];
  if (q.what === "pieces") return line ? explainLine(line, lineShown(line, lines, derived.coded, undefined, byHand(state)).cues, (i) => state!.points.number[i]!) : [];
  if (q.what === "right of") return line && rightOf(line, q.e, q.n, chord);
  return line && lines[q.other] ? lineCrossings(line, lines[q.other]!, chord) : [];
}

/** What a line drawn by hand says at a shot. */
function byHand(s: JobState): (name: string, shot: number) => string {
  const hands = new Map(s.lines.map((l) => [l.name, l]));
  return (name, i) => hands.get(name)?.cues?.[s.points.number[i]!] ?? "";
}

let compared: { name: string; surface: BuiltSurface }[] = [];

/** Cut and fill by level for each surface that is compared; undefined when none of them is new. */
function deriveCurves(): View["curves"] | undefined {
  let curves: View["curves"] | undefined;
  const names = compared.map((c) => `${c.name} ${identityOf(c.surface)}`).join();
  if (sent.get("curves") !== names) {
    sent.set("curves", names);
    curves = Object.fromEntries(compared.map((c) => [c.name, volumeCurve(c.surface.surface)]));
  }
  return curves;
}

function derive(s: JobState): Partial<View> {
  const d = (derived = chain.run(s));
  const view: Partial<View> = { findings: d.findings, findingsOf: findingsOf(s, d.findings) };
  const once = (name: string, identity: unknown, fill: () => void) => {
    if (sent.get(name) === identity) return;
    sent.set(name, identity);
    fill();
  };
  once("codes", d.coded, () => {
    const codes: string[] = [], places = new Map<string, number>();
    const code = new Uint32Array(s.points.count);
    for (let i = 0; i < s.points.count; i++) {
      const c = codeOf(d.coded, i);
      let k = places.get(c);
      if (k === undefined) {
        places.set(c, (k = codes.length));
        codes.push(c);
      }
      code[i] = k;
    }
    view.code = code;
    view.codes = codes;
    view.known = Uint8Array.from(codes, (c) => (c === "" || d.book.codes.has(c) ? 1 : 0));
    view.ground = d.coded.ground;
  });
  once("symbols", d.symbols, () => (view.symbols = d.symbols));
  once("setups", d.setups, () => (view.setups = d.setups));
  once("lines", d.lines, () => {
    const index = new Map(d.lines.map((l, k) => [l, k]));
    const hands = byHand(s);
    view.lines = d.lines.map((l) => lineShown(l, d.lines, d.coded, index, hands));
  });
  once("chains", d.chains, () => (view.chains = d.chains));
  view.sets = d.sets.map((x) => shown(x, (v) => v.length));
  // Surfaces go over only when one of them was built again: they are the heavy part.
  const heavy = <T>(name: string, list: Made<T>[], fill: () => void) =>
    once(name, list.map((x) => (x.ok ? identityOf(x.value) : x.refusal.message)).join(), fill);
  heavy("surfaces", d.surfaces, () => (view.surfaces = d.surfaces.map((x) => shown(x, ({ surface, report }) => ({ surface, report })))));
  heavy("contours", d.contours, () => (view.contours = d.contours.map((x) => shown(x, (contours) => ({ contours, levels: contourLevels(contours) })))));
  view.volumes = d.volumes.map((x) => shown(x, (v) => v));
  compared = d.surfaces.flatMap((x) => (x.ok && s.volumes.some((v) => v.surface === x.name) ? [{ name: x.name, surface: x.value }] : []));
  return view;
}

/** How many findings speak of each intake: by its name, or by a point of it. Counted here, since an index of a million numbers would hold the page. */
function findingsOf(s: JobState, findings: readonly Finding[]): number[] {
  const counted = findings.filter((f) => f.severity !== "note");
  const wanted = new Set(counted.flatMap((f) => f.points)), at = new Map<string, number>();
  if (wanted.size) for (let i = 0; i < s.points.count; i++) if (!s.points.deleted[i] && wanted.has(s.points.number[i]!)) at.set(s.points.number[i]!, s.points.intake[i]!);
  const out = s.intakes.map(() => 0);
  for (const f of counted) {
    const places = new Set(f.points.map((n) => at.get(n)));
    if (typeof f.data.intake === "string") places.add(s.intakes.findIndex((k) => k.id === f.data.intake));
    for (const k of places) if (k !== undefined && k >= 0) out[k]!++;
  }
  return out;
}

function shown<T, S>(made: Made<T>, value: (v: T) => S): Shown<S> {
  return made.ok ? { name: made.name, value: value(made.value) } : { name: made.name, failure: { code: made.refusal.code, message: made.refusal.message } };
}

const identities = new WeakMap<object, number>();
let counted = 0;
function identityOf(value: unknown): number {
  let id = identities.get(value as object);
  if (id === undefined) identities.set(value as object, (id = ++counted));
  return id;
}

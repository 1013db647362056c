/** Runs the chain beside the page: keeps the job's state, applies each change to it, and sends what became different. */
import { applyChange, Chain, type EditableChange, type Finding, type JobDefinition, type JobState, type Made } from "@bramble/core";
import type { ParsedDescription } from "@bramble/core/codes/parse";
import { codeOf } from "@bramble/core/codes/read";
import { contourLevels } from "@bramble/core/surface/contour";
import type { BuiltSurface } from "@bramble/core/surface/model";
import { volumeCurve } from "@bramble/core/volumes/curve";
import { stateOfBytes } from "../lib/state-of-bytes";
import { PLAIN_COLOR, type LineShown, type Shown, type View } from "../lib/view";

export type ToWorker =
  | { type: "load"; definition: JobDefinition & Pick<JobState, "intakes">; points: ArrayBuffer; delivered: ArrayBuffer | undefined; serial: number }
  | { type: "change"; change: EditableChange; serial: number };
export interface FromWorker { serial: number; view: Partial<View>; milliseconds: number }

const chain = new Chain();
let state: JobState | undefined;
/** The last thing sent under each name, to send only what is new. */
const sent = new Map<string, unknown>();

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  const begun = performance.now();
  if (data.type === "load") {
    state = stateOfBytes(data.definition, data.points, data.delivered);
    sent.clear();
  } else if (state) state = applyChange(state, data.change);
  if (!state) return;
  const view = derive(state);
  const milliseconds = performance.now() - begun;
  self.postMessage({ serial: data.serial, view, milliseconds } satisfies FromWorker);
  // The curves are for looking at and come after what an edit waits for.
  const curves = deriveCurves();
  if (curves) self.postMessage({ serial: data.serial, view: { curves }, milliseconds } satisfies FromWorker);
};

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
  const d = chain.run(s);
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
  once("setups", d.setups, () => (view.setups = d.setups));
  once("lines", d.lines, () => {
    const index = new Map(d.lines.map((l, k) => [l, k]));
    view.lines = d.lines.map((l): LineShown => ({
      code: l.code, name: l.entry.name ?? l.code, run: l.run, kind: l.entry.kind ?? "point", group: l.entry.group ?? "", color: l.entry.color ?? PLAIN_COLOR,
      breakline: l.entry.breakline ?? "none", intake: l.intake, shots: l.shots, cues: l.companion ? [] : l.shots.map((i) => cuesOf(d.coded.parsed[d.coded.description[i]!], l)), closed: l.closed, arcs: l.pieces.filter((p) => p.type === "arc").length,
      curves: l.pieces.filter((p) => p.type === "curve").length, ends: [l.pieces[0]?.from[2] ?? NaN, l.pieces.at(-1)?.to[2] ?? NaN],
      ...(l.companion ? { companion: { of: index.get(l.companion.of)!, right: l.companion.right, up: l.companion.up } } : {}),
      length: l.length, slopeLength: l.slopeLength, area: l.area,
    }));
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

/** What a shot says about one line, in the words of the cues. */
function cuesOf(parsed: ParsedDescription | undefined, line: { code: string; run: string }): string {
  const element = parsed?.elements.find((e) => e.code === line.code && e.run === line.run);
  return (element?.cues ?? []).map((c) => (c.value === undefined ? c.action : `${c.action}=${c.value}`)).join(" ");
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

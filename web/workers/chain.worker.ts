/**
 * Runs the chain beside the page: keeps the job's state, applies each change to it, and sends what became different.
 */
import {
  applyChanges,
  asItStands,
  asksForFindings,
  effectOf,
  Chain,
  layoutSource,
  Refusal,
  setContext,
  type Derived,
  type EditableChange,
  type Finding,
  type JobState,
  type Made,
  repairsOf,
  tryChange,
  type ToldChange,
  type Evidence,
  type Repair,
  type SetRule,
  type Trial,
  checkBook,
  checkCodeBookShape,
  type CodeBook,
  type HandoverFile,
  previewOf,
  type Preview,
} from "@bramble/core";
import { giveThreads, type FromThread, type Thread } from "@bramble/core/checks/levels/threads";
import { parseJson } from "@bramble/core/math/json";
import { axisOf } from "@bramble/core/job/chain/design-ways";
import { waysOf } from "@bramble/core/job/chain/design-ways";
import type { By, LevelBy } from "@bramble/core/construct/model";
import { tryConstruction, type Construed } from "@bramble/core/job/told/construction";
import { moveTold, pairsFor, type MoveTold, type PairsAsked } from "@bramble/core/job/told/moving";
import type { Move, MovePair } from "@bramble/core/points/moves";
import { madeCorners, type MadeCorner } from "@bramble/core/job/told/corners";
import { evidenceOf } from "@bramble/core/job/told/evidence";
import { membershipHistory, type MembershipHistory } from "@bramble/core/job/told/membership";
import type { SetContext } from "@bramble/core/sets/conditions";
import { explainRow, tally, type Reason, type Tally } from "@bramble/core/sets/explain";
import { pointsOfRule } from "@bramble/core/sets/sets";
import { codeOf } from "@bramble/core/codes/read";
import { standingRows } from "@bramble/core/construct/rows";
import { layOutTexts, type Layout, type LayoutSource, type TextsWanted } from "@bramble/core/drawing/layout";
import { cuesByHand } from "@bramble/core/job/edit/drawn-lines";
import { explainLine, type PieceFacts } from "@bramble/core/lines/explain";
import type { BoxIndex } from "@bramble/core/math/near";
import { lineCrossings, rightOf, snapIndex, snapsAt, type LineCrossing, type Snap } from "@bramble/core/lines/snap";
import { rowOf } from "@bramble/core/points/table";
import { contourLevels, type Contours } from "@bramble/core/surface/contour";
import { againstLine } from "@bramble/core/volumes/as-built";
import { volumeCurve } from "@bramble/core/volumes/by-level";
import { differenceMap } from "@bramble/core/volumes/map";
import type { StorageRow } from "@bramble/core/volumes/model";
import { opinionSteps } from "@bramble/core/volumes/opinion";
import { shotPrecision } from "@bramble/core/volumes/precision";
import { storageOf } from "@bramble/core/volumes/storage";
import { SurfaceReader } from "@bramble/core/surface/locate";
import { AlongWay, type DesignLine } from "@bramble/core/volumes/along-way";
import {
  alongLine,
  MOST_STATIONS,
  stationTable,
  type AtStation,
  type Every,
  type StationRow,
} from "@bramble/core/volumes/station-table";
import { jobOfBytes } from "../sent/job-sent";
import { lineShown } from "../lib/line-shown";
import type { Shown, View, VolumeLooked } from "../lib/view";

export type ToWorker =
  | { type: "load"; bytes: ArrayBuffer; serial: number }
  | { type: "changes"; changes: EditableChange[]; serial: number }
  | { type: "texts"; ask: TextsAsked }
  | { type: "volume"; name: string | undefined }
  | { type: "rehearse"; on: boolean }
  | { type: "question"; id: number; question: Question };
/** What the page asks about lines, whose exact pieces stay here. */
export type Question =
  | { what: "snap"; e: number; n: number; reach: number; close: number; from?: [number, number] }
  /** What a construction gives; `own` is the point that is to follow it, where there is one. */
  | { what: "construction"; of: { by: By; elevation?: number | LevelBy }; own?: number }
  /** Station and offset of a position by its nearest place on a line. */
  | { what: "beside"; line: DesignLine; e: number; n: number }
  /** What a move would do; `old` is the name of the one that it changes. */
  | { what: "move"; move: Move; old: string | undefined }
  | { what: "pairs"; move: Move; old: string | undefined; taken: readonly MovePair[]; asked: PairsAsked }
  /** Corners that cues made, as points that can be constructed. */
  | { what: "corners"; line: string }
  | { what: "pieces"; line: string }
  | { what: "crossings"; line: string; other: string }
  | { what: "right of"; line: string; e: number; n: number }
  | { what: "rule"; rule: SetRule }
  | { what: "why"; rule: SetRule; point: number }
  | { what: "finding"; key: string }
  | { what: "trial"; change: EditableChange }
  | { what: "book"; text: string; file: string }
  | { what: "file"; file: HandoverFile }
  | { what: "storage"; volume: string; level: number }
  | { what: "stations"; line: DesignLine; every: number; surface: string }
  | { what: "along"; line: string; every: Every }
  | { what: "membership"; set: string; entries: { seq: number; change: ToldChange }[] };
export interface Answers {
  /** The one that is meant first. */
  snap: Snap[];
  construction: Construed | undefined;
  beside: { station: number; offset: number } | undefined;
  move: MoveTold | undefined;
  pairs: MovePair[];
  corners: MadeCorner[];
  pieces: PieceFacts[];
  crossings: LineCrossing[];
  "right of": number | undefined;
  rule: RuleTaken | undefined;
  why: Reason | undefined;
  finding: FindingFacts | undefined;
  trial: Trial | { problem: string } | undefined;
  /** A code book as a file has it, or why it is none. The page itself may not run the programs that check shapes. */
  book: { book: CodeBook } | { problem: string };
  /** A look at a file of the handover, or why it cannot be made. */
  file: Preview | { problem: string } | undefined;
  /** How much a comparison of storage holds under a level. */
  storage: StorageRow | undefined;
  membership: MembershipHistory | undefined;
  /** The table of stations of a line with levels of a surface, or why there is none. */
  stations: { rows?: StationRow[]; problem?: string };
  /** Positions along a line, without its ends. */
  along: AtStation[];
}
/** What a finding rests on, and what may be done about it. */
export interface FindingFacts {
  evidence: Evidence | undefined;
  repairs: Repair[];
}
/** The rows that a rule takes and how its conditions come to them, or the sentence why it cannot be asked. */
export type RuleTaken = { rows: Int32Array; tally: Tally[] } | { problem: string };
/** The sheet's wish for texts: at which scale, which, and for a large job within which rectangle. */
export interface TextsAsked {
  unitsPerMm: number;
  want: TextsWanted;
  within: LayoutSource["within"];
  mostOrNone: boolean;
}
export type FromWorker =
  | { serial: number; view: Partial<View>; milliseconds: number }
  | { layout: Layout }
  | { stage: string }
  /** The comparison that one is at, looked at anew; and what has come to it since. */
  | { looked: VolumeLooked | undefined }
  | { more: Partial<VolumeLooked> }
  | { id: number; answer: Answers[keyof Answers] };

/** Threads that help with levels: none where the page and this one have all the cores. */
const THREADS = Math.min(4, navigator.hardwareConcurrency - 2);
let threads: Thread[] | undefined;
giveThreads(() => (threads ??= Array.from({ length: Math.max(0, THREADS) }, beginThread)));

function beginThread(): Thread {
  const worker = new Worker(new URL("./forms.worker.ts", import.meta.url), { type: "module" }),
    made: FromThread[] = [];
  worker.onmessage = ({ data }: MessageEvent<FromThread>) => made.push(data);
  return { tell: (message) => worker.postMessage(message), come: () => made.shift() };
}

const chain = new Chain(sayStage);
/** As it is stored, which changes are made of; and with points as they stand, which all else reads. */
let stored: JobState | undefined, state: JobState | undefined;
/** The last thing sent under each name, to send only what is new. */
const sent = new Map<string, unknown>();

/** Milliseconds from which on it is said what is being made; before, it is here sooner than it is read. */
const LONG = 300;
let begun = 0,
  said = "";

/** Says what is being made, where it takes long. */
function sayStage(name: string): void {
  if (performance.now() - begun < LONG) return;
  const words = wordsOfStage(name);
  if (!words || words === said) return;
  said = words;
  self.postMessage({ stage: words } satisfies FromWorker);
}

function wordsOfStage(name: string): string | undefined {
  if (/^(surface|contours|volume|smooth contours) /.test(name)) return name;
  if (/^(compiled|coded)$/.test(name)) return "codes";
  if (/^(assembled|lines|chains|terrainChains|symbols|notes)$/.test(name)) return "lines";
  return name.startsWith("check ") ? "findings" : undefined;
}

/** Loads and changes that have come and are not carried out yet. */
let waiting: Extract<ToWorker, { serial: number }>[] = [];
/** A message to itself comes after all that the page has sent already. */
const soon = new MessageChannel();
soon.port1.onmessage = () => {
  if (waiting.length) follow();
  else if (looking) goOnLooking();
  else goOnChecking();
};

self.onmessage = ({ data }: MessageEvent<ToWorker>) => {
  if (data.type === "texts") {
    asked = data.ask;
    if (waiting.length === 0) layOut();
  } else if (data.type === "rehearse") {
    follow();
    baseline = data.on && stored && state && derived ? { of: stored, state, derived } : undefined;
    if (!data.on)
      self.postMessage({ serial: lastSerial, view: { rehearsal: undefined }, milliseconds: 0 } satisfies FromWorker);
  } else if (data.type === "volume") {
    volume = data.name;
    if (waiting.length === 0) lookAtVolume();
  } else if (data.type === "question") {
    follow();
    self.postMessage({ id: data.id, answer: answer(data.question) } satisfies FromWorker);
  } else {
    waiting.push(data);
    if (waiting.length === 1) soon.port2.postMessage(0);
  }
};

/** Carries out all that waits and derives once. */
function follow(): void {
  if (waiting.length === 0) return;
  begun = performance.now();
  said = "";
  const all = waiting,
    last = all.findLastIndex((m) => m.type === "load");
  waiting = [];
  const load = all[last];
  if (load?.type === "load") {
    stored = jobOfBytes(load.bytes).state;
    sent.clear();
  }
  const changes = all.slice(last + 1).flatMap((m) => (m.type === "changes" ? m.changes : []));
  if (stored && changes.length) stored = applyChanges(stored, changes);
  if (!stored) return;
  const made = derive(stored),
    view = { ...made, ...rehearsalNow(state!, derived!) },
    { serial } = all.at(-1)!;
  const milliseconds = performance.now() - begun;
  self.postMessage({ serial, view, milliseconds } satisfies FromWorker);
  layOut();
  lastSerial = serial;
  // What is for looking at comes after what an edit waits for.
  lookAtVolume();
  checking = derived?.levelsToCome ? { serial, steps: chain.catchUp() } : undefined;
  if (checking) soon.port2.postMessage(0);
}

let lastSerial = 0;
/** The job as it was when a rehearsal began. */
let baseline: { of: JobState; state: JobState; derived: Derived } | undefined;

/** What became of the job since the rehearsal began. */
function rehearsalNow(s: JobState, d: Derived): Partial<View> {
  if (!baseline) return {};
  // Begun before the levels were checked, it has what that found before anything was changed.
  if (baseline.of === stored) baseline = { of: baseline.of, state: s, derived: d };
  const nothing: EditableChange = { type: "several", text: "", changes: [] },
    levels = !baseline.derived.levelsToCome && !d.levelsToCome;
  return { rehearsal: effectOf(baseline.state, baseline.derived, s, d, nothing, levels) };
}

/** The comparison that one is at, and what of it is still to be made. */
let volume: string | undefined,
  looking: { name: string; begun: boolean; steps: Generator<Partial<VolumeLooked>, void> } | undefined;

/** Half-edges of a surface from which on looking waits, and milliseconds that it waits. */
const LARGE = 300_000,
  REST = 400;

/** Begins to look closely at the comparison that one is at, where it is another than it was. */
function lookAtVolume(): void {
  const k = state?.volumes.findIndex((v) => v.name === volume) ?? -1,
    made = k < 0 ? undefined : derived?.pairs[k],
    recipe = state?.volumes[k],
    pair = made?.ok ? made.value : undefined;
  // The line across which its sections lie is a need where there is one.
  const across =
      recipe && typeof recipe.sections === "object" && "line" in recipe.sections ? derived?.lines : undefined,
    needs =
      pair && state
        ? [pair, recipe, state.points.precision, state.points.measured, state.levelPrecision, state.unit, across]
        : [];
  const last = sent.get("looked") as unknown[] | undefined;
  if (last && last.length === needs.length && last.every((x, i) => x === needs[i])) return;
  sent.set("looked", needs);
  looking = undefined;
  if (!pair || !recipe || !state) return tellLooked(undefined);
  const shots = shotPrecision(state.points, state.levelPrecision, state.unit),
    axis = across && axisOf(recipe, across, state);
  const steps = function* (): Generator<Partial<VolumeLooked>, void> {
    yield { map: differenceMap(pair), base: pair.base?.surface };
    let opinions: VolumeLooked["opinions"] = {};
    for (const more of opinionSteps(recipe, pair, shots, axis))
      yield { opinions: (opinions = { ...opinions, ...more }) };
    if (pair.kind === "level") yield { curve: volumeCurve(pair.from, pair.within) };
  };
  const mine = (looking = { name: recipe.name, begun: false, steps: steps() });
  // On a large job one step may take a second: it waits until the hand rests.
  const rest = pair.from.tri.length > LARGE ? REST : 0;
  setTimeout(() => looking === mine && soon.port2.postMessage(0), rest);
}

function goOnLooking(): void {
  if (!looking) return;
  const { name, begun } = looking,
    step = looking.steps.next(),
    more: Partial<VolumeLooked> = step.done ? { done: true } : step.value;
  // What is large goes once: a map sent again would be drawn again.
  if (begun) self.postMessage({ more } satisfies FromWorker);
  else tellLooked({ name, opinions: {}, done: false, ...more });
  looking.begun = true;
  if (step.done) looking = undefined;
  if (looking || checking) soon.port2.postMessage(0);
}

const tellLooked = (looked: VolumeLooked | undefined) => self.postMessage({ looked } satisfies FromWorker);

/** The levels being checked, which comes last and gives way to every change. */
let checking: { serial: number; steps: Generator<void, void> } | undefined;
/** Milliseconds of checking at a time. */
const AT_ONCE = 25;

function goOnChecking(): void {
  if (!checking || !stored) return;
  const { serial, steps } = checking,
    begun = performance.now();
  while (performance.now() - begun < AT_ONCE) {
    if (!steps.next().done) continue;
    checking = undefined;
    const made = derive(stored),
      view = { ...made, ...rehearsalNow(state!, derived!) };
    self.postMessage({ serial, view, milliseconds: performance.now() - begun } satisfies FromWorker);
    layOut();
    return;
  }
  soon.port2.postMessage(0);
}

let derived: Derived | undefined, asked: TextsAsked | undefined;

/** Texts find their places after what an edit waits for, and only when something that they depend on is new. */
function layOut(): void {
  if (!state || !derived || !asked) return;
  const { points: t } = state,
    d = derived;
  const needs = [
    d.symbols,
    d.notes,
    d.lines,
    d.chains,
    t.e,
    t.n,
    t.z,
    t.number,
    t.deleted,
    state.drawing,
    state.sets,
    state.added,
    d.ownNames,
    asked,
    // Labels may be of sets that ask for what was found.
    asksForFindings(state) ? d.findingsAt : undefined,
    ...d.drawnContours.map((c) => (c.ok ? c.value : c.refusal)),
  ];
  const last = sent.get("texts") as unknown[] | undefined;
  if (last && last.length === needs.length && last.every((x, k) => x === needs[k])) return;
  sent.set("texts", needs);
  const layout = layOutTexts(
    { ...layoutSource(state, d, asked.want), within: asked.within, mostOrNone: asked.mostOrNone },
    asked.unitsPerMm,
  );
  self.postMessage({ layout } satisfies FromWorker);
}

let snaps: { of: Derived["lines"]; index: BoxIndex } | undefined;

/** A code book's file, read and checked whole. */
function bookOf(text: string, file: string): Answers["book"] {
  try {
    const book = parseJson(text) as CodeBook,
      wrong = checkCodeBookShape(book, file);
    if (wrong) throw wrong;
    checkBook(book, file);
    return { book };
  } catch (e) {
    return { problem: (e as Error).message };
  }
}

/** What is made, or the sentence why it cannot be. */
function orProblem<T>(make: () => T): T | { problem: string } {
  try {
    return make();
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    return { problem: e.message };
  }
}

function answer(q: Question): Answers[keyof Answers] {
  if (q.what === "book") return bookOf(q.text, q.file);
  const lines = derived?.lines ?? [];
  if (!state || !derived) return undefined;
  const { chord } = state.tolerance;
  if (q.what === "file") {
    const { file } = q;
    return orProblem(() => previewOf(file, state!, derived!));
  }
  if (q.what === "rule") return takenBy(q.rule, setContext(state, derived));
  if (q.what === "why") {
    const row = rowOf(state.points, q.point);
    return row < 0 ? undefined : explainRow(q.rule, row, setContext(state, derived));
  }
  if (q.what === "finding") return factsOf(q.key);
  if (q.what === "storage") {
    const pair = derived.pairs.find((p) => p.name === q.volume);
    return pair?.ok && pair.value.kind === "storage"
      ? storageOf(pair.value.from, [q.level], pair.value.within)[0]
      : undefined;
  }
  if (q.what === "stations") return stationsOf(q);
  if (q.what === "construction") return tryConstruction(q.of, state, derived, q.own);
  if (q.what === "move") return moveTold(stored!, q.move, turnOf(q.old));
  if (q.what === "pairs") return pairsFor(stored!, q.move, q.asked, q.taken, turnOf(q.old));
  if (q.what === "corners") {
    const line = derived.lines.find((l) => l.key === q.line);
    return line ? madeCorners(line, state) : [];
  }
  if (q.what === "beside") return besideOf(q.line, q.e, q.n);
  if (q.what === "membership") return membershipHistory(chain, stored!, q.set, q.entries);
  if (q.what === "trial") {
    const { change } = q;
    return orProblem(() => tryChange(chain, stored!, derived!, change));
  }
  if (q.what === "snap") {
    if (snaps?.of !== lines) snaps = { of: lines, index: snapIndex(lines) };
    return snapsAt(state.points, lines, snaps.index, q.e, q.n, { ...q, chord });
  }
  const byKey = (key: string) => lines.find((l) => l.key === key),
    line = byKey(q.line);
  if (q.what === "pieces")
    return line
      ? explainLine(line, lineShown(line, derived, cuesByHand(state)).cues, (i) => state!.points.number[i]!)
      : [];
  if (q.what === "right of") return line && rightOf(line, q.e, q.n, chord);
  if (q.what === "along") return line ? alongLine(line.pieces, q.every) : [];
  const other = byKey(q.other);
  return line && other ? lineCrossings(line, other, chord) : [];
}

/** The table of stations of a line, with the levels of a surface. */
function stationsOf({ line, every, surface }: Extract<Question, { what: "stations" }>): Answers["stations"] {
  try {
    const [way] = waysOf({ name: "stations", line }, derived!.lines, state!),
      made = derived!.surfaces.find((s) => s.name === surface),
      reader = made?.ok ? new SurfaceReader(made.value.surface) : undefined,
      rows = stationTable(new AlongWay(way!), every, (e, n) => reader?.at(e, n)?.level ?? NaN);
    return rows ? { rows } : { problem: `These are more than ${MOST_STATIONS} stations: take them farther apart.` };
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    return { problem: "This line is not there any more." };
  }
}

function factsOf(key: string): FindingFacts | undefined {
  const f = derived?.findings.find((x) => x.key === key);
  if (!f || !derived || !state) return undefined;
  const { lines } = derived,
    hands = cuesByHand(state),
    d = derived;
  const line = (k: string) => {
    const found = lines.find((l) => l.key === k);
    return found && lineShown(found, d, hands);
  };
  return {
    evidence: evidenceOf(f, state, derived.levels),
    repairs: repairsOf(f, { state, findings: derived.findings, lines, line }),
  };
}

/** Where a position is beside a line; undefined where there is no such line. */
/** Where among the job's moves one comes that changes another, or is new. */
function turnOf(old: string | undefined): number | undefined {
  const at = stored!.moves.findIndex((m) => m.name === old);
  return at < 0 ? undefined : at;
}

function besideOf(line: DesignLine, e: number, n: number): Answers["beside"] {
  const recipe = { name: "measured", points: "*", tolerance: 1, line },
    of = { e: Float64Array.of(e), n: Float64Array.of(n), z: Float64Array.of(NaN) };
  try {
    const ways = waysOf(recipe, derived!.lines, state!),
      { station, offset } = againstLine(recipe, Int32Array.of(0), of, ways, state!.tolerance.chord);
    return { station: station[0]!, offset: offset[0]! };
  } catch (e) {
    if (e instanceof Refusal) return undefined;
    throw e;
  }
}

function takenBy(rule: SetRule, context: SetContext): RuleTaken {
  try {
    return { rows: pointsOfRule(rule, context, "rule"), tally: tally(rule, context) };
  } catch (e) {
    if (!(e instanceof Refusal)) throw e;
    return { problem: e.message.replace(/^rule: /, "") };
  }
}

function derive(given: JobState): Partial<View> {
  const d = (derived = chain.run(given, true)),
    s = (state = asItStands(given, d));
  const view: Partial<View> = { checking: d.levelsToCome, levelsLeftOut: d.levelsLeftOut };
  const once = (name: string, identity: unknown, fill: () => void) => {
    if (sent.get(name) === identity) return;
    sent.set(name, identity);
    fill();
  };
  once("codes", d.coded, () => {
    const codes: string[] = [],
      places = new Map<string, number>();
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
    view.known = Uint8Array.from(codes, (c) => (c === "" || d.compiled.codes.has(c) ? 1 : 0));
    view.ground = d.coded.ground;
  });
  once("said", d.coded, () => (view.said = attributesSaid(s, d)));
  once("findings", d.findings, () =>
    Object.assign(view, { findings: d.findings, findingsOf: findingsOf(s, d.findings) }),
  );
  once("standing", d.points, () => (view.standing = standingRows(d)));
  once("symbols", d.symbols, () => (view.symbols = d.symbols));
  once("setups", d.setupReports, () => (view.setups = d.setupReports));
  once("lines", [d.lines, d.ownNames].map(identityOf).join(), () => {
    const hands = cuesByHand(s);
    view.lines = d.lines.map((l) => lineShown(l, d, hands));
  });
  once("chains", d.chains, () => (view.chains = d.chains));
  once("point setups", d.pointSetups, () => (view.pointSetups = d.pointSetups));
  view.sets = d.madeSets.map((x) => shown(x, (v) => v.length));
  // Surfaces go over only when one of them was built again: they are the heavy part.
  const heavy = <T>(name: string, list: Made<T>[], fill: () => void) =>
    once(name, list.map((x) => (x.ok ? identityOf(x.value) : x.refusal.message)).join(), fill);
  heavy(
    "surfaces",
    d.surfaces,
    () => (view.surfaces = d.surfaces.map((x) => shown(x, ({ surface, report }) => ({ surface, report })))),
  );
  heavy(
    "contours",
    d.drawnContours,
    () =>
      (view.contours = d.drawnContours.map((x, k) =>
        shown(x, (contours) => ({ contours, levels: levelsOf(d.contours[k]!) })),
      )),
  );
  view.volumes = d.volumes.map((x) => shown(x, (v) => v));
  heavy("differences", d.differences, () => (view.differences = d.differences.map((x) => shown(x, (v) => v))));
  return view;
}

/** What is told of contours is told of the exact lines, however they are drawn. */
const levelsOf = (exact: Made<Contours>) => (exact.ok ? contourLevels(exact.value) : []);

/** Attributes that descriptions give, by name in small letters and row. */
function attributesSaid(s: JobState, { coded }: Derived): Map<string, Map<number, string>> {
  const said = new Map<string, Map<number, string>>(),
    giving = coded.parsed.map((p) => p?.elements.some((e) => e.attributes.size > 0));
  for (let i = 0; i < s.points.count; i++) {
    if (!giving[coded.description[i]!]) continue;
    for (const e of coded.parsed[coded.description[i]!]!.elements)
      for (const [written, value] of e.attributes) {
        const name = written.toLowerCase();
        let rows = said.get(name);
        if (!rows) said.set(name, (rows = new Map()));
        if (!rows.has(i)) rows.set(i, value);
      }
  }
  return said;
}

/** How many findings speak of each intake: by its name, or by a point of it. */
function findingsOf(s: JobState, findings: readonly Finding[]): number[] {
  const { points: t } = s,
    out = s.intakes.map(() => 0);
  for (const f of findings) {
    if (f.severity === "note" || f.accepted !== undefined) continue;
    const intakes = new Set(f.points.map((id) => t.intake[rowOf(t, id)] ?? -1));
    if (typeof f.data.intake === "string") intakes.add(s.intakes.findIndex((k) => k.id === f.data.intake));
    for (const k of intakes) if (k >= 0) out[k]!++;
  }
  return out;
}

function shown<T, S>(made: Made<T>, value: (v: T) => S): Shown<S> {
  return made.ok
    ? { name: made.name, value: value(made.value) }
    : { name: made.name, failure: { code: made.refusal.code, message: made.refusal.message } };
}

const identities = new WeakMap<object, number>();
let counted = 0;
function identityOf(value: unknown): number {
  let id = identities.get(value as object);
  if (id === undefined) identities.set(value as object, (id = ++counted));
  return id;
}

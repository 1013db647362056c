/** What the go-to field finds for a word: points, lines, codes, surfaces, places and actions. */
import { lineName } from "@bramble/core/lines/model";
import { PLACE_NAMES, PLACES } from "./places";
import { GONE_DELETED, GONE_GAVE_WAY, rowOf } from "@bramble/core/points/table";
import { boxOfPoints } from "./box";
import { openPlace } from "./navigate";
import { sayUnseen } from "./point-facts";
import { useJob } from "./store";
import { openLine, openPoint } from "./subjects";

export interface Choice {
  kind: "Make" | "Measure" | "Point" | "Line" | "Code" | "Surface" | "Place" | "Action";
  name: string;
  go: () => void;
}

/** What choices need of the window. */
export interface Ways {
  /** To another page than the job's. */
  leave(path: string): void;
  openTray(tray: "findings" | "ledger"): void;
  openShortcuts(): void;
  makePoint(): void;
  measure(): void;
  /** What a line of words would make; undefined where it does not begin like that. */
  written(text: string): Choice | undefined;
}

/** Points whose number only begins with the word. */
const MOST_BEGINNINGS = 5;
const MOST = 12;

/** The nearest choices for a word; without one every place, the code book, the settings and the actions. */
export function choicesFor(wanted: string, ways: Ways): Choice[] {
  const q = wanted.trim().toLowerCase();
  const fixed = [...placeChoices(), ...surfaceChoices(), ...actionChoices(ways)];
  if (!q) return fixed;
  const named = fixed.filter((c) => c.name.toLowerCase().includes(q));
  const written = ways.written(wanted.trim());
  return [...(written ? [written] : []), ...pointChoices(q), ...lineChoices(q), ...codeChoices(q), ...named].slice(
    0,
    MOST,
  );
}

/** Selects points and lines and shows them. */
function goToPoints(rows: number[], lines: string[] = []): void {
  const { job, select, show } = useJob.getState();
  select({ points: rows.map((i) => job.points.id[i]!), lines });
  show(boxOfPoints(job.points, rows));
}

function pointChoices(q: string): Choice[] {
  const { points: t } = useJob.getState().job;
  const exact: number[] = [],
    beginning: number[] = [],
    unseen: Choice[] = [];
  for (let i = 0; i < t.count; i++) {
    if (t.number[i]!.length < q.length) continue;
    const number = t.number[i]!.toLowerCase();
    if (t.deleted[i]) {
      if (number === q)
        unseen.push({ kind: "Point", name: `${t.number[i]}, ${goneWords(t.deleted[i]!)}`, go: () => sayUnseen(i) });
    } else if (number === q) exact.push(i);
    else if (beginning.length < MOST_BEGINNINGS && number.startsWith(q)) beginning.push(i);
  }
  // What the field called so may have another number now.
  for (const [id, came] of Object.entries(t.cameAs ?? {})) {
    const i = rowOf(t, Number(id));
    if (came.toLowerCase() === q && i >= 0 && !t.deleted[i] && t.number[i]!.toLowerCase() !== q)
      unseen.push({ kind: "Point", name: `${came}, which is ${t.number[i]} now`, go: () => openPoint(i) });
  }
  return [
    ...exact.map((i): Choice => ({ kind: "Point", name: t.number[i]!, go: () => openPoint(i) })),
    ...unseen,
    ...beginning.map((i): Choice => ({ kind: "Point", name: t.number[i]!, go: () => openPoint(i) })),
  ];
}

function lineChoices(q: string): Choice[] {
  return useJob
    .getState()
    .view.lines.filter((l) => [lineName(l), l.ownName].some((name) => name?.toLowerCase().startsWith(q)))
    .slice(0, MOST)
    .map((l) => ({
      kind: "Line",
      name: l.ownName === undefined ? lineName(l) : `${l.ownName}, ${lineName(l)}`,
      go() {
        goToPoints(l.shots, [l.key]);
        openLine(l.key);
      },
    }));
}

function codeChoices(q: string): Choice[] {
  const { job, view } = useJob.getState();
  return view.codes.flatMap((c, k) =>
    c && c.toLowerCase().startsWith(q)
      ? [
          {
            kind: "Code" as const,
            name: `all ${c}`,
            go() {
              const rows: number[] = [];
              for (let i = 0; i < job.points.count; i++) if (!job.points.deleted[i] && view.code[i] === k) rows.push(i);
              goToPoints(rows);
            },
          },
        ]
      : [],
  );
}

function placeChoices(): Choice[] {
  const places = [
    ...PLACES.map((p) => [p, PLACE_NAMES[p]] as const),
    ["book", "Code book"] as const,
    ["settings", "Job settings"] as const,
  ];
  return places.map(([place, name]) => ({ kind: "Place", name, go: () => openPlace(place) }));
}

function surfaceChoices(): Choice[] {
  return useJob.getState().view.surfaces.map((s) => ({
    kind: "Surface",
    name: s.name,
    go() {
      useJob.getState().set({ surface: s.name });
      openPlace("surface");
    },
  }));
}

function actionChoices(ways: Ways): Choice[] {
  const { undo, redo, toggle } = useJob.getState();
  const actions: [string, () => void][] = [
    ["Whole job", () => void window.dispatchEvent(new Event("sheet:fit"))],
    ["Make a point", ways.makePoint],
    ["Measure", () => ways.measure()],
    ["Undo", () => void undo()],
    ["Redo", () => void redo()],
    ["Findings", () => ways.openTray("findings")],
    ["Ledger", () => ways.openTray("ledger")],
    ["Show or hide triangles", () => toggle("triangles")],
    ["Rehearse changes without storing them", () => useJob.getState().rehearse()],
    ["Show or hide contours", () => toggle("contours")],
    ["Take in a file", () => openPlace("intake")],
    ["Shortcuts", ways.openShortcuts],
    ["All jobs", () => ways.leave("/")],
  ];
  return actions.map(([name, go]) => ({ kind: "Action", name, go }));
}

/** Why a point is not there, by its bits. */
function goneWords(gone: number): string {
  if (gone & GONE_DELETED) return "deleted";
  return gone & GONE_GAVE_WAY ? "giving way to another" : "without a position";
}

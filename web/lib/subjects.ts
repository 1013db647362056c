/** The way to what a finding or an entry of the ledger speaks of: its cell, line, setup or setting, in its place. */
import { kindOfFinding } from "@bramble/core/finding-kinds";
import { textKey } from "./text-at";
import type { EditField } from "@bramble/core/records/fields";
import { nameOfLine, setupName, type Finding, type Subject } from "@bramble/core";
import { lineNamed } from "@bramble/core/lines/names";

import { rowOf } from "@bramble/core/points/table";
import { findPoints } from "@bramble/core/points/refs";
import { boxOfPoints } from "./box";
import { goToFinding } from "./findings";
import { openPlace } from "./navigate";
import { sayUnseen } from "./point-facts";
import { useJob } from "./store";

/** Opens what a detail of the ledger speaks of; a sentence says why when it is gone. */
export function openSubject(subject: Subject): void {
  const { job, view, keep, set, select } = useJob.getState();
  const gone = (what: string) => set({ notice: { text: `${what} is not in the job any more.`, tone: "plain" } });
  if ("point" in subject) {
    const row = rowOf(job.points, subject.point);
    if (row < 0) return gone("That point");
    if (job.points.deleted[row])
      return set({
        notice: { text: `Point ${job.points.number[row]} is deleted; Undo brings it back.`, tone: "plain" },
      });
    return openPoint(row, subject.field);
  }
  if ("setting" in subject) return openSetting(subject.setting);
  if ("intake" in subject) {
    if (!job.intakes.some((k) => k.id === subject.intake)) return gone("That intake");
    keep("intake.chosen", subject.intake);
    return openPlace("intake");
  }
  const { part, name } = subject;
  switch (part) {
    case "lines": {
      const line = view.lines.find((l) => l.hand === name);
      if (!line) return gone("That line");
      return openLine(line.key);
    }
    case "codes":
      keep("book.tab", "codes");
      keep("book.code", name);
      return openPlace("book");
    case "setups": {
      const setup = view.setups.find((s) => setupName({ intake: job.intakes[s.intake]!.id, setup: s.id }) === name);
      if (!setup) return gone("That setup");
      return openSetup(job.intakes[setup.intake]!.id, setup.id);
    }
    case "surfaces":
    case "contours":
      set({ surface: name });
      return openPlace("surface");
    case "differences":
      keep("volumes.tab", "built");
      keep("volumes.built", name);
      return openPlace("volumes");
    case "volumes":
      set({ volume: name });
      return openPlace("volumes");
    case "handover":
      return openPlace("handover");
    case "names": {
      const named = job.names.find((n) => lineNamed(n.line) === name),
        line = named && view.lines.find((l) => nameOfLine(job, l) === named);
      return line ? openLine(line.key) : openPlace("lines");
    }
    case "added":
      return openAdded(name);
    case "accepted": {
      const accepted = job.accepted.find((a) => a.name === name),
        found = view.findings.find((f) => accepted && f.kind === accepted.kind && f.accepted === accepted.reason);
      if (!found) return gone("That acceptance");
      return goToFinding(found);
    }
    case "states":
      return set({ notice: { text: `“${name}” stands in the ledger, at the entry that it follows.`, tone: "plain" } });
    case "sets":
      select({});
      return openPlace("points");
  }
}

/** What was added to the drawing is shown on the sheet: its text is picked there, or its symbol's point selected. */
export function openAdded(name: string): void {
  const { job, layout, set, show, select } = useJob.getState(),
    own = job.added.find((a) => a.name === name),
    row = own && "symbol" in own ? findPoints(job.points, job.intakes).rowOf(own.symbol) : -1,
    text = layout?.texts.find((t) => t.added === name);
  if (row >= 0) {
    set({ textPicked: undefined });
    select({ points: [job.points.id[row]!] });
    return show(boxOfPoints(job.points, [row]));
  }
  if (!text) return set({ notice: { text: "It is not on the drawing now.", tone: "plain" } });
  set({ textPicked: textKey(text) });
  const r = 20 * layout!.unitsPerMm;
  show({ minE: text.e - r, minN: text.n - r, maxE: text.e + r, maxN: text.n + r });
}

/** The row of a point has the keyboard, and it is shown. */
export function openPoint(row: number, field?: EditField): void {
  const { job, select, show, arriveAt } = useJob.getState(),
    t = job.points;
  select({ points: [t.id[row]!] });
  show({ minE: t.e[row]!, maxE: t.e[row]!, minN: t.n[row]!, maxN: t.n[row]! });
  arriveAt(t.id[row]!, field);
  openPlace("points");
  sayUnseen(row);
}

/** The story of a point. */
export function openStory(row: number): void {
  useJob.getState().keep("points.form", "story");
  openPoint(row);
}

/** A line with its facts. */
export function openLine(key: string): void {
  const { job, view, select } = useJob.getState();
  const line = view.lines.find((l) => l.key === key);
  if (line) select({ lines: [key], points: line.shots.map((i) => job.points.id[i]!) });
  openPlace("lines");
}

function openSetup(intake: string, setup: string): void {
  const { keep } = useJob.getState();
  keep("intake.chosen", intake);
  keep("intake.tab", "setups");
  keep("intake.setup", setup);
  openPlace("intake");
}

function openSetting(field: string): void {
  const { keep } = useJob.getState();
  if (field === "book") return openPlace("book");
  if (field === "drawing") {
    keep("book.tab", "drawing");
    return openPlace("book");
  }
  keep("settings.field", field);
  openPlace("settings");
}

/** Where a finding leads, in a word for its button; undefined when there is nothing to open. */
export function leadsTo(f: Finding): "cell" | "line" | "setup" | "setting" | "intake" | "move" | undefined {
  if (typeof f.data.setup === "string") return "setup";
  if (f.kind === "outside-range") return "setting";
  // It is in no row of the table: its construction stands beside the finding.
  if (f.kind === "computed-lost") return undefined;
  if (f.kind === "move-lost") return "move";
  if (kindOfFinding(f.kind).ofLine && f.lines.length) return "line";
  if (f.points.length) return "cell";
  if (f.lines.length) return "line";
  return typeof f.data.intake === "string" ? "intake" : undefined;
}

/** Selects and shows what a finding is about, and opens where it is mended. */
export function openFinding(f: Finding): void {
  const { job, arriveAt } = useJob.getState();
  goToFinding(f);
  switch (leadsTo(f)) {
    case "setup":
      return openSetup(String(f.data.intake), String(f.data.setup));
    case "setting":
      return openSetting("crews");
    case "line":
      useJob.getState().select({ points: f.points, lines: f.lines.slice(0, 1), finding: f });
      return openPlace("lines");
    case "cell": {
      const there = f.points.find((id) => {
        const row = rowOf(job.points, id);
        return row >= 0 && !job.points.deleted[row];
      });
      if (there === undefined) return openPlace("points");
      arriveAt(there, kindOfFinding(f.kind).cell);
      return openPlace("points");
    }
    case "move":
      useJob.getState().keep("points.tab", "moves");
      return openPlace("points");
    case "intake":
      useJob.getState().keep("intake.chosen", f.data.intake);
      return openPlace("intake");
  }
}

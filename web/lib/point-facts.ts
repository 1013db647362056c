/** What is known of a point beside its columns: why a surface uses it or not, and why it may not be seen on the sheet. */
import { KINDS, type JobState } from "@bramble/core";
import { isDrawn } from "@bramble/core/drawing/order";
import { GONE_DELETED, rowOf } from "@bramble/core/points/table";
import { SURFACE_CHOICES } from "@bramble/core/records/kinds";
import { useJob } from "./store";
import type { View } from "./view";

/** Whether surfaces of ground points take a point, and why. */
export function surfaceUse({ points: t }: JobState, view: View, i: number): { used: boolean; why: string } {
  const kind = KINDS[t.kind[i]!]!;
  if (t.deleted[i]) return { used: false, why: "it is not there" };
  if (Number.isNaN(t.z[i]!)) return { used: false, why: "it has no elevation" };
  if (t.surface[i] === 1) return { used: true, why: "an edit takes it in" };
  if (t.surface[i] === 2) return { used: false, why: "an edit keeps it out; its elevation stays" };
  if (kind === "design" || kind === "reference") return { used: false, why: `${kind} points are no ground` };
  const code = view.codes[view.code[i] ?? 0] ?? "";
  if (view.ground[i])
    return { used: true, why: code === "" ? "it has no code that says otherwise" : `${code} is ground` };
  return { used: false, why: `its code ${code} or a cue says that it is not on the ground` };
}

const OUT = SURFACE_CHOICES.indexOf("out");

export interface Unseen {
  why: string;
  show?: { name: string; go: () => void };
}

/** Why a point is not seen on the sheet as it looks now; undefined where it is. */
export function whyUnseen(i: number): Unseen | undefined {
  const s = useJob.getState(),
    { job, view } = s,
    t = job.points,
    number = `Point ${t.number[i]}`;
  if (t.deleted[i]! & GONE_DELETED)
    return {
      why: `${number} is deleted.`,
      show: {
        name: "Bring it back",
        go: () => void s.change({ type: "points", edits: [{ id: t.id[i]!, field: "deleted", old: true, new: false }] }),
      },
    };
  if (t.deleted[i] || Number.isNaN(t.e[i]!) || Number.isNaN(t.n[i]!))
    return { why: `${number} has no position: no setup that is reduced has observed it.` };
  if (s.onlyRows && s.onlyRows[i] !== 1)
    return {
      why: `${number} is faint: only ${s.only?.name ?? "others"} are shown.`,
      show: { name: "Show all", go: () => s.set({ only: undefined }) },
    };
  if (!s.layers.points)
    return {
      why: `${number} is not seen: points are switched off.`,
      show: { name: "Show points", go: () => s.toggle("points", true) },
    };
  const code = view.codes[view.code[i] ?? 0] ?? "",
    entry = job.book.codes?.find((c) => c.code.toUpperCase() === code.toUpperCase()),
    hidden = job.drawing?.hidden;
  if (entry && !isDrawn({ group: entry.group ?? "", layer: entry.layer ?? entry.code, kind: entry.kind }, hidden))
    return {
      why: `${number} is not drawn: ${code} is on layer “${entry.layer ?? entry.code}”, which is hidden.`,
      show: { name: "Look of the sheet", go: () => s.keep("sheet.panel", true) },
    };
  return undefined;
}

/** Says why a point that was gone to is not seen, if so. */
export function sayUnseen(i: number): void {
  const unseen = whyUnseen(i);
  if (!unseen) return;
  const { set } = useJob.getState();
  set({ notice: { text: unseen.why, tone: "plain", ...(unseen.show ? { action: unseen.show } : {}) } });
}

/** Keeps the selected points out of surfaces, their elevations as they are; where all are out already, by code again. */
export function toggleSurfaceUse(): void {
  const { job, points, change, set } = useJob.getState(),
    t = job.points,
    rows = [...points].map((id) => rowOf(t, id)).filter((i) => i >= 0 && !t.deleted[i]);
  if (rows.length === 0) return set({ notice: { text: "Select the points to keep out of surfaces.", tone: "plain" } });
  const to = rows.every((i) => t.surface[i] === OUT) ? "auto" : "out";
  const edits = rows.map((i) => ({
    id: t.id[i]!,
    field: "surface" as const,
    old: SURFACE_CHOICES[t.surface[i]!]!,
    new: to,
  }));
  change({ type: "points", edits: edits.filter((e) => e.old !== e.new) });
  const who = rows.length === 1 ? `Point ${t.number[rows[0]!]}` : `${rows.length} points`;
  set({
    notice: {
      text: to === "out" ? `${who} kept out of surfaces; elevations stay.` : `${who} in surfaces by code again.`,
      tone: "settled",
    },
  });
}

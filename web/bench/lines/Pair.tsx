"use client";
import { useState } from "react";
import { trimLine } from "@bramble/core";
import { extendTo, pieceMet } from "@bramble/core/job/edit/geometry";
import { nextFreeNumber } from "@bramble/core/job/change/next-number";
import { constructionOfSnap } from "@bramble/core/construct/model";
import { lineName } from "@bramble/core/lines/model";
import type { LineCrossing } from "@bramble/core/lines/snap";
import { refOf, refOfMade } from "@bramble/core/points/refs";
import { formatFixed } from "@bramble/core/math/round";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import type { LineShown } from "../../lib/view";
import { JoinForm } from "./JoinForm";
import { followed } from "../maker/make-point";
import { make, makeWithPoints } from "./make";

/** Two lines: joined into one, or the first cut where it crosses the second. */
export function Pair({ pair: [first, second] }: { pair: [LineShown, LineShown] }) {
  const { job, ask, pointToMake, set } = useParts("job", "ask", "pointToMake", "set");
  const [found, setFound] = useState<LineCrossing[]>(),
    [joining, setJoining] = useState(false);
  const look = async () => setFound(await ask({ what: "crossings", line: first.key, other: second.key }));
  /** The point at the crossing and what becomes of the line are one change. */
  const trim = async (c: LineCrossing, keep: "before" | "after") => {
    const t = job.points;
    // A point that stands there already is taken; else one is made at the crossing.
    const there = first.shots.find((i) => Math.hypot(t.e[i]! - c.e, t.n[i]! - c.n) < job.tolerance.coincident);
    const number = there === undefined ? nextFreeNumber(job) : t.number[there]!,
      points = there === undefined ? await pointToMake({ number, e: c.e, n: c.n, z: c.z, description: "" }) : undefined;
    if (there === undefined && !points) return;
    const ref = points ? refOfMade(points.id[0]!, number) : refOf(t, job.intakes, there!),
      edit = trimLine(job, first, c.after, { number, ref }, keep);
    if ("refused" in edit || !points) return make(edit) && setFound(undefined);
    // The point goes on standing where the two cross, whatever becomes of their shots.
    const by = constructionOfSnap({ kind: "crossing", ...c }, t, (row) => refOf(t, job.intakes, row)),
      follows = by && followed(points.id[0]!, { by }),
      following = follows
        ? [{ type: "named" as const, part: "computed" as const, name: String(follows.point), old: null, new: follows }]
        : [];
    const text = `${lineName(first)} trimmed at ${lineName(second)}`,
      ones = edit.change.type === "several" ? edit.change.changes : [edit.change];
    if (make({ change: { type: "several", text, changes: [{ type: "add", points }, ...following, ...ones] } }))
      setFound(undefined);
  };
  const extend = async () => {
    const text = await makeWithPoints((now, ids) => {
      const piece = pieceMet(now, first, second);
      return piece
        ? extendTo(now, first, piece, ids)
        : { refused: `Neither end of ${lineName(first)} comes to ${lineName(second)} when it goes straight on.` };
    });
    if (text !== undefined) set({ notice: { text: `${text}. Undo takes it back.`, tone: "settled" } });
  };
  return (
    <div className="shrink-0 border-t border-rule px-4 py-3" data-testid="pair">
      <div className="flex flex-wrap items-center gap-2">
        <p className="min-w-0 flex-1">
          {lineName(first)} and {lineName(second)} are selected.
        </p>
        <button className="button" aria-expanded={joining} onClick={() => setJoining(!joining)}>
          Join them
        </button>
        <button className="button" onClick={() => void extend()}>
          Extend {lineName(first)} to {lineName(second)}
        </button>
        <button className="button" onClick={() => void look()}>
          Trim {lineName(first)} at {lineName(second)}
        </button>
      </div>
      {joining && (
        <JoinForm key={`${first.key} ${second.key}`} first={first} second={second} leave={() => setJoining(false)} />
      )}
      {found?.length === 0 && <p className="mt-2 text-soft">They do not cross.</p>}
      {found?.map((c, k) => (
        <div key={k} className="row mt-1 gap-2">
          <span className="min-w-0 flex-1">
            Crossing{c.after >= 0 ? ` after ${job.points.number[first.shots[c.after]!]}` : ""}, level{" "}
            {Number.isNaN(c.z) ? "not known" : `${formatFixed(c.z, decimalsOf(job.unit))} ${job.unit}`}
          </span>
          <button className="button h-6" onClick={() => void trim(c, "before")}>
            Keep what comes before
          </button>
          <button className="button h-6" onClick={() => void trim(c, "after")}>
            Keep what comes after
          </button>
        </div>
      ))}
    </div>
  );
}

"use client";
/** Which points a move moves: selected ones, those of a set or of a filter as they are now, or deliveries whatever they hold. */
import { movedWords } from "@bramble/core/points/move-words";
import type { PointsToMove } from "@bramble/core/points/moves";
import { sameJson } from "@bramble/core/math/json";
import { refOf } from "@bramble/core/points/refs";
import { Choice } from "../../controls/fields/Choice";
import { useParts } from "../../lib/store";
import { grouped } from "../../lib/units-shown";
import type { MoveDraft } from "./draft";
import { draftNow, selectedToMove } from "./begin";

export function WhatMoves({ draft, setDraft }: { draft: MoveDraft; setDraft: (next: MoveDraft) => void }) {
  const { job, points, ask, set } = useParts("job", "points", "ask", "set"),
    put = (to: PointsToMove) => {
      const now = draftNow();
      if (now) setDraft({ ...now, points: to });
    };
  const choose = (value: string) => {
    if (value === "selected") return put(selectedToMove());
    const [what, ...rest] = value.split(":"),
      name = rest.join(":");
    if (what === "intake") return put({ intakes: [name] });
    if (what === "every") return put({ intakes: job.intakes.map((k) => k.id) });
    void ask({ what: "rule", rule: { set: name } }).then((taken) => {
      if (!taken) return;
      if ("problem" in taken) return set({ notice: { text: taken.problem, tone: "problem" } });
      if (taken.rows.length === 0)
        return set({ notice: { text: `The set “${name}” holds no point now.`, tone: "plain" } });
      put({ chosen: Array.from(taken.rows, (i) => refOf(job.points, job.intakes, i)) });
    });
  };
  const { points: now } = draft,
    asDelivery = "intakes" in now && now.intakes.length === 1 ? `intake:${now.intakes[0]}` : undefined,
    value =
      asDelivery ??
      ("intakes" in now &&
      sameJson(
        now.intakes,
        job.intakes.map((k) => k.id),
      )
        ? "every:"
        : "as it is");
  return (
    <Choice
      label="Moves"
      width="max-w-60"
      value={value}
      onChange={choose}
      options={[
        ["as it is", "intakes" in now ? movedWords(draft) : `the ${movedWords(draft)} chosen`] as const,
        ...(points.size ? [["selected", `the ${grouped(points.size)} selected`] as const] : []),
        { group: "Deliveries, whatever they hold", of: job.intakes.map((k) => [`intake:${k.id}`, k.file] as const) },
        ...(job.intakes.length > 1 ? [["every:", "all deliveries"] as const] : []),
        { group: "Sets, their points now", of: job.sets.map((s) => [`set:${s.name}`, s.name] as const) },
      ]
        .filter((o) => !("group" in o) || o.of.length > 0)
        .filter((o) => value === "as it is" || !(Array.isArray(o) && o[0] === "as it is"))}
    />
  );
}

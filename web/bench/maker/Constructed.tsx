"use client";
/** What a point that the office made follows, as a form: changed, freed where it stands, or given to one that was typed. */
import { useState } from "react";
import type { OneChange } from "@bramble/core/job/change/change";
import { WAYS, type By, type Construction, type LevelBy, type WayName } from "@bramble/core/construct/model";
import { formatFixed } from "@bramble/core/math/round";
import { coordinateEdits } from "@bramble/core/job/edit/coordinates";
import { rowOf } from "@bramble/core/points/table";
import { Choice } from "../../controls/fields/Choice";
import { unless } from "../../controls/unless";
import { linesAsked } from "../../lib/design-lines";
import { useJob, useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { anotherWay, draftOf, type Draft } from "./draft";
import { followed } from "./make-point";
import { WhichOfTwo } from "./WhichOfTwo";
import { inWords, useMaker } from "./use-maker";
import { LevelFields, WayFields } from "./WayFields";

export function Constructed({ id }: { id: number }) {
  const { job, view, lines, change } = useParts("job", "view", "lines", "change"),
    [draft, setDraft] = useState<Draft>(),
    t = job.points,
    i = rowOf(t, id),
    old = job.computed.find((c) => c.point === id);
  const now: { by: By; elevation?: number | LevelBy } = {
    by: old?.by ?? { at: [t.e[i]!, t.n[i]!] },
    ...(old?.elevation ? { elevation: old.elevation } : Number.isNaN(t.z[i]!) ? {} : { elevation: t.z[i]! }),
  };
  if (draft)
    return <Form key={id} id={id} draft={draft} setDraft={setDraft} old={old} leave={() => setDraft(undefined)} />;
  /** The point goes on where it stands now, following nothing. */
  const free = () => {
    const coordinates = { northing: t.n[i]!, easting: t.e[i]!, elevation: Number.isNaN(t.z[i]!) ? null : t.z[i]! },
      changes: OneChange[] = [
        { type: "named", part: "computed", name: String(id), old, new: null },
        { type: "points", edits: stood(id, coordinates) },
      ];
    change({ type: "several", text: `Point ${t.number[i]} stands where it is and follows nothing`, changes });
  };
  return (
    <span className="flex flex-wrap items-center gap-x-3">
      <span>
        {old ? inWords(job, { by: now.by, ...(old.elevation ? { elevation: old.elevation } : {}) }) : "by coordinates"}
      </span>
      <button
        className="button h-6"
        onClick={() => setDraft(draftOf(now, { job, lines: linesAsked(job, view, lines) }))}
      >
        {old ? "Change" : "Let it follow"}
      </button>
      {old && !t.deleted[i] && (
        <button className="button h-6" onClick={free}>
          Let it stand where it is
        </button>
      )}
    </span>
  );
}

type Coordinates = Partial<Record<"northing" | "easting" | "elevation", number | null>>;

/** Edits that give a point coordinates of its own, those alone that are others; what is stored of it is of when it was made. */
function stood(id: number, to: Coordinates) {
  const { points: t } = useJob.getState().stored();
  return coordinateEdits(t, rowOf(t, id), to);
}

function Form({
  id,
  draft,
  setDraft,
  old,
  leave,
}: {
  id: number;
  draft: Draft;
  setDraft: (next: Draft) => void;
  old: Construction | undefined;
  leave: () => void;
}) {
  const { job, change } = useParts("job", "change"),
    maker = useMaker(draft, setDraft, id),
    { given, meant, problem, fields } = maker,
    t = job.points,
    i = rowOf(t, id),
    d = decimalsOf(job.unit),
    text = ([e, n, z]: readonly [number, number, number]) =>
      `N ${formatFixed(n, d)}, E ${formatFixed(e, d)}, ${Number.isNaN(z) ? "without a level" : `level ${formatFixed(z, d)}`}`;
  const keep = () => {
    if (!meant) return;
    const [e, n, z] = meant.at,
      follows = followed(id, meant),
      // What it does not follow is its own: typed coordinates, a typed level.
      edits = stood(id, {
        ...(follows?.by ? {} : { easting: e, northing: n }),
        ...(follows?.elevation ? {} : { elevation: Number.isNaN(z) ? null : z }),
      });
    const changes: OneChange[] = [
      ...(old || follows
        ? [
            {
              type: "named" as const,
              part: "computed" as const,
              name: String(id),
              old: old ?? null,
              new: follows ?? null,
            },
          ]
        : []),
      ...(edits.length ? [{ type: "points" as const, edits }] : []),
    ];
    if (
      changes.length === 0 ||
      change({ type: "several", text: `Construction of point ${t.number[i]} changed`, changes })
    )
      leave();
  };
  return (
    <form
      aria-label={`Construction of point ${t.number[i]}`}
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <Choice
        label="Way"
        width="max-w-60"
        value={draft.way}
        onChange={(way) => setDraft(anotherWay(draft, way))}
        options={Object.entries(WAYS).map(([key, { name }]) => [key as WayName, name] as const)}
      />
      <WayFields {...fields} />
      <LevelFields {...fields} hasSlope={maker.hasSlope} setLevel={(level) => setDraft({ ...draft, level })} />
      <button type="button" className="button" onClick={leave}>
        Leave it
      </button>
      <button className="button button-main" {...unless(!meant && "See beside it what it still needs.")}>
        Keep it
      </button>
      <div role="status" className="w-full text-soft">
        {(given?.construed.at.length ?? 0) > 1 ? (
          <WhichOfTwo maker={maker} text={text} />
        ) : (
          (problem?.problem ?? given?.construed.problem ?? (meant ? text(meant.at) : "Fill the fields."))
        )}
      </div>
    </form>
  );
}

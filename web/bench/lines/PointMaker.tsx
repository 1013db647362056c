"use client";
/** A point at any position that the eye means: an end, a middle, a crossing, a foot, a centre, or where the cursor is. */
import { useEffect, useMemo } from "react";
import { SNAPS, type Snap } from "@bramble/core/lines/snap";
import { lengthTyped } from "@bramble/core/math/typed";
import { formatFixed } from "@bramble/core/math/round";
import { nextFreeNumber } from "@bramble/core/job/change/next-number";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import { useKept } from "../../lib/use-kept";
import { MakerForm } from "./MakerForm";
import { unless } from "../../controls/unless";
import { Typed } from "../../controls/fields/Typed";

export function PointMaker({ leave }: { leave: () => void }) {
  const { job, picking, set, pointToMake, change, select } = useParts(
    "job",
    "picking",
    "set",
    "pointToMake",
    "change",
    "select",
  );
  const [at, setAt] = useKept<Snap | undefined>("maker.at", undefined),
    [chosen, setNumber] = useKept<string | undefined>("maker.number", undefined),
    [description, setDescription] = useKept("maker.description", ""),
    [level, setLevel] = useKept("maker.level", "");
  const free = useMemo(() => nextFreeNumber(job), [job]),
    number = chosen ?? free;
  const d = decimalsOf(job.unit),
    taken = job.points.number.some((x, i) => x === number.trim() && !job.points.deleted[i]);
  const pick = () =>
    set({
      picking: {
        hint: "Click a position: ends, middles, crossings, centres and feet are found; Esc ends",
        points: false,
        ...(at ? { from: [at.e, at.n] as [number, number] } : {}),
        take: (snap) => {
          setAt(snap);
          setLevel(Number.isNaN(snap.z) ? "" : formatFixed(snap.z, d));
          set({ picking: undefined });
          select({});
        },
      },
    });
  useEffect(() => () => set({ picking: undefined, preview: [] }), [set]);
  useEffect(() => {
    // A small cross where the point will be.
    const r = at ? 0.4 : 0;
    set({
      preview: at
        ? [
            [at.e - r, at.n, at.e + r, at.n],
            [at.e, at.n - r, at.e, at.n + r],
          ]
        : [],
    });
  }, [at, set]);
  const z = level.trim() === "" ? NaN : (lengthTyped(level, job.unit) ?? NaN),
    wrong = level.trim() !== "" && !Number.isFinite(z);
  const keep = async () => {
    if (!at || taken || wrong || number.trim() === "") return;
    // The level that the line has there is kept to its last digit when it was not changed.
    const exact = !Number.isNaN(at.z) && level === formatFixed(at.z, d) ? at.z : z;
    const points = await pointToMake({ number: number.trim(), e: at.e, n: at.n, z: exact, description });
    if (points && change({ type: "add", points })) {
      select({ points: points.id });
      set({ notice: { text: `Point ${number.trim()} made. Undo takes it out again.`, tone: "settled" } });
      setAt(undefined);
      setLevel("");
      setNumber(undefined);
    }
  };
  return (
    <MakerForm label="Make a point" keep={() => void keep()}>
      <div className="flex flex-wrap items-end gap-2">
        <button
          type="button"
          className={`button ${picking ? "button-main" : ""}`}
          aria-pressed={picking !== undefined}
          onClick={() => (picking ? set({ picking: undefined }) : pick())}
        >
          {picking ? "Stop picking" : at ? "Pick another position" : "Pick a position"}
        </button>
        <Typed label="Number" text={number} onType={setNumber} wrong={taken} width="w-24" most={100} />
        <Typed
          label="Description"
          text={description}
          onType={setDescription}
          width="w-full"
          box="min-w-32 flex-1"
          most={200}
          placeholder="code, such as SPOT"
        />
        <Typed
          label={`Elevation ${job.unit}`}
          text={level}
          onType={setLevel}
          wrong={wrong}
          width="num w-24"
          placeholder="missing"
        />
        <button type="button" className="button" onClick={leave}>
          Leave it
        </button>
        <button
          className="button button-main"
          {...unless((!at || taken || wrong || number.trim() === "") && "See below what it still needs.")}
        >
          Make the point
        </button>
      </div>
      <p role="status" className="mt-2 min-h-5 text-soft" data-testid="point-position">
        {taken
          ? `There is a point ${number} already.`
          : at
            ? `N ${formatFixed(at.n, d)}, E ${formatFixed(at.e, d)}${
                at.kind === "nearest" && at.lines.length === 0 ? "" : `, ${SNAPS[at.kind].said}`
              }. ${Number.isNaN(at.z) ? "No level is known there; without one the elevation stays missing." : ""}`
            : "Pick a position on the sheet. A second pick also finds the foot of a perpendicular from the first."}
      </p>
    </MakerForm>
  );
}

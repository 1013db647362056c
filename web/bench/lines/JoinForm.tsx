"use client";
/** Two lines joined: at which of their ends, the nearest first, seen on the sheet before it is taken. */
import { useEffect, useState } from "react";
import { joinLines, jointsOf } from "@bramble/core";
import { lineName } from "@bramble/core/lines/model";
import { formatFixed } from "@bramble/core/math/round";
import { useParts } from "../../lib/store";
import { decimalsOf } from "../../lib/units-shown";
import type { LineShown } from "../../lib/view";
import { make } from "./make";
import { unless } from "../../controls/unless";
import { Radio } from "../../controls/fields/Tick";

export function JoinForm({ first, second, leave }: { first: LineShown; second: LineShown; leave: () => void }) {
  const { job, set } = useParts("job", "set"),
    joints = jointsOf(job, first, second),
    [chosen, setChosen] = useState(0),
    joint = joints[chosen],
    t = job.points,
    ends = joint && [t.e[joint.rows[0]]!, t.n[joint.rows[0]]!, t.e[joint.rows[1]]!, t.n[joint.rows[1]]!],
    way = ends?.join(" ");
  // The piece that would come between them is seen on the sheet.
  useEffect(() => {
    set({ preview: way ? [way.split(" ").map(Number)] : [] });
    return () => set({ preview: [] });
  }, [way, set]);
  const edit = joint && joinLines(job, first, second, joint);
  const refused = edit && "refused" in edit ? edit.refused : undefined;
  if (joints.length === 0) return <p className="mt-2 text-amber">A closed line has no end to join; open it first.</p>;
  return (
    <form
      aria-label={`Join ${lineName(first)} and ${lineName(second)}`}
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (edit && make(edit)) leave();
      }}
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        event.stopPropagation();
        leave();
      }}
    >
      {joints.map((j, k) => (
        <Radio
          key={`${j.of} ${j.to}`}
          group="joint"
          on={k === chosen}
          autoFocus={k === 0}
          set={() => setChosen(k)}
          className="flex h-7 items-center gap-2"
          words={
            <>
              <span className="min-w-0 flex-1 truncate">
                {j.of === "last" ? "end" : "start"} of {lineName(first)}, {t.number[j.rows[0]]}, to the{" "}
                {j.to === "last" ? "end" : "start"} of {lineName(second)}, {t.number[j.rows[1]]}
              </span>
              <span className="num text-soft">
                {formatFixed(j.apart, decimalsOf(job.unit))} {job.unit}
              </span>
            </>
          }
        />
      ))}
      {refused && (
        <p role="alert" className="text-amber">
          {refused}
        </p>
      )}
      <div className="mt-1 flex gap-2">
        <button className="button button-main" {...unless(refused)}>
          Join them there
        </button>
        <button type="button" className="button" onClick={leave}>
          Leave it
        </button>
      </div>
    </form>
  );
}

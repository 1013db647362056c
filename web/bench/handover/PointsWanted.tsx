"use client";
/** Of which points a file is: a set, or numbers and ranges as they are typed. */
import { useState } from "react";
import { readNumberList } from "@bramble/core/points/numbers";
import { useParts } from "../../lib/store";
import { SetChoice } from "../sets/SetChoice";
import { Typed } from "../../controls/fields/Typed";

const TYPED = "\u0000typed";

export function PointsWanted({ value, choose }: { value: string; choose: (points: string) => void }) {
  const { job } = useParts("job");
  const isNamed = value === "*" || value === "*ground" || job.sets.some((s) => s.name === value),
    [typing, setTyping] = useState(!isNamed),
    [text, setText] = useState(isNamed ? "" : value);
  const list = text.trim() === "" ? undefined : readNumberList(text),
    wrong = text.trim() !== "" && !list;
  const take = () => list && text.trim() !== value && choose(text.trim());
  return (
    <div className="flex items-end gap-2">
      <SetChoice
        label="Points"
        value={typing ? TYPED : value}
        fixed={[
          ["*", "all"],
          ["*ground", "ground points"],
          [TYPED, "numbers …"],
        ]}
        choose={(points) => {
          setTyping(points === TYPED);
          if (points !== TYPED) choose(points);
        }}
      />
      {typing && (
        <Typed
          label="Numbers and ranges"
          text={text}
          onType={setText}
          take={take}
          problem={wrong && "Numbers with commas and ranges, such as 12, 40-52."}
          width="w-40"
          placeholder="12, 40-52"
        />
      )}
    </div>
  );
}

"use client";
import { useState } from "react";
import { settingOf } from "@bramble/core";
import { directionText, readDirection } from "@bramble/core/math/angles";
import { useParts } from "../lib/store";
import { Meanwhile } from "../controls/Meanwhile";
import { TypedField } from "./TypedField";
import { useText } from "../controls/use-text";

/** A direction in the job's style of angles; `value` and what is told are degrees clockwise from north. */
export function DirectionField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (degrees: number) => void;
}) {
  const { job } = useParts("job"),
    style = settingOf(job, "angle"),
    own = directionText((value / 180) * Math.PI, style),
    { text, setText, taken, reset, meanwhile } = useText(own),
    [problem, setProblem] = useState("");
  const take = () => {
    taken();
    if (text === own) return setProblem("");
    const read = readDirection(text, style);
    if (read === undefined)
      return setProblem(
        style === "bearing-dms" ? "A direction such as N 45°30′ E or 45.5." : "A direction such as 45.5 or 45°30′.",
      );
    setProblem("");
    // To a thousandth of a second: what is shown is what holds.
    const degrees = Number(((read / Math.PI) * 180).toFixed(7));
    if (degrees !== value) onChange(degrees);
    else reset();
  };
  return (
    <TypedField
      label={label}
      text={text}
      width="num w-32"
      problem={problem}
      beside={<Meanwhile text={meanwhile} take={reset} />}
      take={take}
      onType={setText}
    />
  );
}

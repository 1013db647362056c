"use client";
import { useState } from "react";
import type { Unit } from "@bramble/core";
import { readTypedLength } from "@bramble/core/math/typed";
import { Meanwhile } from "../controls/Meanwhile";
import { TypedField } from "./TypedField";
import { useTyped } from "../controls/use-typed";

/** A length with any unit typed, kept in the job's; taken when the field is left or Enter is pressed. */
export function LengthField({
  label,
  value,
  unit,
  positive,
  onChange,
  typing,
  width = "w-28",
  decimals,
}: {
  label: string;
  value: number;
  unit: Unit;
  positive?: boolean;
  onChange: (x: number) => void;
  /** Told at each key: the length as it stands there, undefined where it is none. */
  typing?: (x: number | undefined) => void;
  width?: string;
  /** Shown rounded to these; what was not typed stays as it is. */
  decimals?: number;
}) {
  const { text, setText, taken, reset, touched, meanwhile } = useTyped(value, decimals);
  const [problem, setProblem] = useState("");
  const take = () => {
    taken();
    if (!touched) return setProblem("");
    const read = readTypedLength(text, unit);
    if ("problem" in read) return setProblem(read.problem);
    if (positive && read.value <= 0) return setProblem("A length above 0, such as 0.5 or 2 ft.");
    setProblem("");
    if (read.value !== value) onChange(read.value);
    else reset();
  };
  return (
    <TypedField
      label={label}
      text={text}
      width={`num ${width}`}
      problem={problem}
      beside={<Meanwhile text={meanwhile} take={reset} />}
      take={take}
      onType={(next) => {
        setText(next);
        const read = readTypedLength(next, unit);
        typing?.("value" in read ? read.value : undefined);
      }}
    />
  );
}

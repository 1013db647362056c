"use client";
import { useState } from "react";
import { readDecimal } from "@bramble/core/math/decimal";
import { TypedField } from "../TypedField";
import { useTyped } from "../../controls/use-typed";

/** A factor; 1 where none is given, and none where 1 is typed. */
export function FactorField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | undefined;
  onChange: (x: number | undefined) => void;
}) {
  const { text, setText, taken, reset, touched } = useTyped(value ?? 1),
    [problem, setProblem] = useState("");
  const take = () => {
    taken();
    if (!touched) return;
    const x = readDecimal(text.trim().replace(",", "."));
    if (!(x > 0)) return setProblem("A factor above 0, such as 1.25.");
    setProblem("");
    if (x === (value ?? 1)) reset();
    else onChange(x === 1 ? undefined : x);
  };
  return <TypedField label={label} text={text} onType={setText} take={take} problem={problem} width="num w-16" />;
}

"use client";
import { useState } from "react";
import { readDecimal } from "@bramble/core/math/decimal";
import { useTyped } from "../use-typed";

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
  const { text, setText, reset, touched } = useTyped(value ?? 1),
    [problem, setProblem] = useState("");
  const take = () => {
    if (!touched) return;
    const x = readDecimal(text.trim().replace(",", "."));
    if (!(x > 0)) return setProblem("A factor above 0, such as 1.25.");
    setProblem("");
    if (x === (value ?? 1)) reset();
    else onChange(x === 1 ? undefined : x);
  };
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        className="field num mt-0.5 w-16"
        value={text}
        aria-invalid={problem !== ""}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === "Enter" && take()}
      />
      {problem && (
        <span role="alert" className="block text-[11.5px] text-red">
          {problem}
        </span>
      )}
    </label>
  );
}

"use client";
/** One of a few, each in words of its own below the last. */
import { useId, type ReactNode } from "react";

export function OneOf({
  label,
  labelled = "",
  options,
  chosen,
  choose,
}: {
  label: ReactNode;
  /** Classes of the label. */
  labelled?: string;
  options: readonly string[];
  chosen: number | undefined;
  choose: (k: number) => void;
}) {
  const name = useId();
  return (
    <fieldset>
      <legend className={labelled}>{label}</legend>
      {options.map((words, k) => (
        <label key={k} className="flex items-center gap-2 text-ink">
          <input type="radio" name={name} checked={chosen === k} onChange={() => choose(k)} />
          {words}
        </label>
      ))}
    </fieldset>
  );
}

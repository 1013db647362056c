"use client";
import type { ReactNode } from "react";

/** A short text that is read as a whole: taken when the field is left or Enter is pressed, told what is wrong with it. */
export function TypedField({
  label,
  text,
  onType,
  take,
  problem,
  width,
  placeholder,
  most,
  beside,
}: {
  label: string;
  text: string;
  onType: (text: string) => void;
  take: () => void;
  /** What is wrong with it as it stands, in a sentence that says what to type. */
  problem?: string | false;
  width: string;
  placeholder?: string;
  most?: number;
  /** What stands below it, before what is wrong with it. */
  beside?: ReactNode;
}) {
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        className={`field mt-0.5 ${width}`}
        value={text}
        placeholder={placeholder}
        maxLength={most}
        aria-invalid={Boolean(problem)}
        onChange={(event) => onType(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key !== "Enter") return;
          event.preventDefault();
          take();
        }}
      />
      {beside}
      {problem && (
        <span role="alert" className="block text-[11.5px] text-red">
          {problem}
        </span>
      )}
    </label>
  );
}

"use client";
import { useId } from "react";

/** Several lines of typed text, told at each key; what is wrong with one stands elsewhere. */
export function TypedLines({
  label,
  text,
  onType,
  rows,
  most,
  placeholder,
  wrong = false,
}: {
  label: string;
  text: string;
  onType: (text: string) => void;
  rows: number;
  most: number;
  placeholder?: string;
  wrong?: boolean;
}) {
  const id = useId();
  return (
    <div>
      <label className="label block" htmlFor={id}>
        {label}
      </label>
      <textarea
        id={id}
        className="field mt-0.5 block h-auto w-full py-1 font-mono text-[12px] leading-5"
        rows={rows}
        maxLength={most}
        value={text}
        placeholder={placeholder}
        spellCheck={false}
        aria-invalid={wrong}
        onChange={(event) => onType(event.target.value)}
      />
    </div>
  );
}

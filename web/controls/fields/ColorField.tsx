"use client";
import { useEffect, useRef, useState } from "react";

/** A colour as #rrggbb, taken when its chooser is closed: while one is chosen in it nothing is stored. */
export function ColorField({
  label,
  value,
  onChange,
  typing,
  className = "",
}: {
  label: string;
  value: string;
  onChange: (color: string) => void;
  /** Told each colour that is tried in the chooser. */
  typing?: (color: string) => void;
  className?: string;
}) {
  const [draft, setDraft] = useState<string>(),
    input = useRef<HTMLInputElement>(null);
  // React's own onChange comes at each colour that is tried: the page's `change` once, at the end.
  useEffect(() => {
    const field = input.current!;
    const take = () => {
      setDraft(undefined);
      if (field.value !== value) onChange(field.value);
    };
    field.addEventListener("change", take);
    return () => field.removeEventListener("change", take);
  }, [value, onChange]);
  return (
    <label className="block">
      <span className="label block">{label}</span>
      <input
        ref={input}
        type="color"
        className={`field mt-0.5 p-0.5 ${className}`}
        value={draft ?? value}
        onChange={(event) => {
          setDraft(event.target.value);
          typing?.(event.target.value);
        }}
      />
    </label>
  );
}

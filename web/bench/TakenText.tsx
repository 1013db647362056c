"use client";
/** A text that is taken when its field is left, or with Enter. */
import { useState } from "react";

export function TakenText({
  label,
  value,
  take,
  hint,
  width = "w-full min-w-0",
}: {
  label: string;
  value: string;
  take: (text: string) => void;
  hint?: string;
  width?: string;
}) {
  const [text, setText] = useState(value),
    [shown, setShown] = useState(value);
  // One that became another elsewhere takes the place of what stands in the field.
  if (shown !== value) {
    setShown(value);
    setText(value);
  }
  return (
    <input
      className={`field h-7 ${width}`}
      aria-label={label}
      placeholder={hint}
      value={text}
      maxLength={10_000}
      onChange={(event) => setText(event.target.value)}
      onBlur={() => text !== value && take(text)}
      onKeyDown={(event) => {
        if (event.key !== "Enter") return;
        event.preventDefault();
        take(text);
      }}
    />
  );
}

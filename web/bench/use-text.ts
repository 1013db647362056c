"use client";
import { useState } from "react";

/**
 * The text of a field. What is being typed stays under the hands when the value becomes another elsewhere; what it became is
 * told, to stand beside the field.
 */
export function useText(value: string) {
  const [text, setText] = useState(value),
    [shown, setShown] = useState(value),
    [came, setCame] = useState<string>();
  if (shown !== value) {
    setShown(value);
    const isTyped = text !== shown && text !== value;
    if (!isTyped) setText(value);
    setCame(isTyped ? value : undefined);
  }
  return {
    text,
    setText,
    /** What the value became while this was typed; undefined where it is as it was. */
    meanwhile: text === value ? undefined : came,
    /** Leaves what was typed for what the value is now. */
    reset: () => {
      setText(value);
      setCame(undefined);
    },
  };
}
